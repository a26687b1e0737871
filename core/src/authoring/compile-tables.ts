import type { Compiling } from './compiling.ts';
import type { Line } from './csv-file.ts';
import { parseAllowed, parsePositions, parseSetAside, parseStates } from './phrase-text.ts';
import { type Authored, type AuthoredMap, textOf } from './places.ts';
import { LineError } from './tokens.ts';

/** Reads a number of a table. Undefined where the field is empty or, with a report, where it holds no number. */
function number(c: Compiling, row: AuthoredMap, column: string): number | undefined {
  return c.line(row, column, (text) => {
    const figure = Number(text.replace('−', '-'));
    if (text.trim() === '' || !Number.isFinite(figure))
      throw new LineError(`"${text}" is no number`, 'write it with a point and without a unit', 0);
    return figure;
  });
}

function defined(map: Record<string, unknown>): AuthoredMap {
  return Object.fromEntries(Object.entries(map).filter(([, v]) => v !== undefined)) as AuthoredMap;
}

/** Channels, and the sentences of a data line that carry them. */
export function compileChannels(
  c: Compiling,
  rows: readonly AuthoredMap[],
): { channels: AuthoredMap[]; transducers: AuthoredMap[] } {
  const transducers: AuthoredMap[] = [];
  const channels = rows.map((row) => {
    const signal = row['signal'];
    const sentence = c.line(row, 'sentence', parseSentence);
    if (sentence) transducers.push(c.places.carry({ ...sentence, channel: row['id']! }, row));
    return c.places.carry(
      defined({
        id: row['id'],
        label: row['label'],
        short: row['short'],
        unit: row['unit'] ?? '',
        range: [number(c, row, 'least') ?? NaN, number(c, row, 'most') ?? NaN],
        decimals: number(c, row, 'decimals'),
        resolution: number(c, row, 'resolution'),
        source: row['source'] ?? 'sensed',
        engine: number(c, row, 'engine'),
        states: c.line(row, 'states', parseStates),
        simulated:
          signal === undefined
            ? undefined
            : defined({ signal, scale: number(c, row, 'scale') ?? 1, noise: number(c, row, 'noise') }),
      }),
      row,
    );
  });
  return { channels, transducers };
}

/** `XDR NG_1`, `RPM S1 x 0.1`: kind of sentence, name in it, what a figure is multiplied by. */
function parseSentence(text: string): AuthoredMap {
  const found = /^(\S+)\s+(\S+)(?:\s+x\s+(\S+))?$/.exec(text.trim());
  const scale = Number(found?.[3] ?? 1);
  if (!found || !Number.isFinite(scale))
    throw new LineError(`"${text}" is no sentence`, 'write it like: XDR NG_1, or RPM S1 x 0.1', 0);
  return { sentence: found[1]!, name: found[2]!, scale };
}

/** Limits: neighbouring rows of one name are bands of one limit, from mild to severe. */
export function compileLimits(c: Compiling, rows: readonly AuthoredMap[]): AuthoredMap[] {
  const limits = new Map<string, AuthoredMap>();
  for (const row of rows) {
    const id = textOf(row['limit']);
    checkUnit(c, row);
    const band = c.places.carry(bandOf(c, row), row);
    const limit = limits.get(id);
    if (limit) {
      (limit['bands'] as AuthoredMap[]).push(band);
      continue;
    }
    limits.set(
      id,
      c.places.carry(
        defined({
          id,
          channel: row['channel'],
          phases: textOf(row['phases']).split(/\s+/).filter(Boolean), // oxfmt-ignore
          hysteresis: number(c, row, 'hysteresis') ?? 0,
          notWhile: c.line(row, 'notWhile', parseSetAside),
          bands: [band],
        }),
        row,
      ),
    );
  }
  return [...limits.values()];
}

