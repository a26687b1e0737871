import { z } from 'zod';
import { itemSchema, loadingSchema, startWatchSchema, runUpWatchSchema, abortPlanSchema, choiceSchema, legSchema, performanceSchema, planSchema, ratingsSchema, stageSchema, standInActionSchema, standInPresetSchema, thermalSchema, traceCheckSchema, turnRoundSchema, typeHeadSchema, windSchema } from '../aircraft/index.ts'; // oxfmt-ignore
import type { MapName } from './folder.ts';

const condition = z.string().describe('a condition: ng.1 >= 12 % and tot.1 < 150 °C for 2 s');
const move = z.union([z.string().describe('a move: starter = 1 for 3 s when e1.ng >= 12'), standInActionSchema]);
const moves = z.union([z.string(), z.array(move)]);
/** a figure, or a {name} that stands for one */
const finding = z.strictObject({ cause: z.string(), words: z.string() });

/** Members of a list may be written once for several. */
function listOf(member: z.ZodType): z.ZodType {
  const element: z.ZodType = z.lazy(() =>
    z.union([
      member,
      z.strictObject({ perEngine: z.array(element) }),
      z.strictObject({
        forEach: z.array(z.record(z.string(), z.union([z.string(), z.number()]))),
        items: z.array(element),
      }),
    ]),
  );
  return z.array(element);
}

const stage = z.strictObject({
  ...stageSchema.shape,
  expect: condition.optional(),
  standIn: moves.optional(),
  lateWhen: z.array(finding.extend({ when: condition })).optional(),
});

const figure = z.strictObject({
  figure: z.strictObject({
    id: z.string(),
    label: z.string(),
    unit: z.string(),
    decimals: z.int(),
    good: z.tuple([z.union([z.number(), z.string(), z.null()]), z.union([z.number(), z.string(), z.null()])]),
    optional: z.boolean().optional(),
    caution: z.boolean().optional(),
    trended: z.boolean().optional(),
  }),
  read: z.looseObject({
    of: z.enum(['change', 'difference', 'extreme', 'time-to', 'elapsed', 'value-when', 'level', 'time-within', 'hover', 'assurance', 'bleed', 'load']), // oxfmt-ignore
  }),
  goodBy: z.looseObject({}).optional(),
  below: finding.optional(),
  above: finding.optional(),
  usual: z.strictObject({ by: z.number(), below: finding.optional(), above: finding.optional() }).optional(),
});

const trace = z.strictObject({
  ...traceCheckSchema.shape,
  stages: listOf(stage),
  stops: listOf(
    finding.extend({
      from: z.string().optional(),
      to: z.string().optional(),
      when: condition,
      doubt: z.boolean().optional(),
    }),
  ).optional(),
  figures: listOf(figure),
  shows: listOf(z.union([z.string(), z.looseObject({ channel: z.string() })])),
});

/** What every item has in common, as it is written. */
const common = {
  line: z.string().describe('what is asked — what is answered').optional(),
  zone: z.string().optional(),
  why: z.string().optional(),
  'no-go': z.string().describe('what happens when it is left out; the departure hangs on it').optional(),
  caution: z.string().describe('what happens when it is left out; it can be gone on past with a reason').optional(),
  note: z.string().describe('what happens when it is left out').optional(),
  expect: condition.optional(),
  until: condition.optional(),
  when: z.string().describe('doors is closed, or residual-after found hangs or climbs').optional(),
  deadline: z.string().describe('60 s after area-clear').optional(),
  needs: z.union([z.string(), z.array(z.string())]).optional(),
  by: z.enum(['pilot', 'second-crew']).optional(),
  standIn: moves.optional(),
  closedBy: z.string().optional(),
  opens: z.string().optional(),
  watches: z.string().optional(),
  stages: listOf(stage).optional(),
  moments: listOf(stage).optional(),
  trace: trace.optional(),
  remove: z.string().optional(),
  after: z.string().optional(),
  before: z.string().optional(),
};

