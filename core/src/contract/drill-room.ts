import { z } from 'zod';
import type { DrillView, Lesson } from '../drill/index.ts';
import type { Entry } from '../procedure/index.ts';
import type { SessionView } from '../session/index.ts';

/** What an instructor does to a drill from another page. */
export const deskCommandSchema = z.discriminatedUnion('kind', [
  /** a condition of the type, whose faults strike from now on */
  z.strictObject({ kind: z.literal('fault'), condition: z.string().min(1).max(60) }),
  /** the weather from now on; null leaves it as it is */
  z.strictObject({
    kind: z.literal('weather'),
    air_C: z.number().min(-40).max(50).nullable(),
    headwind_kt: z.number().min(-40).max(60).nullable(),
  }),
  z.strictObject({ kind: z.literal('freeze'), on: z.boolean() }),
  /** the list is shown or taken away; null leaves it as the lesson has it */
  z.strictObject({ kind: z.literal('list'), shown: z.boolean().nullable() }),
  z.strictObject({ kind: z.literal('note'), text: z.string().trim().min(1).max(300) }),
  z.strictObject({ kind: z.literal('end') }),
  z.strictObject({ kind: z.literal('signed') }),
]);
export type DeskCommand = z.infer<typeof deskCommandSchema>;

/** What the page of a learner tells: everything once when somebody comes, then what is new. */
export type LearnerTold =
  | { kind: 'hello'; type: { id: string; version: number }; lesson: Lesson; entries: Entry[]; t_s: number }
  | { kind: 'view'; t_s: number; view: DrillView; entries: Entry[]; session: SessionView; frame: (number | null)[]; frozen: boolean } // oxfmt-ignore
  /** over, and kept under this name; null while it is not kept */
  | { kind: 'over'; view: DrillView; drill: string | null };

/** What the room says to a page, beside what it passes on. */
export type RoomTold =
  | { kind: 'joined'; name: string }
  | { kind: 'left'; name: string }
  /** the page of the learner is there, or is not; the drill goes on without the room */
  | { kind: 'learner'; name: string; here: boolean };

/** To the page of a learner. */
export type ToLearner = RoomTold | (DeskCommand & { by: string });
/** To the page of an instructor. */
export type ToDesk = RoomTold | LearnerTold;

/** A signature under a drill, with the notes that were made to its moments. */
export const signatureSchema = z.strictObject({
  notes: z.array(z.strictObject({ t_s: z.number().nonnegative(), text: z.string().trim().min(1).max(300) })).max(100),
});
export type Signature = z.infer<typeof signatureSchema>;

/** A room for one drill: its code is told to the instructor. */
export interface DrillRoom {
  code: string;
}
