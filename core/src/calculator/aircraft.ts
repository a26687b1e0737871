import type { ChartTable } from '../chart/index.ts';
import type { LoadedAircraft } from '../loading/index.ts';
import type { PoweredAircraft } from '../power/index.ts';
import { Refused } from '../quantity/index.ts';
import type { LedgerConfig } from '../ratings/index.ts';
import type { WashingAircraft } from '../rotorwash/index.ts';
import type { CrankedAircraft, WarmupModel } from '../thermal/index.ts';
import type { BandTable } from '../watch/index.ts';
import type { RotorWindLimits } from '../weather/index.ts';

/** Everything that a calculator may ask of an aircraft by name. */
export interface CalculatorAircraft extends PoweredAircraft, LoadedAircraft, CrankedAircraft, WashingAircraft {
  // both calculators name the rotor
  main: PoweredAircraft['main'];
  warmup: WarmupModel;
  rotor_wind_limits_kt: RotorWindLimits;
  charts: Record<string, ChartTable>;
  limits: Record<string, BandTable>;
  rating_ledger: Record<string, LedgerConfig>;
}

export type Input = Record<string, unknown>;

/** Finds the aircraft that an input names. @throws Refused MISSING, UNKNOWN_AIRCRAFT */
export type AircraftOf = (input: Input, field?: string) => CalculatorAircraft;

export function lookupIn(fleet: Readonly<Record<string, CalculatorAircraft>>): AircraftOf {
  return (input, field = 'aircraft') => {
    const name = input[field];
    if (name === undefined || name === null) throw new Refused('MISSING', field);
    const found = typeof name === 'string' && Object.hasOwn(fleet, name) ? fleet[name] : undefined;
    if (!found) throw new Refused('UNKNOWN_AIRCRAFT', field);
    return found;
  };
}