const ALREADY = new Set([...Object.keys(common), 'kind', 'id', 'leg', 'challenge', 'response', 'failure', 'ifSkipped', 'watch']); // oxfmt-ignore

/** One item by its kind: `check: bus-volts`, with the fields that this kind has. */
const kinds = itemSchema.options.map(({ shape }) => {
  const own = Object.entries(shape).filter(([field]) => !ALREADY.has(field));
  return z.strictObject({
    [shape.kind.value]: z.string().describe('its id'),
    ...common,
    ...Object.fromEntries(own.map(([field, schema]) => [field, (schema as z.ZodType).optional()])),
  });
});

const items = listOf(
  z.union([
    ...kinds,
    z.strictObject({ zone: z.string() }),
    z.strictObject({ remove: z.string() }),
    z.looseObject({ use: z.string().describe('a standard item of the library'), as: z.string().optional() }),
  ]),
);

const gates = listOf(
  z.strictObject({
    id: z.string(),
    label: z.string(),
    at: z.enum(['starter', 'fuel']),
    otherwise: z.string(),
    condition,
  }),
);
const starts = startWatchSchema.options.map((schema) =>
  z.strictObject({
    ...schema.shape,
    engine: z.union([z.int(), z.string()]),
    gates,
    channels: z.record(z.string(), z.string()),
  }),
);

/** The shape of each file of a folder as people write it, for editors that complete and for those who read it. */
export const WRITTEN: Readonly<Record<MapName | 'procedure', z.ZodType>> = {
  'type.yaml': typeHeadSchema.partial().extend({
    id: z.string(),
    version: z.int(),
    extends: z.string().optional(),
    legs: z.array(z.string()).optional(),
    plan: planSchema.optional(),
    roles: z.looseObject({ captions: z.string().optional() }).optional(),
  }),
  'loading.yaml': loadingSchema.partial().extend({ basic: z.looseObject({}).optional() }),
  'wind.yaml': windSchema.partial(),
  'performance.yaml': performanceSchema.partial().extend({
    chart: z.strictObject({ quantity: z.string(), unit: z.enum(['%', 'inHg']), edition: z.int(), display_step: z.number() }).optional(), // oxfmt-ignore
  }),
  'thermal.yaml': thermalSchema.partial(),
  'ratings.yaml': ratingsSchema.partial(),
  'ways.yaml': z.strictObject({
    choices: listOf(z.union([choiceSchema, z.looseObject({ id: z.string() }), z.strictObject({ remove: z.string() })])),
    turnRound: turnRoundSchema.partial().optional(),
  }),
  'watch.yaml': z.strictObject({
    starts: listOf(z.union([...starts, z.looseObject({ id: z.string() })])).optional(),
    runUp: runUpWatchSchema.partial().optional(),
  }),
  'aborts.yaml': z.strictObject({
    like: z.string().describe('a set of the library').optional(),
    actions: items.optional(),
    plans: z.record(
      z.string(),
      z.union([
        z.null(),
        abortPlanSchema.partial().extend({
          actions: z.array(z.union([z.string(), z.looseObject({ use: z.string() })])).optional(),
        }),
      ]),
    ),
  }),
  'simulator.yaml': z.looseObject({}),
  'conditions.yaml': z.strictObject({ conditions: z.array(z.union([standInPresetSchema, z.looseObject({})])) }),
  procedure: legSchema.partial().omit({ id: true }).extend({ begins: condition.optional(), standIn: moves.optional(), items: items.optional() }), // oxfmt-ignore
};

/**
 * The JSON Schema of one file of a folder, for the completion of a code editor.
 * @param file type.yaml, aborts.yaml …, or procedure for every leg; undefined for a file that has none
 */
export function authoredJsonSchema(file: string): object | undefined {
  const schema = (WRITTEN as Readonly<Record<string, z.ZodType | undefined>>)[file.startsWith('procedure') ? 'procedure' : file]; // oxfmt-ignore
  return schema && z.toJSONSchema(schema, { io: 'input' });
}
