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

test('from noisy readings, wherever their times begin, it is the line through all of them, with its spread', () => {
  const noise = [0.3, -0.2, 0.1, -0.4, 0.2, 0.4, -0.1, -0.3, 0.2, -0.2, 0.1, -0.1];
  const t = noise.map((_, i) => 100 + i);
  const v = noise.map((n, i) => 20 + 0.5 * i + n);
  // the least squares of these readings, worked out by their sums
  const n = t.length;
  const [st, sv] = [t.reduce((a, b) => a + b), v.reduce((a, b) => a + b)];
  const stv = t.reduce((sum, x, i) => sum + x * v[i]!, 0);
  const stt = t.reduce((sum, x) => sum + x * x, 0);
  const slope = (n * stv - st * sv) / (n * stt - st * st);
  const level = (sv - slope * st) / n;
  const residual = v.reduce((sum, x, i) => sum + (x - level - slope * t[i]!) ** 2, 0);
  const spread = Math.sqrt((residual / (n - 2)) * (n / (n * stt - st * st)));
  const gap = 60 - v.at(-1)!;
  const found = estimateWait({ channel: 'x', atLeast: 60 }, t, v)!;
  expect(found.seconds).toBeCloseTo(gap / slope, 9);
  expect(found.low).toBeCloseTo(gap / (slope + 2 * spread), 9);
  expect(found.high).toBeCloseTo(gap / (slope - 2 * spread), 9);
});

test('a fall to a target has its range as well; one that may as well stand still has no end', () => {
  const { t, v } = line(80, -0.5, 10);
  expect(estimateWait({ channel: 'x', atMost: 50 }, t, v)!.seconds).toBeCloseTo((v.at(-1)! - 50) / 0.5, 6);
  expect(estimateWait({ channel: 'x', between: [20, 30] }, t, v)!.seconds).toBeCloseTo((v.at(-1)! - 20) / 0.5, 6);
  const wild = t.map((_, i) => 10 + 0.01 * i + 3 * (i % 2));
  expect(estimateWait({ channel: 'x', above: 60 }, t, wild)!.high).toBe(Infinity);
});

test('what holds already takes no time; readings of one moment, or a condition of several, promise nothing', () => {
  expect(estimateWait({ channel: 'x', atLeast: 60 }, [1], [61])).toEqual({ seconds: 0, low: 0, high: 0 });
  const same = Array.from({ length: 12 }, () => 5);
  expect(estimateWait({ channel: 'x', atLeast: 60 }, same, same.map((_, i) => i))).toBeNull(); // oxfmt-ignore
  expect(estimateWait({ all: [{ channel: 'x', atLeast: 60 }] }, same, same)).toBeNull();
  expect(estimateWait({ channel: 'x', is: 2 }, same, same)).toBeNull();
  expect(estimateWait({ channel: 'x', atLeast: 60 }, [], [])).toBeNull();
});
