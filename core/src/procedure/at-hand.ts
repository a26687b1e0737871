import type { TypeFile } from '../aircraft/index.ts';
import { densityAltitude } from '../atmosphere/index.ts';
import { chartLimit } from '../chart/index.ts';
import { attempt, isRefusal, roundStep } from '../quantity/index.ts';
import { windComponents } from '../weather/index.ts';
import { readOutsideAir_C } from './air-now.ts';
import { chartAir } from './chart-air.ts';
import type { RunState } from './state.ts';
import { burned_kg } from './weight-now.ts';

/** What a pilot reckons while waiting, as it was entered; null where nobody has said it. */
export interface AtHand {
  pa_ft: number | null;
  oat_C: number | null;
  /** true */
  wind_deg: number | null;
  wind_kt: number | null;
  /** of the nose, magnetic */
  nose_deg: number | null;
  fuel_kg: number | null;
}

/** The same, worked out; null where something is missing, or the figure is refused. */
export interface WorkedOut {
  /** rounded up to tens */
  densityAltitude_ft: number | null;
  headwind_kt: number | null;
  /** from the right; from the left it is negative */
  crosswind_kt: number | null;
  /** limits of the chart in this air, rounded down, in the unit of the type's chart */
  takeOff: number | null;
  continuous: number | null;
  /** minutes of cruise that the fuel is good for, less the unusable, rounded down; nothing is kept back of it */
  cruise_min: number | null;
}

/** This minute's values: the brief's, the gauge where there is one, the fuel less what was burned. */
export function atHandNow(type: TypeFile, state: RunState, values: ArrayLike<number> | null, t_s: number): AtHand {
  const { brief } = state;
  const input = (brief?.input ?? {}) as { wind?: { direction_deg: number | null; speed_kt: number | null }; heading_deg?: number | null }; // oxfmt-ignore
  const gauge_C = readOutsideAir_C(type, values);
  const fuel_kg = brief?.expected.fuel ?? null;
  return {
    // rounded the safe way: higher
    pa_ft: brief?.pa_ft == null ? null : Math.ceil(brief.pa_ft),
    oat_C: Number.isNaN(gauge_C) ? (brief?.oat_C ?? null) : gauge_C,
    wind_deg: input.wind?.direction_deg ?? null,
    wind_kt: input.wind?.speed_kt ?? null,
    nose_deg: input.heading_deg ?? null,
    fuel_kg: fuel_kg === null ? null : Math.max(0, Math.floor(fuel_kg - burned_kg(type, state, t_s))),
  };
}

/** Works them out, each by itself: what one of them lacks says nothing of the others. @param variation_E_deg of the place, null where it is not known @param bleed air that the engine gives away, null where it is not known */
export function workOut(type: TypeFile, at: AtHand, variation_E_deg: number | null, bleed: string | null): WorkedOut {
  const { pa_ft, oat_C, wind_deg, wind_kt, nose_deg, fuel_kg } = at;
  const say = (work: () => number): number | null => {
    const found = attempt(work);
    return isRefusal(found) ? null : found;
  };
  const inAir = <T>(work: (air: { pa_ft: number; oat_C: number }) => T): T | null =>
    pa_ft === null || oat_C === null ? null : work({ pa_ft, oat_C });
  const wind = wind_deg === null || wind_kt === null || nose_deg === null || variation_E_deg === null ? null : attempt(() => windComponents({ wind_dir_deg: wind_deg, speed_kt: wind_kt, heading_deg: nose_deg, heading_ref: 'mag', wind_ref: 'true', variation_E_deg })); // oxfmt-ignore
  const components = wind === null || isRefusal(wind) ? null : wind;
  const { chart } = type.performance;
  const limit = (rating: 'TOP' | 'MCP'): number | null =>
    bleed === null ? null : inAir((air) => say(() => chartLimit({ rating, ...chartAir(type, { ...air, bleed }), tables: { TOP: chart.TOP, MCP: chart.MCP } }).display.limit)); // oxfmt-ignore
  const { cruise, unusable_kg } = { cruise: type.loading.fuel.flow_kgph.cruise, unusable_kg: type.loading.fuel.unusable_kg };
  return {
    densityAltitude_ft: inAir((air) => say(() => roundStep(densityAltitude({ ...air, dew_C: null }).da_ft, 10, 'ceil'))),
    headwind_kt: components && roundStep(components.headwind_kt, 1, 'nearest'),
    crosswind_kt: components && roundStep(components.crosswind_kt, 1, 'nearest'),
    takeOff: limit('TOP'),
    continuous: limit('MCP'),
    cruise_min: fuel_kg === null || !(cruise > 0) ? null : Math.max(0, Math.floor((60 * (fuel_kg - unusable_kg)) / cruise)),
  };
} // oxfmt-ignore
