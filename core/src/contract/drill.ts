import { z } from 'zod';
import { type DueLesson, type Lesson, timedActSchema } from '../drill/index.ts';

const typeSchema = z.strictObject({ id: z.string().min(1).max(20), version: z.int().min(1) });
/** nobody does more in an hour */
const MOST_ACTS = 20_000;

/** a drill that was flown without a server may wait so long for one, s */
const LONGEST_WAIT_s = 400 * 86_400;
/** Which drill it is, so that one that is sent twice is kept once, and how long it waited on the device. */
const sentSchema = z.strictObject({ id: z.uuid(), waited_s: z.number().nonnegative().max(LONGEST_WAIT_s) });

/** A lesson that was flown: the server flies it again, and marks it itself. */
export const drillFlownSchema = sentSchema.extend({
  type: typeSchema,
  lesson: z.string().min(1).max(60),
  seed: z.int().nonnegative(),
  acts: z.array(timedActSchema).max(MOST_ACTS),
  ended_s: z.number().nonnegative().max(7200),
});
export type DrillFlown = z.infer<typeof drillFlownSchema>;

/** A round of abort or go: which starts were dealt, and when each was stopped. */
export const roundFlownSchema = sentSchema.extend({
  type: typeSchema,
  lesson: z.string().min(1).max(60),
  starts: z
    .array(
      z.strictObject({
        seed: z.int().nonnegative(),
        difficulty: z.number().min(0).max(1),
        stopped_s: z.number().nonnegative().nullable(),
      }),
    )
    .min(1)
    .max(10),
});
export type RoundFlown = z.infer<typeof roundFlownSchema>;

/** What a learner says against one mark of a drill; the mark stays as it is. */
export const disputeSchema = z.strictObject({
  /** the mark, in its words */
  mark: z.string().trim().min(1).max(300),
  t_s: z.number().nonnegative(),
  note: z.string().trim().min(1).max(500),
});
export type Dispute = z.infer<typeof disputeSchema>;

/** A lesson as an instructor writes it: YAML. */
export const ownLessonSchema = z.strictObject({ text: z.string().min(1).max(10_000) });

/** A lesson of an operator's own. */
export interface OwnLesson {
  id: string;
  text: string;
  by: string;
  /** ISO 8601 */
  at: string;
  /** why the present version of the type cannot have it; empty where it can */
  problems: string[];
}

/** Lessons of one type: those that come with it, and those that were written here. */
export interface LessonsOfType {
  version: number;
  shipped: readonly Lesson[];
  own: OwnLesson[];
}

/** One drill of a person as it is listed. */
export interface DrillRow {
  id: string;
  at: string;
  type: string;
  lesson: string;
  title: string;
  sum: number;
  /** the five things that cost most, in words */
  worst: string[];
  /** the instructor who looked on, null where nobody did */
  signed: { by: string; at: string } | null;
  /** what the learner says against marks of it */
  disputes: (Dispute & { at: string })[];
}

/** What one item or control has cost a person in all drills on a type. */
export interface DrillCost {
  of: string;
  times: number;
  points: number;
}

/** What a person finds to practise on one type. */
export interface DrillMessage {
  /** ISO 8601: what is due is due by this clock */
  now: string;
  lessons: readonly Lesson[];
  /** newest first */
  flown: DrillRow[];
  due: DueLesson[];
  /** over all drills of the person on this type, the dearest first */
  costs: DrillCost[];
}

/** What of a person's drills is due by now. */
export interface DueDrillsMessage {
  lessons: number;
  minutes: number;
  /** the type that has most of them, null where none is due */
  type: string | null;
}

/** What the server made of a drill. */
export interface DrillKept {
  id: string;
  sum: number;
}
