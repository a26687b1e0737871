import { learnCheckHabit, type PastCheck, usualFigures } from '@rouse/core/health';
import { describe, expect, test } from 'vitest';
import { typeOf } from '../fleet.ts';

/** Good checks of the electrical loads, newest first. */
const past = (pitot: readonly number[], good: PastCheck['figures'][number]['good'] = [null, null]): PastCheck[] =>
  pitot.map((value) => ({ check: 'load-steps', figures: [{ id: 'pitot', value, good }] }));

describe('what the checks of a tail usually show', () => {
  test('a habit is made of eight, and has its range', () => {
    expect(usualFigures(past([9, 9, 9, 9, 9, 9, 9]))).toEqual({});
    const usual = usualFigures(past([9, 9.1, 8.9, 9, 9.2, 8.8, 9, 9]))['load-steps/pitot']!;
    expect(usual.median).toBeCloseTo(9, 1);
    expect(usual.least).toBe(8.8);
    expect(usual.most).toBe(9.2);
  });

  test('a figure that creeps is said to drift, one that only scatters is not', () => {
    const scatter = [9, 9.2, 8.9, 9.1, 8.8, 9, 9.1, 8.9, 9, 9.2, 8.9, 9.1];
    const creep = scatter.map((v, i) => v - 0.25 * i);
    expect(usualFigures(past(scatter))['load-steps/pitot']!.drift).toBeNull();
    expect(usualFigures(past(creep))['load-steps/pitot']!.drift).toBeGreaterThan(1);
  });

  test('a trend says in how many checks it leaves what is good, never sooner for lack of one', () => {
    const newestFirst = Array.from({ length: 12 }, (_, i) => 9 + 0.2 * i + 0.02 * (i % 2));
    const reach = (good: PastCheck['figures'][number]['good']) =>
      usualFigures(past(newestFirst, good))['load-steps/pitot']!.leavesGoodIn;
    expect(reach([8, null])).toBeGreaterThanOrEqual(4);
    expect(reach([8, null])).toBeLessThanOrEqual(5);
    expect(reach([9.1, null])).toBe(0);
    expect([reach([null, 12]), reach([null, null])]).toEqual([null, null]);
    const flat = usualFigures(past([9, 9.2, 8.9, 9.1, 8.8, 9, 9.1, 8.9, 9, 9.2], [8.5, 9.5]))['load-steps/pitot']!;
    expect(flat.leavesGoodIn).toBeNull();
  });

  test('a load is learned after five steps, by its median', () => {
    const s7 = typeOf('S7');
    expect(learnCheckHabit(s7, past([9, 9, 9, 9])).loads).toEqual({});
    const { pitot_heat } = learnCheckHabit(s7, past([8.6, 8.7, 8.8, 8.7, 30])).loads;
    expect(pitot_heat!.amps).toBe(8.7);
    expect(pitot_heat!.sd).toBeLessThan(0.2);
  });

  test('figures that were not read teach nothing', () => {
    const empty: PastCheck[] = Array.from({ length: 9 }, () => ({
      check: 'load-steps',
      figures: [{ id: 'pitot', value: null, good: [null, null] }],
    }));
    expect(usualFigures(empty)).toEqual({});
    expect(learnCheckHabit(typeOf('S7'), empty).loads).toEqual({});
  });
});
