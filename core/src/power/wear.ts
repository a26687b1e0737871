import type { PoweredAircraft } from './model.ts';

/** Margin of an engine that just meets its specification: what is counted on while nothing is known. */
export const JUST_MEETS_C = 0;

/**
 * The aircraft as its weakest engine leaves it: limits of temperature and speed are reached earlier by what the engine has
 * lost against a new one. The speed follows the temperature in the proportion of a new engine to one that just meets its
 * specification. @source docs/calculations.md, power assurance
 * @param margin_C temperature margin of the weaker engine, by the last power assurance or hover check; null where unknown
 */
export function wornBy(aircraft: PoweredAircraft, margin_C: number | null): PoweredAircraft {
  const fresh = aircraft.engine.assurance?.fresh;
  if (!fresh) return aircraft;
  const lost_C = Math.max(0, fresh.tot_margin_C - (margin_C ?? JUST_MEETS_C));
  const wear = { tot_C: lost_C, ng_pct: (lost_C * fresh.ng_margin_pct) / fresh.tot_margin_C };
  return { ...aircraft, engine: { ...aircraft.engine, wear } };
}
