import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { type BandTable, limitMonitor, rateMonitor } from '@rouse/core/watch';
import type { MonitorResult } from '../../src/watch/record-book.ts';

const table: BandTable = {
  direction: 'high',
  hysteresis: 2,
  bands: [
    { id: 'A', limit: 100, mode: 'cumulative', allow_s: 3 },
    { id: 'B', limit: 120, mode: 'continuous', allow_s: 1 },
  ],
};
const series = fc
  .array(fc.tuple(fc.integer({ min: 1, max: 15 }), fc.integer({ min: 80, max: 140 })), { minLength: 2, maxLength: 40 })
  .map((steps) => {
    let t = 0;
    return steps.map(([dt, v]): [number, number] => [(t += dt / 10), v]);
  });

test('raising every reading never lowers the time in a band', () => {
  fc.assert(
    fc.property(series, fc.integer({ min: 1, max: 20 }), (samples, by) => {
      const time = (rows: [number, number][]): number => {
        const result = limitMonitor({ table, samples: rows });
        return 'error' in result ? NaN : result.records.reduce((sum, r) => sum + r.duration_s, 0);
      };
      expect(time(samples.map(([t, v]) => [t, v + by]))).toBeGreaterThanOrEqual(time(samples) - 1e-9);
    }),
  );
});

test('a sample on the line between its neighbours changes no duration', () => {
  fc.assert(
    fc.property(series, (samples) => {
      const halved = samples.flatMap(([t, v], i): [number, number][] => {
        const next = samples[i + 1];
        return next
          ? [
              [t, v],
              [(t + next[0]) / 2, (v + next[1]) / 2],
            ]
          : [[t, v]];
      });
      const durations = (rows: [number, number][]): number[] => {
        const result = limitMonitor({ table, samples: rows });
        return 'error' in result ? [] : result.records.map((r) => r.duration_s);
      };
      const before = durations(samples);
      const after = durations(halved);
      expect(after.length).toBe(before.length);
      after.forEach((d, i) => expect(d).toBeCloseTo(before[i]!, 9));
    }),
  );
});

