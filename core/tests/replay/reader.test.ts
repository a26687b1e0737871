import { describe, expect, test } from 'vitest';
import {
  BadRow,
  beganAt_ms,
  type CsvMapping,
  type FilePosition,
  headOf,
  positionBefore,
  previewOf,
  type RecordingEvent,
  RecordingWatch,
  RowReader,
  Scan,
} from '@rouse/core/replay';
import { channelIndex, skerry } from '../skerry.ts';

const utf8 = (text: string): Uint8Array => new TextEncoder().encode(text);
const NG = { column: 1, channel: 'ng.1', unit: '%', scale: 1 };
const plain: CsvMapping = {
  separator: ',',
  decimal: '.',
  headerRows: 1,
  time: { format: 'seconds', column: 0, rate_Hz: 10, start_s: 0 },
  columns: [NG],
};

function read(text: string, mapping: Partial<CsvMapping> = {}, names = ['t_s', 'Ng']) {
  const rows: { t_s: number; ng: number; line: number }[] = [];
  const reader = new RowReader({ ...plain, ...mapping }, skerry.channels, names, (t_s, values, line) =>
    rows.push({ t_s, ng: values[channelIndex('ng.1')]!, line }),
  );
  reader.push(utf8(text));
  reader.end();
  return { rows, reader };
}
const figures = (text: string, mapping: Partial<CsvMapping> = {}): number[] => read(text, mapping).rows.map((r) => r.ng); // oxfmt-ignore
const refusal = (work: () => unknown): BadRow | RangeError => {
  try {
    work();
  } catch (error) {
    return error as BadRow;
  }
  throw new Error('nothing was refused');
};

describe('rows', () => {
  test('are given with their line; header, blank lines and comments are none', () => {
    const text = 't_s,Ng\n\n0,1\n   \n# a word\n\t\n1,2\n';
    const { rows, reader } = read(text, { comment: '#' });
    expect(rows).toEqual([{ t_s: 0, ng: 1, line: 3 }, { t_s: 1, ng: 2, line: 7 }]); // oxfmt-ignore
    expect([reader.line, reader.offset, reader.cutOff, reader.firstRow_s]).toEqual([7, text.length, false, 0]);
    // a sign that is shorter than the comment's is no comment
    expect(() => read('t_s,Ng\n/\n', { comment: '//' })).toThrow(/"\/" is not a time/);
    expect(figures('t_s,Ng\n//\n0,1\n', { comment: '//' })).toEqual([1]);
  });

  test('of every line end, wherever the file is cut into chunks', () => {
    for (const end of ['\n', '\r\n', '\r'])
      for (let cut = 1; cut < 16; cut++) {
        const text = ['t_s,Ng', '0,1', '1,2', '2,3', ''].join(end);
        const rows: number[] = [];
        const reader = new RowReader(plain, skerry.channels, [], (_, values) => rows.push(values[channelIndex('ng.1')]!));
        reader.push(utf8(text.slice(0, cut)));
        reader.push(utf8(text.slice(cut)));
        reader.end();
        expect(rows, `${JSON.stringify(end)} ${cut}`).toEqual([1, 2, 3]);
        expect([reader.offset, reader.line], `${JSON.stringify(end)} ${cut}`).toEqual([text.length, 4]);
      }
  }); // oxfmt-ignore

  test('without an end of its own the last row is read, and one that is cut off is left out and said', () => {
    expect(read('t_s,Ng\n0,1\n1,2').rows).toHaveLength(2);
    expect(read('t_s,Ng\n0,1\n1,2\r').rows.at(-1)!.ng).toBe(2);
    const { rows, reader } = read('t_s,Ng\n0,1\n1');
    expect(rows).toHaveLength(1);
    expect(reader.cutOff).toBe(true);
    // the only row of a file is not cut off, it is wrong
    expect(refusal(() => read('t_s,Ng\n1'))).toMatchObject({ row: 2 });
    expect(read('t_s,Ng\n0,1\n').reader.cutOff).toBe(false);
  });

  test('a quoted field holds its separator; a quote that never ends takes the rest of its line', () => {
    const mapping = { columns: [{ ...NG, column: 2 }] };
    expect(figures('t,w,Ng\n0,"a, b",1\n1,"",2\n', mapping)).toEqual([1, 2]);
    expect(refusal(() => read('t,w,Ng\n0,"a, b,1\n', mapping))).toMatchObject({ row: 2, column: '' });
  });

  test('parted by blanks or tabs between aligned columns', () => {
    const mapping: Partial<CsvMapping> = { separator: ' ' };
    expect(figures('t Ng\n  0    1.5\n1\t 2.5\n', { ...mapping })).toEqual([1.5, 2.5]);
    expect(figures('t Ng x\n0   1   7  \n1 2 8\n', mapping)).toEqual([1, 2]);
    expect(refusal(() => read('t Ng\n0 1\n1 \n2 2\n', mapping))).toMatchObject({ row: 3 });
    const wide: Partial<CsvMapping> = {
      ...mapping,
      columns: [NG, { column: 2, channel: 'tot.1', unit: '°C', scale: 1 }],
    };
    expect(refusal(() => read('t Ng TOT\n0 11 200\n1    210  \n2 13 220\n', wide))).toMatchObject({ row: 3 });
  });

  test('figures are scaled, converted, and unknown where no gauge could show them, which is counted', () => {
    expect(figures('t_s,Ng\n0,0.5\n', { columns: [{ ...NG, unit: 'fraction' }] })).toEqual([50]);
    expect(figures('t_s,Ng\n0,25\n', { columns: [{ ...NG, scale: 2 }] })).toEqual([50]);
    const { range } = skerry.channels[channelIndex('ng.1')]!;
    const { rows, reader } = read(`t_s,Ng\n0,${range[1]}\n1,${range[1] * 3}\n2,${-range[1] * 3}\n3,\n`);
    expect(rows.map((r) => r.ng)).toEqual([range[1], NaN, NaN, NaN]);
    expect(reader.beyond[channelIndex('ng.1')]).toBe(2);
  });

  test('come at an even rate where no column tells the time, whatever stands in the first', () => {
    const time = { format: 'rows', column: 9, rate_Hz: 4, start_s: 0 } as const;
    expect(read('w,Ng\na,1\nb,2\nc,3\n', { time }).rows.map((r) => r.t_s)).toEqual([0, 0.25, 0.5]);
  });

  test('begin where the run is said to; what was before is not given', () => {
    const { rows, reader } = read('t_s,Ng\n10,1\n11,2\n12,3\n', { time: { ...plain.time, start_s: 1 } });
    expect(rows.map((r) => [r.t_s, r.ng])).toEqual([[0, 2], [1, 3]]); // oxfmt-ignore
    expect(reader.firstRow_s).toBe(10);
  });

  test('hold a figure for as long as it is said, its end included, and only a figure', () => {
    const text = 't_s,Ng\n0,\n1,10\n2,\n3,\n3.5,\n4,20\n4.5,\n';
    expect(figures(text, { hold_s: 2 })).toEqual([NaN, 10, 10, 10, NaN, 20, 20]);
    expect(figures(text, { hold_s: 0 })).toEqual([NaN, 10, NaN, NaN, NaN, 20, NaN]);
  });
});

