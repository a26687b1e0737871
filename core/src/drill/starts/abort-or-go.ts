import type { WatchedType } from '../../aircraft/index.ts';
import type { Deal } from './deal.ts';
import { DealtStart } from './dealt-start.ts';
import type { StartTruth } from './truth.ts';

/** One start of the ten as it was decided. */
export interface Decided {
  deal: Deal;
  truth: StartTruth;
  /** when it was stopped, s from the starter; null when it was let go */
  stopped_s: number | null;
  /** seconds from when it could be told; negative is a guess that came true; null where nothing was to be stopped, or was not */
  took_s: number | null;
  /** hottest with the stop, °C; null where no temperature is watched */
  peak_C: number | null;
  /** 0 to 10 */
  points: number;
  words: string;
}

/** how long each is shown, s */
export const SHOWN_S = 20;
export const STARTS_A_ROUND = 10;
/** of one start, decided as well as can be */
export const FULL = 10;
/** a decision that uses all the time there was keeps this share less of its points */
const SLOW_COSTS = 0.6;
/** points that go when it was stopped only after the watch would have */
const TOO_LATE_COSTS = 3;
/** how the next start follows the points of the last: from so many on, by so much of the whole range */
const STEPS = [
  { from: 8, by: 0.12 },
  { from: 5, by: 0.02 },
  { from: 0, by: -0.15 },
] as const;
/** this fast after it could be told is as fast as a hand can be, s */
const BEST_s = 0.8;

/** Marks one decision, against the earliest moment at which a perfect watcher could have told. */
export function decide(type: WatchedType, deal: Deal, truth: StartTruth, stopped_s: number | null): Decided {
  const at = { deal, truth, stopped_s };
  if (stopped_s === null) {
    const shows = truth.late_s !== null && truth.late_s <= SHOWN_S;
    if (!truth.bad || !shows) return { ...at, took_s: null, peak_C: truth.peak_C, points: FULL, words: truth.bad ? 'Let go; it shows itself only later' : 'Good, and let go' }; // oxfmt-ignore
    return { ...at, took_s: null, peak_C: truth.peak_C, points: 0, words: `Let go, and bad. ${truth.words}` };
  }
  const peak_C = truth.peak_C === null ? null : peakWithStop(type, deal, stopped_s);
  if (!truth.bad) return { ...at, took_s: null, peak_C, points: 0, words: 'Stopped, and nothing was wrong' };
  const tellable_s = truth.tellable_s ?? truth.late_s!;
  const took_s = stopped_s - tellable_s;
  if (took_s < 0) return { ...at, took_s, peak_C, points: FULL / 2, words: 'Right, but before anything could be told: a guess' }; // oxfmt-ignore
  const room_s = Math.max(1, truth.late_s! - tellable_s - BEST_s);
  const share = Math.min(1, Math.max(0, (took_s - BEST_s) / room_s));
  const points = Math.max(
    1,
    Math.round(FULL * (1 - SLOW_COSTS * share)) - (stopped_s > truth.late_s! + BEST_s ? TOO_LATE_COSTS : 0),
  );
  const saved = peak_C === null || truth.peak_C === null ? '' : `, ${Math.max(0, truth.peak_C - peak_C).toFixed(0)} °C saved`; // oxfmt-ignore
  return { ...at, took_s, peak_C, points, words: `Stopped ${took_s.toFixed(1)} s after it could be told${saved}` };
}

/** The sum of a round, out of 100. */
export const sumOf = (round: readonly Pick<Decided, 'points'>[]): number =>
  Math.round((100 * round.reduce((sum, d) => sum + d.points, 0)) / (FULL * Math.max(1, round.length)));

/** How hard the next start should be: it follows the learner. @param before 0 to 1 */
export const nextDifficulty = (before: number, { points }: Pick<Decided, 'points'>): number =>
  Math.min(1, Math.max(0, before + STEPS.find((s) => points >= s.from)!.by));

/** The hottest that the engine becomes, whatever its probe says, °C; null where no temperature is watched. */
function peakWithStop(type: WatchedType, deal: Deal, stopped_s: number): number | null {
  const flown = new DealtStart(type, deal);
  let peak = -Infinity;
  let stopped = false;
  while (flown.t_s < stopped_s + SHOWN_S) {
    if (!stopped && flown.t_s >= stopped_s) {
      flown.stop();
      stopped = true;
    }
    flown.tick();
    if (flown.hot_C > peak) peak = flown.hot_C;
  }
  return peak === -Infinity ? null : peak;
}
