import { type Channel, decimalsOf } from '../aircraft/index.ts';
import { type Trace, TraceBuilder } from '../trace/index.ts';

const UNIT_NAMES: Record<string, string> = { '%': 'pct', '°C': 'C', 'kg/h': 'kg_h' };

/** Column name of a channel in a CSV trace: `ng.1_pct`. */
function csvColumn(channel: Channel): string {
  return channel.unit ? `${channel.id}_${UNIT_NAMES[channel.unit] ?? channel.unit}` : channel.id;
}

/** RFC 4180 text of a trace, empty fields for invalid samples. */
export function writeCsv(trace: Trace, channels: readonly Channel[]): string {
  const decimals = channels.map((c) => decimalsOf(c.resolution));
  const lines = [['t_s', ...channels.map(csvColumn)].join(',')];
  for (let i = 0; i < trace.t_s.length; i++) {
    let line = trace.t_s[i]!.toFixed(3);
    for (let c = 0; c < trace.columns.length; c++) {
      const v = trace.columns[c]![i]!;
      line += Number.isNaN(v) ? ',' : `,${v.toFixed(decimals[c])}`;
    }
    lines.push(line);
  }
  return `${lines.join('\r\n')}\r\n`;
}

/** RFC 4180 text of a table; a cell with a comma, a quote or a line break stands in quotes. */
export function csvTable(rows: readonly (readonly (string | number)[])[]): string {
  const cell = (value: string | number): string =>
    /[",\r\n]/.test(String(value)) ? `"${String(value).replaceAll('"', '""')}"` : String(value);
  return `${rows.map((row) => row.map(cell).join(',')).join('\r\n')}\r\n`;
}

export type CsvResult = { ok: true; trace: Trace } | { ok: false; row: number; column: string; message: string };

/** Reads a CSV trace with our own headers; channels that the file does not have become NaN. */
export function readCsv(text: string, channels: readonly Channel[]): CsvResult {
  const lines = text.split(/\r?\n/);
  const header = (lines[0] ?? '').split(',').map((h) => h.trim());
  if (header[0] !== 't_s') {
    return {
      ok: false,
      row: 1,
      column: header[0] ?? '',
      message: 'the first column must be t_s, the run clock in seconds',
    };
  }
  const places: number[] = [];
  for (const name of header.slice(1)) {
    const index = channels.findIndex((c) => csvColumn(c) === name);
    if (index < 0)
      return { ok: false, row: 1, column: name, message: `no channel of this type writes a column named ${name}` };
    places.push(index);
  }
  const builder = new TraceBuilder(
    channels.map((c) => c.id),
    4096,
  );
  const values = new Float64Array(channels.length);
  let last = -Infinity;
  for (let i = 1; i < lines.length; i++) {
    const line = lines[i]!;
    if (line === '') continue;
    const fields = line.split(',');
    if (fields.length !== header.length) {
      return { ok: false, row: i + 1, column: '', message: `${fields.length} fields, the header has ${header.length}` };
    }
    const t = fields[0] === '' ? NaN : Number(fields[0]);
    if (!Number.isFinite(t))
      return { ok: false, row: i + 1, column: 't_s', message: `"${fields[0]}" is not a time in seconds` };
    if (t <= last)
      return { ok: false, row: i + 1, column: 't_s', message: `time goes from ${last} to ${t}; it must go forward` };
    last = t;
    values.fill(NaN);
    for (let k = 0; k < places.length; k++) {
      const field = fields[k + 1]!;
      const v = field === '' ? NaN : Number(field);
      if (field !== '' && !Number.isFinite(v))
        return { ok: false, row: i + 1, column: header[k + 1]!, message: `"${field}" is not a number` };
      values[places[k]!] = v;
    }
    builder.push(t, values);
  }
  return { ok: true, trace: builder.toTrace() };
}
