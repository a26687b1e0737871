import { area } from 'd3-shape';
import { scaleLinear, type ScaleLinear } from 'd3-scale';

/** A straight scale from values to pixels, with its round ticks. */
export type Scale = ScaleLinear<number, number>;

export function linearScale(domain: readonly [number, number], pixels: readonly [number, number]): Scale {
  return scaleLinear(domain, pixels);
}

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
