import fc from 'fast-check';
import { expect, test } from 'vitest';
import { rowAt, type Stretch, thin, type Trace } from '@rouse/core/trace';

const channels = ['a', 'b'];
/** Frames at 50 Hz with a hole now and then, and readings that are missing. */
const traces = fc
  .array(fc.tuple(fc.constantFrom(20, 20, 20, 20, 3000), fc.option(fc.integer()), fc.integer()), { maxLength: 400 })
  .map((rows): Trace => {
    let ms = 0;
    return {
      channels,
      t_s: Float64Array.from(rows, ([dt]) => (ms += dt) / 1000),
      columns: [Float64Array.from(rows, (r) => r[1] ?? NaN), Float64Array.from(rows, (r) => r[2])],
    };
  });
const stretches = fc.array(
  fc.tuple(fc.integer({ min: 0, max: 20 }), fc.integer({ min: 0, max: 5 })).map(([from, lasts]): Stretch => [from, from + lasts]),
  { maxLength: 3 },
); // oxfmt-ignore
const isIn = (t_s: number, whole: readonly Stretch[]): boolean => whole.some(([a, b]) => t_s >= a && t_s <= b);
const rowsOf = (trace: Trace, of: (t_s: number) => boolean): string[] =>
  [...trace.t_s].flatMap((t, i) => (of(t) ? [`${t} ${trace.columns[0]![i]} ${trace.columns[1]![i]}`] : []));
/** Lowest and highest of each channel between two times. */
const extremes = (trace: Trace, from_s: number, to_s: number): string =>
  trace.columns
    .map((column) => [...column.subarray(rowAt(trace, from_s), rowAt(trace, to_s + 1e-9))].filter((v) => !Number.isNaN(v)))
    .map((values) => `${Math.min(...values)} to ${Math.max(...values)}`)
    .join(', '); // oxfmt-ignore

test('what is whole stays to the last frame; of the rest every extreme stays, in few rows and in order', () => {
  fc.assert(
    fc.property(traces, stretches, fc.constantFrom(1, 5, 10), (trace, whole, perSecond) => {
      const kept = thin(trace, perSecond, whole);
      expect(rowsOf(kept, (t) => isIn(t, whole))).toEqual(rowsOf(trace, (t) => isIn(t, whole)));
      const times = [...kept.t_s];
      expect(times.every((t, i) => i === 0 || t > times[i - 1]!)).toBe(true);
      // a stretch of frames that lie close together: its first and its last time stay, and its extremes
      let from = 0;
      for (let i = 1; i <= trace.t_s.length; i++) {
        const ends = i === trace.t_s.length || trace.t_s[i]! - trace.t_s[i - 1]! > 1 || isIn(trace.t_s[i]!, whole) !== isIn(trace.t_s[i - 1]!, whole); // oxfmt-ignore
        if (!ends) continue;
        const [a, b] = [trace.t_s[from]!, trace.t_s[i - 1]!];
        expect(extremes(kept, a, b)).toBe(extremes(trace, a, b));
        const rows = rowAt(kept, b + 1e-9) - rowAt(kept, a);
        const most = isIn(a, whole) ? Infinity : Math.max(2, perSecond * (b - a) + 2);
        expect(rows).toBeLessThanOrEqual(most);
        from = i;
      }
    }),
  );
});

test('with no row a second only what is whole is left', () => {
  fc.assert(
    fc.property(traces, stretches, (trace, whole) => {
      expect(rowsOf(thin(trace, 0, whole), () => true)).toEqual(rowsOf(trace, (t) => isIn(t, whole)));
    }),
  );
});
