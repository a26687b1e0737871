import { z } from 'zod';

/** What a simulated hand, or a fault, waits for. */
export const standInTestSchema = z.strictObject({
  sig: z.string(),
  op: z.enum(['>=', '<=', '==']),
  val: z.union([z.number(), z.string()]),
});

export const standInActionSchema = z.strictObject({
  /** a control of the simulated cockpit */
  control: z.string(),
  /** a position, or the plan of a test pilot's hand; null takes the hand off */
  to: z.union([z.number(), z.string(), z.null(), z.record(z.string(), z.union([z.number(), z.array(z.number())]))]),
  /** momentary: let go after this time */
  release_s: z.number().positive().optional(),
  /** the hand waits for this before it moves */
  when: standInTestSchema.optional(),
  /** the hand moves so long after it was asked to */
  after_s: z.number().positive().optional(),
});
export type StandInAction = z.infer<typeof standInActionSchema>;
