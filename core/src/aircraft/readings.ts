import type { Channel } from './channel.ts';

/** A gauge may go so far beyond its scale, as a share of it. */
const BEYOND_SCALE = 0.1;

/** What a reading of this channel can be: a figure beyond it is none, and unknown. */
export function believable({ range: [low, high] }: Channel): readonly [number, number] {
  const beyond = BEYOND_SCALE * (high - low);
  return [low - beyond, high + beyond];
}

/** Number of decimals that a stored value of this resolution has. */
export function decimalsOf(resolution: number): number {
  return Math.max(0, Math.ceil(-Math.log10(resolution) - 1e-9));
}

/** @returns "24.1 V", "unknown" for NaN, or the state's name for a discrete channel */
export function sayValue(channel: Channel, value: number): string {
  if (Number.isNaN(value)) return 'unknown';
  const state = channel.states?.[String(Math.round(value))];
  if (channel.states) return state ?? `state ${Math.round(value)}`;
  return channel.unit ? `${value.toFixed(channel.decimals)} ${channel.unit}` : value.toFixed(channel.decimals);
}
