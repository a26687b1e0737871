import type { Item, TypeFile } from '../aircraft/index.ts';
import { forecastWarmup, type WarmCurve, type WarmForecast, type WarmReadings } from '../thermal/index.ts';
import { columnOf, type Trace } from '../trace/index.ts';
import type { Entry } from './entries.ts';
import { procedureOf } from './list.ts';
import { type PastWait, waitsOf } from './schedule.ts';
import { itemState, reduceRun, type RunState } from './state.ts';
import { warmTargets } from './warm-targets.ts';

const EVERY_S = 5;
const LONGEST_S = 900;

/** When a wait could begin: when the last of what it needs was settled. */
export function begunAt_s(state: RunState, item: Item): number {
  return Math.max(0, ...(item.needs ?? []).map((need) => itemState(state, need).t_s));
}

/**
 * What is left of a warm-up from this run's own readings and the tail's earlier ones; of several temperatures, the one
 * that takes longest.
 * @param readings of one channel since the wait began
 * @returns null for another wait, or when too little is known
 */
export function forecastWait(
  type: TypeFile,
  item: Item,
  past: readonly PastWait[],
  outsideAir_C: number,
  readings: (channel: string) => WarmReadings,
): WarmForecast | null {
  let longest: WarmForecast | null = null;
  for (const { channel, target_C } of warmTargets(type, item)) {
    const curves = past.flatMap((p) =>
      p.item === item.id && p.curves?.[channel] ? [{ ...p.curves[channel], outsideAir_C: p.oat_C }] : [],
    );
    const forecast = forecastWarmup(readings(channel), outsideAir_C, target_C, curves);
    if (!forecast) return null;
    if (!longest || forecast.seconds > longest.seconds) longest = forecast;
  }
  return longest;
}

/** How long each wait of a finished run took, and how its temperatures went: what the next run is forecast by. */
export function pastWaitsOf(
  type: TypeFile,
  entries: readonly Entry[],
  trace: Trace,
  outsideAir_C: number | null,
): PastWait[] {
  const curves = warmCurves(type, entries, trace, outsideAir_C);
  return waitsOf(type, entries, outsideAir_C).map((wait) => ({ ...wait, curves: curves[wait.item] }));
}

/** By item and channel. */
function warmCurves(
  type: TypeFile,
  entries: readonly Entry[],
  trace: Trace,
  outsideAir_C: number | null,
): Record<string, Record<string, WarmCurve>> {
  const out: Record<string, Record<string, WarmCurve>> = {};
  if (outsideAir_C === null) return out;
  const state = reduceRun(entries);
  const leg = (item: Item): Item[] => procedureOf(type, state).filter((i) => i.leg === item.leg);
  for (const item of procedureOf(type, state)) {
    const targets = warmTargets(type, item);
    if (targets.length === 0 || itemState(state, item.id).status !== 'done') continue;
    const from_s = begunAt_s(state, item);
    // the speed is changed when the next leg begins
    const to_s = Math.min(from_s + LONGEST_S, Math.max(...leg(item).map((i) => itemState(state, i.id).t_s)));
    const curves = targets.map(
      ({ channel }) => [channel, curveOf(trace, channel, from_s, to_s, outsideAir_C)] as const,
    );
    out[item.id] = Object.fromEntries(curves.filter(([, c]) => c.rise_K.length > 2));
  }
  return out;
}

function curveOf(trace: Trace, channel: string, from_s: number, to_s: number, outsideAir_C: number): WarmCurve {
  const column = columnOf(trace, channel);
  const rise_K: number[] = [];
  let sum = 0;
  let n = 0;
  for (let i = 0; i < trace.t_s.length && trace.t_s[i]! <= to_s; i++) {
    if (trace.t_s[i]! < from_s) continue;
    if (trace.t_s[i]! >= from_s + EVERY_S * (rise_K.length + 0.5)) {
      if (n === 0) break;
      rise_K.push(Math.round((sum / n - outsideAir_C) * 10) / 10);
      sum = n = 0;
    }
    if (Number.isNaN(column[i]!)) continue;
    sum += column[i]!;
    n++;
  }
  return { every_s: EVERY_S, rise_K };
}
