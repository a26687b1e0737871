import { guessMapping, headOf, Scan } from '@rouse/core/replay';
import { type Line, skerry, many } from './measure.ts';

const ROWS = many(10_000_000, 100_000);
const BLOCK_ROWS = many(250_000, 25_000);
const CHUNK_BYTES = 1024 * 1024;
const COLUMNS = ['ng.1', 'tot.1', 'nr', 'np.1', 'tq.1', 'fuel.1.flow', 'oil.1.pressure', 'oil.1.temperature', 'bus.volts', 'battery.amps', 'starter.1.amps', 'outside.air']; // oxfmt-ignore

/** Ten million rows of a recorder, read and watched from end to end, against the memory of the first tenth. */
export function replay(): Line[] {
  const block = rowsOf(BLOCK_ROWS);
  const header = `${COLUMNS.join(',')}\n`;
  const head = headOf(header + new TextDecoder().decode(block.subarray(0, 4000)), 'utf-8');
  const guessed = guessMapping(head, skerry.channels);
  const unitOf = (id: string): string => skerry.channels.find((c) => c.id === id)!.unit;
  const columns = guessed.columns.map((c) => ({ ...c, unit: unitOf(c.channel) }));
  const mapping = {
    ...guessed,
    columns,
    headerRows: 1,
    time: { ...guessed.time, format: 'rows' as const, rate_Hz: 50 },
  };
  if (mapping.columns.length !== COLUMNS.length) throw new Error('the columns were not known by their names');
  const scan = new Scan(skerry, mapping, head.names);
  const encoder = new TextEncoder();
  scan.reader.push(encoder.encode(header));
  const memory: number[] = [];
  const since = performance.now();
  for (let done = 0; done < ROWS; done += BLOCK_ROWS) {
    for (let at = 0; at < block.length; at += CHUNK_BYTES) scan.reader.push(block.subarray(at, at + CHUNK_BYTES));
    memory.push(process.memoryUsage().rss / 1e6);
  }
  const { rows } = scan.finish();
  const seconds = (performance.now() - since) / 1000;
  if (rows !== ROWS) throw new Error(`${rows} rows were read`);
  const early = Math.max(...memory.slice(0, 4));
  const late = Math.max(...memory.slice(-4));
  return [
    {
      name: 'replay: rows read and watched a second, ten million of twelve columns',
      value: rows / seconds / 1000,
      unit: 'thousand rows/s',
      wanted: 'at least',
      target: 300,
      remark: `${((block.length * (ROWS / BLOCK_ROWS)) / seconds / 1e6).toFixed(0)} MB/s`,
    },
    {
      name: 'replay: memory at the end against the first tenth',
      value: late / early,
      unit: 'times',
      wanted: 'at most',
      target: 1.15,
      remark: `${early.toFixed(0)} MB, then ${late.toFixed(0)} MB`,
    },
  ];
}

/** An engine at idle with figures that move, as text. */
function rowsOf(rows: number): Uint8Array {
  const lines: string[] = [];
  for (let i = 0; i < rows; i++) {
    const w = Math.sin(i / 997);
    lines.push(
      [67 + 0.2 * w, 480 + 3 * w, 68 + 0.1 * w, 68, 21 + w, 61.2 + w, 3.1 + 0.05 * w, 71 + w, 28.1, -11.5 + w, 0, 12]
        .map((v) => v.toFixed(1))
        .join(','),
    );
  }
  return new TextEncoder().encode(`${lines.join('\n')}\n`);
}
