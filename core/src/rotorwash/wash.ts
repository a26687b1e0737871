import { airRatios, FT_m, G0 } from '../atmosphere/index.ts';
import { convert, needNumber, numberOr, roundStep } from '../quantity/index.ts';

/** A rotor as far as its wind matters to others. */
export interface WashingAircraft {
  empty_kg: number;
  mtow_kg: number;
  download: number;
  main: { R_m: number; hub_above_skid_m: number };
  /** below this rotor speed, in this wind, the blades of this aircraft can be sailed up */
  blade_sail: { nr_frac_below: number; wind_threshold_kt: number };
}

interface Hover {
  mass_kg: number;
  pa_ft: number;
  oat_C: number;
}

/** @throws Refused OUT_OF_RANGE, OUT_OF_DOMAIN */
function thrustAndAir(aircraft: WashingAircraft, input: Hover): { thrust_N: number; rho: number } {
  const mass = needNumber(input.mass_kg, 'mass_kg', 0.8 * aircraft.empty_kg, 1.5 * aircraft.mtow_kg);
  const pa_ft = needNumber(input.pa_ft, 'pa_ft', -1000, 20_000, 'OUT_OF_DOMAIN');
  const oat_C = needNumber(input.oat_C, 'oat_C', -45, 50, 'OUT_OF_DOMAIN');
  return { thrust_N: mass * G0 * (1 + aircraft.download), rho: airRatios({ pa_ft, oat_C }).rho_kgm3 };
}

export interface Downwash {
  thrust_N: number;
  disc_loading_Nm2: number;
  v_disc_mps: number;
  v_far_mps: number;
  v_far_kt: number;
  dyn_pressure_far_Pa: number;
  display: { v_far_kt: number };
}

/** Ideal downwash: half of its speed at the disc, all of it far below. */
export function downwash(aircraft: WashingAircraft, input: Hover): Downwash {
  const { thrust_N, rho } = thrustAndAir(aircraft, input);
  const area = Math.PI * aircraft.main.R_m ** 2;
  const v_disc_mps = Math.sqrt(thrust_N / (2 * rho * area));
  const v_far_kt = convert(2 * v_disc_mps, 'm/s', 'kt');
  return {
    thrust_N,
    disc_loading_Nm2: thrust_N / area,
    v_disc_mps,
    v_far_mps: 2 * v_disc_mps,
    v_far_kt,
    dyn_pressure_far_Pa: 0.5 * rho * (2 * v_disc_mps) ** 2,
    display: { v_far_kt: roundStep(v_far_kt, 1, 'ceil') },
  };
}

/** The wall jet along the ground. @source docs/calculations.md, rotor wash */
const JET = { strength: 1.32, decay: 1.1, halfHeight: 0.098, spread: 0.9 };
/** Published peaks are up to twice the mean. */
const PEAK_FACTOR = 1.8;
const DEFAULT_SKID_HEIGHT_ft = 5;

interface Jet {
  z_m: number;
  /** U·(r/z)^1.1, m/s */
  u_m: number;
  cap_mps: number;
  peak: number;
}

interface WashInput extends Hover {
  skid_height_ft?: number | null | undefined;
  peak_factor?: number | null | undefined;
}

function jetOf(aircraft: WashingAircraft, input: WashInput): Jet {
  const { thrust_N, rho } = thrustAndAir(aircraft, input);
  const skid_ft = numberOr(input.skid_height_ft, DEFAULT_SKID_HEIGHT_ft, 'skid_height_ft', 0, 10_000);
  const peak = numberOr(input.peak_factor, PEAK_FACTOR, 'peak_factor', 1, 3);
  const z_m = aircraft.main.hub_above_skid_m + skid_ft * FT_m;
  needNumber(z_m / aircraft.main.R_m, 'skid_height_ft', 0.5, 4, 'OUT_OF_DOMAIN');
  const area = Math.PI * aircraft.main.R_m ** 2;
  return {
    z_m,
    u_m: (JET.strength * Math.sqrt(thrust_N / rho)) / z_m,
    cap_mps: 2 * Math.sqrt(thrust_N / (2 * rho * area)),
    peak,
  };
}

export interface Outwash {
  u_mean_mps: number;
  u_mean_kt: number;
  u_peak_mps: number;
  u_peak_kt: number;
  capped: boolean;
  half_height_m: number;
  r_over_R: number;
  display: { u_peak_kt: number };
}

