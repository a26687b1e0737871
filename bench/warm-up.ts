import { needWatched } from '@rouse/core/aircraft';
import { flyPractice } from '@rouse/core/drill';
import {
  begunAt_s,
  forecastWait,
  itemState,
  type PastWait,
  pastWaitsOf,
  procedureOf,
  reduceRun,
  warmTargets,
} from '@rouse/core/procedure';
import { NormalSource } from '@rouse/core/simulator';
import type { WarmReadings } from '@rouse/core/thermal';
import { columnOf, type Trace } from '@rouse/core/trace';
import { typeOf } from '../core/tests/fleet.ts';
import { type Line, many, share } from './measure.ts';

const DAYS = many(20, 2);
const PAST_NEEDED = many(6, 1);
const AFTER_S = [20, 40, 60, 90];
/** shorter waits are no waits */
const LEAST_LEFT_S = 15;
const FRAMES_A_SECOND = 50;

const TYPES = [
  ['T2', 8],
  ['C5', -16],
  ['S7', -16],
] as const;
/** Days unlike the earlier ones: how far their air lies from it, K, and how much warmer the aircraft begins. */
const UNUSUAL = [
  [-10, 0],
  [16, 0],
  [0, 20],
] as const;

/** Warm-ups of random days, each forecast from its own first minute and the days before it; then days unlike all of them. */
export function warmUp(): Line[] {
  return TYPES.slice(0, many(TYPES.length, 2)).flatMap(([id, mean_C]) => new WarmUps(id, mean_C).lines());
}

/** What was forecast of one wait, s, and what was really left. */
interface Forecast {
  after: number;
  left_s: number;
  seconds: number;
  low: number;
  high: number;
}

/** The warm-ups of one tail, day after day. */
class WarmUps {
  private readonly type;
  private readonly chance = new NormalSource(4);
  private readonly id: string;
  private readonly mean_C: number;
  private past: PastWait[] = [];
  private seed = 1;

  constructor(id: string, mean_C: number) {
    this.id = id;
    this.mean_C = mean_C;
    this.type = needWatched(typeOf(id));
  }

  lines(): Line[] {
    const usual: Forecast[] = [];
    for (let day = 0; day < DAYS; day++) {
      const forecasts = this.fly(this.someAir_C(), 0, true);
      if (day >= PAST_NEEDED) usual.push(...forecasts);
    }
    const unusual = UNUSUAL.slice(0, many(UNUSUAL.length, 1)).flatMap(([off_K, warm_K]) =>
      Array.from({ length: many(8, 1) }, () => this.fly(this.someAir_C() + off_K, warm_K, false)).flat(),
    );
    const held = (of: readonly Forecast[]): number =>
      (100 * of.filter((f) => f.left_s >= f.low && f.left_s <= f.high).length) / of.length;
    return [
      {
        name: `warm-up of ${this.id}, what is left after 60 s, p90 of the error`,
        value: p90(usual, 60),
        unit: '%',
        wanted: 'at most',
        target: 15,
        remark: `p90 after ${AFTER_S.map((s) => `${s} s ${p90(usual, s).toFixed(1)}`).join(', ')}; ${usual.length} forecasts`,
      },
      {
        name: `warm-up of ${this.id}, ranges that hold on days unlike the earlier ones`,
        value: held(unusual),
        unit: '%',
        wanted: 'at least',
        target: 80,
        remark: `${held(usual).toFixed(0)} % on usual days; ${unusual.length} forecasts in colder and warmer air and with a warm aircraft`,
      },
    ];
  }

  private someAir_C(): number {
    return Math.max(this.id === 'T2' ? -2 : -30, this.mean_C + 6 * this.chance.normal());
  }

  private fly(oat: number, warm_K: number, learn: boolean): Forecast[] {
    const { type } = this;
    const start_C = oat + warm_K;
    const conditions = this.id === 'T2'
      ? { env: { oat, dew: oat - 8 }, init: { SOC: 0.9, ...(warm_K > 0 && { Th: start_C + warm_K, To: start_C, Tc: start_C }) } }
      : { env: { oat_c: oat, pa_m: 20, headwind_kt: 8 * this.chance.uniform() }, soc: 0.9, residual_c: oat, oil_temp_c: start_C, mgb_temp_c: start_C }; // oxfmt-ignore
    const run = flyPractice({ type, conditions, faults: [], corridors: {}, seed: this.seed++, limit_s: 1500 });
    const { entries } = run;
    const state = reduceRun(entries);
    const forecasts = procedureOf(type, state)
      .filter((item) => warmTargets(type, item).length > 0 && itemState(state, item.id).status === 'done')
      .flatMap((item) =>
        AFTER_S.flatMap((after): Forecast[] => {
          const from_s = begunAt_s(state, item);
          const left_s = itemState(state, item.id).t_s - from_s - after;
          if (left_s < LEAST_LEFT_S) return [];
          const forecast = forecastWait(type, item, this.past, oat, (c) =>
            readings(run.trace, c, from_s, from_s + after),
          );
          return forecast ? [{ after, left_s, ...forecast }] : [];
        }),
      );
    if (learn) this.past = [...pastWaitsOf(type, entries, run.trace, oat), ...this.past];
    return forecasts;
  }
}

/** Of the errors of forecasts made so long after the beginning, %. */
function p90(forecasts: readonly Forecast[], after: number): number {
  const errors = forecasts.filter((f) => f.after === after).map((f) => Math.abs(f.seconds - f.left_s) / f.left_s);
  return 100 * share(errors, 0.9);
}

/** A reading a second, as the page takes them. */
function readings(trace: Trace, channel: string, from_s: number, to_s: number): WarmReadings {
  const column = columnOf(trace, channel);
  const t_s: number[] = [];
  const values_C: number[] = [];
  for (let i = 0; i < trace.t_s.length; i += FRAMES_A_SECOND) {
    if (trace.t_s[i]! < from_s || trace.t_s[i]! > to_s) continue;
    t_s.push(trace.t_s[i]!);
    values_C.push(column[i]!);
  }
  return { t_s, values_C };
}
