import { z } from 'zod';
import { chartCheck } from '../chart/index.ts';
import { attempt, isRefusal } from '../quantity/index.ts';
import { channelSchema } from './channel.ts';
import { channelsOf } from './condition.ts';
import { conditionSchema } from './condition-schema.ts';
import { loadingSchema, performanceSchema, thermalSchema, transducerSchema, windSchema } from './airframe.ts';
import { bandEdge, limitSchema } from './limits.ts';
import { abortPlanSchema, type Item, itemSchema, legSchema, stagesOf } from './procedure-items.ts';
import { standInTestSchema } from './stand-in.ts';
import { causesOfCheck, channelsOfCheck, stagesNamed, type TraceCheck } from './trace-check.ts';
import { pistonParametersSchema } from './piston-parameters.ts';
import { ratingsSchema } from './ratings.ts';
import { simulatorParametersSchema } from './simulator-parameters.ts';
import { abortReasonSchema, runUpWatchSchema, startWatchSchema } from './watches.ts';
import { choiceSchema, equipmentSchema, turnRoundSchema } from './ways.ts';

const captionSchema = z.strictObject({
  id: z.string(),
  label: z.string(),
  /** place in the caption channel's number, from 0 */
  bit: z.int().min(0).max(30),
  severity: z.enum(['note', 'caution', 'warning']),
  /** when the simulated panel lights it */
  lit: conditionSchema,
});
export type Caption = z.infer<typeof captionSchema>;

const standInPresetSchema = z.strictObject({
  id: z.string(),
  label: z.string(),
  note: z.string(),
  init: z.record(z.string(), z.number()),
  env: z.record(z.string(), z.number()),
  /** faults, in the event language of scenario files */
  faults: z.array(
    z.strictObject({
      when: standInTestSchema.optional(),
      set: z.record(z.string(), z.union([z.number(), z.string()])),
    }),
  ),
});
export type StandInPreset = z.infer<typeof standInPresetSchema>;

const shape = z.strictObject({
  format: z.literal('rouse-type/1'),
  id: z.string().regex(/^[A-Za-z0-9]+$/),
  version: z.int().min(1),
  name: z.string(),
  maker: z.string(),
  role: z.string(),
  engines: z
    .array(
      z.strictObject({
        id: z.int().min(1),
        kind: z.enum(['turbine', 'piston']),
        control: z.enum(['digital', 'manual']),
      }),
    )
    .min(1),
  channels: z.array(channelSchema).min(1),
  captions: z.strictObject({ channel: z.string(), list: z.array(captionSchema) }),
  electricalLoads: z.array(z.strictObject({ id: z.string(), label: z.string(), amps: z.number().positive() })),
  limits: z.array(limitSchema),
  loading: loadingSchema,
  performance: performanceSchema,
  ratings: ratingsSchema.optional(),
  wind: windSchema,
  thermal: thermalSchema,
  equipment: z.array(equipmentSchema),
  transducers: z.array(transducerSchema),
  /** how long a brief stays good, minutes */
  briefGoodFor_min: z.number().positive(),
  startWatches: z.array(startWatchSchema),
  runUpWatch: runUpWatchSchema.optional(),
  /** channels of the strip of room to the limits, top to bottom */
  room: z.array(z.string()).min(1),
  choices: z.array(choiceSchema),
  turnRound: turnRoundSchema.optional(),
  legs: z.array(legSchema).min(1),
  items: z.array(itemSchema).min(1),
  aborts: z.partialRecord(abortReasonSchema, abortPlanSchema),
  standIn: z.array(standInPresetSchema),
  simulator: z.union([simulatorParametersSchema, pistonParametersSchema]).optional(),
});

/** An aircraft type as one open file, format `rouse-type/1`. */
export type TypeFile = z.infer<typeof shape>;