describe('what cannot be read is refused', () => {
  test('with the column that it is about, by name or by number', () => {
    expect(refusal(() => read('t_s,Ng\n0,abc\n'))).toMatchObject({ row: 2, column: 'Ng', message: '"abc" is not a number' }); // oxfmt-ignore
    expect(refusal(() => read('t_s,Ng\n0,abc\n', {}, []))).toMatchObject({ column: 'column 2' });
    expect(refusal(() => read('t_s,Ng\nx,1\n'))).toMatchObject({ column: 't_s', message: '"x" is not a time of the kind seconds' }); // oxfmt-ignore
    expect(refusal(() => read('t_s,Ng\n2,1\n1.5,1\n'))).toMatchObject({ row: 3, column: 't_s', message: 'time goes back by 0.500 s' }); // oxfmt-ignore
    expect(refusal(() => read('t_s,Ng\n7\n'))).toMatchObject({
      row: 2,
      message: 'it has 1 fields; the mapping reads 2',
    });
  });

  test('before a row is read: a channel, a unit or a time that is not chosen, and one that the type does not have', () => {
    const made = (mapping: Partial<CsvMapping>) =>
      refusal(() => new RowReader({ ...plain, ...mapping }, skerry.channels, [], () => undefined));
    expect(made({ columns: [{ ...NG, unit: '' }] })).toMatchObject({ message: 'ng.1 has no unit yet: choose it' });
    expect(made({ columns: [{ ...NG, unit: 'bar' }] })).toMatchObject({ message: 'ng.1 cannot be read in bar' });
    expect(made({ columns: [{ ...NG, channel: 'ng.9' }] })).toMatchObject({ message: 'ng.9 cannot be read in %' });
    expect(made({ time: { ...plain.time, format: 'unknown' } })).toBeInstanceOf(RangeError);
  });
});

