import { z } from 'zod';
import { abortReasonSchema } from '../aircraft/index.ts';
import { windNowSchema } from './wind-now.ts';

/** Where the readings of a run come from; a recording was made before Rouse knew the aircraft. */
export const SOURCES = ['stand-in', 'device', 'simulated', 'by-hand', 'recording'] as const;
export type Source = (typeof SOURCES)[number];
/** How a run ended; a recording has no end that somebody gave it. */
export const OUTCOMES = ['ready', 'shut-down', 'aborted', 'given-up', 'recorded'] as const;
export type RunOutcome = (typeof OUTCOMES)[number];

const maybe = z.number().nullable();
const checkVerdictSchema = z.enum(['good', 'unusual', 'fault', 'unknown']);

/** What a run takes from its brief: the answers of the operator and of this day, and what its readings are held against. */
const briefRecordSchema = z.strictObject({
  /** choice to alternative, every choice of the type */
  ways: z.record(z.string(), z.string()),
  overrides: z.array(
    z.strictObject({ choice: z.string(), from: z.string(), to: z.string(), reason: z.string().min(1) }),
  ),
  /** cautions that somebody went on past, with the reason */
  accepted: z.array(z.strictObject({ objection: z.string(), words: z.string(), reason: z.string().min(1).max(500) })),
  expected: z.strictObject({
    altimeter: maybe,
    'pressure-setting': maybe,
    fuel: maybe,
    mass: maybe,
  }),
  /** outside air when it was written, for durations learned by temperature */
  oat_C: maybe,
  words: z.string(),
  /** pressure altitude, ft, and whether air is bled; runs of earlier versions have none */
  pa_ft: maybe.optional(),
  bleed: z.string().optional(),
  /** of the place, east is positive; runs of earlier versions have none */
  variation_E_deg: z.number().optional(),
  /** the brief as it was entered */
  input: z.record(z.string(), z.unknown()),
});
export type BriefRecord = z.infer<typeof briefRecordSchema>;

