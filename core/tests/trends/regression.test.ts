import fc from 'fast-check';
import { expect, test } from 'vitest';
import { fit } from '../../src/trends/regression.ts';

const ROWS = 40;
const column = fc.array(fc.integer({ min: -100, max: 100 }), { minLength: ROWS, maxLength: ROWS });
const slope = fc.integer({ min: -50, max: 50 });
const level = Array.from({ length: ROWS }, () => 1);
const ramp = Array.from({ length: ROWS }, (_, i) => i / ROWS);

/** A deterministic noise of the size of one, its mean near nothing. */
const noise = (i: number): number => Math.sin(12.9898 * (i + 1)) * Math.cos(4.1414 * i);

test('what a figure is made of is found again, in whatever order it is asked', () => {
  fc.assert(
    fc.property(column, column, slope, slope, slope, (a, b, sa, sb, base) => {
      const y = level.map((_, i) => base + sa * a[i]! + sb * b[i]! + noise(i));
      const fitted = fit(y, [level, a, b]);
      // two columns that say the same cannot be told apart
      fc.pre(fitted !== null);
      expect(fitted!.slopes[1]).toBeCloseTo(sa, 0);
      expect(fitted!.slopes[2]).toBeCloseTo(sb, 0);
      const turned = fit(y, [b, level, a])!;
      expect(turned.slopes[0]).toBeCloseTo(fitted!.slopes[2]!, 6);
      expect(turned.t[2]).toBeCloseTo(fitted!.t[1]!, 4);
      // what is left is square to every column: there is nothing more to be had
      for (const c of [level, a, b]) {
        const along = c.reduce((sum, v, i) => sum + v * fitted!.residuals[i]!, 0);
        const size = Math.hypot(...c) * Math.hypot(...fitted!.residuals);
        expect(Math.abs(along) / size).toBeLessThan(0.3);
      }
    }),
    { numRuns: 200, seed: 3 },
  );
});

test('one value that is far from all others has no say', () => {
  const y = ramp.map((r, i) => 10 + 5 * r + 0.1 * noise(i));
  const spoiled = y.with(20, 25);
  const [clean, other] = [fit(y, [level, ramp])!, fit(spoiled, [level, ramp])!];
  expect(other.slopes[1]).toBeCloseTo(clean.slopes[1]!, 1);
  // and it is still there to be seen
  expect(other.residuals[20]).toBeGreaterThan(12);
});

test('a slope is sure where it stands out of the noise, and none where there is nothing', () => {
  const steep = fit(ramp.map((r, i) => 5 * r + 0.2 * noise(i)), [level, ramp])!; // oxfmt-ignore
  const flat = fit(ramp.map((_, i) => noise(i)), [level, ramp])!; // oxfmt-ignore
  expect(steep.t[1]).toBeGreaterThan(15);
  expect(Math.abs(flat.t[1]!)).toBeLessThan(2);
  expect(fit(ramp, [level, ramp])!.slopes[1]).toBeCloseTo(1, 9);
});

test('columns that say the same, and more columns than values, are no fit', () => {
  expect(fit(ramp, [level, ramp, ramp.map((r) => 2 * r)])).toBeNull();
  expect(fit([1, 2, 3], [[1, 1, 1], [1, 2, 3]])).toBeNull(); // oxfmt-ignore
});
