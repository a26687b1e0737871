/** Physical constants and the few small functions that every equation of the model uses (docs/physics.md 1). */

import { exp } from './elementary.ts';

export const CP_AIR = 1005;
export const CP_GAS = 1150;
export const LHV_J_KG = 43.0e6;
export const FAR_STOICHIOMETRIC = 0.068;
export const GRAVITY_M_S2 = 9.80665;
export const R_AIR = 287.05;
export const T_STD_K = 288.15;
export const P_STD_PA = 101325;
export const RHO_STD_KG_M3 = 1.225;
export const KELVIN = 273.15;
export const KNOT_M_S = 0.514444;

export function clip(x: number, low: number, high: number): number {
  return x < low ? low : x > high ? high : x;
}

/** Smoothstep x²(3−2x) on x clipped to 0…1. */
export function smoothstep(x: number): number {
  if (x <= 0) return 0;
  if (x >= 1) return 1;
  return x * x * (3 - 2 * x);
}

/** Piecewise linear, held at the ends. `xs` ascends and is as long as `ys`. */
export function interpolate(x: number, xs: readonly number[], ys: readonly number[]): number {
  const last = xs.length - 1;
  if (x <= xs[0]!) return ys[0]!;
  if (x >= xs[last]!) return ys[last]!;
  let i = 1;
  while (x > xs[i]!) i++;
  const x0 = xs[i - 1]!;
  return ys[i - 1]! + ((ys[i]! - ys[i - 1]!) * (x - x0)) / (xs[i]! - x0);
}

/**
 * Oil viscosity relative to 85 °C.
 * @source Vogel's law, docs/physics.md 1
 */
export function viscosityRatio(oil_C: number): number {
  return exp(669 / (Math.max(oil_C, -50) + 95) - 669 / 180);
}

/** x^3.5 for x ≥ 0, without a power call. */
export function pow3_5(x: number): number {
  return x * x * x * Math.sqrt(x);
}

/** x^-0.25 for x > 0. */
export function powMinusQuarter(x: number): number {
  return 1 / Math.sqrt(Math.sqrt(x));
}
