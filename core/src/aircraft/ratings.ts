import { z } from 'zod';

/**
 * How hard an engine works, by one of its readings: at `edges[i]` the i-th rating begins, at the last one the maximum is
 * passed. A channel of a piston takes its edges from the power charts of the day instead.
 */
const ratingMeasureSchema = z
  .strictObject({
    /** one channel an engine, in the order of the engines */
    channels: z.array(z.string()).min(1),
    edges: z.array(z.number()).min(2).optional(),
    /** continuous and take-off limit of the chart, at the air of the brief */
    byChart: z.literal(true).optional(),
  })
  .refine((m) => (m.edges === undefined) !== (m.byChart === undefined), { message: 'either edges or byChart' });

const ratingSchema = z.strictObject({
  id: z.string(),
  label: z.string().min(1),
  /** longest use, s */
  period_s: z.number().positive(),
  /** uses in one flight, null for any number */
  max_periods: z.int().positive().nullable(),
  /** a shorter use costs none, s */
  min_charge_s: z.number().nonnegative(),
  /** any use costs an inspection before the next flight */
  maintenance: z.boolean(),
  /** what that inspection is */
  inspection: z.string().optional(),
});

const ledgerSchema = z.strictObject({
  id: z.enum(['take-off', 'one-engine']),
  label: z.string().min(1),
  measures: z.array(ratingMeasureSchema).min(1),
  /** from the lowest to the highest */
  ratings: z.array(ratingSchema).min(1),
  /** of the step from one rating to the next */
  hysteresis: z.number().nonnegative().max(0.5),
  /** two uses nearer than this are one, s */
  rearm_s: z.number().nonnegative(),
});
export type LedgerSpec = z.infer<typeof ledgerSchema>;

/** What one engine can do when the other is lost, and what is done then. */
const oneEngineSchema = z.strictObject({
  /** in this order, from memory */
  actions: z.array(z.strictObject({ do: z.string().min(1), why: z.string().min(1) })).min(1),
  /** what the limiter can be set to, from the longest to the most */
  limiter: z
    .array(
      z.strictObject({
        id: z.enum(['cont', '2min', '30s', 'override']),
        label: z.string().min(1),
        gives: z.string().min(1),
        price: z.string().min(1),
      }),
    )
    .min(1),
  /** one person on the hoist, kg */
  hoist_kg: z.number().positive().optional(),
});
export type OneEngineSpec = z.infer<typeof oneEngineSchema>;

export const ratingsSchema = z.strictObject({
  ledgers: z.array(ledgerSchema).min(1),
  oneEngine: oneEngineSchema.optional(),
});
