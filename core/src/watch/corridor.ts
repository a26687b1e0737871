/** Bins of 1 % gas-producer speed, 0 to 110 %. */
const BINS = 111;

export function binOf(ng_pct: number): number {
  return Math.max(0, Math.min(BINS - 1, Math.round(ng_pct)));
}

/** What one start showed in each speed bin while its fuel was on; NaN where it never was. */
export interface StartProfile {
  totMax_C: number[];
  totMin_C: number[];
  gasMax_C: number[];
}

/** Collects a profile sample by sample, without allocating. */
export class ProfileBuilder {
  private readonly totMax = new Float64Array(BINS).fill(NaN);
  private readonly totMin = new Float64Array(BINS).fill(NaN);
  private readonly gasMax = new Float64Array(BINS).fill(NaN);

  reset(): void {
    this.totMax.fill(NaN);
    this.totMin.fill(NaN);
    this.gasMax.fill(NaN);
  }

  add(ng_pct: number, tot_C: number, gas_C: number): void {
    const i = binOf(ng_pct);
    if (!(tot_C <= this.totMax[i]!)) this.totMax[i] = tot_C;
    if (!(tot_C >= this.totMin[i]!)) this.totMin[i] = tot_C;
    if (!(gas_C <= this.gasMax[i]!)) this.gasMax[i] = gas_C;
  }

  profile(): StartProfile {
    const round = (column: Float64Array): number[] =>
      [...column].map((v) => (Number.isNaN(v) ? NaN : Math.round(v * 10) / 10));
    return { totMax_C: round(this.totMax), totMin_C: round(this.totMin), gasMax_C: round(this.gasMax) };
  }
}

interface Range {
  low: number;
  high: number;
}

/** A tail's usual range: where its recorded good starts went, and in what conditions they were made. */
export interface Corridor {
  starts: number;
  upperTot_C: number[];
  lowerTot_C: number[];
  upperGas_C: number[];
  /** nested contours for drawing, widest first: 98, 80 and 50 % of the starts */
  contours: { share: number; low_C: number[]; high_C: number[] }[];
  outsideAir_C: Range;
  voltsBefore_V: Range;
}

export interface LearnedStart {
  profile: StartProfile;
  outsideAir_C: number;
  voltsBefore_V: number;
}

const SHARES = [0.98, 0.8, 0.5];
/** with fewer starts than this, nothing is claimed to be usual */
export const CORRIDOR_MIN_STARTS = 8;

/** Builds the corridor of a tail from its recorded good starts. @returns null when there are too few to speak of a habit */
export function learnCorridor(starts: readonly LearnedStart[]): Corridor | null {
  if (starts.length < CORRIDOR_MIN_STARTS) return null;
  const upper = (pick: (p: StartProfile) => number[], i: number): number => {
    let best = NaN;
    for (const s of starts)
      for (let k = i - 1; k <= i + 1; k++) {
        const v = pick(s.profile)[k];
        if (v !== undefined && !Number.isNaN(v) && !(v <= best)) best = v;
      }
    return best;
  };
  const lower = (i: number): number => {
    let best = NaN;
    for (const s of starts)
      for (let k = i - 1; k <= i + 1; k++) {
        const v = s.profile.totMin_C[k];
        if (v !== undefined && !Number.isNaN(v) && !(v >= best)) best = v;
      }
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
    upperTot_C: bins.map((i) => upper((p) => p.totMax_C, i)),
    lowerTot_C: bins.map(lower),
    upperGas_C: bins.map((i) => upper((p) => p.gasMax_C, i)),
    contours: SHARES.map((share) => ({
      share,
      low_C: middles.map((m) => quantile(m, (1 - share) / 2)),
      high_C: middles.map((m) => quantile(m, (1 + share) / 2)),
    })),
    outsideAir_C: rangeOf(starts.map((s) => s.outsideAir_C)),
    voltsBefore_V: rangeOf(starts.map((s) => s.voltsBefore_V)),
  };
}

function rangeOf(values: number[]): Range {
  return { low: Math.min(...values), high: Math.max(...values) };
}

/** Quantile of ascending values, linear between ranks (Hyndman and Fan, type 7). NaN for none. */
export function quantile(sorted: readonly number[], p: number): number {
  if (sorted.length === 0) return NaN;
  const at = (sorted.length - 1) * p;
  const i = Math.floor(at);
  const next = sorted[Math.min(i + 1, sorted.length - 1)]!;
  return sorted[i]! + (at - i) * (next - sorted[i]!);
}
