import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { writeCsv } from '@rouse/core/format';
import {
  BadRow,
  type CsvMapping,
  encodingOf,
  guessMapping,
  headOf,
  placeBefore,
  previewOf,
  RowReader,
  Scan,
} from '@rouse/core/replay';
import { channelIndex, flyPreset, skerry } from '../skerry.ts';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);

/** Reads a text as the worker would, in chunks of any size. */
function read(text: string, change: (m: CsvMapping) => CsvMapping = (m) => m, chunk = 7) {
  const head = headOf(text, 'utf-8');
  const mapping = change(guessMapping(head, skerry.channels));
  const rows: { t_s: number; values: Float64Array; line: number }[] = [];
  const reader = new RowReader(mapping, skerry.channels, head.names, (t_s, values, line) =>
    rows.push({ t_s, values: values.slice(), line }),
  );
  const all = bytes(text);
  for (let at = 0; at < all.length; at += chunk) reader.push(all.slice(at, at + chunk));
  reader.end();
  return { head, mapping, rows, reader };
}
const at = (row: { values: Float64Array }, id: string): number => row.values[channelIndex(id)]!;

describe('a foreign file', () => {
  test('with semicolons, decimal commas, a title, and units in a row of their own', () => {
    const text = [
      'Recorder 4, flight of the day',
      'Time;Ng;TOT;OIL PRESS;Bus volts',
      'hh:mm:ss;%;°F;psi;V',
      '10:00:00,0;12,50;212,0;14,5038;24,1',
      '10:00:00,5;13,00;;29,0;-',
      '10:00:01,0;13,75;230,0;n/a;23,9',
    ].join('\n');
    const { head, mapping, rows } = read(text, (m) => ({
      ...m,
      columns: [...m.columns, { column: 3, channel: 'oil.1.pressure', unit: 'psi', scale: 1 }],
    }));
    expect(head).toMatchObject({ separator: ';', decimal: ',', headerRows: 3 });
    expect(mapping.time.format).toBe('clock');
    expect(mapping.columns.find((c) => c.channel === 'tot.1')!.unit).toBe('°F');
    expect(rows.map((r) => r.t_s)).toEqual([0, 0.5, 1]);
    expect(at(rows[0]!, 'tot.1')).toBeCloseTo(100, 9);
    expect(at(rows[0]!, 'oil.1.pressure')).toBeCloseTo(1, 4);
    expect(at(rows[1]!, 'tot.1')).toBeNaN();
    expect(at(rows[1]!, 'bus.volts')).toBeNaN();
    expect(at(rows[2]!, 'oil.1.pressure')).toBeNaN();
    expect(at(rows[2]!, 'ng.1')).toBe(13.75);
  });

  test('quoted fields may hold the separator; a date and time is counted from its first row', () => {
    const text =
      'date,"Gas producer (pct)","remark, free"\n"2026-11-25T08:00:00.250Z","12.5","a, b"\n2026-11-25T08:00:01.250Z,13,x\n';
    const { rows } = read(text);
    expect(rows.map((r) => [r.t_s, at(r, 'ng.1')])).toEqual([
      [0, 12.5],
      [1, 13],
    ]);
  });

  test('a clock goes on past midnight; rows of the same second are left out and counted', () => {
    const { rows, reader } = read('time,Ng\n23:59:59,1\n23:59:59,2\n00:00:01,3\n');
    expect(rows.map((r) => r.t_s)).toEqual([0, 2]);
    expect(reader.repeated).toBe(1);
  });

  test('without a time column rows come at an even rate; the run begins where it is said to', () => {
    const text = 'Ng,TOT\n1,10\n2,20\n3,30\n4,40\n';
    const rows = read(text, (m) => ({ ...m, time: { ...m.time, format: 'rows', rate_Hz: 2, start_s: 1 } })).rows;
    expect(rows.map((r) => [r.t_s, at(r, 'ng.1')])).toEqual([
      [0, 3],
      [0.5, 4],
    ]);
  });

  test.each<[string, string, number, string, RegExp]>([
    ['a word where a figure belongs', 't_s,Ng\n0,1\n1,abc\n', 3, 'Ng', /"abc" is not a number/],
    ['a time that goes back', 't_s,Ng\n5,1\n4,2\n', 3, 't_s', /goes back by 1\.000 s/],
    ['a row that is too short', 't_s,TOT,Ng\n0,1,2\n1,5\n', 3, '', /2 fields; the mapping reads 3/],
    ['a time that is none', 't_s,Ng\n0,1\nsoon,2\n', 3, 't_s', /"soon" is not a (time|number)/],
  ])('%s is refused with row and column', (_what, text, row, column, message) => {
    const refusal = (() => {
      try {
        read(text, (m) => m, 64);
        return null;
      } catch (error) {
        return error;
      }
    })();
    expect(refusal).toBeInstanceOf(BadRow);
    expect(refusal).toMatchObject({ row, column });
    expect((refusal as BadRow).message).toMatch(message);
  });

  test('the bytes tell the encoding', () => {
    expect(encodingOf(bytes('Öl;1'))).toBe('utf-8');
    expect(encodingOf(new Uint8Array([0xd6, 0x6c, 0x3b]))).toBe('windows-1252');
    expect(encodingOf(new Uint8Array([0xff, 0xfe, 0x74, 0]))).toBe('utf-16le');
    expect(encodingOf(bytes('a°').slice(0, 2))).toBe('utf-8'); // a character cut at the end
  });

  test('the preview says what would be refused, and what looks like another unit', () => {
    const head = headOf('t_s,Ng,TOT\n0,12,2300\n1,x,2310\n', 'utf-8');
    const preview = previewOf(head, guessMapping(head, skerry.channels), skerry.channels);
    expect(preview.outside).toEqual(['tot.1']);
    expect(preview.bad).toMatchObject({ row: 3, column: 'Ng' });
    expect(preview.rows).toHaveLength(1);
  });

  test('figures come out as JavaScript reads them, however they are written and cut', () => {
    fc.assert(
      fc.property(
        fc.array(fc.oneof(fc.double({ noNaN: true, noDefaultInfinity: true, min: -1e6, max: 1e6 }), fc.integer()), {
          minLength: 1,
          maxLength: 12,
        }),
        fc.integer({ min: 1, max: 50 }),
        (figures, chunk) => {
          const text = `t_s,Ng,TOT\n${figures.map((v, i) => `${i},${v},1`).join('\n')}\n`;
          const { rows } = read(
            text,
            (m) => ({
              ...m,
              headerRows: 1,
              time: { ...m.time, format: 'seconds', column: 0 },
              columns: [{ column: 1, channel: 'ng.1', unit: '%', scale: 1 }],
            }),
            chunk,
          );
          rows.forEach((r, i) => expect(at(r, 'ng.1')).toBeCloseTo(figures[i]!, 6));
          expect(rows).toHaveLength(figures.length);
        },
      ),
      { numRuns: 60 },
    );
  });
});

