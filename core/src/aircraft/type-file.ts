import { z } from 'zod';
import { channelSchema } from './channel.ts';
import { channelsOf } from './condition.ts';
import { conditionSchema } from './condition-schema.ts';
import { bandEdge, limitSchema, ratingsSchema } from './limits.ts';
import { abortPlanSchema, type Item, itemSchema, legSchema } from './procedure-items.ts';
import { simulatorParametersSchema } from './simulator-parameters.ts';
import { abortReasonSchema, runUpWatchSchema, startWatchSchema } from './watches.ts';

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
      when: z.strictObject({ sig: z.string(), op: z.enum(['>=', '<=', '==']), val: z.number() }).optional(),
      set: z.record(z.string(), z.number()),
    }),
  ),
});
export type StandInPreset = z.infer<typeof standInPresetSchema>;

const shape = z.strictObject({
  format: z.literal('rouse-type/1'),
  id: z.string().regex(/^[A-Z0-9]+$/),
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
  ratings: ratingsSchema,
  startWatches: z.array(startWatchSchema).min(1),
  runUpWatch: runUpWatchSchema,
  /** channels of the strip of room to the limits, top to bottom */
  room: z.array(z.string()).min(1),
  legs: z.array(legSchema).min(1),
  items: z.array(itemSchema).min(1),
  aborts: z.record(abortReasonSchema, abortPlanSchema),
  standIn: z.array(standInPresetSchema).min(1),
  simulator: simulatorParametersSchema,
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
    for (const [role, id] of Object.entries(w.channels)) known(id, ['startWatches', i, 'channels', role]);
  });
  known(type.captions.channel, ['captions', 'channel']);
  type.captions.list.forEach((c, i) => channelsOf(c.lit).forEach((id) => known(id, ['captions', 'list', i, 'lit'])));
  const watches = new Set([...type.startWatches.map((w) => w.id), type.runUpWatch.id]);
  const captions = new Set(type.captions.list.map((c) => c.id));
  const legs = new Set(type.legs.map((l) => l.id));
  const checkItem = (item: Item, path: (string | number)[]): void => {
    const condition = item.kind === 'wait' ? item.until : 'expect' in item ? item.expect : undefined;
    if (condition) channelsOf(condition).forEach((id) => known(id, path));
    if (item.kind === 'watch' && !watches.has(item.watch))
      report([...path, 'watch'], `there is no watch named ${item.watch}`);
    if (item.kind === 'count') {
      known(item.channel, [...path, 'channel']);
      for (const c of item.captions)
        if (!captions.has(c)) report([...path, 'captions'], `there is no caption named ${c}`);
    }
  };
  const seen = new Set<string>();
  type.items.forEach((item, i) => {
    checkItem(item, ['items', i]);
    if (!legs.has(item.leg)) report(['items', i, 'leg'], `there is no leg named ${item.leg}`);
    for (const need of item.needs ?? []) {
      if (!seen.has(need)) report(['items', i, 'needs'], `${need} must be an item that stands before this one`);
    }
    seen.add(item.id);
  });
  for (const [reason, plan] of Object.entries(type.aborts)) {
    plan.actions.forEach((item, i) => checkItem(item, ['aborts', reason, 'actions', i]));
  }
});

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
