import { airRatios, FT_m, G0, isa, K0 } from '../atmosphere/index.ts';
import { needNumber, numberOr, Refused, roundStep } from '../quantity/index.ts';
import { limitedPower, powerAvailable, type PowerLimiter } from './available.ts';
import {
  type Condition,
  groundOf,
  type Height,
  hoverCondition,
  needMass,
  requiredPower,
  torque_pct,
} from './hover-power.ts';
import type { Air, PoweredAircraft } from './model.ts';

export interface HoverMargin {
  torque_required_pct: number;
  torque_available_pct: number;
  limiter: PowerLimiter;
  margin_pct: number;
  power_margin_frac: number;
  can_hover: boolean;
  display: { margin_pct: number };
}

/** What is left of a rating in the hover; a one-engine rating counts on one engine. Conservative ground effect. */
export function hoverMargin(
  aircraft: PoweredAircraft,
  input: Air & Height & { mass_kg: number; rating: string },
): HoverMargin {
  const mass = needMass(aircraft, input.mass_kg);
  const at = hoverCondition(aircraft, input, input, 'conservative');
  const available = powerAvailable(aircraft, input);
  const { P_shaft_kW } = requiredPower(aircraft, mass, at);
  const torque_required_pct = (torque_pct(aircraft, P_shaft_kW, at.nr) * aircraft.engines) / available.engines;
  const margin_pct = available.torque_limit_pct - torque_required_pct;
  return {
    torque_required_pct,
    torque_available_pct: available.torque_limit_pct,
    limiter: available.limiter,
    margin_pct,
    power_margin_frac: available.P_total_kW / P_shaft_kW - 1,
    can_hover: margin_pct >= 0,
    display: { margin_pct: roundStep(margin_pct, 0.1, 'floor') },
  };
}

export interface MaxHoverMass {
  mass_kg: number;
  limited_by: 'STRUCTURE' | 'BLADE_LOADING' | 'POWER';
  mass_power_kg: number;
  mass_blade_kg: number;
  engine_limiter: PowerLimiter;
  P_total_kW: number;
  ge_model: string;
  display: { mass_kg: number };
}

/**
 * The largest mass that is held, to machine precision, between 0.2 and 2.5 of the greatest permitted one.
 * @param isHeld true up to some mass and false above it
 * @throws Refused NO_SOLUTION
 */
export function greatestMass(mtow_kg: number, isHeld: (mass_kg: number) => boolean): number {
  let low = 0.2 * mtow_kg;
  let high = 2.5 * mtow_kg;
  if (!isHeld(low)) throw new Refused('NO_SOLUTION', 'mass_kg');
  if (isHeld(high)) return high;
  for (let mid = (low + high) / 2; mid > low && mid < high; mid = (low + high) / 2) {
    if (isHeld(mid)) low = mid;
    else high = mid;
  }
  return low;
}

/** The largest mass that a power holds in the hover; power rises strictly with mass. @throws Refused NO_SOLUTION */
export function massHeldBy(aircraft: PoweredAircraft, at: Condition, power_kW: number, margin_frac = 0): number {
  return greatestMass(
    aircraft.mtow_kg,
    (mass) => requiredPower(aircraft, mass, at).P_shaft_kW * (1 + margin_frac) <= power_kW,
  );
}

/** The mass at which the blades are as loaded as they may be. */
function massAtBladeLoading(aircraft: PoweredAircraft, at: Condition): number {
  const { R_m, nb, chord_m, vtip_mps, ct_sigma_max } = aircraft.main;
  const area = nb * chord_m * R_m;
  return (ct_sigma_max * at.rho * area * (vtip_mps * at.nr) ** 2) / (G0 * (1 + aircraft.download));
}

/** The greatest mass in the hover: of structure, blade loading and power the least. Conservative ground effect. */
export function maxHoverMass(
  aircraft: PoweredAircraft,
  input: Air & Height & { rating: string; margin_frac?: number | undefined },
): MaxHoverMass {
  const margin = numberOr(input.margin_frac, 0, 'margin_frac', 0, 0.5);
  const at = hoverCondition(aircraft, input, input, 'conservative');
  const available = powerAvailable(aircraft, input);
  const mass_power_kg = massHeldBy(aircraft, at, available.P_total_kW, margin);
  const mass_blade_kg = massAtBladeLoading(aircraft, at);
  const mass_kg = Math.min(aircraft.mtow_kg, mass_blade_kg, mass_power_kg);
  return {
    mass_kg,
    limited_by: mass_kg === aircraft.mtow_kg ? 'STRUCTURE' : mass_kg === mass_blade_kg ? 'BLADE_LOADING' : 'POWER',
    mass_power_kg,
    mass_blade_kg,
    engine_limiter: available.limiter,
    P_total_kW: available.P_total_kW,
    ge_model: at.z_over_R === null ? 'OGE' : (input.ge_model ?? 'conservative'),
    display: { mass_kg: roundStep(mass_kg, 10, 'floor') },
  };
}

const CEILING_STEP_ft = 100;
const LOWEST_ft = -1000;
const HIGHEST_ft = 20_000;

/**
 * The height up to which the hover is possible everywhere below: the safe reading when capability is not monotone.
 * @returns null with the status when there is none in the range
 */
export function hoverCeiling(
  aircraft: PoweredAircraft,
  input: Height & {
    mass_kg: number;
    isa_dev_C: number;
    rating: string;
    bleed?: string | undefined;
    nr_frac?: number | undefined;
  },
): {
  ceiling_ft: number | null;
  status: 'OK' | 'BELOW_RANGE' | 'ABOVE_RANGE';
  display?: { ceiling_ft: number };
} {
  const mass = needMass(aircraft, input.mass_kg);
  const dev_C = needNumber(input.isa_dev_C, 'isa_dev_C', -60, 60);
  const ground = groundOf(aircraft, input, 'conservative');
  const nr = numberOr(input.nr_frac, 1, 'nr_frac', 0.95, 1.05);
  const { engines } = powerAvailable(aircraft, { ...input, pa_ft: 0, oat_C: 15 });
  const { engine } = aircraft;
  const rating = Object.entries(engine.ratings).find(([id]) => id === input.rating)![1];
  const bleedLoss = engine.bleed_loss[input.bleed ?? 'none']!;
  const deficit = (pa_ft: number): number => {
    const oat_C = isa(pa_ft * FT_m).T_K - K0 + dev_C;
    const rho = airRatios({ pa_ft, oat_C }).rho_kgm3;
    const needed = requiredPower(aircraft, mass, { ...ground, rho, nr, speed_mps: 0, level: false });
    const available = limitedPower(engine, rating, engines, { pa_ft, oat_C, nr, bleedLoss });
    return Math.max(needed.P_shaft_kW / available.P_total_kW - 1, needed.ct_sigma / aircraft.main.ct_sigma_max - 1);
  };
  if (deficit(LOWEST_ft) > 0) return { ceiling_ft: null, status: 'BELOW_RANGE' };
  let low = LOWEST_ft;
  while (low < HIGHEST_ft && deficit(low + CEILING_STEP_ft) <= 0) low += CEILING_STEP_ft;
  if (low >= HIGHEST_ft) return { ceiling_ft: null, status: 'ABOVE_RANGE' };
  let high = low + CEILING_STEP_ft;
  for (let mid = (low + high) / 2; mid > low && mid < high; mid = (low + high) / 2) {
    if (deficit(mid) > 0) high = mid;
    else low = mid;
  }
  return { ceiling_ft: low, status: 'OK', display: { ceiling_ft: roundStep(low, 50, 'floor') } };
}
