import type { StartProfile, StartRecord } from '../watch/index.ts';
import type { Acceptance, Entry, RunOutcome } from '../procedure/index.ts';
import type { Booking } from '../shutdown/index.ts';

/** An entry that is said aloud. */
export type Told = Extract<Entry, { kind: 'cue' | 'abort' }>;

/** Figures of one start as they stand now; those of a stopped one become final when its engine has come to rest. */
export interface StartFigures {
  watch: string;
  attempt: number;
  /** it was seen from its beginning to idle, without doubt, and nothing stopped it: a habit may be learned from it */
  good: boolean;
  record: StartRecord;
  features: Record<string, number | null>;
  profile: StartProfile;
}

/** What an input to a session makes the driver do, in this order: tell, keep the frame, keep the entries. */
export interface Effects {
  /** cues and aborts among the entries: told in the same turn, before anything is kept */
  readonly tell: readonly Told[];
  /** entries to keep, chained behind those before */
  readonly journal: readonly Entry[];
  /** the frame is part of the record */
  readonly frames: boolean;
  readonly starts: readonly StartFigures[];
  /** the run is closed, and this is what it adds to the books */
  readonly close: { outcome: RunOutcome; booking: Booking } | null;
}

/** Nothing to do: the frame was refused for its time, or there was nothing to say. */
export const NOTHING: Effects = { tell: [], journal: [], frames: false, starts: [], close: null };
/** A frame that is kept and says nothing, as nearly all do. */
export const FRAME_KEPT: Effects = { ...NOTHING, frames: true };

/** What a session says to a person's answer. */
export type Answered =
  | { ok: true; entry: Entry; effects: Effects }
  | (Extract<Acceptance, { ok: false }> & { effects: Effects })
  | { ok: false; code: 'id-used'; message: string; effects: Effects };

/** Id and wall clock of an entry, made outside because core has neither chance nor clock. @param t_s run clock of the entry */
export type Stamper = (t_s: number) => { id: string; at_ms: number };
