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
import type { Line } from './measure.ts';

const DAYS = 20;
const PAST_NEEDED = 6;
const AFTER_S = [20, 40, 60, 90];
/** shorter waits are no waits */
const LEAST_LEFT_S = 15;
const FRAMES_A_SECOND = 50;

/** Warm-ups of random days, each forecast from its own first minute and the days before it. */
export function warmUp(): Line[] {
  return [
    ['T2', 8],
    ['C5', -16],
    ['S7', -16],
  ].map(([id, mean_C]) => forecasts(String(id), Number(mean_C)));
}

function forecasts(id: string, mean_C: number): Line {
  const type = needWatched(typeOf(id));
  const chance = new NormalSource(4);
  let past: PastWait[] = [];
  const errors = new Map(AFTER_S.map((s) => [s, [] as number[]]));
  for (let day = 0; day < DAYS; day++) {
    const oat = Math.max(id === 'T2' ? -2 : -30, mean_C + 6 * chance.normal());
    const conditions = id === 'T2'
      ? { env: { oat, dew: oat - 8 }, init: { SOC: 0.9 } }
      : { env: { oat_c: oat, pa_m: 20, headwind_kt: 8 * chance.uniform() }, soc: 0.9, residual_c: oat, oil_temp_c: oat, mgb_temp_c: oat }; // prettier-ignore
    const run = flyPractice({ type, conditions, faults: [], corridors: {}, seed: day + 1, limit_s: 1500 });
    const { entries } = run;
    const state = reduceRun(entries);
    for (const item of procedureOf(type, state)) {
      if (warmTargets(type, item).length === 0 || itemState(state, item.id).status !== 'done') continue;
      const from_s = begunAt_s(state, item);
      for (const after of AFTER_S) {
        const left_s = itemState(state, item.id).t_s - from_s - after;
        if (left_s < LEAST_LEFT_S || past.length < PAST_NEEDED) continue;
        const forecast = forecastWait(type, item, past, oat, (c) => readings(run.trace, c, from_s, from_s + after));
        if (forecast) errors.get(after)!.push(Math.abs(forecast.seconds - left_s) / left_s);
      }
    }
    past = [...pastWaitsOf(type, entries, run.trace, oat), ...past];
  }
  const p90 = (after: number): number => {
    const sorted = errors.get(after)!.sort((a, b) => a - b);
    return 100 * (sorted[Math.min(sorted.length - 1, Math.floor(0.9 * sorted.length))] ?? NaN);
  };
  return {
    name: `warm-up of ${id}, what is left after 60 s, p90 of the error`,
    value: p90(60),
    unit: '%',
    wanted: 'at most',
    target: 15,
    remark: `p90 after ${AFTER_S.map((s) => `${s} s ${p90(s).toFixed(1)}`).join(', ')}; ${errors.get(60)!.length} waits`,
  };
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
