import { expect, test } from 'vitest';
import { brokenHabits, compareStart, featuresOf } from '@rouse/core/health';
import { CORRIDOR_MIN_STARTS, dayOf, learnCorridor, quantile } from '@rouse/core/watch';
import { flyPreset } from '../skerry.ts';

const past = Array.from({ length: 20 }, (_, i) => ({ voltsDip_V: 18 + i * 0.05, peak_C: 650 + i }));

test('a figure inside its past is usual, one beyond everything is named when it is the worse side', () => {
  const low = compareStart({ voltsDip_V: 16.9, peak_C: 655 }, past);
  expect(low.find((c) => c.spec.id === 'voltsDip_V')?.verdict).toBe('low');
  expect(low.find((c) => c.spec.id === 'peak_C')?.verdict).toBe('usual');
  expect(brokenHabits(low)).toEqual(['Volts dip lower than its habit']);
  expect(brokenHabits(compareStart({ voltsDip_V: 20, peak_C: 600 }, past))).toEqual([]);
});

test('with too few starts, or no figure, nothing is called usual', () => {
  expect(
    compareStart({ voltsDip_V: 18 }, past.slice(0, 5)).every((c) => c.verdict === 'unknown' && c.usual === null),
  ).toBe(true);
  expect(compareStart({}, past).every((c) => c.verdict === 'unknown')).toBe(true);
});

test('a moment that never came is null, not zero', () => {
  const features = featuresOf(flyPreset('no-light').starts[0]!.record);
  expect(features['lightOff_s']).toBeNull();
  expect(features['idle_s']).toBeNull();
  expect(features['voltsDip_V']).toBeGreaterThan(10);
});

test('an aborted start keeps the peak that came after the abort', () => {
  const start = flyPreset('hot-start').starts[0]!;
  expect(start.good).toBe(false);
  expect(start.record.peak_C).toBeGreaterThan(800);
});

test('no corridor is claimed from a handful of starts', () => {
  const { record, profile } = flyPreset('mild').starts[0]!;
  const one = { profile, day: dayOf(record) };
  expect(learnCorridor(Array.from({ length: CORRIDOR_MIN_STARTS - 1 }, () => one))).toBeNull();
  const corridor = learnCorridor(Array.from({ length: CORRIDOR_MIN_STARTS }, () => one))!;
  expect(Math.max(...corridor.upperTot_C.filter((v) => !Number.isNaN(v)))).toBeCloseTo(record.peak_C, 0);
});

test('quantiles are those of Hyndman and Fan, type 7', () => {
  expect(quantile([1, 2, 3, 4], 0.5)).toBe(2.5);
  expect(quantile([1, 2, 3, 4], 0.25)).toBe(1.75);
  expect(quantile([], 0.5)).toBeNaN();
});
