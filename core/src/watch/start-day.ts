import type { Widening } from '../aircraft/index.ts';
import { median } from '../statistics/index.ts';
import type { StartRecord } from './events.ts';

/** Air that a start is made in, as the brief has it; NaN where it is unknown. */
export interface DayAir {
  pressureAltitude_ft: number;
  /** from behind the tailpipe; from ahead it is negative */
  tailwind_kt: number;
}

export const UNKNOWN_AIR: DayAir = { pressureAltitude_ft: NaN, tailwind_kt: NaN };

/** What makes one start hotter than another without anything being wrong. NaN where it is unknown. */
export interface StartDay extends DayAir {
  outsideAir_C: number;
  residual_C: number;
  /** lowest volts while it cranked */
  crankVolts_V: number;
}

/** The day of a start, from its record. */
export function dayOf(record: StartRecord): StartDay {
  const { outsideAir_C, pressureAltitude_ft, tailwind_kt, residual_C, voltsMin_V } = record;
  return { outsideAir_C, pressureAltitude_ft, tailwind_kt, residual_C, crankVolts_V: voltsMin_V };
}

/** in between it is neither cold nor warm for an engine, °C */
const MILD_C = 12;
/** where the height of the day, or its wind, is not known, so much is thought possible */
const UNKNOWN_FT = 10_000;
const UNKNOWN_KT = 15;

/** less than this is no reason to name */
const WORTH_SAYING_K = 3;

const REASONS = ['colder', 'warmer', 'higher', 'wind from behind', 'heat left', 'fewer volts'] as const;

/** What each circumstance adds to the heat of a good start, K; in the order of the reasons; NaN where unknown, which widens nothing. */
function heatOf(day: StartDay, by: Widening, unknown: { ft: number; kt: number }): number[] {
  const or = (value: number, otherwise: number): number => (Number.isNaN(value) ? otherwise : value);
  const air_C = day.outsideAir_C;
  return [
    Math.max(0, MILD_C - air_C) * by.colder_K,
    Math.max(0, air_C - MILD_C) * by.warmer_K,
    (or(day.pressureAltitude_ft, unknown.ft) / 1000) * by.higher_K,
    Math.max(0, or(day.tailwind_kt, unknown.kt)) * by.tailwind_K,
    Math.max(0, day.residual_C - MILD_C) * by.residual_K,
    -day.crankVolts_V * by.crankVolt_K,
  ];
}

/**
 * How much hotter a good start may be on this day than on the usual one of those that a habit was learned on: a habit
 * keeps the hottest of many days, but never all that is strange about this one together.
 * @returns K, and what is beyond anything learned; nothing for a usual day
 */
export function widenFor(learned: readonly StartDay[], day: StartDay, by: Widening): { by_K: number; why: string[] } {
  const before = learned.map((d) => heatOf(d, by, { ft: 0, kt: 0 }));
  const today = heatOf(day, by, { ft: UNKNOWN_FT, kt: UNKNOWN_KT });
  let by_K = 0;
  const why: string[] = [];
  today.forEach((heat_K, i) => {
    const known = before.map((b) => b[i]!).filter((b) => !Number.isNaN(b));
    if (Number.isNaN(heat_K) || known.length === 0) return;
    by_K += Math.max(0, heat_K - median(known));
    if (heat_K > Math.max(...known) + WORTH_SAYING_K) why.push(REASONS[i]!);
  });
  if (Number.isNaN(day.pressureAltitude_ft)) why.push('height unknown');
  if (Number.isNaN(day.tailwind_kt)) why.push('wind unknown');
  return { by_K, why };
}
