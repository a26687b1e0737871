import { pistonOf, poweredOf, type TypeFile } from '../aircraft/index.ts';
import { chartLimit } from '../chart/index.ts';
import { hoverMargin, LOW_HOVER_ft, pistonHover } from '../power/index.ts';
import { attempt, isRefusal, Refused, roundStep } from '../quantity/index.ts';
import { outsideAirNow_C } from './air-now.ts';
import { chartAir } from './chart-air.ts';
import type { RunState } from './state.ts';
import { massNow_kg } from './weight-now.ts';

/** One hover against its limit, in the unit of the type's chart. */
export interface HoverFigure {
  required: number;
  available: number;
  margin: number;
  limitedBy: string;
}

/** What a hover takes at a weight in this air, and what is left of take-off power; rounded the safe way. @throws Refused */
export function hoverAgainstLimit(
  type: TypeFile,
  mass_kg: number,
  air: { pa_ft: number; oat_C: number; bleed: string },
  skid_height_ft: number | null,
): HoverFigure {
  const powered = poweredOf(type);
  if (powered) {
    const m = hoverMargin(powered, { ...air, mass_kg, skid_height_ft, rating: 'TOP' });
    return {
      required: roundStep(m.torque_required_pct, 0.1, 'ceil'),
      available: roundStep(m.torque_available_pct, 0.1, 'floor'),
      margin: m.display.margin_pct,
      limitedBy: LIMITERS[m.limiter],
    };
  }
  const piston = pistonOf(type);
  if (!piston) throw new Refused('MISSING', 'hover');
  const m = pistonHover(piston, { ...air, mass_kg, skid_height_ft });
  return {
    required: m.display.required_inHg,
    available: roundStep(m.available_inHg, 0.1, 'floor'),
    margin: m.display.margin_inHg,
    limitedBy: m.limiter === 'CHART' ? 'the chart' : 'full throttle',
  };
}

const LIMITERS = { TORQUE: 'the transmission', TEMPERATURE: 'gas temperature', NG: 'gas-producer speed' } as const;

/** The limits and the hover of this minute. */
export interface PowerNow {
  mass_kg: number;
  pa_ft: number;
  oat_C: number;
  bleed: string;
  unit: string;
  quantity: string;
  takeOff: number;
  continuous: number;
  low: HoverFigure;
  high: HoverFigure;
}

/**
 * What is known of the power of this minute.
 * @param values the latest frame for the air of this minute, or null when there is no data
 * @returns in words why nothing is known, where that is so: never a guess
 */
export function powerNow(
  type: TypeFile,
  state: RunState,
  values: ArrayLike<number> | null,
  t_s: number,
): PowerNow | { unknown: string } {
  const { brief } = state;
  const mass_kg = massNow_kg(type, state, t_s);
  if (brief?.pa_ft == null) return { unknown: 'the brief has no pressure' };
  if (brief.oat_C === null) return { unknown: 'the brief has no outside temperature' };
  if (mass_kg === null) return { unknown: 'the brief has no weight' };
  const oat_C = outsideAirNow_C(type, brief.oat_C, values);
  const air = chartAir(type, { pa_ft: brief.pa_ft, oat_C, bleed: brief.bleed ?? 'none' });
  const { chart } = type.performance;
  const tables = { TOP: chart.TOP, MCP: chart.MCP };
  const found = attempt((): PowerNow => ({
    ...air,
    mass_kg,
    unit: chart.unit,
    quantity: chart.quantity,
    takeOff: chartLimit({ rating: 'TOP', ...air, tables }).display.limit,
    continuous: chartLimit({ rating: 'MCP', ...air, tables }).display.limit,
    low: hoverAgainstLimit(type, mass_kg, air, LOW_HOVER_ft),
    high: hoverAgainstLimit(type, mass_kg, air, null),
  }));
  if (!isRefusal(found)) return found as PowerNow;
  if (found.field !== 'hover') return { unknown: `outside what the charts say (${found.field})` };
  const most = attempt(() => chartLimit({ rating: 'TOP', ...air, tables }).display.limit);
  const charted = isRefusal(most) ? '' : `; take-off power is at most ${most as number} ${chart.unit}`;
  return { unknown: `what a hover takes is not written in this type${charted}` };
}

/** The power of this minute as a pilot would say it, and whether a hover is left; null where nothing is known. */
export function sayPower(now: PowerNow | { unknown: string }): { words: string; hovers: boolean | null } {
  if ('unknown' in now) return { words: `unknown: ${now.unknown}`, hovers: null };
  const { low, high, unit } = now;
  const left = (h: HoverFigure): string => `${h.margin.toFixed(1)} ${unit} ${h.margin < 0 ? 'short' : 'left'}`;
  const limit = `${high.limitedBy} limits`;
  if (low.margin < 0) return { words: `no hover in ground effect: ${left(low)}, ${limit}`, hovers: false };
  if (high.margin < 0)
    return { words: `in ground effect only: ${left(low)} there, ${left(high)} above it, ${limit}`, hovers: true };
  return { words: `${left(high)} out of ground effect, ${left(low)} in it, ${limit}`, hovers: true };
}
