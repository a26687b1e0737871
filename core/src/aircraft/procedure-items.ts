import { z } from 'zod';
import { conditionSchema } from './condition-schema.ts';

const standInActionSchema = z.strictObject({
  /** a control of the simulated cockpit */
  control: z.string(),
  to: z.union([z.number(), z.string()]),
  /** momentary: let go after this time */
  release_s: z.number().positive().optional(),
});

const itemBase = {
  id: z.string().regex(/^[a-z0-9-]+$/),
  leg: z.string(),
  zone: z.string(),
  challenge: z.string().min(1),
  response: z.string().min(1),
  why: z.string().min(1),
  ifSkipped: z.string().min(1),
  needs: z.array(z.string()).optional(),
  failure: z.enum(['no-go', 'caution', 'note']),
  by: z.enum(['pilot', 'second-crew']),
  /** may be done out of its place while something else is waited for */
  meanwhile: z.boolean().optional(),
  /** what a pilot would move, on the simulated cockpit of a stand-in */
  standIn: z.array(standInActionSchema).optional(),
};

const setSchema = z.strictObject({
  ...itemBase,
  kind: z.literal('set'),
  expect: conditionSchema.optional(),
  /** words of the still-open list, until `closedBy` is done */
  opens: z.strictObject({ words: z.string(), closedBy: z.string() }).optional(),
});
const checkSchema = z.strictObject({ ...itemBase, kind: z.literal('check'), expect: conditionSchema.optional() });
const waitSchema = z.strictObject({
  ...itemBase,
  kind: z.literal('wait'),
  until: conditionSchema,
  background: z.boolean().optional(),
  usual_s: z.number().positive(),
});
const watchSchema = z.strictObject({
  ...itemBase,
  kind: z.literal('watch'),
  watch: z.string(),
  usual_s: z.number().positive(),
});
const callSchema = z.strictObject({ ...itemBase, kind: z.literal('call'), say: z.string().min(1) });
const countSchema = z.strictObject({
  ...itemBase,
  kind: z.literal('count'),
  channel: z.string(),
  captions: z.array(z.string()),
});

/** One line of a procedure. More kinds come with more legs; each names how it is done. */
export const itemSchema = z.discriminatedUnion('kind', [
  setSchema,
  checkSchema,
  waitSchema,
  watchSchema,
  callSchema,
  countSchema,
]);
export type Item = z.infer<typeof itemSchema>;
export type StandInAction = z.infer<typeof standInActionSchema>;

export const legSchema = z.strictObject({ id: z.string(), label: z.string() });

/** What to do at once, and after, when a start is aborted for one reason. */
export const abortPlanSchema = z.strictObject({
  title: z.string(),
  actions: z.array(itemSchema).min(1),
  afterwards: z.string(),
});
