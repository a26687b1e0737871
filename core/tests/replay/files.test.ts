import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { writeCsv } from '@rouse/core/format';
import {
  BadRow,
  type CsvMapping,
  encodingOf,
  guessMapping,
  headerKey,
  headOf,
  positionBefore,
  previewOf,
  type RecordingEvent,
  RecordingWatch,
  RowReader,
  Scan,
  unsureOf,
} from '@rouse/core/replay';
import { channelIndex, flyPreset, once, skerry } from '../skerry.ts';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);

/** What a person chooses where the file does not say: the channel's own unit. */
const chosen = (m: CsvMapping): CsvMapping => ({
  ...m,
  columns: m.columns.map((c) => ({ ...c, unit: c.unit || skerry.channels[channelIndex(c.channel)]!.unit })),
});

/** Reads a text as the worker would, in chunks of any size. */
function read(text: string, change: (m: CsvMapping) => CsvMapping = (m) => m, chunk = 7) {
  const head = headOf(text, 'utf-8');
  const mapping = change(chosen(guessMapping(head, skerry.channels)));
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

  test('a clock goes on past midnight; rows of the same second are spread up to the next', () => {
    const { rows, reader } = read('time,Ng\n23:59:59,1\n23:59:59,2\n00:00:01,3\n');
    expect(rows.map((r) => r.t_s)).toEqual([0, 0.5, 2]);
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
    const preview = previewOf(head, chosen(guessMapping(head, skerry.channels)), skerry.channels);
    expect(preview.outside).toEqual(['tot.1']);
    expect(preview.bad).toMatchObject({ row: 3, column: 'Ng' });
    expect(preview.rows).toHaveLength(1);
  });

  test('figures come out as JavaScript reads them, however they are written and cut', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.oneof(
            fc.double({ noNaN: true, noDefaultInfinity: true, min: -5, max: 110 }),
            fc.integer({ min: 0, max: 110 }),
          ),
          {
            minLength: 1,
            maxLength: 12,
          },
        ),
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
  const hung = once(() => flyPreset('hung-start'));
  const whole = () => {
    const text = writeCsv(hung().trace, skerry.channels);
    const head = headOf(text.slice(0, 20_000), 'utf-8');
    return { flown: hung(), text, head, mapping: chosen(guessMapping(head, skerry.channels)) };
  };

  test('of ours is known by its names alone, and the watch says of it what it said when it was live', () => {
    const { flown, text, head, mapping } = whole();
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
    const { flown, text, head, mapping } = whole();
    const scan = new Scan(skerry, mapping, head.names);
    scan.reader.push(bytes(text));
    const { places, events } = scan.finish();
    const abort = events.find((e) => e.kind === 'abort')!;
    const place = positionBefore(places, abort.t_s, 600)!;
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

describe('time is judged by its values and their steps', () => {
  test.each<[string, string, string, number[]]>([
    ['milliseconds that nobody calls so', 'time,Ng\n0,1\n20,2\n40,3\n', 'milliseconds', [0, 0.02, 0.04]],
    ['seconds since the epoch', 'time,Ng\n1795593600,1\n1795593601,2\n', 'seconds', [0, 1]],
    ['milliseconds since the epoch', 'timestamp,Ng\n1795593600000,1\n1795593600500,2\n', 'milliseconds', [0, 0.5]],
    ['days since a day', 'date,Ng\n46351.25,1\n46351.2500115741,2\n', 'days', [0, 1]],
    ['a clock of two halves', 'clock,Ng\n11:59:59 AM,1\n12:00:00 PM,2\n12:00:01 pm,3\n', 'clock', [0, 1, 2]],
    ['date and clock in two columns', 'Date;Time;Ng\n2026-11-25;23:59:59;1\n2026-11-26;00:00:00;2\n', 'clock', [0, 1]],
  ])('%s', (_, text, format, times) => {
    const { mapping, rows } = read(text);
    expect(mapping.time.format).toBe(format);
    rows.forEach((r, i) => expect(r.t_s).toBeCloseTo(times[i]!, 3));
    expect(rows).toHaveLength(times.length);
  });

  test('no time is nobody’s ten rows a second: it has to be said', () => {
    const mapping = guessMapping(headOf('Ng,TOT\n12,300\n13,310\n12,305\n', 'utf-8'), skerry.channels);
    expect(mapping.time.format).toBe('unknown');
    expect(unsureOf(mapping, skerry.channels).time).toBe(true);
    expect(() => new RowReader(mapping, skerry.channels, [], () => undefined)).toThrow(/has to be chosen/);
  });
});

describe('units', () => {
  test.each([
    ['Ng,TOT degF\n', '°F'],
    ['Ng,TOT (Fahrenheit)\n', '°F'],
    ['Ng,TOT_C\n', '°C'],
    ['Ng,TOT\n%,degC\n', '°C'],
    ['Ng,TOT\n', ''],
    ['Ng,TOT [glow]\n', ''],
  ])('of %j are %j', (header, unit) => {
    const mapping = guessMapping(
      headOf(`t_s,${header.replace('\n%', '\ns,%')}0,12,300\n1,13,310\n`, 'utf-8'),
      skerry.channels,
    );
    expect(mapping.columns.find((c) => c.channel === 'tot.1')?.unit).toBe(unit);
    expect(unsureOf(mapping, skerry.channels).units).toEqual(unit === '' ? ['tot.1'] : []);
  });

  test('of a channel that has none are not asked for', () => {
    const mapping = guessMapping(headOf('t_s,Ng\n0,12\n1,13\n', 'utf-8'), skerry.channels);
    const lever = { column: 1, channel: 'engine.1.selector', unit: '', scale: 1 };
    expect(unsureOf({ ...mapping, columns: [lever] }, skerry.channels).units).toEqual([]);
  });

  test('a kept mapping is another one where units, header rows or the decimal sign differ', () => {
    const key = (text: string): string => headerKey(headOf(text, 'utf-8'));
    const one = key('t_s;Ng;TOT\ns;%;degC\n0;12;300\n1;13;310\n');
    expect(key('t_s;Ng;TOT\ns;%;degC\n0;12;900\n1;14;310\n')).toBe(one);
    expect(key('t_s;Ng;TOT\ns;%;degF\n0;12;300\n1;13;310\n')).not.toBe(one);
    expect(key('t_s;Ng;TOT\ns;%;degC\n0,5;12;300\n1;13;310\n')).not.toBe(one);
    expect(key('Recorder\nt_s;Ng;TOT\ns;%;degC\n0;12;300\n1;13;310\n')).not.toBe(one);
  });
});

describe('files as they come', () => {
  test('decimal commas in every field outnumber the semicolons that part them, and are not taken for separators', () => {
    const row = (i: number): string => `09:00:${String(i).padStart(2, '0')},50;${i},5;${300 + i},25;3,1`;
    const lines = ['Recorder 7;;;', 'Time;Ng;TOT;Oil', ...Array.from({ length: 20 }, (_, i) => row(i))];
    expect(headOf(lines.join('\n'), 'utf-8')).toMatchObject({
      separator: ';',
      decimal: ',',
      names: ['Time', 'Ng', 'TOT', 'Oil'],
    });
  });

  const ng = (text: string, change?: (m: CsvMapping) => CsvMapping): number[] =>
    read(text, change).rows.map((r) => at(r, 'ng.1'));

  test.each<[string, string, number[]]>([
    ['lines that end in a return alone', 't_s,Ng\r0,1\r1,2\r', [1, 2]],
    ['columns aligned by blanks', '  t_s     Ng\n  0.0   12.0\n  1.0   13.5\n', [12, 13.5]],
    ['comments between the rows', 't_s,Ng\n# begun\n0,1\n# still\n1,2\n', [1, 2]],
    ['blank lines', '\nt_s,Ng\n\n0,1\n\n1,2\n', [1, 2]],
    ['a last row that was cut off', 't_s,Ng,TOT_C\n0,1,20\n1,2,20\n2', [1, 2]],
    ['stars and question marks for no reading', 't_s,Ng\n0,****\n1,?\n2,3\n', [NaN, NaN, 3]],
    ['what no gauge shows', 't_s,Ng\n0,-999\n1,9999\n2,3\n', [NaN, NaN, 3]],
  ])('%s', (_, text, figures) => {
    expect(ng(text)).toEqual(figures);
  });

  test('a code for no reading is what the file says it is', () => {
    expect(ng('t_s,Ng\n0,0.1\n1,55\n', (m) => ({ ...m, missing: ['0.1'] }))).toEqual([NaN, 55]);
  });

  test('a column that is written less often holds its figure as long as it is said to', () => {
    const text = 't_s,Ng\n0,10\n0.5,\n1,\n1.5,\n2,12\n';
    expect(ng(text, (m) => ({ ...m, hold_s: 1 }))).toEqual([10, 10, 10, NaN, 12]);
    expect(ng(text)).toEqual([10, NaN, NaN, NaN, 12]);
  });

  test('rows of one stamp are spread up to the next, none is dropped, and a hole is no reason to stretch them', () => {
    const { rows } = read('t_s,Ng\n0,1\n0,2\n0,3\n0,4\n1,5\n1,6\n60,7\n');
    expect(rows.map((r) => r.t_s)).toEqual([0, 0.25, 0.5, 0.75, 1, 1.5, 60]);
  });

  test('a file without line ends is refused, whatever its size', () => {
    const reader = new RowReader(
      { separator: ',', decimal: '.', headerRows: 0, time: { format: 'seconds', column: 0, rate_Hz: 10, start_s: 0 }, columns: [{ column: 1, channel: 'ng.1', unit: '%', scale: 1 }] }, // oxfmt-ignore
      skerry.channels,
      [],
      () => undefined,
    );
    const chunk = new Uint8Array(700_000).fill(49);
    reader.push(chunk);
    expect(() => reader.push(chunk)).toThrow(/no line ends/);
  });
});

describe('a recording', () => {
  const mild = once(() => flyPreset('mild', null, 21).trace);

  /** The start of the recording, some channels never there, some rows never written. */
  function recorded(lost: readonly string[], hidden: (t_s: number) => boolean = () => false): RecordingEvent[] {
    const events: RecordingEvent[] = [];
    const recording = new RecordingWatch(skerry, (e) => events.push(e));
    const values = new Float64Array(skerry.channels.length);
    const trace = mild();
    for (let i = 0; i < trace.t_s.length; i++) {
      trace.columns.forEach((c, k) => (values[k] = c[i]!));
      for (const id of lost) values[channelIndex(id)] = NaN;
      if (!hidden(trace.t_s[i]!)) recording.row(trace.t_s[i]!, values);
    }
    recording.finish();
    return events;
  }

  test('without starter current has its start by its speed', () => {
    const starter = skerry.startWatches[0].starter.channel;
    const done = (lost: readonly string[]): Extract<RecordingEvent, { kind: 'start-done' }> =>
      recorded(lost).find((e): e is Extract<RecordingEvent, { kind: 'start-done' }> => e.kind === 'start-done')!;
    const found = done([starter]);
    expect(found.verdict).toBe('good');
    expect(found.record.peak_C).toBe(done([]).record.peak_C);
  });

  test('without starter and speed is told that no start could be looked for', () => {
    const [spec] = skerry.startWatches;
    const events = recorded([spec.starter.channel, spec.channels.speed]);
    expect(events.at(-1)).toMatchObject({ kind: 'start-not-sought', watch: spec.id });
    expect(recorded([]).some((e) => e.kind === 'start-not-sought')).toBe(false);
  });

  test('tells of its gaps', () => {
    const gaps = recorded([], (t_s) => t_s > 100 && t_s < 108).filter((e) => e.kind === 'gap');
    expect(gaps).toHaveLength(1);
    expect(gaps[0]!.for_s).toBeCloseTo(8, 0);
  });
});
