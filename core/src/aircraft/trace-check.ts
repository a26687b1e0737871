import { z } from 'zod';
import { conditionSchema } from './condition-schema.ts';
import { channelsOf } from './condition.ts';
import { standInActionSchema } from './stand-in.ts';

/** What was found, in a word for the record and in words for the pilot. */
const findingSchema = z.strictObject({ cause: z.string().regex(/^[a-z0-9-]+$/), words: z.string().min(1) });
export type Finding = z.infer<typeof findingSchema>;

export const stageSchema = z.strictObject({
  /** how figures name it */
  id: z
    .string()
    .regex(/^[a-z0-9-]+$/)
    .optional(),
  do: z.string().min(1),
  expect: conditionSchema.optional(),
  /** how long it must last, s */
  hold_s: z.number().positive().optional(),
  /** seconds from the stage before, or from the stage that `since` names */
  within_s: z.number().positive().optional(),
  since: z.string().optional(),
  /** what it means when it does not come within its time */
  late: findingSchema.optional(),
  /** what it means instead, by how things stand at that moment: the first that holds */
  lateWhen: z.array(findingSchema.extend({ when: conditionSchema })).optional(),
  /** puts back what the test moved */
  restores: z.boolean().optional(),
  /** what a pilot would move for it, on the simulated cockpit of a stand-in */
  standIn: z.array(standInActionSchema).optional(),
});
export type Stage = z.infer<typeof stageSchema>;

/** Channels that are added, less others: one number against time. */
const quantitySchema = z.strictObject({
  plus: z.array(z.string()).min(1),
  minus: z.array(z.string()).optional(),
});
export type Quantity = z.infer<typeof quantitySchema>;

const figureBase = {
  id: z.string().regex(/^[a-z0-9-]+$/),
  label: z.string().min(1),
  unit: z.string(),
  decimals: z.int().min(0).max(3),
  /** what is good, either end open where null */
  good: z.tuple([z.number().nullable(), z.number().nullable()]),
  below: findingSchema.optional(),
  above: findingSchema.optional(),
  /** good, but further than `by` from what this tail usually shows; `{usual}` in the words is what that is */
  usual: z
    .strictObject({ by: z.number().positive(), below: findingSchema.optional(), above: findingSchema.optional() })
    .optional(),
  /** outside of what is good is told and holds nothing */
  caution: z.boolean().optional(),
  /** says nothing of the check where it cannot be read */
  optional: z.boolean().optional(),
  /** followed from run to run: a drift of it says something of the aircraft */
  trended: z.boolean().optional(),
};

/** One number of a check and how it is read from the trace. Times are counted from the marks of stages. */
const figureSchema = z.discriminatedUnion('of', [
  z.strictObject({
    ...figureBase,
    of: z.literal('change'),
    quantity: quantitySchema,
    /** the settled value is read just before this stage */
    baseline: z.string(),
    baseline_s: z.number().positive(),
    /** the changed value is read around so long after this stage */
    at: z.string(),
    after_s: z.number().nonnegative(),
    over_s: z.number().positive(),
    /** a fall counts positive */
    falls: z.boolean().optional(),
    /** the gauge follows its quantity so much later, s */
    lag_s: z.number().nonnegative().optional(),
    /** two sigma of the reading must be within this, or nothing is known */
    certainWithin: z.number().positive(),
  }),
  z.strictObject({ ...figureBase, of: z.literal('difference'), between: z.tuple([z.string(), z.string()]) }),
  z.strictObject({
    ...figureBase,
    of: z.literal('extreme'),
    quantity: quantitySchema,
    from: z.string(),
    /** so long after `from`; to the end of the check when neither is given */
    until_s: z.number().positive().optional(),
    until: z.string().optional(),
    extreme: z.enum(['highest', 'lowest']),
    /** means over this long are compared */
    smooth_s: z.number().positive(),
    /** counted from this, as overshoot is from the speed that is governed */
    over: z.number().optional(),
  }),
  z.strictObject({
    ...figureBase,
    of: z.literal('time-to'),
    from: z.string(),
    quantity: quantitySchema,
    passes: z.union([z.strictObject({ above: z.number() }), z.strictObject({ below: z.number() })]),
  }),
  z.strictObject({ ...figureBase, of: z.literal('elapsed'), from: z.string(), to: z.string() }),
  z.strictObject({
    ...figureBase,
    of: z.literal('value-when'),
    from: z.string(),
    when: conditionSchema,
    quantity: quantitySchema,
  }),
  z.strictObject({
    ...figureBase,
    of: z.literal('level'),
    quantity: quantitySchema,
    at: z.string(),
    after_s: z.number().nonnegative(),
    over_s: z.number().positive(),
    /** what is good depends on another channel: [its value, low, high], rising, straight between, held at the ends */
    goodBy: z
      .strictObject({
        channel: z.string(),
        table: z.array(z.tuple([z.number(), z.number(), z.number()])).min(2),
      })
      .optional(),
  }),
  z.strictObject({
    ...figureBase,
    of: z.literal('time-within'),
    quantity: quantitySchema,
    between: z.tuple([z.number(), z.number()]),
    from: z.string(),
  }),
  z.strictObject({
    ...figureBase,
    of: z.literal('hover'),
    /** torque predicted and observed in a steady hover: their difference, what it is worth in weight, and what is left */
    says: z.enum(['difference', 'as-if-heavier', 'margin-high', 'margin-low']),
    torques: z.array(z.string()).min(1),
    /** the hover is steady from this stage on */
    at: z.string(),
    after_s: z.number().nonnegative(),
    over_s: z.number().positive(),
    skid_height_ft: z.number().positive(),
    /** the gauge of the air it hovers in; the brief's temperature where it is lost */
    outsideAir: z.string().optional(),
  }),
  z.strictObject({
    ...figureBase,
    of: z.literal('assurance'),
    /** margin to an engine that just meets its specification, at the standard day */
    says: z.enum(['temperature', 'speed']),
    torque: z.string(),
    temperature: z.string(),
    speed: z.string(),
    turbine: z.string(),
    outsideAir: z.string().optional(),
    at: z.string(),
    after_s: z.number().nonnegative(),
    over_s: z.number().positive(),
  }),
  z.strictObject({
    ...figureBase,
    /** how many consumers of bleed air are on that the brief does not count on */
    of: z.literal('bleed'),
    heater: z.string(),
    antiice: z.string(),
    at: z.string(),
  }),
  z.strictObject({
    ...figureBase,
    of: z.literal('load'),
    quantity: quantitySchema,
    /** the stage that switches it on */
    at: z.string(),
    /** of the electrical loads of the type: what it draws until this tail's own past is known */
    load: z.string(),
  }),
]);
export type FigureSpec = z.infer<typeof figureSchema>;

