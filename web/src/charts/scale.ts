import { scaleLinear, type ScaleLinear } from 'd3-scale';

/** A straight scale from values to pixels, with its round ticks. */
export type Scale = ScaleLinear<number, number>;

export function linearScale(domain: readonly [number, number], pixels: readonly [number, number]): Scale {
  return scaleLinear(domain, pixels);
}
