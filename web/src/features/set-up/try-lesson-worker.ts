import type { WatchedType } from '@rouse/core/aircraft';
import { simulatedBrief } from '@rouse/core/brief';
import { bestHandOf, DrillFlight, flyAsLearner, type Lesson, marksOf } from '@rouse/core/drill';

export interface ToTry {
  type: WatchedType;
  lesson: Lesson;
}

/** What a learner who does everything right makes of a lesson. */
export type Tried =
  | { sum: number; took_s: number; lost: string[]; struck: string[]; through: boolean }
  | { refused: string };

const SEED = 1;
/** nobody practises one lesson for longer, s */
const MOST_S = 1800;

function tryOut({ type, lesson }: ToTry): Tried {
  const preset = type.standIn.find((p) => p.id === lesson.day)!;
  const options = { type, lesson, seed: SEED, brief: simulatedBrief(type, preset) };
  try {
    const flight = new DrillFlight(options);
    flyAsLearner(flight, { seed: SEED, within_s: MOST_S });
    const flown = flight.flown();
    const { sum, losses } = marksOf(flown, bestHandOf(options));
    return {
      sum,
      took_s: flown.ended_s - flown.begun_s,
      lost: losses.map((l) => l.words),
      struck: flown.struck.map((s) => s.fault.label),
      through: flight.over && flown.ended_s - flown.begun_s < MOST_S,
    };
  } catch (error) {
    return { refused: error instanceof Error ? error.message : String(error) };
  }
}

self.addEventListener('message', ({ data }: MessageEvent<ToTry>) => self.postMessage(tryOut(data)));
