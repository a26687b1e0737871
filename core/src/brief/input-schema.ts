import { z } from 'zod';

const maybe = z.number().nullable();

/** A brief as it was entered: every figure once, in one unit, null where nobody has said it. */
export const briefInputSchema = z.strictObject({
  /** the pasted report, empty when the day was typed */
  report: z.string().max(2000),
  /** true directions; `direction` null is variable; a wind without a speed is not known */
  wind: z.strictObject({ direction_deg: maybe, from_deg: maybe, to_deg: maybe, speed_kt: maybe, gust_kt: maybe }),
  oat_C: maybe,
  dew_C: maybe,
  qnh_hPa: maybe,
  /** when the conditions were observed, ISO 8601 */
  observedAt: z.string().nullable(),
  /** of the nose on the pad, magnetic */
  heading_deg: maybe,
  /** kg by station */
  load: z.record(z.string(), maybe),
  fuel_kg: maybe,
  flight_min: maybe,
  bleed: z.enum(['none', 'heater', 'antiice', 'both']),
  /** answers of this day that differ from the operator's, with the reason */
  ways: z.record(z.string(), z.strictObject({ to: z.string(), reason: z.string().max(500) })),
  /** equipment that is not there or does not work */
  missing: z.array(z.string()),
  /** conditions of the short list that somebody has confirmed */
  turnRound: z.array(z.string()),
  /** names of neighbours whose rotor is slow: starting or running down */
  slowNeighbours: z.array(z.string()),
  /** cautions gone on past: objection id to reason */
  accepted: z.record(z.string(), z.string().max(500)),
});
export type BriefInput = z.infer<typeof briefInputSchema>;
