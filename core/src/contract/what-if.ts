import { z } from 'zod';

const startSchema = z.strictObject({ watch: z.string().min(1).max(60), attempt: z.int().min(1).max(100) });

/** One start of a run, by its watch and its attempt. */
export const startAskedSchema = z.object({ watch: startSchema.shape.watch, attempt: z.coerce.number().int().min(1).max(100) }); // oxfmt-ignore

/** One act of a real start done otherwise; the act by its place in the list that the server gave. */
export const whatIfAskedSchema = startSchema.extend({
  act: z.int().min(0).max(10_000),
  how: z.enum(['left-out', 'earlier', 'later']),
  by_s: z.number().min(0).max(30),
});
export type WhatIfAsked = z.infer<typeof whatIfAskedSchema>;

/** What was done in a real start, in words. */
export interface StartActs {
  acts: { t_s: number; words: string }[];
}

/** A curve over the seconds of a start; null where nothing was seen. */
export interface Curve {
  t_s: number[];
  values: (number | null)[];
}

/** A real start beside what its twin makes of it, as it was and with one act done otherwise. */
export interface WhatIfAnswer {
  label: string;
  unit: string;
  recorded: Curve;
  was: Curve;
  would: Curve;
  words: string;
}