/** A check that is measured from the trace: stages that the switches show, and numbers between them. */
export const traceCheckSchema = z.strictObject({
  /** one name for all variants of a check, by which its results are kept and compared */
  check: z.string().regex(/^[a-z0-9-]+$/),
  stages: z.array(stageSchema).min(1),
  /** what is out of its place, from this stage to the one that restores it */
  opens: z.strictObject({ from: z.string(), words: z.string().min(1) }).optional(),
  /** what ends the check at once, from a stage on */
  stops: z
    .array(
      findingSchema.extend({
        /** from the beginning of the check where it is left out */
        from: z.string().optional(),
        to: z.string().optional(),
        when: conditionSchema,
        /** the reading itself is in doubt: nothing is known of the aircraft */
        doubt: z.boolean().optional(),
      }),
    )
    .optional(),
  figures: z.array(figureSchema).min(1),
  /** what is drawn while it goes on, and the window that each should keep, with the edge that must not be reached */
  shows: z
    .array(
      z.strictObject({
        channel: z.string(),
        window: z.tuple([z.number(), z.number()]).optional(),
        edge: z.strictObject({ at: z.number(), words: z.string().min(1) }).optional(),
      }),
    )
    .min(1),
});
export type TraceCheck = z.infer<typeof traceCheckSchema>;

/** Every channel that a check reads or shows. */
export function channelsOfCheck(spec: TraceCheck): Set<string> {
  const ids = new Set<string>();
  const add = (more: readonly string[]): void => more.forEach((id) => ids.add(id));
  for (const stage of spec.stages) {
    if (stage.expect) add(channelsOf(stage.expect));
    for (const { when } of stage.lateWhen ?? []) add(channelsOf(when));
  }
  for (const stop of spec.stops ?? []) add(channelsOf(stop.when));
  for (const figure of spec.figures) {
    if ('quantity' in figure) add([...figure.quantity.plus, ...(figure.quantity.minus ?? [])]);
    if (figure.of === 'level' && figure.goodBy) ids.add(figure.goodBy.channel);
    if (figure.of === 'value-when') add(channelsOf(figure.when));
    if (figure.of === 'hover') add(figure.torques);
    if (figure.of === 'assurance') add([figure.torque, figure.temperature, figure.speed, figure.turbine]);
    if (figure.of === 'bleed') add([figure.heater, figure.antiice]);
    if ('outsideAir' in figure && figure.outsideAir) ids.add(figure.outsideAir);
  }
  add(spec.shows.map((s) => s.channel));
  return ids;
}

/** Everything that a type says a check can find. */
export function causesOfCheck(spec: TraceCheck): Set<string> {
  const findings = [
    ...spec.stages.flatMap((s) => [s.late, ...(s.lateWhen ?? [])]),
    ...(spec.stops ?? []),
    ...spec.figures.flatMap((f) => [f.below, f.above, f.usual?.below, f.usual?.above]),
  ];
  return new Set(findings.flatMap((f) => (f ? [f.cause] : [])));
}

/** Every stage that a check names outside its own list: each has to be there. */
export function stagesNamed(spec: TraceCheck): string[] {
  const named = spec.figures.flatMap((figure): (string | undefined)[] => {
    switch (figure.of) {
      case 'change':
        return [figure.baseline, figure.at];
      case 'difference':
        return [];
      case 'extreme':
        return [figure.from, figure.until];
      case 'elapsed':
        return [figure.from, figure.to];
      case 'level':
      case 'hover':
      case 'assurance':
      case 'bleed':
      case 'load':
        return [figure.at];
      case 'time-to':
      case 'value-when':
      case 'time-within':
        return [figure.from];
    }
  });
  named.push(
    ...(spec.stops ?? []).flatMap((s) => [s.from, s.to]),
    ...spec.stages.map((s) => s.since),
    spec.opens?.from,
  );
  return named.filter((id): id is string => id !== undefined);
}
