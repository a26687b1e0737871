import { z } from 'zod';
import { standInActionSchema } from '../aircraft/index.ts';

/** What a learner does: moves something, looks at something, says something. */
const actSchema = z.discriminatedUnion('kind', [
  /** a control of the cockpit, to one of its positions or along its way */
  z.strictObject({ kind: z.literal('move'), control: z.string(), to: z.union([z.number(), z.string()]) }),
  /** a hand takes hold of a lever, or lets it go */
  z.strictObject({ kind: z.literal('hand'), control: z.string(), on: z.boolean() }),
  /** an item that no switch settles: looked at, read, said, called */
  z.strictObject({ kind: z.literal('look'), item: z.string(), alternative: z.string().optional() }),
  z.strictObject({ kind: z.literal('not-good'), item: z.string() }),
  /** the next leg begins */
  z.strictObject({ kind: z.literal('leg'), leg: z.string() }),
  z.strictObject({ kind: z.literal('stop') }),
  z.strictObject({ kind: z.literal('hint') }),
  /** an instructor arms a fault, by its place in the conditions of the type */
  z.strictObject({ kind: z.literal('fault'), condition: z.string(), by: z.string() }),
  /** an instructor sets the weather: what is null stays as it is */
  z.strictObject({
    kind: z.literal('weather'),
    air_C: z.number().min(-40).max(50).nullable(),
    headwind_kt: z.number().min(-40).max(60).nullable(),
    by: z.string(),
  }),
  /** what only a simulated hand does: the plan of a test pilot, a move that waits */
  z.strictObject({ kind: z.literal('simulated-hand'), action: standInActionSchema }),
]);
export type Act = z.infer<typeof actSchema>;

/** An act and the control period in which it was done, counted from the beginning of the simulation. */
export const timedActSchema = z.strictObject({ tick: z.int().nonnegative(), act: actSchema });
export type TimedAct = z.infer<typeof timedActSchema>;