function checkUnit(c: Compiling, row: AuthoredMap): void {
  const channel = c.vocabulary.channels.find((v) => v.id === row['channel']);
  if (channel && row['unit'] !== undefined && row['unit'] !== channel.unit)
    c.report(row, 'unit', `${channel.id} is not read in ${textOf(row['unit'])}`, `give the figure in ${channel.unit || 'no unit'}`); // oxfmt-ignore
}

function bandOf(c: Compiling, row: AuthoredMap): AuthoredMap {
  const side = row['side'];
  const value = number(c, row, 'value');
  if (side !== 'above' && side !== 'below')
    c.report(row, 'side', `a limit is not passed "${textOf(side)}"`, 'write above or below');
  return defined({
    id: row['band'],
    [side === 'below' ? 'below' : 'above']: value,
    ...c.line(row, 'allowed', parseAllowed),
    inclusive: row['inclusive'] === undefined ? undefined : row['inclusive'] === 'yes',
    severity: row['severity'],
    action: row['then'],
    source: row['source'],
  });
}

/** Captions, electrical loads, equipment: one row each. */
export function compileRows(
  c: Compiling,
  rows: readonly AuthoredMap[],
  columns: { numbers?: readonly string[]; conditions?: readonly string[] },
): AuthoredMap[] {
  return rows.map((row) => {
    const made = c.without(row);
    for (const column of columns.numbers ?? []) made[column] = (number(c, row, column) ?? null) as Authored;
    for (const column of columns.conditions ?? [])
      made[column] = (c.condition(row, column) ?? null) as unknown as Authored;
    return made;
  });
}

/** Controls of the cockpit: one row each. */
export function compileCockpit(c: Compiling, rows: readonly AuthoredMap[]): AuthoredMap[] {
  return rows.map((row) =>
    c.places.carry(
      defined({
        id: row['control'],
        label: row['label'],
        zone: row['zone'],
        kind: row['kind'],
        moves: textOf(row['moves']).split(/\s+/).filter(Boolean),
        positions: c.line(row, 'positions', parsePositions),
        key: row['key'],
        hand: row['hand'],
      }),
      row,
    ),
  );
}

/** A chart as it is printed: temperatures in the first row, pressure altitudes in the first column. */
export function compileChart(
  c: Compiling,
  chart: { file: string; lines: readonly Line[] } | null,
  display_step: Authored,
): AuthoredMap | null {
  if (!chart) return null;
  const [head, ...body] = chart.lines;
  const figure = (file: string, line: number, field: { text: string; column: number } | undefined): number | null => {
    if (!field || field.text === '') return null;
    const value = Number(field.text.replace('−', '-'));
    if (Number.isFinite(value)) return value;
    c.problems.push({
      file,
      line,
      column: field.column,
      message: `"${field.text}" is no number`,
      remedy: 'write it with a point, or leave the field empty where the chart has nothing',
    });
    return null;
  };
  const { file } = chart;
  const oat_C = (head?.fields.slice(1) ?? []).map((f) => figure(file, head!.line, f) ?? NaN);
  for (const { line, fields } of body)
    if (fields.length > oat_C.length + 1)
      c.problems.push({
        file,
        line,
        column: fields[oat_C.length + 1]!.column,
        message: 'this row goes on where the first row has no temperature',
        remedy: 'give each column its temperature',
      });
  const made: AuthoredMap = {
    pa_ft: body.map((row) => figure(file, row.line, row.fields[0]) ?? NaN),
    oat_C,
    values: body.map((row) => oat_C.map((_, i) => figure(file, row.line, row.fields[i + 1]))),
    display_step,
  };
  const rows = new Map(body.map((row, i) => [String(i), { file, line: row.line, column: 1 }]));
  const top = { file, line: head?.line ?? 1, column: 1 };
  c.places.note(made['values'] as Authored[], top, rows);
  body.forEach((row, i) =>
    c.places.note(
      (made['values'] as Authored[][])[i]!,
      { file, line: row.line, column: 1 },
      new Map(row.fields.slice(1).map((f, k) => [String(k), { file, line: row.line, column: f.column }])),
    ),
  );
  c.places.note(made, top, new Map());
  return made;
}