describe('over a record', () => {
  const read = (samples: [number, number | null][], more: object = {}): MonitorResult =>
    limitMonitor({ table, samples, ...more }) as MonitorResult;
  const eventsOf = (result: MonitorResult): string[] => result.events.map((e) => `${e.t} ${e.type} ${e.band}`);
  const tables = { low: table, high: { ...table, bands: [{ ...table.bands[0]!, limit: 110 }] } };

  test('of two readings at one time the worse counts', () => {
    expect(read([[0, 90], [1, 90], [1, 110], [2, 90]]).records[0]).toMatchObject({ peak: 110, peak_t: 1 }); // oxfmt-ignore
    expect(read([[0, 90], [1, 110], [1, 90], [2, 90]]).records[0]).toMatchObject({ peak: 110, peak_t: 1 }); // oxfmt-ignore
    const low: BandTable = { direction: 'low', hysteresis: 1, bands: [{ id: 'min', limit: 50, mode: 'continuous', allow_s: 1 }] }; // oxfmt-ignore
    expect(read([[0, 90], [1, 40], [1, 90], [2, 90]], { table: low }).records[0]).toMatchObject({ peak: 40 }); // oxfmt-ignore
  });

  test('a phase that begins between samples has its table from there on', () => {
    const result = read([[0, 105],
 [2, 105], [4, 105]], { table: undefined, tables, phases: [[0, 'high'], [1, 'low'], [3, null]] }); // oxfmt-ignore
    expect(eventsOf(result)).toEqual(['1 PHASE low', '1 ENTER A', '3 EXIT A']);
    expect(result.records).toMatchObject([{ phase: 'low', start: 1, end: 3, closed_by_phase: true, duration_s: 2 }]);
    expect(result.budgets).toMatchObject({ 'low/A': { used_s: 2, remaining_s: 1 }, 'high/A': { used_s: 0 } });
  });

  test('is written up in the order in which it came, at one time the mild band inside of which the severe one lies', () => {
    const result = read([[0, 130], [3, 130]], { max_gap_s: 9, table: undefined, tables: { both: table, none: tables.high }, phases: [[0, 'both'], [2, 'none']] }); // oxfmt-ignore
    expect(eventsOf(result)).toEqual(['0 ENTER A', '0 ENTER B', '1 EXPIRED B', '2 EXIT B', '2 EXIT A', '2 PHASE none', '2 ENTER A']); // oxfmt-ignore
    const { records } = read([[0, 90], [1, 110], [2, 130], [3, 110], [4, 130], [5, 90]]); // oxfmt-ignore
    expect(records.map((r) => `${r.band} ${r.start}`)).toEqual(['A 0.5', 'B 1.5', 'B 3.5']);
    expect(read([[0, 130], [1, 130]]).records.map((r) => r.band)).toEqual(['A', 'B']); // oxfmt-ignore
  });

  test('a gap is held at its worse end, and estimated only where a band is open in it', () => {
    expect(eventsOf(read([[0, 90], [10, 95]]))).toEqual(['0 GAP_START BLIND', '10 GAP_END null']); // oxfmt-ignore
    const worse = read([[0, 90], [10, 105]]); // oxfmt-ignore
    expect(eventsOf(worse)).toEqual(['0 GAP_START ESTIMATED', '0 ENTER A', '3 EXPIRED A', '10 GAP_END null']);
    expect(worse.records).toMatchObject([{ estimated_s: 10, open: true, expired_at: 3 }]);
    expect(worse.worst).toBe('EXPIRED');
  });

  test('a gap that ends on the safe side leaves its bands, the severe one first', () => {
    const left = read([[0, 130], [10, 90]]); // oxfmt-ignore
    expect(eventsOf(left)).toEqual(['0 GAP_START ESTIMATED', '0 ENTER A', '0 ENTER B', '1 EXPIRED B', '3 EXPIRED A', '10 EXIT B', '10 EXIT A', '10 GAP_END null']); // oxfmt-ignore
    expect(left.records).toMatchObject([{ closed_by_phase: false, open: false, peak: 130 }, { open: false }]);
    expect(read([[0, 110], [10, 125], [11, 125]]).records[0]).toMatchObject({ peak: 125, peak_t: 0, estimated_s: 10 }); // oxfmt-ignore
  });

  test('a phase that begins in a gap has its table from there on, at the level that is held', () => {
    const result = read([[0, 90], [10, 105]], { table: undefined, tables, phases: [[-1, 'high'], [8, 'low']] }); // oxfmt-ignore
    expect(eventsOf(result)).toEqual(['0 GAP_START ESTIMATED', '8 PHASE low', '8 ENTER A', '10 GAP_END null']);
    expect(result.records).toMatchObject([{ phase: 'low', start: 8, estimated_s: 2 }]);
    const unwatched = read([[0, 90], [10, 105]], { table: undefined, tables, phases: [[8, null]] }); // oxfmt-ignore
    expect(eventsOf(unwatched)).toEqual(['0 GAP_START BLIND', '10 GAP_END null']);
    const later = read([[0, 105], [10, 105], [11, 105]], { table: undefined, tables, phases: [[0, null], [10, 'low']] }); // oxfmt-ignore
    expect(eventsOf(later)).toEqual(['0 GAP_START ESTIMATED', '10 GAP_END null', '10 PHASE low', '10 ENTER A']);
  });

  test('bands of a low limit go down from mild to severe', () => {
    const low = (...limits: number[]): BandTable => ({ direction: 'low', hysteresis: 1, bands: limits.map((limit, i) => ({ id: `${i}`, limit, mode: 'continuous', allow_s: 1 })) }); // oxfmt-ignore
    expect(read([[0, 90], [1, 90]], { table: low(10, 8) }).records).toEqual([]); // oxfmt-ignore
    for (const table_ of [low(8, 10), low(8, 8)])
      expect(read([[0, 90], [1, 90]], { table: table_ })).toEqual({ error: 'BAD_TABLE', field: 'table' }); // oxfmt-ignore
  });

  test('how long a gap is can be said', () => {
    expect(eventsOf(read([[0, 90], [3, 90]], { max_gap_s: 3 }))).toEqual([]); // oxfmt-ignore
    expect(eventsOf(read([[0, 90], [3, 90]], { max_gap_s: 2.9 }))).toHaveLength(2); // oxfmt-ignore
  });

  test.each<[object, string, string]>([
    [{ table: undefined }, 'MISSING', 'table'],
    [{ table: undefined, tables }, 'MISSING', 'phases'],
    [{ table: undefined, tables, phases: [] }, 'MISSING', 'phases'],
    [{ table: undefined, tables, phases: [[0, 'other']] }, 'BAD_TABLE', 'phases'],
    [{ table: { ...table, direction: 'sideways' } }, 'BAD_TABLE', 'table'],
    [{ table: { ...table, bands: [] } }, 'BAD_TABLE', 'table'],
    [{ table: { ...table, bands: table.bands.toReversed() } }, 'BAD_TABLE', 'table'],
    [{ table: { ...table, bands: [{ ...table.bands[0]!, allow_s: -1 }] } }, 'BAD_TABLE', 'table'],
    [{ samples: [[0, 90], [0, 91]] }, 'INSUFFICIENT_DATA', 'samples'],
    [{ samples: [[1, 90], [0, 91]] }, 'BAD_SERIES', 'samples'],
    [{ samples: [['1', 90], [2, 91]] }, 'BAD_SERIES', 'samples'],
  ])('%j is refused: %s of %s', (more, error, field) => {
    expect(read([[0, 90], [1, 90]], more)).toEqual({ error, field }); // oxfmt-ignore
  }); // oxfmt-ignore
});