/** The schema of type files, with the relations between their parts. */
export const typeFileSchema = shape.superRefine((type, context) => {
  const report = (path: (string | number)[], message: string): void => {
    context.addIssue({ code: 'custom', path, message });
  };
  const channels = new Set(type.channels.map((c) => c.id));
  const known = (id: string, path: (string | number)[]): void => {
    if (!channels.has(id))
      report(path, `there is no channel named ${id}; add it to channels or name one that is there`);
  };
  unique(
    type.channels.map((c) => c.id),
    ['channels'],
    report,
  );
  unique(
    [...type.items, ...Object.values(type.aborts).flatMap((a) => a.actions)].map((i) => i.id),
    ['items'],
    report,
  );
  type.room.forEach((id, i) => known(id, ['room', i]));
  type.limits.forEach((limit, i) => {
    known(limit.channel, ['limits', i, 'channel']);
    if (limit.notWhile) known(limit.notWhile.channel, ['limits', i, 'notWhile', 'channel']);
    const sides = new Set(limit.bands.map((b) => ('above' in b ? 1 : -1)));
    if (sides.size > 1) report(['limits', i, 'bands'], 'bands of one limit stand all above or all below');
    const sign = 'above' in limit.bands[0]! ? 1 : -1;
    limit.bands.forEach((band, k) => {
      const milder = limit.bands[k - 1];
      if (milder && sign * bandEdge(band) <= sign * bandEdge(milder))
        report(['limits', i, 'bands', k], 'bands go from mild to severe');
    });
  });
  type.startWatches.forEach((w, i) => {
    for (const id of w.again ?? [])
      if (!type.items.some((item) => item.id === id))
        report(['startWatches', i, 'again'], `there is no item named ${id}`);
    for (const [role, id] of Object.entries<string | undefined>(w.channels))
      if (id !== undefined) known(id, ['startWatches', i, 'channels', role]);
    known(w.starter.channel, ['startWatches', i, 'starter', 'channel']);
    w.gates.forEach((g, k) =>
      channelsOf(g.condition).forEach((id) => known(id, ['startWatches', i, 'gates', k, 'condition'])),
    );
  });
  type.ratings?.ledgers.forEach((ledger, i) =>
    ledger.measures.forEach((measure, k) => {
      const path = ['ratings', 'ledgers', i, 'measures', k];
      measure.channels.forEach((id) => known(id, path));
      if (measure.channels.length !== type.engines.length) report(path, 'one channel for each engine');
      const { edges } = measure;
      if (edges && (edges.length !== ledger.ratings.length + 1 || edges.some((e, n) => n > 0 && e <= edges[n - 1]!)))
        report([...path, 'edges'], 'one rising edge for each rating, and one for the maximum');
    }),
  );
  known(type.captions.channel, ['captions', 'channel']);
  type.captions.list.forEach((c, i) => channelsOf(c.lit).forEach((id) => known(id, ['captions', 'list', i, 'lit'])));
  type.transducers.forEach((t, i) => known(t.channel, ['transducers', i, 'channel']));
  checkCharts(type, report);
  checkProcedure(type, known, report);
});

type Report = (path: (string | number)[], message: string) => void;

/** A power table that rises where it may not is refused when it is loaded. */
function checkCharts(type: TypeFile, report: Report): void {
  const { chart, engine, piston } = type.performance;
  for (const rating of ['TOP', 'MCP'] as const) {
    const found = attempt(() => chartCheck(chart[rating], { manifoldPressure: chart.unit === 'inHg' }));
    if (isRefusal(found)) report(['performance', 'chart', rating, found.field], 'the axes rise and every row is whole');
    else
      for (const { code, i, j } of found.issues)
        report(['performance', 'chart', rating, 'values', i, j], `a power table may not do this: ${code}`);
  }
  if ((engine === undefined) === (piston === undefined))
    report(['performance'], 'a type has either the power of turbines (engine) or of pistons (piston)');
}

