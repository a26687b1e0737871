import type { TraceCheck, TypeFile } from '../aircraft/index.ts';
import type { LearnedLoad } from '../electrical/index.ts';
import type { CheckRecord } from './check-record.ts';
import type { Situation } from './situation.ts';

/** A number that a check took, or null when the trace does not say it, with the stretch that shows it. */
export interface FigureReading {
  value: number | null;
  from_s: number;
  to_s: number;
  /** what is good at this moment, where it is not always the same */
  good?: readonly [number, number] | undefined;
  /** what its load should draw, where it is a load */
  expected?: { amps: number; tolerance: number; verdict: string } | undefined;
}

/** What earlier checks of this tail say to the next one. */
export interface CheckHabit {
  /** what each load drew */
  loads: Readonly<Record<string, LearnedLoad>>;
  /** what each figure was, by "check/figure", where enough are known */
  usual: Readonly<Record<string, { median: number; least: number; most: number }>>;
}

export const NO_HABIT: CheckHabit = { loads: {}, usual: {} };

/** What a figure is read from. */
export interface FigureSource {
  type: TypeFile;
  check: TraceCheck;
  record: CheckRecord;
  /** when each stage began, in the order of the stages; NaN where it has not */
  marks: readonly number[];
  /** figures taken before, by id */
  before: ReadonlyMap<string, FigureReading>;
  habit: CheckHabit;
  /** null while the brief does not know the air or the weight */
  situation: Situation | null;
}