describe('a rate over a record', () => {
  const rising: BandTable = { direction: 'high', hysteresis: 1, bands: [{ id: 'fast', limit: 20, mode: 'continuous', allow_s: 1 }] }; // oxfmt-ignore
  const rate = (samples: [number, number | null][], more: object = {}): Exclude<ReturnType<typeof rateMonitor>, { error: string }> =>
    rateMonitor({ table: rising, window_s: 1, samples, ...more }) as never; // oxfmt-ignore

  test('is that over its window, straight between samples', () => {
    // 0 until 1 s, then 30 a second: over a window of one second the rate rises from 0 to 30 between 1 and 2 s
    const found = rate([[0, 0], [1, 0], [3, 60]]); // oxfmt-ignore
    expect(found.extreme_rate).toBe(30);
    expect(found.extreme_t).toBe(2);
    expect(found.records[0]!.start).toBeCloseTo(1 + 20 / 30, 3);
    expect(found.unmonitored_s).toBe(1);
    expect(rate([[0, 0], [1.5, 0], [3.5, 50]]).records[0]!.start).toBeCloseTo(1.5 + 20 / 25, 3); // oxfmt-ignore
  });
  test('falls where the limit is a low one', () => {
    const falling: BandTable = { ...rising, direction: 'low', bands: [{ ...rising.bands[0]!, limit: -20 }] };
    expect(rate([[0, 60], [1, 60], [3, 0]], { table: falling })).toMatchObject({ extreme_rate: -30, extreme_t: 2, worst: 'EXPIRED' }); // oxfmt-ignore
  });
  test('is not known across a gap: each side begins anew', () => {
    const found = rate([[0, 0], [1, 0], [2, 25], [10, 900], [11, 900], [12, 900]]); // oxfmt-ignore
    expect(found.extreme_rate).toBe(25);
    expect(found.records).toMatchObject([{ closed_by_phase: true, end: 2 }]);
    expect(found.unmonitored_s).toBe(12 - 1 - 1);
  });
  test('of two readings at one time takes the larger', () => {
    expect(rate([[0, 0], [1, 10], [1, 25], [2, 25]]).extreme_rate).toBe(25); // oxfmt-ignore
    expect(rate([[0, 0], [1, 25], [1, 10], [2, 25]]).extreme_rate).toBe(25); // oxfmt-ignore
  });
  test.each<[object, string, string]>([
    [{ table: undefined }, 'BAD_TABLE', 'table'],
    [{ table: { ...rising, bands: [] } }, 'BAD_TABLE', 'table'],
    [{ samples: [[0, 1]] }, 'INSUFFICIENT_DATA', 'samples'],
    [{ samples: [[1, 1], [0, 1]] }, 'BAD_SERIES', 'samples'],
    [{ window_s: 5 }, 'INSUFFICIENT_DATA', 'samples'],
  ])('%j is refused: %s of %s', (more, error, field) => {
    expect(rate([[0, 0], [1, 0]], more)).toEqual({ error, field }); // oxfmt-ignore
  }); // oxfmt-ignore
});
