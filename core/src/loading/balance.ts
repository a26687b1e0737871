import { needNumber, numberOr, Refused } from '../quantity/index.ts';
import type { LoadedAircraft, LoadItem } from './model.ts';
import { type Point, pointInPolygon, widthAt } from './polygon.ts';

export type EnvelopeStatus = 'INSIDE' | 'NEAR_EDGE' | 'OUTSIDE';
const SEVERITY: EnvelopeStatus[] = ['INSIDE', 'NEAR_EDGE', 'OUTSIDE'];
const worst = (a: EnvelopeStatus, b: EnvelopeStatus): EnvelopeStatus =>
  SEVERITY.indexOf(a) >= SEVERITY.indexOf(b) ? a : b;

export interface AxisBalance {
  status: EnvelopeStatus;
  margin_low_m: number | null;
  margin_high_m: number | null;
  margin_top_kg: number;
  margin_bottom_kg: number;
}

export interface BalancePoint {
  fuel_kg: number;
  mass_kg: number;
  cg_long_m: number;
  cg_lat_m: number;
  long: AxisBalance;
  lat: AxisBalance;
  status: EnvelopeStatus;
}

export interface Balance {
  ramp: BalancePoint;
  takeoff: BalancePoint;
  zero_fuel: BalancePoint;
  /** the worst status on the way down to no fuel, and the most fuel at which it is met */
  path_worst: { status: EnvelopeStatus; fuel_kg: number };
  moment_long_kgm: number;
  moment_lat_kgm: number;
}

function axisBalance(
  polygon: readonly Point[],
  cg_m: number,
  mass_kg: number,
  near_m: number,
  near_kg: number,
): AxisBalance {
  const masses = polygon.map((p) => p[1]);
  const margin_top_kg = Math.max(...masses) - mass_kg;
  const width = widthAt(polygon, mass_kg);
  const margin_low_m = width && cg_m - width[0];
  const margin_high_m = width && width[1] - cg_m;
  const outside = pointInPolygon(polygon, cg_m, mass_kg).where === 'outside';
  const near =
    (margin_low_m !== null && margin_low_m < near_m) ||
    (margin_high_m !== null && margin_high_m < near_m) ||
    margin_top_kg < near_kg;
  return {
    status: outside ? 'OUTSIDE' : near ? 'NEAR_EDGE' : 'INSIDE',
    margin_low_m,
    margin_high_m,
    margin_top_kg,
    margin_bottom_kg: mass_kg - Math.min(...masses),
  };
}

/** Arms of a fuel load. @throws Refused OUT_OF_CHART beyond the table */
function fuelArms(table: LoadedAircraft['fuel']['arm_table'], fuel_kg: number): [number, number] {
  const last = table[table.length - 1]!;
  if (fuel_kg < table[0]![0] || fuel_kg > last[0]) throw new Refused('OUT_OF_CHART', 'fuel_kg');
  const i = Math.max(
    1,
    table.findIndex(([kg]) => kg >= fuel_kg),
  );
  const [a, b] = [table[i - 1]!, table[i]!];
  const u = (fuel_kg - a[0]) / (b[0] - a[0]);
  return [a[1] + u * (b[1] - a[1]), a[2] + u * (b[2] - a[2])];
}

/** Steps at which the curved way to no fuel is looked at, kg. */
const STEP_kg = 10;

/**
 * Mass and centre of gravity on the ramp, at take-off and without fuel, against the envelope.
 * @param input.burn_kg fuel used before take-off
 * @throws Refused MISSING, OUT_OF_RANGE, OUT_OF_CHART, INCONSISTENT when more is burnt than aboard, BAD_TABLE
 */
export function weightBalance(
  aircraft: LoadedAircraft,
  input: { items: LoadItem[]; fuel_kg: number; burn_kg?: number | undefined },
): Balance {
  if (!Array.isArray(input.items)) throw new Refused('MISSING', 'items');
  const { basic, envelope, fuel } = aircraft;
  let mass = basic.mass_kg;
  let long = basic.mass_kg * basic.arm_long_m;
  let lat = basic.mass_kg * basic.arm_lat_m;
  for (const [i, item] of input.items.entries()) {
    const kg = needNumber(item.mass_kg, `items.${i}.mass_kg`, 0, 20_000);
    mass += kg;
    long += kg * needNumber(item.arm_long_m, `items.${i}.arm_long_m`, -50, 50);
    lat += kg * needNumber(item.arm_lat_m, `items.${i}.arm_lat_m`, -20, 20);
  }
  const fuel_kg = needNumber(input.fuel_kg, 'fuel_kg', 0, 20_000);
  const burn_kg = numberOr(input.burn_kg, 0, 'burn_kg', 0, 20_000);
  if (burn_kg > fuel_kg) throw new Refused('INCONSISTENT', 'burn_kg');
  const at = (kg: number): BalancePoint & { moments: [number, number] } => {
    const [armLong, armLat] = fuelArms(fuel.arm_table, kg);
    const mass_kg = mass + kg;
    const moments: [number, number] = [long + kg * armLong, lat + kg * armLat];
    const [cg_long_m, cg_lat_m] = [moments[0] / mass_kg, moments[1] / mass_kg];
    const along = axisBalance(envelope.long_poly, cg_long_m, mass_kg, envelope.margin_long_m, envelope.margin_mass_kg);
    const across = axisBalance(envelope.lat_poly, cg_lat_m, mass_kg, envelope.margin_lat_m, envelope.margin_mass_kg);
    const status = worst(along.status, across.status);
    return { fuel_kg: kg, mass_kg, cg_long_m, cg_lat_m, long: along, lat: across, status, moments };
  };
  const { moments, ...ramp } = at(fuel_kg);
  const { moments: _takeoff, ...takeoff } = at(fuel_kg - burn_kg);
  const { moments: _empty, ...zero_fuel } = at(0);
  const steps = Array.from({ length: Math.floor(fuel_kg / STEP_kg) + 1 }, (_, i) => i * STEP_kg);
  const knots = fuel.arm_table.map(([kg]) => kg).filter((kg) => kg < fuel_kg);
  const path_worst = { status: ramp.status, fuel_kg };
  for (const kg of [...steps, ...knots].toSorted((a, b) => b - a)) {
    const { status } = at(kg);
    if (SEVERITY.indexOf(status) > SEVERITY.indexOf(path_worst.status))
      Object.assign(path_worst, { status, fuel_kg: kg });
  }
  return {
    ramp,
    takeoff,
    zero_fuel,
    path_worst,
    moment_long_kgm: moments[0],
    moment_lat_kgm: moments[1],
  };
}
