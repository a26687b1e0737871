import type { TypeFile } from '../aircraft/index.ts';

/** gauge and brief further apart than this are pointed out, K */
export const AIR_APART_K = 5;

/** Outside air as the gauge reads it, °C; NaN without a gauge or while it is lost. */
export function readOutsideAir_C(type: TypeFile, values: ArrayLike<number> | null): number {
  const id = type.roles.outsideAir;
  return id === undefined ? NaN : (values?.[type.channels.findIndex((c) => c.id === id)] ?? NaN);
}

/** Outside air that power is judged in, °C: of the brief and the gauge the warmer, for it leaves less power. */
export function outsideAirNow_C(type: TypeFile, brief_C: number, values: ArrayLike<number> | null): number {
  const gauge_C = readOutsideAir_C(type, values);
  return Number.isNaN(gauge_C) ? brief_C : Math.max(brief_C, gauge_C);
}
