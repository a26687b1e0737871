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
