import { median } from '../statistics/index.ts';
import { type Column, fit } from './regression.ts';

/** What makes one day differ from another, as it stood at a start; null where it is not known. */
export interface DayOfPoint {
  outsideAir_C: number | null;
  pressureAltitude_ft: number | null;
  tailwind_kt: number | null;
  residual_C: number | null;
  crankVolts_V: number | null;
}
export type Circumstance = keyof DayOfPoint;

/** Circumstances in words, and what values are referred to; null: the middle of what was seen. */
export const CIRCUMSTANCES: Readonly<Record<Circumstance, { words: string; unit: string; reference: number | null }>> =
  {
    outsideAir_C: { words: 'outside air', unit: '°C', reference: 15 },
    pressureAltitude_ft: { words: 'pressure altitude', unit: 'ft', reference: 0 },
    tailwind_kt: { words: 'wind from behind', unit: 'kt', reference: 0 },
    residual_C: { words: 'heat left in it', unit: '°C', reference: null },
    crankVolts_V: { words: 'volts while cranking', unit: 'V', reference: null },
  };

/** How much one circumstance moves a figure, by this tail's own starts. */
export interface Correction {
  circumstance: Circumstance;
  slope: number;
  reference: number;
}

/** Below this a slope may be chance, and nothing is taken off for it. @source docs/calculations.md: power assurance and trend, OAT regression */
const SIGNIFICANT_T = 2;
/** for each circumstance so many values at least */
const VALUES_EACH = 4;
/** a circumstance that is known of fewer than this share says nothing */
const KNOWN_SHARE = 0.7;

export interface Corrected {
  values: number[];
  corrections: Correction[];
  /** of the last segment: how fast it moves, per value, over its standard error; 0 when it cannot be told */
  rampT: number;
  /** values that this is left free by the fit */
  freedom: number;
  /** value of the last segment from which it moves, counted from the segment's own first */
  movesFrom: number;
}

/** A drift may begin anywhere in the last segment: after these shares of it are tried. */
const KNOTS = [0, 0.25, 0.5, 0.75];
/** a later beginning must leave so much less behind than a steady slope does */
const BETTER_BY = 0.03;

/**
 * Takes off what the day explains. Each segment (from one maintenance to the next) has its own level and its own slope in
 * the fit, so that a season is not mistaken for wear, nor wear for a season; the last one may begin to move late.
 * @param segments first index of each segment, rising, beginning with 0
 */
export function correctForDay(
  raw: readonly number[],
  days: readonly DayOfPoint[],
  circumstances: readonly Circumstance[],
  segments: readonly number[],
): Corrected {
  const length = raw.length - (segments.at(-1) ?? 0);
  const knots = length < 2 * SLOPED ? [0] : KNOTS.map((share) => Math.round(share * length));
  let best: Fit = { values: [...raw], corrections: [], rampT: 0, freedom: 0, movesFrom: 0, s: Infinity };
  for (const knot of knots) {
    const found = fitFrom(raw, days, circumstances, segments, knot);
    if (found && found.s < best.s * (best.s === Infinity ? 1 : 1 - BETTER_BY)) best = found;
  }
  const { s: _spread, ...corrected } = best;
  return corrected;
}

interface Fit extends Corrected {
  s: number;
}

function fitFrom(
  raw: readonly number[],
  days: readonly DayOfPoint[],
  circumstances: readonly Circumstance[],
  segments: readonly number[],
  knot: number,
): Fit | null {
  const own = segmentColumns(raw.length, segments, knot);
  const room = Math.max(0, Math.floor(raw.length / VALUES_EACH) - own.length);
  let used = circumstances.flatMap((circumstance) => columnOf(circumstance, days)).slice(0, room);
  // whether it moves is asked beside everything that the day could explain: a spring that warms is no wear
  const whole = fit(raw, [...own, ...used.map((u) => u.column)]);
  const wholeT = whole?.t[own.length - 1] ?? 0;
  const freedom = raw.length - own.length - used.length;
  for (let fitted = whole; ; fitted = fit(raw, [...own, ...used.map((u) => u.column)])) {
    if (!fitted) {
      if (used.length === 0) return null;
      used = used.slice(0, -1);
      continue;
    }
    const { t: ts, slopes: all } = fitted;
    const strength = used.map((_, j) => Math.abs(ts[own.length + j]!));
    const weakest = strength.indexOf(Math.min(...strength));
    if (weakest >= 0 && strength[weakest]! < SIGNIFICANT_T) {
      used = used.filter((_, j) => j !== weakest);
      continue;
    }
    const slopes = used.map((_, j) => all[own.length + j]!);
    const t = ts[own.length - 1]!;
    return {
      values: raw.map((v, i) => v - used.reduce((sum, u, j) => sum + slopes[j]! * u.column[i]!, 0)),
      corrections: used.map((u, j) => ({ circumstance: u.circumstance, slope: slopes[j]!, reference: u.reference })),
      rampT: Math.sign(wholeT) === Math.sign(t) ? Math.sign(t) * Math.min(Math.abs(t), Math.abs(wholeT)) : 0,
      freedom,
      movesFrom: knot,
      s: fitted.s,
    };
  }
}

interface Used {
  circumstance: Circumstance;
  reference: number;
  /** distance from the reference; 0 where it is not known */
  column: Column;
}

function columnOf(circumstance: Circumstance, days: readonly DayOfPoint[]): Used[] {
  const values = days.map((d) => d[circumstance]);
  const known = values.filter((v): v is number => v !== null);
  if (known.length < KNOWN_SHARE * days.length || Math.max(...known) - Math.min(...known) < 1e-6) return [];
  const reference = CIRCUMSTANCES[circumstance].reference ?? median(known);
  return [{ circumstance, reference, column: values.map((v) => (v === null ? 0 : v - reference)) }];
}

/** a segment shorter than this has a level, and no slope of its own unless it is the last */
const SLOPED = 8;

/** Levels and slopes of the segments; the slope of the last one stands last, and begins at its knot. */
function segmentColumns(n: number, segments: readonly number[], knot: number): Column[] {
  const columns: Column[] = [];
  const slopes: Column[] = [];
  segments.forEach((from, k) => {
    const to = segments[k + 1] ?? n;
    const last = k === segments.length - 1;
    const begin = last ? from + knot : from;
    const inside = (i: number): boolean => i >= from && i < to;
    columns.push(Array.from({ length: n }, (_, i) => Number(inside(i))));
    if (to - from >= SLOPED || last)
      slopes.push(Array.from({ length: n }, (_, i) => (inside(i) ? Math.max(0, i - begin) / Math.max(1, to - begin) : 0)));
  });
  return [...columns, ...slopes];
} // oxfmt-ignore
