import { higherOf, lowerOf } from '../statistics/index.ts';

/** Bins of 1 % gas-producer speed, 0 to 110 %. */
export const BINS = 111;

export function binOf(ng_pct: number): number {
  return Math.max(0, Math.min(BINS - 1, Math.round(ng_pct)));
}

/** What one start showed in each speed bin while its fuel was on; NaN where it never was. */
export interface StartProfile {
  totMax_C: number[];
  totMin_C: number[];
  /** how slowly the speed rose, at its slowest */
  paceMin_pct_s: number[];
}

/** Collects a profile sample by sample, without allocating. */
export class ProfileBuilder {
  private readonly totMax = new Float64Array(BINS).fill(NaN);
  private readonly totMin = new Float64Array(BINS).fill(NaN);
  private readonly paceMin = new Float64Array(BINS).fill(NaN);

  reset(): void {
    this.totMax.fill(NaN);
    this.totMin.fill(NaN);
    this.paceMin.fill(NaN);
  }

  add(ng_pct: number, tot_C: number, pace_pct_s: number): void {
    const i = binOf(ng_pct);
    this.totMax[i] = higherOf(this.totMax[i]!, tot_C);
    this.totMin[i] = lowerOf(this.totMin[i]!, tot_C);
    this.paceMin[i] = lowerOf(this.paceMin[i]!, pace_pct_s);
  }

  profile(): StartProfile {
    const round = (column: Float64Array, steps: number): number[] =>
      [...column].map((v) => (Number.isNaN(v) ? NaN : Math.round(v * steps) / steps));
    return {
      totMax_C: round(this.totMax, 10),
      totMin_C: round(this.totMin, 10),
      paceMin_pct_s: round(this.paceMin, 100),
    };
  }
}
