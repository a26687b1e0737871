import { median } from '../statistics/index.ts';

/** How one warm-up went, as the rise over the outside air at even times from its beginning. */
export interface WarmCurve {
  every_s: number;
  rise_K: readonly number[];
}

/** A warm-up of another day, and the air of that day where it is known. */
export interface PastWarmup extends WarmCurve {
  outsideAir_C: number | null;
}

/** What is left of a warm-up, with the range that earlier ones of the same tail leave open. */
export interface WarmForecast {
  seconds: number;
  low: number;
  high: number;
  /** how many earlier warm-ups it stands on */
  curves: number;
}

/** Readings of this run, evenly enough spaced, from when the wait began. */
export interface WarmReadings {
  t_s: readonly number[];
  values_C: readonly number[];
}

/** Seconds of own readings before a pace is taken from them. */
const OWN_FROM_S = 20;
/** The pace of today against an earlier day is believed in this range. */
const PACE: readonly [number, number] = [0.5, 2];
/** How much of today's pace is taken over, when it has been seen for a minute. */
const FULL_AFTER_S = 60;
/** Even earlier warm-ups that agree leave this open. */
const LEAST_SPREAD = 0.06;
/** What a day in other air adds to the spread of a warm-up that is carried over from it, by K. */
export const OTHER_AIR = 0.007;
/** What a warm-up that began so much warmer or colder over its air adds, by K. */
const OTHER_START = 0.008;
/** What is added while today's pace is not known yet. */
const PACE_UNKNOWN = 0.08;
/** beyond its end a curve goes on with its last slope, less this share of it a minute: warming slows down */
const SLOWING_PER_MIN = 0.12;

/**
 * Time until a temperature reaches its target, from how this tail warmed up before: each earlier curve is entered at the
 * present rise over the outside air and followed to the target, at the pace that this run has shown so far.
 * @returns null without readings or curves, or when no curve gets there
 */
export function forecastWarmup(
  readings: WarmReadings,
  outsideAir_C: number,
  target_C: number,
  curves: readonly PastWarmup[],
): WarmForecast | null {
  const own = recent(readings);
  if (!own || Number.isNaN(outsideAir_C)) return null;
  const now_K = own.value_C - outsideAir_C;
  const target_K = target_C - outsideAir_C;
  if (own.value_C >= target_C) return { seconds: 0, low: 0, high: 0, curves: curves.length };
  const left: number[] = [];
  const unlike: number[] = [];
  for (const curve of curves) {
    const at_s = timeAt(curve, now_K);
    const there_s = timeAt(curve, target_K);
    if (at_s === null || there_s === null) continue;
    unlike.push(unlikenessOf(curve, own, outsideAir_C));
    left.push(Math.max(0, (there_s - at_s) / paceOf(curve, own, outsideAir_C, at_s) - own.age_s));
  }
  if (left.length === 0) return null;
  left.sort((a, b) => a - b);
  const seconds = median(left);
  const unknown = PACE_UNKNOWN * Math.max(0, 1 - own.span_s / FULL_AFTER_S);
  const reach = Math.max((LEAST_SPREAD + median(unlike) + unknown) * seconds, 1);
  return {
    seconds,
    low: Math.max(0, Math.min(left[Math.floor(0.1 * left.length)]!, seconds - reach)),
    high: Math.max(left[Math.ceil(0.9 * left.length) - 1]!, seconds + reach),
    curves: left.length,
  };
}

/** How much wider the range must be for a curve of another kind of day. */
function unlikenessOf(curve: PastWarmup, own: Own, outsideAir_C: number): number {
  const air_K = curve.outsideAir_C === null ? 0 : Math.abs(outsideAir_C - curve.outsideAir_C);
  const start_K = Math.abs(own.from_C - outsideAir_C - curve.rise_K[0]!);
  return OTHER_AIR * air_K + OTHER_START * start_K;
}

/**
 * How long a warm-up like that of another day takes in other air, from the rise with which that one began to the target.
 * @returns null when the curve does not get there
 */
export function warmupIn(curve: WarmCurve, outsideAir_C: number, target_C: number): number | null {
  const there_s = timeAt(curve, target_C - outsideAir_C);
  return there_s === null ? null : Math.max(0, there_s);
}

interface Own {
  from_s: number;
  from_C: number;
  span_s: number;
  value_C: number;
  /** how old the smoothed last reading is */
  age_s: number;
}

/** The first and the last readings, smoothed over a few seconds. */
function recent({ t_s, values_C }: WarmReadings): Own | null {
  const known = values_C.flatMap((v, i) => (Number.isNaN(v) ? [] : [[t_s[i]!, v] as const]));
  const last = known[known.length - 1];
  if (!last) return null;
  const mean = (rows: readonly (readonly [number, number])[]): [number, number] => [
    rows.reduce((s, [t]) => s + t, 0) / rows.length,
    rows.reduce((s, [, v]) => s + v, 0) / rows.length,
  ];
  const [from_s, from_C] = mean(known.filter(([t]) => t <= known[0]![0] + 4));
  const [to_s, value_C] = mean(known.filter(([t]) => t >= last[0] - 4));
  return { from_s, from_C, span_s: to_s - from_s, value_C, age_s: last[0] - to_s };
}

/** How much faster than on that day it has warmed so far: taken over as it is seen for longer. */
function paceOf(curve: WarmCurve, own: Own, outsideAir_C: number, at_s: number): number {
  if (own.span_s < OWN_FROM_S) return 1;
  const then_s = timeAt(curve, own.from_C - outsideAir_C);
  const took_s = then_s === null ? NaN : at_s - then_s;
  if (!(took_s > 0)) return 1;
  const pace = Math.min(PACE[1], Math.max(PACE[0], took_s / own.span_s));
  return pace ** Math.min(1, own.span_s / FULL_AFTER_S);
}

/** When a curve has risen so far; before its beginning it is its beginning, beyond its end it goes on ever more slowly. */
function timeAt({ every_s, rise_K }: WarmCurve, rise: number): number | null {
  if (rise_K.length < 3) return null;
  if (rise <= rise_K[0]!) return extrapolateBack(every_s, rise_K, rise);
  for (let i = 1; i < rise_K.length; i++)
    if (rise_K[i]! >= rise) {
      const [a, b] = [rise_K[i - 1]!, rise_K[i]!];
      return every_s * (i - 1 + (b > a ? (rise - a) / (b - a) : 0));
    }
  const last = rise_K.length - 1;
  const back = Math.max(0, last - Math.round(30 / every_s));
  let slope_K_s = (rise_K[last]! - rise_K[back]!) / ((last - back) * every_s);
  let at = rise_K[last]!;
  for (let t_s = last * every_s; slope_K_s > 1e-3; t_s += every_s) {
    if (at + slope_K_s * every_s >= rise) return t_s + (rise - at) / slope_K_s;
    at += slope_K_s * every_s;
    slope_K_s *= 1 - (SLOWING_PER_MIN * every_s) / 60;
  }
  return null;
}

function extrapolateBack(every_s: number, rise_K: readonly number[], rise: number): number {
  const slope_K_s = (rise_K[2]! - rise_K[0]!) / (2 * every_s);
  return slope_K_s > 1e-3 ? (rise - rise_K[0]!) / slope_K_s : 0;
}
