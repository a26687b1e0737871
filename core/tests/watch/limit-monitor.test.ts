import fc from 'fast-check';
import { expect, test } from 'vitest';
import { type BandTable, limitMonitor, type MonitorInput, rateMonitor } from '@rouse/core/watch';
import { difference, type Tolerance } from '../compare-vector.ts';
import vectors from '../fixtures/limit-monitor.json' with { type: 'json' };
import reference from '../fixtures/reference-limits.json' with { type: 'json' };

interface Vector {
  id: string;
  fn: string;
  input: Record<string, unknown> & { aircraft?: string };
  expected: unknown;
  tol: Tolerance;
  note: string;
}

/** Vectors name the tables of a reference aircraft; the monitor takes them as values. */
function resolveTables(input: Vector['input']): MonitorInput & { window_s: number } {
  const limits = (reference as unknown as Record<string, Record<string, BandTable>>)[input.aircraft ?? 'REF1']!;
  const look = (table: unknown): BandTable => (typeof table === 'string' ? limits[table]! : (table as BandTable));
  const out: Record<string, unknown> = { ...input };
  if (input['table']) out['table'] = look(input['table']);
  if (input['tables']) {
    out['tables'] = Object.fromEntries(Object.entries(input['tables'] as object).map(([k, v]) => [k, look(v)]));
  }
  return out as unknown as MonitorInput & { window_s: number };
}

test.each((vectors as unknown as Vector[]).map((v) => [v.id, v.note, v] as const))(
  'vector %s: %s',
  (_id, _note, vector) => {
    const input = resolveTables(vector.input);
    const result = vector.fn === 'rate_monitor' ? rateMonitor(input) : limitMonitor(input);
    expect(difference(result, vector.expected, vector.tol)).toBeNull();
  },
);

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
