import fc from 'fast-check';
import { expect, test } from 'vitest';
import { estimateWait } from '@rouse/core/procedure';

const line = (from: number, slope: number, seconds: number): { t: number[]; v: number[] } => {
  const t = Array.from({ length: seconds * 5 + 1 }, (_, i) => i / 5);
  return { t, v: t.map((x) => from + slope * x) };
};

test('a straight rise reaches its target when arithmetic says so', () => {
  fc.assert(
    fc.property(fc.double({ min: 0.05, max: 2, noNaN: true }), (slope) => {
      const { t, v } = line(10, slope, 10);
      const left = estimateWait({ channel: 'x', atLeast: 60 }, t, v)!;
      expect(left.seconds).toBeCloseTo((60 - v[v.length - 1]!) / slope, 6);
      expect(left.low).toBeLessThanOrEqual(left.seconds + 1e-9);
      expect(left.high).toBeGreaterThanOrEqual(left.seconds - 1e-9);
    }),
  );
});

test('no trend, the wrong way, or lost readings give no promise', () => {
  const { t, v } = line(10, -0.5, 10);
  expect(estimateWait({ channel: 'x', atLeast: 60 }, t, v)).toBeNull();
  expect(estimateWait({ channel: 'x', below: 3 }, t, v)).not.toBeNull();
  expect(
    estimateWait(
      { channel: 'x', atLeast: 60 },
      t,
      v.map(() => NaN),
    ),
  ).toBeNull();
  expect(estimateWait({ channel: 'x', atLeast: 60 }, t.slice(0, 3), [1, 2, 3])).toBeNull();
});
