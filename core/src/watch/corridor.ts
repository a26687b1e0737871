import { higherOf, lowerOf } from '../statistics/index.ts';
import type { StartDay } from './start-day.ts';
import { BINS, type StartProfile } from './start-profile.ts';

/** A tail's usual range: where its recorded good starts went, and on what days they were made. */
export interface Corridor {
  starts: number;
  upperTot_C: number[];
  lowerTot_C: number[];
  /** the slowest that the speed rose in any of them, % a second */
  lowerPace_pct_s: number[];
  /** nested contours for drawing, widest first: 98, 80 and 50 % of the starts */
  contours: { share: number; low_C: number[]; high_C: number[] }[];
  days: StartDay[];
}

export interface LearnedStart {
  profile: StartProfile;
  day: StartDay;
}

const SHARES = [0.98, 0.8, 0.5];
/** with fewer starts than this, nothing is claimed to be usual */
export const CORRIDOR_MIN_STARTS = 8;

/** Builds the corridor of a tail from its recorded good starts. @returns null when there are too few to speak of a habit */
export function learnCorridor(starts: readonly LearnedStart[]): Corridor | null {
  if (starts.length < CORRIDOR_MIN_STARTS) return null;
  const over = (i: number, pick: (p: StartProfile) => number[], keep: (kept: number, v: number) => number): number => {
    let best = NaN;
    for (const s of starts) for (let k = i - 1; k <= i + 1; k++) best = keep(best, pick(s.profile)[k] ?? NaN);
    return best;
  };
  const bins = Array.from({ length: BINS }, (_, i) => i);
  const middles = bins.map((i) =>
    starts
      .map((s) => ((s.profile.totMax_C[i] ?? NaN) + (s.profile.totMin_C[i] ?? NaN)) / 2)
      .filter((v) => !Number.isNaN(v))
      .sort((a, b) => a - b),
  );
  return {
    starts: starts.length,
    upperTot_C: bins.map((i) => over(i, (p) => p.totMax_C, higherOf)),
    lowerTot_C: bins.map((i) => over(i, (p) => p.totMin_C, lowerOf)),
    lowerPace_pct_s: bins.map((i) => over(i, (p) => p.paceMin_pct_s, lowerOf)),
    contours: SHARES.map((share) => ({
      share,
      low_C: middles.map((m) => quantile(m, (1 - share) / 2)),
      high_C: middles.map((m) => quantile(m, (1 + share) / 2)),
    })),
    days: starts.map((s) => s.day),
  };
}

/** Quantile of ascending values, linear between ranks (Hyndman and Fan, type 7). NaN for none. */
export function quantile(sorted: readonly number[], p: number): number {
  if (sorted.length === 0) return NaN;
  const at = (sorted.length - 1) * p;
  const i = Math.floor(at);
  const next = sorted[Math.min(i + 1, sorted.length - 1)]!;
  return sorted[i]! + (at - i) * (next - sorted[i]!);
}