function checkProcedure(type: TypeFile, known: (id: string, path: (string | number)[]) => void, report: Report): void {
  const watches = new Set([...type.startWatches.map((w) => w.id), ...(type.runUpWatch ? [type.runUpWatch.id] : [])]);
  const captions = new Set(type.captions.list.map((c) => c.id));
  const legs = new Set(type.legs.map((l) => l.id));
  const ids = new Set(type.items.map((i) => i.id));
  const answers = new Map(type.choices.map((c) => [c.id, new Set(c.alternatives.map((a) => a.id))]));
  const decisions = new Map(
    type.items.flatMap((i) => (i.kind === 'decide' ? [[i.id, new Set(i.alternatives.map((a) => a.id))] as const] : [])),
  );
  type.choices.forEach((c, i) => {
    if (!answers.get(c.id)!.has(c.usual))
      report(['choices', i, 'usual'], `${c.usual} is none of the alternatives of ${c.id}`);
    if (c.when && !answers.get(c.when.choice)?.has(c.when.is))
      report(['choices', i, 'when'], `${c.when.is} is no answer to a choice named ${c.when.choice}`);
  });
  unique(
    type.choices.map((c) => c.id),
    ['choices'],
    report,
  );
  const checkWhen = (item: Item, path: (string | number)[]): void => {
    for (const when of item.when ?? []) {
      if ('check' in when) {
        const item = type.items.find((i) => i.id === when.check);
        const causes = item?.kind === 'measure' && item.trace ? causesOfCheck(item.trace) : new Set();
        for (const cause of when.found)
          if (!causes.has(cause))
            report([...path, 'when'], `${cause} is nothing that a check named ${when.check} finds`);
        continue;
      }
      const [name, of] = 'choice' in when ? [when.choice, answers] : [when.decision, decisions];
      const alternatives = of.get(name);
      if (!alternatives) report([...path, 'when'], `there is no choice or decision named ${name}`);
      else
        for (const is of [when.is].flat())
          if (!alternatives.has(is)) report([...path, 'when'], `${is} is none of the alternatives of ${name}`);
    }
  };
  const checkItem = (item: Item, path: (string | number)[]): void => {
    const conditions = [
      ...(item.kind === 'wait' ? [item.until] : []),
      ...('expect' in item && item.expect ? [item.expect] : []),
      ...stagesOf(item).flatMap((s) => (s.expect ? [s.expect] : [])),
    ];
    for (const condition of conditions) channelsOf(condition).forEach((id) => known(id, path));
    if (item.kind === 'watch' && !watches.has(item.watch) && !item.moments)
      report([...path, 'watch'], `there is no watch named ${item.watch}; name one that is there, or give moments`);
    if (item.kind === 'test' && !item.stages.some((s) => s.restores))
      report([...path, 'stages'], 'a test has a stage that restores what it moved');
    if (item.kind === 'decide' && item.rule)
      for (const id of [item.rule.expected, item.rule.otherwise])
        if (!item.alternatives.some((a) => a.id === id))
          report([...path, 'rule'], `${id} is none of the alternatives of ${item.id}`);
    if (item.kind === 'measure' && item.trace) checkTrace(type, item.trace, [...path, 'trace'], known, report);
    if (item.kind === 'count') {
      known(item.channel, [...path, 'channel']);
      for (const c of item.captions)
        if (!captions.has(c)) report([...path, 'captions'], `there is no caption named ${c}`);
    }
    checkWhen(item, path);
  };
  const seen = new Set<string>();
  type.items.forEach((item, i) => {
    checkItem(item, ['items', i]);
    if (!legs.has(item.leg)) report(['items', i, 'leg'], `there is no leg named ${item.leg}`);
    for (const need of item.needs ?? []) {
      if (!seen.has(need)) report(['items', i, 'needs'], `${need} must be an item that stands before this one`);
    }
    if (item.deadline && !seen.has(item.deadline.since))
      report(['items', i, 'deadline'], `${item.deadline.since} must be an item that stands before this one`);
    if (item.kind === 'set' && item.opens && !ids.has(item.opens.closedBy))
      report(['items', i, 'opens'], `there is no item named ${item.opens.closedBy}`);
    seen.add(item.id);
  });
  for (const [reason, plan] of Object.entries(type.aborts)) {
    plan.actions.forEach((item, i) => checkItem(item, ['aborts', reason, 'actions', i]));
  }
  type.legs.forEach((leg, i) => {
    if (leg.begins) channelsOf(leg.begins).forEach((id) => known(id, ['legs', i, 'begins']));
    else if (type.legs[i - 1]?.begins) report(['legs', i], 'legs that wait to be begun come last');
  });
  type.turnRound?.items.forEach((id, i) => {
    if (!ids.has(id)) report(['turnRound', 'items', i], `there is no item named ${id}`);
  });
}

/** A check names stages, channels, figures and loads that are there, and puts back what it opens. */
function checkTrace(
  type: TypeFile,
  check: TraceCheck,
  path: (string | number)[],
  known: (id: string, path: (string | number)[]) => void,
  report: Report,
): void {
  channelsOfCheck(check).forEach((id) => known(id, path));
  const stages = new Set(check.stages.map((s) => s.id));
  for (const id of stagesNamed(check))
    if (!stages.has(id)) report([...path, 'stages'], `there is no stage named ${id}; give one that id`);
  const figures = new Set(check.figures.map((f) => f.id));
  check.figures.forEach((figure, i) => {
    for (const id of figure.of === 'difference' ? figure.between : [])
      if (!figures.has(id)) report([...path, 'figures', i], `there is no figure named ${id}`);
    if (figure.of === 'load' && !type.electricalLoads.some((l) => l.id === figure.load))
      report([...path, 'figures', i, 'load'], `there is no electrical load named ${figure.load}`);
  });
  if (check.opens && !check.stages.some((s) => s.restores))
    report([...path, 'stages'], 'a check that opens something has a stage that restores it');
}

function unique(ids: string[], path: string[], report: (path: string[], message: string) => void): void {
  const seen = new Set<string>();
  for (const id of ids) {
    if (seen.has(id)) report(path, `${id} is there twice`);
    seen.add(id);
  }
}

/** The published JSON Schema of type files. */
export function typeFileJsonSchema(): object {
  return z.toJSONSchema(shape, { io: 'input' });
}
