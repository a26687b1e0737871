import { spreadOf } from '../statistics/index.ts';

/** An ammeter is never believed finer than this, A. */
export const NOISE_FLOOR_A = 0.05;

/** Spread of a current, with the floor of an ammeter. */
export const noiseOf_A = (values: readonly number[]): number => Math.max(NOISE_FLOOR_A, spreadOf(values));