test('a preview reads what a mapping can, shows rows before a bad one, and what looks like another unit', () => {
  const head = headOf('title\nt_s,Ng,TOT\n0,1,20\n1,2,9000\n2,x,20\n', 'utf-8');
  const mapping: CsvMapping = { ...plain, headerRows: 2, columns: [NG, { column: 2, channel: 'tot.1', unit: '°C', scale: 1 }] }; // oxfmt-ignore
  const found = previewOf(head, mapping, skerry.channels);
  expect(found.rows.map((r) => [r.t_s, r.values[channelIndex('ng.1')]])).toEqual([[0, 1], [1, 2]]); // oxfmt-ignore
  expect(found).toMatchObject({ bad: { row: 5, column: 'Ng' }, outside: ['tot.1'], repeated: 0 });
  // a run that begins later shows its first rows all the same
  expect(previewOf(head, { ...mapping, time: { ...mapping.time, start_s: 60 } }, skerry.channels).rows).toHaveLength(2);
  const nothing = { rows: [], bad: null, outside: [], repeated: 0 };
  expect(previewOf(head, { ...mapping, columns: [{ ...NG, unit: '' }] }, skerry.channels)).toEqual(nothing);
  expect(previewOf(head, { ...mapping, time: { ...mapping.time, format: 'unknown' } }, skerry.channels)).toEqual(
    nothing,
  );
  // fields that were quoted in the file are quoted again
  const quoted = headOf('t,w,Ng\n0,"a, ""b""",3\n1,c,4\n', 'utf-8');
  expect(previewOf(quoted, { ...plain, columns: [{ ...NG, column: 2 }] }, skerry.channels).bad).toBeNull();
});

describe('when a recording began', () => {
  const time = plain.time;
  const at = (name: string, format: CsvMapping['time']['format'], first_s: number, start_s = 0): string | null => {
    const ms = beganAt_ms({ ...time, format, start_s }, first_s, name);
    return ms === null ? null : new Date(ms).toISOString().slice(0, 19);
  };

  test.each<[string, CsvMapping['time']['format'], number, number, string | null]>([
    ['x.csv', 'date-time', Date.UTC(2026, 10, 25, 8) / 1000, 5, '2026-11-25T08:00:05'],
    ['x.csv', 'seconds', Date.UTC(2026, 10, 25, 8) / 1000, 0, '2026-11-25T08:00:00'],
    ['x.csv', 'milliseconds', Date.UTC(2026, 10, 25, 8) / 1000, 0, '2026-11-25T08:00:00'],
    ['x.csv', 'seconds', Date.UTC(2000, 0) / 1000, 0, '2000-01-01T00:00:00'],
    ['x.csv', 'seconds', Date.UTC(2000, 0) / 1000 - 1, 0, null],
    ['x.csv', 'seconds', Date.UTC(2100, 0) / 1000, 0, null],
    ['x.csv', 'clock', 3600, 0, null],
    ['x.csv', 'days', Date.UTC(2026, 10, 25, 8) / 1000, 0, null],
    ['2024-05-06.csv', 'clock', 36_000, 2, '2024-05-06T10:00:02'],
    ['2024-05-06.csv', 'clock', 90_000, 0, '2024-05-06T01:00:00'],
    ['2024-05-06.csv', 'seconds', 12, 3, '2024-05-06T00:00:03'],
    ['run 20240506 0940.csv', 'seconds', 12, 0, '2024-05-06T09:40:00'],
    ['20240506T094059.csv', 'rows', 0, 1, '2024-05-06T09:41:00'],
    ['2024.05.06-09.40.csv', 'rows', 0, 0, '2024-05-06T09:40:00'],
    ['2024_05_06_09h40m07.csv', 'rows', 0, 0, '2024-05-06T09:40:07'],
    ['2024-02-31.csv', 'rows', 0, 0, null],
    ['2024-13-01.csv', 'rows', 0, 0, null],
    ['120240506.csv', 'rows', 0, 0, null],
    ['2024-05-067.csv', 'rows', 0, 0, null],
    ['1999-05-06.csv', 'rows', 0, 0, null],
  ])('%s in %s from %d s, begun %d s later: %s', (name, format, first_s, start_s, began) => {
    expect(at(name, format, first_s, start_s)).toBe(began);
  });
});

