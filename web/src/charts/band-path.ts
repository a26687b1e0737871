import { area } from 'd3-shape';
import type { Scale } from './scale.ts';

/** SVG path of the band between two curves, broken where either is unknown. */
export function bandPath(
  xs: readonly number[],
  low: readonly number[],
  high: readonly number[],
  x: Scale,
  y: Scale,
): string {
  const band = area<number>()
    .defined((i) => !Number.isNaN(low[i]!) && !Number.isNaN(high[i]!))
    .x((i) => x(xs[i]!))
    .y0((i) => y(low[i]!))
    .y1((i) => y(high[i]!))
    .digits(1);
  return band(xs.map((_, i) => i)) ?? '';
}
