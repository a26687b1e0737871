import type { WatchedType } from '@rouse/core/aircraft';
import type { Limiter, PracticeNow, PracticeStart } from '@rouse/core/drill';
import type { RatingEvent } from '@rouse/core/ratings';

/** What the page's hands do in a practice flight. */
export type ToPractice =
  | { kind: 'begin'; type: WatchedType; start: PracticeStart; seed: number }
  | { kind: 'collective'; to: number }
  /** a step up or down from where it is */
  | { kind: 'collective-by'; by: number }
  | { kind: 'hand-back' }
  | { kind: 'training'; on: boolean }
  | { kind: 'limiter'; limiter: Limiter }
  | { kind: 'fail'; engine: number }
  | { kind: 'end' };

export type FromPractice =
  /** frames one after the other, each as the server packs one */
  { kind: 'flown'; frames: Float64Array; now: PracticeNow; events: RatingEvent[] };