describe('a pass over a whole file', () => {
  const scanned = (text: string) => {
    const scan = new Scan(skerry, plain, ['t_s', 'Ng']);
    scan.reader.push(utf8(text));
    return { scan, found: scan.finish() };
  };

  test('counts its rows, what was repeated, cut off and beyond its gauge, and draws the highest of each step', () => {
    const { scan, found } = scanned('t_s,Ng\n0,1\n0.5,3\n0.5,2\n2,900\n3,\n4,5\n5');
    expect(scan.rows).toBe(6);
    expect(found).toMatchObject({ rows: 6, repeated: 1, cutOff: true, end_s: 4, unkept: 0 });
    expect(found.beyond).toEqual([{ channel: 'ng.1', rows: 1 }]);
    expect(found.overview.t_s).toEqual([0, 1, 2, 3, 4]);
    expect(found.overview.speed).toEqual([3, 2, null, null, 5]);
    expect(found.overview.second).toEqual([null, null, null, null, null]);
  });

  test('of many hours is drawn in longer steps that keep the highest, and its places are thinned evenly', () => {
    const lines = Array.from({ length: 6000 }, (_, i) => `${i * 2},${i === 4001 ? 80 : 1}`);
    const { found } = scanned(`t_s,Ng\n${lines.join('\n')}\n`);
    expect(found.end_s).toBe(11_998);
    const step_s = found.overview.t_s[1]!;
    expect(found.overview.t_s.length).toBeLessThanOrEqual(2400);
    expect(step_s).toBe(8);
    expect(found.overview.speed[Math.floor(8002 / step_s)]).toBe(80);
    expect(found.overview.speed.filter((v) => v === 80)).toHaveLength(1);
    expect(found.overview.speed.filter((v) => v === null)).toEqual([]);
    expect(found.places.length).toBeLessThanOrEqual(2400);
    expect(found.places.length).toBeGreaterThan(1000);
    expect(found.places.every((p, i) => i === 0 || p.t_s > found.places[i - 1]!.t_s)).toBe(true);
    // each of them can be gone on from
    const { at, t_s } = found.places.at(-1)!;
    const again: number[] = [];
    const text = `t_s,Ng\n${lines.join('\n')}\n`;
    const reader = new RowReader(plain, skerry.channels, [], (t) => again.push(t));
    reader.resume(at);
    reader.push(utf8(text).slice(at.offset));
    reader.end();
    expect([again[0], again.at(-1)]).toEqual([t_s, 11_998]);
    expect(reader.line).toBe(6001);
  });

  test('places lie five seconds apart', () => {
    const { found } = scanned(`t_s,Ng\n${Array.from({ length: 30 }, (_, i) => `${i},1`).join('\n')}\n`);
    expect(found.places.map((p) => p.t_s)).toEqual([0, 5, 10, 15, 20, 25]);
    expect(found.places.every((p) => p.quiet)).toBe(true);
  });
});

test('to show a moment, reading begins at the last rest before it, or half a minute earlier', () => {
  const place = (t_s: number, quiet: boolean): FilePosition => ({ t_s, quiet, at: null as never });
  const places = [place(0, true), place(10, true), place(20, false), place(80, false), place(100, false)];
  const from = (t_s: number, lookBack_s = 600) => positionBefore(places, t_s, lookBack_s)?.t_s;
  expect([from(5), from(10), from(19), from(100), from(9.9)]).toEqual([0, 10, 10, 10, 0]);
  expect(from(100, 90)).toBe(10);
  expect(from(100, 89)).toBe(20);
  expect(from(110, 89)).toBe(80);
  expect(from(-1)).toBeUndefined();
  expect(positionBefore([place(0, false), place(9, false)], 20, 600)!.t_s).toBe(0);
});

describe('a recording that is watched', () => {
  function watched(rows: readonly [t_s: number, ng: number][], phase?: 'flight'): RecordingEvent[] {
    const events: RecordingEvent[] = [];
    const recording = new RecordingWatch(skerry, (e) => events.push(e), phase);
    const values = new Float64Array(skerry.channels.length).fill(NaN);
    for (const [t_s, ng] of rows) {
      values[channelIndex('ng.1')] = ng;
      recording.row(t_s, values);
    }
    recording.finish();
    return events;
  }

  test('tells of rows that are more than two seconds apart', () => {
    const gaps = watched([[0, 0], [2, 0], [4.5, 0], [5, 0]]).filter((e) => e.kind === 'gap'); // oxfmt-ignore
    expect(gaps).toEqual([{ kind: 'gap', t_s: 2, for_s: 2.5 }]);
  });

  test('says once that no start could be looked for, unless a speed was seen or its phase is given', () => {
    const unsought = (...args: Parameters<typeof watched>) => watched(...args).filter((e) => e.kind === 'start-not-sought'); // oxfmt-ignore
    expect(unsought([[0, NaN], [7, NaN]])).toMatchObject([{ t_s: 7, watch: 'engine-1-start' }]); // oxfmt-ignore
    expect(unsought([])).toMatchObject([{ t_s: 0 }]);
    expect(unsought([[0, NaN], [1, 0], [2, NaN]])).toEqual([]); // oxfmt-ignore
    expect(unsought([[0, NaN]], 'flight')).toEqual([]);
  });
});
