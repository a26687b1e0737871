import type { TurbineStart } from '../aircraft/index.ts';
import { higherOf } from '../statistics/index.ts';
import type { Corridor } from './corridor.ts';
import { binOf } from './start-profile.ts';
import type { PeakPredictor } from './predictor.ts';
import { type StartDay, widenFor } from './start-day.ts';

/** it must last so long: three frames of a fast unit, one of a slow one */
const LASTS_S = 0.05;
/** heat is worth a word when it, or the gas behind it, is so near to the mildest band */
const NEAR_K = 100;
/** a day that is strange in several ways is hotter than the sum of them */
const TOGETHER = 1.4;
/** from so many starts on the habit is as narrow as it will be */
const WELL_KNOWN = 40;

/** cranked more slowly than ever it lights at a lower speed, so much of Ng: what it shows there it has always shown a little later */
const LIGHTS_EARLIER_PCT = 2;

/** an engine that speeds up by less than this share of its slowest, for so long, is held back by something */
const SLUGGISH = 0.97;
const SLUGGISH_FOR_S = 1;

interface HabitFinding {
  code: 'hotter-than-usual' | 'sluggish';
  text: string;
  say: string;
}

/** Says once in a start that it is hotter than this tail's usual for this day. A habit stops nothing. */
export class HabitCaution {
  private readonly spec: TurbineStart['corridor'];
  private readonly mildest_C: number;
  private over_s = 0;
  /** how long it has sped up more slowly than ever */
  private slow_s = 0;
  private called = false;
  private margin_K = NaN;
  private why: readonly string[] = [];
  private slowCrank = false;

  /** @param mildest_C the first band of the temperature in a start */
  constructor(spec: TurbineStart['corridor'], mildest_C: number) {
    this.spec = spec;
    this.mildest_C = mildest_C;
  }

  reset(): void {
    this.over_s = 0;
    this.slow_s = 0;
    this.called = false;
    this.margin_K = NaN;
    this.why = [];
    this.slowCrank = false;
  }

  /** The start begins to burn: how wide its corridor is on this day. */
  begin(corridor: Corridor, day: StartDay): void {
    const { by_K, why } = widenFor(corridor.days, day, this.spec.widen);
    const few = Math.max(0, 1 - corridor.starts / WELL_KNOWN);
    this.margin_K = this.spec.margin_K * (1 + few) + by_K * (why.length > 1 ? TOGETHER : 1);
    this.why = why;
    this.slowCrank = why.includes('fewer volts');
  }

  /** One frame that burns. @returns true at the frame that makes the caution */
  rises(dt_s: number, corridor: Corridor, ng_pct: number, tot_C: number, predictor: PeakPredictor): boolean {
    if (this.called) return false;
    const bin = binOf(ng_pct);
    if (predictor.speedRate_pct_s < SLUGGISH * corridor.lowerPace_pct_s[bin]!) this.slow_s += dt_s;
    const near = tot_C > this.mildest_C - NEAR_K || predictor.gas_C > this.mildest_C;
    const over = near && tot_C > this.hottest_C(corridor, bin) + this.margin_K;
    this.over_s = over ? this.over_s + dt_s : 0;
    this.called = this.over_s >= LASTS_S;
    return this.called;
  }

  private hottest_C({ upperTot_C }: Corridor, bin: number): number {
    let hottest = upperTot_C[bin]!;
    for (let later = 1; this.slowCrank && later <= LIGHTS_EARLIER_PCT; later++)
      hottest = higherOf(hottest, upperTot_C[bin + later] ?? NaN);
    return hottest;
  }

  /** What is seen, why if its pace says why, and how far the habit is known for a day like this. */
  finding(corridor: Corridor, ng_pct: number, tot_C: number, pace_pct_s: number): HabitFinding {
    const bin = binOf(ng_pct);
    const usualPace_pct_s = corridor.lowerPace_pct_s[bin]!;
    const above_K = tot_C - this.hottest_C(corridor, bin);
    const heat = `TOT ${tot_C.toFixed(0)} °C at ${ng_pct.toFixed(0)} % Ng, ${above_K.toFixed(0)} °C above the last ${corridor.starts} starts of this aircraft`;
    const known =
      this.why.length === 0
        ? ''
        : `; learned on other days (${this.why.join(', ')}), so ${this.margin_K.toFixed(0)} °C are allowed for`;
    if (this.slow_s >= SLUGGISH_FOR_S)
      return {
        code: 'sluggish',
        text: `Slower than usual for this day, and so hotter: ${pace_pct_s.toFixed(1)} % a second where ${usualPace_pct_s.toFixed(1)} was the slowest; ${heat}${known}. Be ready to stop`,
        say: 'Slow, and hotter than usual.',
      };
    return {
      code: 'hotter-than-usual',
      text: `Hotter than usual for this day: ${heat}${known}. Be ready to stop`,
      say: 'Hotter than usual.',
    };
  }
}
