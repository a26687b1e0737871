import fc from 'fast-check';
import { expect, test } from 'vitest';
import { type BandTable, limitMonitor } from '@rouse/core/watch';

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
