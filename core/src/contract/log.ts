import { z } from 'zod';
import type { Book, BookEntry, DueItem, DueState } from '../books/index.ts';
import type { TailTrends } from '../trends/index.ts';
import { MAINTENANCE } from '../trends/index.ts';
import { type HeldEntry, OUTCOMES, SOURCES } from '../procedure/index.ts';
import type { RunSummary } from './http.ts';

const words = z.string().trim().min(4, 'says it in words').max(2000);

/** What an engineer did; from then on the figures that depend on it begin anew. */
export const maintenanceSchema = z.strictObject({
  kind: z.enum(MAINTENANCE),
  words,
  at: z.iso.datetime({ message: 'is a moment, as 2026-11-29T08:00:00Z' }),
});
/** Whether trends count a run, and why. */
export const trendChoiceSchema = z.strictObject({ leftOut: z.boolean(), reason: words });

export type ExceedanceNoteKind = 'done' | 'disputed';
export const exceedanceNoteSchema = z.strictObject({ words });

/** Photos and papers: what a browser shows without running anything of it. */
export const ATTACHMENT_TYPES = ['image/jpeg', 'image/png', 'application/pdf', 'text/plain'] as const;
export type AttachmentType = (typeof ATTACHMENT_TYPES)[number];
export const MOST_ATTACHMENT_BYTES = 5 * 1024 * 1024;

const amount = z.number().min(-1e6).max(1e6);
export const bookEntrySchema = z.strictObject({
  kind: z.enum(['opening', 'correction']),
  account: z.string().min(1).max(60),
  amount,
  reason: words,
});
export const dueSchema = z
  .strictObject({
    title: z.string().trim().min(3, 'says what is due').max(120),
    account: z.string().min(1).max(60).nullable(),
    amount: amount.nullable(),
    onDay: z.iso.date({ message: 'is a day, as 2026-11-29' }).nullable(),
    holds: z.boolean(),
  })
  .refine((d) => (d.account === null) === (d.amount === null), { path: ['amount'], message: 'goes with an account' })
  .refine((d) => d.amount !== null || d.onDay !== null, { path: ['onDay'], message: 'is a day, or an account has an amount' }); // oxfmt-ignore
export const dueDoneSchema = z.strictObject({ words });

/** Which runs are listed; what is not given does not narrow. */
export const runFilterSchema = z.strictObject({
  tail: z.string().max(20).optional(),
  pilot: z.uuid().optional(),
  outcome: z.enum([...OUTCOMES, 'open']).optional(),
  source: z.enum(SOURCES).optional(),
  from: z.iso.date().optional(),
  to: z.iso.date().optional(),
  /** in the conditions */
  words: z.string().trim().max(80).optional(),
  /** run that the list before ended with */
  after: z.uuid().optional(),
});
export type RunFilter = z.infer<typeof runFilterSchema>;

export interface LoggedRun extends RunSummary {
  tail: string;
  type: string;
  /** from starter to the end, s; null where nothing was booked */
  running_s: number | null;
  flight_s: number | null;
}

export interface RunsPage {
  runs: LoggedRun[];
  /** there are older ones */
  more: boolean;
}

/** One tail in the log. */
export interface LoggedTail {
  aircraft: string;
  tail: string;
  type: { id: string; version: number; name: string };
  pad: string;
  runs: number;
  lastRunAt: string | null;
  openExceedances: number;
  /** causes that its trends found; null while they are being worked out */
  findings: string[] | null;
}

export interface TrendsMessage {
  aircraft: string;
  tail: string;
  pad: string;
  type: { id: string; version: number; name: string };
  trends: TailTrends;
  /** runs that do not count, and why */
  leftOut: { run: string; reason: string; by: string; at: string }[];
}

export interface ExceedanceSummary {
  run: string;
  seq: number;
  tail: string;
  record: HeldEntry;
  /** what was passed, in words */
  title: string;
  detail: string;
  release: { engineer: string; found: string; at: string } | null;
  disputed: boolean;
}

export interface ExceedanceMessage extends ExceedanceSummary {
  aircraft: string;
  runOpenedAt: string;
  pilot: string;
  /** what the type says of it */
  asks: string;
  notes: { id: string; kind: ExceedanceNoteKind; words: string; by: string; at: string }[];
  attachments: { id: string; name: string; mediaType: AttachmentType; size: number; by: string; at: string }[];
}

export interface BooksMessage {
  book: Book;
  entries: BookEntry[];
  due: (DueItem & { now: DueState })[];
  maintenance: { id: string; at: string; kind: string; words: string; by: string }[];
}

/** What one person flew and practised, and what is fresh. */
export interface PersonLog {
  person: string;
  name: string;
  roles: string[];
  /** by tail: how many runs, when the last one */
  tails: { tail: string; type: string; runs: number; flight_s: number; lastAt: string }[];
  recent: LoggedRun[];
  drills: { at: string; type: string; exercise: string; ended: string }[];
  recency: { runs90d: number; starts90d: number; flight90d_s: number; lastAt: string | null };
}

export const MOST_RECORDING_BYTES = 20 * 1024 * 1024;
export const recordingNameSchema = z.strictObject({ name: z.string().trim().min(1).max(200) });

/** What became of one file of a tail's past. */
export interface BroughtAlong {
  run: string;
  /** a file of the same bytes was kept before, as this run */
  already: boolean;
  starts: number;
  /** exceedances found in it that hold the next start */
  held: number;
}
