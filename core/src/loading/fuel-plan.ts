import { needNumber, needOption, numberOr, Refused, roundStep } from '../quantity/index.ts';
import type { FuelSystem } from './model.ts';

/** Final reserves by rule, minutes. @source docs/calculations.md, weight and balance */
const RESERVES_min = { '91.151b': 20, '91.167a3': 30 } as const;
export type ReserveRule = keyof typeof RESERVES_min;

/** The ends of the range of densities at 15 °C, kg/L: each is the safe side of something. @source docs/calculations.md */
const DENSITIES_kgL = { turbine: [0.775, 0.84], gasoline: [0.68, 0.76] } as const;

export interface FuelPlan {
  burn_kg: number;
  ground_min: number;
  ramp_mass_fuel_kg: number;
  takeoff_fuel_kg: number;
  usable_takeoff_kg: number;
  reserve_kg: number;
  endurance_to_dry_min: number;
  endurance_to_reserve_min: number;
  status: 'OK' | 'BELOW_RESERVE' | 'NOT_ENOUGH_FOR_GROUND';
  density_assumed: boolean;
  display: { endurance_to_reserve_min: number; burn_kg: number };
}

export interface FuelInput {
  fuel_L?: number | null | undefined;
  fuel_kg?: number | null | undefined;
  density_kgL?: number | null | undefined;
  ground: { phase: string; min: number }[];
  reserve?: string | undefined;
  /** planned cruise flow; the type's own where missing */
  flow_kgph?: number | null | undefined;
}

/**
 * Fuel from the ramp to the reserve. Litres of unknown density are heavy for the mass and light for the endurance.
 * @throws Refused MISSING, INCONSISTENT for litres and kilograms, BAD_OPTION, OUT_OF_RANGE
 */
export function fuelPlan(aircraft: { engines: number; fuel: FuelSystem }, input: FuelInput): FuelPlan {
  const { fuel, engines } = aircraft;
  const rule = needOption(input.reserve ?? '91.151b', Object.keys(RESERVES_min) as ReserveRule[], 'reserve');
  const litres = numberOr(input.fuel_L, null, 'fuel_L', 0, fuel.max_L);
  const kilograms = numberOr(input.fuel_kg, null, 'fuel_kg', 0, 20_000);
  if (litres !== null && kilograms !== null) throw new Refused('INCONSISTENT', 'fuel');
  if (litres === null && kilograms === null) throw new Refused('MISSING', 'fuel');
  const [lightest_kgL, heaviest_kgL] = DENSITIES_kgL[fuel.grade ?? 'turbine'];
  const density = numberOr(input.density_kgL, null, 'density_kgL', lightest_kgL, heaviest_kgL);
  const flow_kgph = numberOr(input.flow_kgph, fuel.flow_kgph.cruise, 'flow_kgph', 1, 5000);
  if (!Array.isArray(input.ground)) throw new Refused('MISSING', 'ground');
  const phases = Object.keys(fuel.flow_kgph) as (keyof FuelSystem['flow_kgph'])[];
  let burn_kg = fuel.start_kg_per_engine * engines;
  let ground_min = 0;
  for (const [i, leg] of input.ground.entries()) {
    const phase = needOption(leg.phase, phases, `ground.${i}.phase`);
    const minutes = needNumber(leg.min, `ground.${i}.min`, 0, 600);
    burn_kg += (fuel.flow_kgph[phase] * minutes) / 60;
    ground_min += minutes;
  }
  const ramp_mass_fuel_kg = kilograms ?? litres! * (density ?? heaviest_kgL);
  const leastAboard_kg = kilograms ?? litres! * (density ?? lightest_kgL);
  const takeoff_fuel_kg = ramp_mass_fuel_kg - burn_kg;
  const usable_takeoff_kg = leastAboard_kg - burn_kg - fuel.unusable_kg;
  const reserve_kg = (RESERVES_min[rule] * Math.max(flow_kgph, fuel.flow_kgph.cruise)) / 60;
  const minutes = (kg: number): number => Math.max(0, (kg / flow_kgph) * 60);
  const endurance_to_reserve_min = minutes(usable_takeoff_kg - reserve_kg);
  return {
    burn_kg,
    ground_min,
    ramp_mass_fuel_kg,
    takeoff_fuel_kg,
    usable_takeoff_kg,
    reserve_kg,
    endurance_to_dry_min: minutes(usable_takeoff_kg),
    endurance_to_reserve_min,
    status: usable_takeoff_kg < 0 ? 'NOT_ENOUGH_FOR_GROUND' : usable_takeoff_kg < reserve_kg ? 'BELOW_RESERVE' : 'OK',
    density_assumed: kilograms === null && density === null,
    display: {
      endurance_to_reserve_min: roundStep(endurance_to_reserve_min, 1, 'floor'),
      burn_kg: roundStep(burn_kg, 1, 'ceil'),
    },
  };
}
