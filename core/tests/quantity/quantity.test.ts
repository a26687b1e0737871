import fc from 'fast-check';
import { expect, test } from 'vitest';
import { convert, roundConservative, roundStep } from '@rouse/core/quantity';
import { difference, type Tolerance } from '../compare-vector.ts';
import vectors from '../fixtures/quantity.json' with { type: 'json' };

interface Vector {
  id: string;
  fn: string;
  input: { value: number; from: string; to: string; step: number; kind: string };
  expected: unknown;
  tol: Tolerance;
}

test.each((vectors as unknown as Vector[]).map((v) => [v.id, v.fn, v] as const))(
  'vector %s: %s',
  (_id, fn, { input, expected, tol }) => {
    const result = fn === 'convert' ? convert(input.value, input.from, input.to) : roundConservative(input);
    expect(difference(result, expected, tol)).toBeNull();
  },
);

test('there and back is the same value', () => {
  fc.assert(
    fc.property(
      fc.double({ min: -200, max: 1e6, noNaN: true }),
      fc.constantFrom(['C', 'F'], ['kt', 'km/h'], ['inHg', 'hPa'], ['lb', 'kg'], ['usgal', 'L'], ['psi', 'bar']),
      (v, [a, b]) => {
        const there = convert(v, a!, b!);
        const back = 'value' in there ? convert(there.value, b!, a!) : there;
        expect('value' in back && Math.abs(back.value - v)).toBeLessThan(1e-9 * Math.max(1, Math.abs(v)));
      },
    ),
  );
});

test('mass is not volume, and nonsense is named', () => {
  expect(convert(1, 'kg', 'L')).toEqual({ error: 'UNIT_MISMATCH', field: 'to' });
  expect(convert(1, 'furlong', 'm')).toEqual({ error: 'UNKNOWN_UNIT', field: 'from' });
  expect(convert(NaN, 'm', 'ft')).toEqual({ error: 'NOT_A_NUMBER', field: 'value' });
});

test('the safe way is never the hopeful one', () => {
  fc.assert(
    fc.property(fc.double({ min: -1e4, max: 1e4, noNaN: true }), fc.constantFrom(0.1, 1, 5, 10), (v, step) => {
      expect(roundStep(v, step, 'floor')).toBeLessThanOrEqual(v + step * 1e-8);
      expect(roundStep(v, step, 'ceil')).toBeGreaterThanOrEqual(v - step * 1e-8);
    }),
  );
  expect(Object.is(roundStep(-0.04, 0.1, 'nearest'), 0)).toBe(true);
  expect(roundStep(-0.04, 0.1, 'floor')).toBe(-0.1);
});
