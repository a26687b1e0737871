import { z } from 'zod';

/** Outlines that a plan is drawn on: our own, by the kind of aircraft. */
const OUTLINES = ['trainer', 'single', 'twin', 'heavy'] as const;
export type Outline = (typeof OUTLINES)[number];

/** Size of a plan, nose to the left. */
export const PLAN_SIZE = { width: 600, height: 240 } as const;

export const planSchema = z.strictObject({
  outline: z.enum(OUTLINES),
  /** the middle of each zone */
  zones: z.record(
    z.string(),
    z.tuple([z.number().min(0).max(PLAN_SIZE.width), z.number().min(0).max(PLAN_SIZE.height)]),
  ),
});
export type Plan = z.infer<typeof planSchema>;