/** Wind along the ground at a distance from a hovering rotor: ± 40 %, no walls, one rotor. @throws OUT_OF_DOMAIN */
export function outwash(
  aircraft: WashingAircraft,
  input: WashInput & { r_m: number; wind_kt?: number | null | undefined },
): Outwash {
  const jet = jetOf(aircraft, input);
  const r_m = needNumber(input.r_m, 'r_m', 1.5 * aircraft.main.R_m, Infinity, 'OUT_OF_DOMAIN');
  const wind_mps = convert(numberOr(input.wind_kt, 0, 'wind_kt', 0, 200), 'kt', 'm/s');
  const free_mps = jet.u_m * (r_m / jet.z_m) ** -JET.decay;
  const u_mean_mps = Math.min(free_mps, jet.cap_mps);
  const u_peak_mps = jet.peak * u_mean_mps + wind_mps;
  const u_peak_kt = convert(u_peak_mps, 'm/s', 'kt');
  return {
    u_mean_mps,
    u_mean_kt: convert(u_mean_mps, 'm/s', 'kt'),
    u_peak_mps,
    u_peak_kt,
    capped: free_mps > jet.cap_mps,
    half_height_m: JET.halfHeight * jet.z_m * (r_m / jet.z_m) ** JET.spread,
    r_over_R: r_m / aircraft.main.R_m,
    display: { u_peak_kt: roundStep(u_peak_kt, 1, 'ceil') },
  };
}

/** Clearance beyond the blade tips, m. */
const TIP_CLEARANCE_m = 3;
const DIAMETERS = 3;
const FARTHEST_m = 300;

export interface Separation {
  /** the neighbour's rotor is slow enough for its blades to be sailed up */
  susceptible: boolean;
  status: 'OK' | 'IMPRACTICAL' | 'AMBIENT_WIND_ALREADY_OVER';
  distance_m: number | null;
  distance_blade_sail_m: number | null;
  reasons: ('BLADE_SAIL_WIND' | 'THREE_ROTOR_DIAMETERS' | 'TIP_CLEARANCE' | 'NEIGHBOUR_ROTOR_FAST')[];
  display?: { distance_m: number };
}

/**
 * Distance to keep from a neighbour whose rotor may be slow: a suggestion, never a clearance.
 * @returns no distance when the wind alone is already too much for the neighbour
 */
export function safeSeparation(
  aircraft: WashingAircraft,
  neighbour: WashingAircraft,
  input: WashInput & { neighbour_nr_frac: number; wind_kt?: number | null | undefined },
): Separation {
  const jet = jetOf(aircraft, input);
  const nr = needNumber(input.neighbour_nr_frac, 'neighbour_nr_frac', 0, 1.2);
  const wind_kt = numberOr(input.wind_kt, 0, 'wind_kt', 0, 200);
  const { nr_frac_below, wind_threshold_kt } = neighbour.blade_sail;
  const susceptible = nr < nr_frac_below;
  const floors = [
    { reason: 'THREE_ROTOR_DIAMETERS' as const, m: DIAMETERS * 2 * aircraft.main.R_m },
    { reason: 'TIP_CLEARANCE' as const, m: aircraft.main.R_m + neighbour.main.R_m + TIP_CLEARANCE_m },
  ];
  if (!susceptible) {
    const [first] = floors.toSorted((a, b) => b.m - a.m);
    const distance_m = first!.m;
    return {
      susceptible,
      status: 'OK',
      distance_m,
      distance_blade_sail_m: null,
      reasons: [first!.reason, 'NEIGHBOUR_ROTOR_FAST'],
      display: { distance_m: roundStep(distance_m, 5, 'ceil') },
    };
  }
  const left_mps = convert(wind_threshold_kt - wind_kt, 'kt', 'm/s');
  if (left_mps <= 0)
    return {
      susceptible,
      status: 'AMBIENT_WIND_ALREADY_OVER',
      distance_m: null,
      distance_blade_sail_m: null,
      reasons: ['BLADE_SAIL_WIND'],
    };
  const r_m = jet.z_m * (left_mps / jet.peak / jet.u_m) ** (-1 / JET.decay);
  const distance_blade_sail_m = Math.max(r_m, 1.5 * aircraft.main.R_m) + neighbour.main.R_m;
  const [first] = [...floors, { reason: 'BLADE_SAIL_WIND' as const, m: distance_blade_sail_m }].toSorted(
    (a, b) => b.m - a.m,
  );
  return {
    susceptible,
    status: first!.m > FARTHEST_m ? 'IMPRACTICAL' : 'OK',
    distance_m: first!.m,
    distance_blade_sail_m,
    reasons: [first!.reason],
    display: { distance_m: roundStep(first!.m, 5, 'ceil') },
  };
}
