import { learnLoads, type PastCheck, usualFigures } from '@rouse/core/health';
import { describe, expect, test } from 'vitest';
import { typeOf } from '../fleet.ts';

/** Good checks of the electrical loads, newest first. */
const past = (pitot: readonly number[]): PastCheck[] =>
  pitot.map((value) => ({ check: 'load-steps', figures: [{ id: 'pitot', value }] }));

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

  test('a load is learned after five steps, by its median', () => {
    const s7 = typeOf('S7');
    expect(learnLoads(s7, past([9, 9, 9, 9]))).toEqual({});
    const { pitot_heat } = learnLoads(s7, past([8.6, 8.7, 8.8, 8.7, 30]));
    expect(pitot_heat!.amps).toBe(8.7);
    expect(pitot_heat!.sd).toBeLessThan(0.2);
  });

  test('figures that were not read teach nothing', () => {
    const empty: PastCheck[] = Array.from({ length: 9 }, () => ({
      check: 'load-steps',
      figures: [{ id: 'pitot', value: null }],
    }));
    expect(usualFigures(empty)).toEqual({});
    expect(learnLoads(typeOf('S7'), empty)).toEqual({});
  });
});
