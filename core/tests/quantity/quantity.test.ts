import fc from 'fast-check';
import { expect, test } from 'vitest';
import { attempt, convert, roundStep } from '@rouse/core/quantity';

test('there and back is the same value', () => {
  fc.assert(
    fc.property(
      fc.double({ min: -200, max: 1e6, noNaN: true }),
      fc.constantFrom(['C', 'F'], ['kt', 'km/h'], ['inHg', 'hPa'], ['lb', 'kg'], ['usgal', 'L'], ['psi', 'bar']),
      (v, [a, b]) => {
        expect(Math.abs(convert(convert(v, a!, b!), b!, a!) - v)).toBeLessThan(1e-9 * Math.max(1, Math.abs(v)));
      },
    ),
  );
});

test('mass is not volume, and nonsense is named', () => {
  const refusal = (value: number, from: string, to: string): unknown => attempt(() => convert(value, from, to));
  expect(refusal(1, 'kg', 'L')).toEqual({ error: 'UNIT_MISMATCH', field: 'to' });
  expect(refusal(1, 'furlong', 'm')).toEqual({ error: 'UNKNOWN_UNIT', field: 'from' });
  expect(refusal(NaN, 'm', 'ft')).toEqual({ error: 'NOT_A_NUMBER', field: 'value' });
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
