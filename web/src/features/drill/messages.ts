import type { WatchedType } from '@rouse/core/aircraft';
import type { Act, Change, DrillView, HandStart, Lesson, TimedAct, WhatIf } from '@rouse/core/drill';
import type { Entry } from '@rouse/core/procedure';
import type { SessionView } from '@rouse/core/session';

export type ToDrill =
  | { kind: 'begin'; type: WatchedType; lesson: Lesson; seed: number }
  | { kind: 'act'; act: Act }
  | { kind: 'freeze'; on: boolean }
  | { kind: 'end' }
  /** after the end: the same drill with one act otherwise */
  | { kind: 'what-if'; change: Change };

/** A drill that is over, as it is kept: everything follows from it. */
export interface DrillRecord {
  lesson: string;
  seed: number;
  acts: TimedAct[];
  ended_s: number;
}

export type FromDrill =
  | { kind: 'refused'; message: string }
  /** made ready: the entries so far */
  | { kind: 'ready'; entries: Entry[]; t_s: number }
  /** frames one after the other, each as the server packs one */
  | { kind: 'flown'; t_s: number; frames: Float64Array; entries: Entry[]; view: DrillView | null; session: SessionView }
  | { kind: 'over'; view: DrillView; record: DrillRecord; best: HandStart | null }
  | { kind: 'would'; what: WhatIf };
