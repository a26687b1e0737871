import { z } from 'zod';

/** One quantity of the aircraft as it is named, shown, stored and, on a stand-in, simulated. */
export const channelSchema = z.strictObject({
  id: z.string().regex(/^[a-z0-9.-]+$/),
  label: z.string().min(1),
  /** the few letters of the panel, as this type writes them */
  short: z.string().min(1),
  unit: z.string(),
  range: z.tuple([z.number(), z.number()]),
  decimals: z.int().min(0).max(3),
  /** the step that the trace keeps */
  resolution: z.number().positive(),
  source: z.enum(['sensed', 'read-by-eye']),
  /** on aircraft with several engines: the one that it belongs to, 0 for the auxiliary unit */
  engine: z.int().min(0).optional(),
  /** discrete channels: what each number means */
  states: z.record(z.string(), z.string()).optional(),
  /** where a stand-in finds it in the simulator */
  simulated: z
    .strictObject({
      signal: z.string(),
      scale: z.number(),
      /** spread of the gauge, one sigma, where the simulator gives it none */
      noise: z.number().positive().optional(),
    })
    .optional(),
});
export type Channel = z.infer<typeof channelSchema>;

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