const payloads = [
  z.strictObject({
    kind: z.literal('run-opened'),
    tail: z.string(),
    type: z.string(),
    typeVersion: z.int(),
    source: z.enum(SOURCES),
    pad: z.string(),
    conditions: z.string(),
  }),
  z.strictObject({
    kind: z.literal('item-done'),
    item: z.string(),
    how: z.enum(['sensed', 'declared', 'watched']),
    value: maybe,
    words: z.string(),
    /** what was read on either side of a comparison */
    read: z.tuple([z.string(), z.string()]).optional(),
    /** the wind of that minute, where it was judged */
    wind: windNowSchema.optional(),
    /** the verification found it otherwise than the flow had left it */
    differs: z.boolean().optional(),
  }),
  z.strictObject({
    kind: z.literal('stage-done'),
    item: z.string(),
    stage: z.int().min(0),
    value: maybe,
    words: z.string(),
    /** the last stage settles its item */
    last: z.boolean(),
  }),
  z.strictObject({
    kind: z.literal('measured'),
    item: z.string(),
    /** one name for all variants of the check */
    check: z.string(),
    verdict: checkVerdictSchema,
    cause: z.string().nullable(),
    words: z.string(),
    figures: z.array(
      z.strictObject({
        id: z.string(),
        label: z.string(),
        unit: z.string(),
        decimals: z.int(),
        value: maybe,
        good: z.tuple([maybe, maybe]),
        verdict: checkVerdictSchema,
        words: z.string().nullable(),
        /** the stretch of the trace that shows it */
        from_s: maybe,
        to_s: maybe,
      }),
    ),
    from_s: z.number(),
    to_s: z.number(),
  }),
  z.strictObject({
    kind: z.literal('decided'),
    item: z.string(),
    alternative: z.string(),
    reason: z.string().min(1).max(500),
  }),
  z.strictObject({ kind: z.literal('challenged'), item: z.string() }),
  z.strictObject({ kind: z.literal('zone-flowed'), leg: z.string(), zone: z.string() }),
  z.strictObject({ kind: z.literal('interrupted'), words: z.string().max(500) }),
  z.strictObject({ kind: z.literal('reseen'), item: z.string() }),
  z.strictObject({ kind: z.literal('briefed'), brief: briefRecordSchema }),
  z.strictObject({
    kind: z.literal('way-changed'),
    choice: z.string(),
    to: z.string(),
    reason: z.string().min(1).max(500),
  }),
  z.strictObject({ kind: z.literal('item-fault'), item: z.string(), note: z.string().min(1).max(500) }),
  z.strictObject({ kind: z.literal('item-skipped'), item: z.string(), reason: z.string().min(1).max(500) }),
  z.strictObject({ kind: z.literal('item-chosen'), item: z.string() }),
  z.strictObject({ kind: z.literal('item-reopened'), item: z.string() }),
  z.strictObject({ kind: z.literal('undone'), entry: z.string() }),
  z.strictObject({ kind: z.literal('mark'), words: z.string().max(500) }),
  z.strictObject({
    kind: z.literal('note'),
    text: z.string().min(1).max(2000),
    /** run clock that it is about; of the run as a whole where it is left out */
    about_s: z.number().nonnegative().optional(),
  }),
  z.strictObject({ kind: z.literal('start-state'), watch: z.string(), state: z.string(), words: z.string() }),
  z.strictObject({
    kind: z.literal('start-done'),
    watch: z.string(),
    /** unknown when part of it was not seen, or a reading that it is judged by could not be believed */
    verdict: z.enum(['good', 'unknown']),
    record: z.record(z.string(), maybe),
  }),
  z.strictObject({
    kind: z.literal('run-up-done'),
    watch: z.string(),
    took_s: z.number(),
    torqueMax_pct: z.number().optional(),
    splitMax_pct: z.number().optional(),
    rotorMax_pct: z.number().optional(),
  }),
  z.strictObject({
    kind: z.literal('cue'),
    code: z.string(),
    severity: z.enum(['call', 'caution', 'warning']),
    text: z.string(),
    say: z.string(),
  }),
  z.strictObject({
    kind: z.literal('abort'),
    watch: z.string(),
    reason: abortReasonSchema,
    text: z.string(),
    say: z.string(),
    figure: z.string(),
  }),
  z.strictObject({
    kind: z.literal('exceedance'),
    limit: z.string(),
    channel: z.string(),
    band: z.string(),
    edge: z.number(),
    severity: z.enum(['note', 'caution', 'warning']),
    start_s: z.number(),
    end_s: z.number(),
    duration_s: z.number(),
    peak: z.number(),
    peakAt_s: z.number(),
    area: z.number(),
    allowed_s: z.number(),
    expired: z.boolean(),
  }),
  z.strictObject({ kind: z.literal('phase'), phase: z.string() }),
  /** a leg that is not part of getting ready: lift, shut down */
  z.strictObject({ kind: z.literal('leg-begun'), leg: z.string(), how: z.enum(['sensed', 'declared']) }),
  z.strictObject({
    kind: z.literal('rating'),
    ledger: z.enum(['take-off', 'one-engine']),
    engine: z.int(),
    rating: z.string().nullable(),
    label: z.string(),
    event: z.enum([
      'PERIOD_START',
      'PERIOD_END',
      'PERIOD_EXPIRED',
      'NO_PERIODS_LEFT',
      'OVER_MAXIMUM',
      'GAP_ESTIMATED',
      'GAP_BLIND',
    ]),
  }),
  /** another person has the run from here on */
  z.strictObject({
    kind: z.literal('handed-over'),
    from: z.string().min(1).max(100),
    to: z.string().min(1).max(100),
    person: z.uuid(),
  }),
  /** after an abort the list is worked again, with these items to do once more */
  z.strictObject({ kind: z.literal('try-again'), watch: z.string(), items: z.array(z.string()) }),
  /** digest over the frames since the one before, so that the chain covers the trace */
  z.strictObject({
    kind: z.literal('trace-sealed'),
    to_s: z.number(),
    frames: z.int().min(1),
    digest: z.string().regex(/^[0-9a-f]{64}$/),
  }),
  /** an old run is kept with fewer readings: from here on this digest is that of its trace */
  z.strictObject({
    kind: z.literal('trace-thinned'),
    /** rows a second, 0 for none beside what is whole */
    perSecond: z.number().min(0).max(50),
    /** stretches of the run clock that are kept as they were, s */
    whole: z.array(z.tuple([z.number(), z.number()])).max(200),
    frames: z.int().min(0),
    digest: z.string().regex(/^[0-9a-f]{64}$/),
  }),
  z.strictObject({ kind: z.literal('closed'), outcome: z.enum(OUTCOMES) }),
] as const;

/** What happened, without who, when and where in the chain. */
export const payloadSchema = z.discriminatedUnion('kind', [...payloads]);
export type Payload = z.infer<typeof payloadSchema>;

const stamp = z.object({
  id: z.uuid(),
  run: z.uuid(),
  seq: z.int().min(1),
  /** wall clock, ISO 8601 in UTC */
  at: z.iso.datetime(),
  /** run clock, s */
  t: z.number(),
  by: z.string().min(1),
  /** SHA-256 of the entry before, zeros for the first */
  prev: z.string().regex(/^[0-9a-f]{64}$/),
});
export type Stamp = z.infer<typeof stamp>;
export type Entry = Stamp & Payload;
export type MeasuredEntry = Extract<Entry, { kind: 'measured' }>;
export type ExceedanceEntry = Extract<Entry, { kind: 'exceedance' }>;

/** One stored entry of a journal. @throws ZodError when it is not one */
export function parseEntry(value: unknown): Entry {
  const head = stamp.parse(value);
  const rest = Object.fromEntries(
    Object.entries(value as Record<string, unknown>).filter(([k]) => !(k in stamp.shape)),
  );
  return { ...head, ...payloadSchema.parse(rest) };
}
