import type { WatchedType } from '../aircraft/index.ts';
import type { BriefRecord, Entry, RunState } from '../procedure/index.ts';
import type { TimedAct } from './act.ts';
import type { Struck } from './armed-faults.ts';
import type { Lesson } from './lesson.ts';

/** What is noted of an act that was not simply right. */
export interface DrillNote {
  t_s: number;
  kind: 'stray' | 'early' | 'refused' | 'hint' | 'stopped' | 'armed';
  /** the control that was moved, or the item that was meant */
  of: string;
  words: string;
}

/** Everything that is known of a drill that was flown: its marks follow from it alone. */
export interface FlownDrill {
  type: WatchedType;
  lesson: Lesson;
  seed: number;
  acts: readonly TimedAct[];
  entries: readonly Entry[];
  state: RunState;
  notes: readonly DrillNote[];
  struck: readonly Struck[];
  /** when the learner took over, and when it ended */
  begun_s: number;
  ended_s: number;
}

export interface DrillOptions {
  type: WatchedType;
  lesson: Lesson;
  seed: number;
  /** what the readings of the list are held against */
  brief: BriefRecord;
  /** who practises */
  by?: string;
}
