import { z } from 'zod';
import { conditionSchema } from './condition-schema.ts';
import { standInActionSchema } from './stand-in.ts';
import { stageSchema, traceCheckSchema } from './trace-check.ts';

/** The item is on the list only when a way of working, or a decision of this run, is one of these, or once a check found one of these. */
const whenSchema = z.union([
  z.strictObject({ choice: z.string(), is: z.union([z.string(), z.array(z.string()).min(1)]) }),
  z.strictObject({ decision: z.string(), is: z.union([z.string(), z.array(z.string()).min(1)]) }),
  z.strictObject({ check: z.string(), found: z.array(z.string()).min(1) }),
]);
export type When = z.infer<typeof whenSchema>;

/** Figures of the brief that a reading is held against. */
const EXPECTATIONS = ['altimeter', 'pressure-setting', 'fuel', 'mass'] as const;
const againstSchema = z.strictObject({
  figure: z.enum(EXPECTATIONS),
  /** how far the reading may be off, in the unit of the item */
  within: z.number().nonnegative(),
});

/** A number that a person reads and types, with what it can possibly be. */
const quantitySchema = z.strictObject({
  label: z.string(),
  unit: z.string(),
  range: z.tuple([z.number(), z.number()]),
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
  when: z.array(whenSchema).min(1).optional(),
  failure: z.enum(['no-go', 'caution', 'note']),
  /** who moves and answers */
  by: z.enum(['pilot', 'second-crew']),
  /** may be done out of its place while something else is waited for, or before its turn when it begins a wait */
  meanwhile: z.boolean().optional(),
  /** late when it is not settled this long after another item was */
  deadline: z.strictObject({ within_s: z.number().positive(), since: z.string() }).optional(),
  /** seconds of the hands; the usual of its kind when missing */
  hands_s: z.number().positive().optional(),
  /** on the list only where nothing senses what it asks */
  byHandOnly: z.boolean().optional(),
  /** of the actions after an abort: only when it was this start that was stopped */
  forWatch: z.string().optional(),
  /** what it stands for in the last look before lift: the people on board, belts, doors, the area */
  role: z.enum(['people']).optional(),
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
const checkSchema = z.strictObject({
  ...itemBase,
  kind: z.literal('check'),
  expect: conditionSchema.optional(),
  /** judged by the program itself from what is entered at this moment */
  judges: z.enum(['rotor-wind', 'rotor-wind-stop', 'power']).optional(),
  /** a reading that no channel has */
  reads: quantitySchema.extend({ against: againstSchema }).optional(),
});
const waitSchema = z.strictObject({
  ...itemBase,
  kind: z.literal('wait'),
  until: conditionSchema,
  background: z.boolean().optional(),
  usual_s: z.number().positive(),
  /** spread of the usual time in logs, before this tail's own past is known */
  spread: z.number().min(0).max(2).optional(),
});
const watchSchema = z.strictObject({
  ...itemBase,
  kind: z.literal('watch'),
  watch: z.string(),
  usual_s: z.number().positive(),
  spread: z.number().min(0).max(2).optional(),
  /** moments that a person taps where nothing senses them */
  moments: z.array(stageSchema).min(2).optional(),
});
const callSchema = z.strictObject({
  ...itemBase,
  kind: z.literal('call'),
  say: z.string().min(1),
  /** not said while a line of the last look says otherwise */
  judges: z.literal('final-scan').optional(),
});
const countSchema = z.strictObject({
  ...itemBase,
  kind: z.literal('count'),
  channel: z.string(),
  captions: z.array(z.string()),
});
const compareSchema = z.strictObject({
  ...itemBase,
  kind: z.literal('compare'),
  /** what is read on either side */
  between: z.tuple([z.string(), z.string()]),
  /** both are figures, and may be so far apart; on a circle, such as a compass, by the shorter way round */
  apart: z
    .strictObject({
      most: z.number().positive(),
      unit: z.string(),
      range: z.tuple([z.number(), z.number()]),
      circle: z.number().positive().optional(),
    })
    .optional(),
});
const testSchema = z.strictObject({
  ...itemBase,
  kind: z.literal('test'),
  stages: z.array(stageSchema).min(2),
  /** what is out of its place from the first stage to the one that restores it */
  opens: z.string(),
});
const holdSchema = z.strictObject({
  ...itemBase,
  kind: z.literal('hold'),
  hold_s: z.number().positive(),
  /** [outside air °C, seconds], rising temperatures: used instead where the brief knows the air */
  byOutsideAir: z
    .array(z.tuple([z.number(), z.number()]))
    .min(2)
    .optional(),
  expect: conditionSchema.optional(),
});
const measureSchema = z.strictObject({
  ...itemBase,
  kind: z.literal('measure'),
  /** what a person reads and types where nothing measures it */
  measures: quantitySchema.extend({
    good: z.tuple([z.number(), z.number()]),
    /** good is near what is predicted for this minute instead */
    predicted: z.literal('hover').optional(),
  }),
  trace: traceCheckSchema.optional(),
});
const enterSchema = z.strictObject({
  ...itemBase,
  kind: z.literal('enter'),
  enters: quantitySchema.extend({ against: againstSchema.optional() }),
});
const decideSchema = z.strictObject({
  ...itemBase,
  kind: z.literal('decide'),
  alternatives: z.array(z.strictObject({ id: z.string(), label: z.string() })).min(2),
  /** what the air of the brief says: this answer when ice must be expected, that one when not */
  rule: z
    .strictObject({
      kind: z.literal('carburettor-icing'),
      cooling_K: z.number().positive(),
      expected: z.string(),
      otherwise: z.string(),
    })
    .optional(),
});
const briefSchema = z.strictObject({ ...itemBase, kind: z.literal('brief'), points: z.array(z.string()).min(1) });

/** One line of a procedure, by how it is done. */
export const itemSchema = z.discriminatedUnion('kind', [
  setSchema,
  checkSchema,
  countSchema,
  compareSchema,
  testSchema,
  holdSchema,
  waitSchema,
  watchSchema,
  measureSchema,
  enterSchema,
  decideSchema,
  callSchema,
  briefSchema,
]);
export type Item = z.infer<typeof itemSchema>;
export type ItemKind = Item['kind'];
export const ITEM_KINDS: readonly ItemKind[] = itemSchema.options.map((kind) => kind.shape.kind.value);

export const legSchema = z.strictObject({
  id: z.string(),
  label: z.string(),
  /** nothing may be out of its place, and no no-go may stand, when it begins */
  gate: z.boolean().optional(),
  /** walked zone by zone from memory before it is read, where the operator works so */
  flow: z.boolean().optional(),
  /** not part of getting ready: its items are on the list only once this has been seen, or the pilot says so */
  begins: conditionSchema.optional(),
  /** what the pilot would say of it: Lift, Shut down */
  verb: z.string().optional(),
  /** what a pilot would move to begin it, on the simulated cockpit of a stand-in */
  standIn: z.array(standInActionSchema).optional(),
});

/** What to do at once, and after, when a start is aborted for one reason. */
export const abortPlanSchema = z.strictObject({
  title: z.string(),
  actions: z.array(itemSchema).min(1),
  /** whether another try is open after the rest of the starter, or only after an engineer has looked */
  another: z.enum(['after-rest', 'after-inspection']).optional(),
  /** what is looked at first */
  inspect: z.array(z.string()).optional(),
  afterwards: z.string(),
});
