import fc from 'fast-check';
import { expect, test } from 'vitest';
import { exp, log, pow, sin, tanh } from '../../src/simulator/elementary.ts';

function near(measured: number, exact: number, relative = 4e-16): void {
  expect(Math.abs(measured - exact)).toBeLessThanOrEqual(relative * Math.abs(exact) + 1e-300);
}

test('the exponential is right to the last places', () => {
  fc.assert(
    fc.property(fc.double({ min: -700, max: 700, noNaN: true }), (x) => {
      near(exp(x), Math.exp(x));
    }),
  );
  expect(exp(0)).toBe(1);
  expect([exp(1000), exp(-1000)]).toEqual([Infinity, 0]);
  expect(exp(NaN)).toBeNaN();
});

test('the logarithm is right to the last places', () => {
  fc.assert(
    fc.property(fc.double({ min: 1e-300, max: 1e300, noNaN: true }), (x) => {
      near(log(x), Math.log(x), 1e-15);
    }),
  );
  fc.assert(
    fc.property(fc.double({ min: 0.5, max: 2, noNaN: true }), (x) => {
      near(log(x), Math.log(x), 1e-15);
    }),
  );
  expect(log(1)).toBe(0);
  expect(log(0)).toBe(-Infinity);
  expect(log(-1)).toBeNaN();
});

test('a power is right as far as its exponent lets it', () => {
  fc.assert(
    fc.property(fc.double({ min: 1e-6, max: 1e6, noNaN: true }), fc.double({ min: -6, max: 6, noNaN: true }), (x, y) =>
      near(pow(x, y), Math.pow(x, y), 5e-14),
    ),
  );
  expect([pow(0, 0.7), pow(0, 0)]).toEqual([0, 1]);
});

test('the tangent and the sine agree with the built-in ones', () => {
  fc.assert(
    fc.property(fc.double({ min: -30, max: 30, noNaN: true }), (x) => {
      expect(Math.abs(tanh(x) - Math.tanh(x))).toBeLessThan(3e-16);
    }),
  );
  fc.assert(
    fc.property(fc.double({ min: -0.8, max: 0.8, noNaN: true }), (x) => {
      near(sin(x), Math.sin(x), 2e-11);
    }),
  );
});