describe('a whole file', () => {
  const flown = flyPreset('hung-start');
  const text = writeCsv(flown.trace, skerry.channels);
  const head = headOf(text.slice(0, 20_000), 'utf-8');
  const mapping = guessMapping(head, skerry.channels);

  test('of ours is known by its names alone, and the watch says of it what it said when it was live', () => {
    expect(mapping.columns).toHaveLength(skerry.channels.length);
    const scan = new Scan(skerry, mapping, head.names);
    scan.reader.push(bytes(text));
    const found = scan.finish();
    expect(found.rows).toBe(flown.trace.t_s.length);
    const live = flown.entries.find((e) => e.kind === 'abort')!;
    const abort = found.events.find((e) => e.kind === 'abort')!;
    expect(abort).toMatchObject({ reason: 'hung' });
    expect(abort.t_s + flown.trace.t_s[0]!).toBeCloseTo(live.t, 1);
    expect(found.overview.speed.filter((v) => v !== null && v > 20).length).toBeGreaterThan(3);
  });

  test('can be gone on with from any kept place, and reads the same rows', () => {
    const scan = new Scan(skerry, mapping, head.names);
    scan.reader.push(bytes(text));
    const { places, events } = scan.finish();
    const abort = events.find((e) => e.kind === 'abort')!;
    const place = placeBefore(places, abort.t_s, 600)!;
    expect(place.quiet).toBe(true);
    expect(place.t_s).toBeLessThan(abort.t_s);
    const again: number[] = [];
    const reader = new RowReader(mapping, skerry.channels, head.names, (t_s) => again.push(t_s));
    reader.resume(place.at);
    reader.push(bytes(text).slice(place.at.offset));
    reader.end();
    expect(again[0]).toBeCloseTo(place.t_s, 9);
    expect(again[again.length - 1]).toBeCloseTo(flown.trace.t_s.at(-1)! - flown.trace.t_s[0]!, 6);
  });
});
