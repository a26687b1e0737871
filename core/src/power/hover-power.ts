import { airRatios, FT_m, G0 } from '../atmosphere/index.ts';
import { convert, needNumber, needOption, numberOr, Refused, roundStep } from '../quantity/index.ts';
import type { Air, HoverModel, PoweredAircraft } from './model.ts';

const GROUND_EFFECT_MODELS = ['hayden', 'cb', 'conservative'] as const;
export type GroundEffectModel = (typeof GROUND_EFFECT_MODELS)[number];

/** Beyond this many radii the ground is not felt. */
const OUT_OF_GROUND_EFFECT = 2;

/**
 * Share of the induced power that remains above a hard level surface, at constant thrust.
 * @param model hayden is the best estimate; conservative is the smaller benefit of the two, for every limit
 * @throws Refused OUT_OF_DOMAIN below half a radius
 */
export function groundEffect(z_over_R: number, model: string): { k_induced: number; thrust_ratio: number } {
  const chosen = needOption(model, GROUND_EFFECT_MODELS, 'model');
  needNumber(z_over_R, 'z_over_R', 0.5, Infinity, 'OUT_OF_DOMAIN');
  const hayden = Math.min(1, 1 / (0.9926 + 0.0379 * (2 / z_over_R) ** 2));
  const cheeseman = 1 - (1 / (4 * z_over_R)) ** 2;
  const k_induced =
    z_over_R >= OUT_OF_GROUND_EFFECT
      ? 1
      : chosen === 'hayden'
        ? hayden
        : chosen === 'cb'
          ? cheeseman
          : Math.max(hayden, cheeseman);
  return { k_induced, thrust_ratio: k_induced ** (-2 / 3) };
}

/** Height above the ground: of the skids, null for out of ground effect. */
export interface Height {
  skid_height_ft?: number | null | undefined;
  ge_model?: GroundEffectModel | undefined;
}

export interface HoverPower {
  thrust_N: number;
  disc_area_m2: number;
  solidity: number;
  vh_mps: number;
  kg: number;
  kw: number;
  P_induced_kW: number;
  P_profile_kW: number;
  P_parasite_kW: number;
  P_main_kW: number;
  torque_main_Nm: number;
  P_tail_kW: number;
  P_shaft_kW: number;
  ct_sigma: number;
  fom: number | null;
  rho: number;
  z_over_R: number | null;
}

/** A flight condition with everything checked: density, rotor speed, forward speed, ground. */
export interface Condition {
  rho: number;
  nr: number;
  /** along the nose, m/s; the whole speed in level flight */
  speed_mps: number;
  /** null out of ground effect */
  z_over_R: number | null;
  kg: number;
  /** level flight pays for parasite drag and for blades that meet the air faster; a hover in wind does not */
  level: boolean;
}

const disc = (R_m: number): number => Math.PI * R_m ** 2;
const solidityOf = (rotor: { nb: number; chord_m: number; R_m: number }): number =>
  (rotor.nb * rotor.chord_m) / (Math.PI * rotor.R_m);

/** Glauert's edgewise inflow: what forward speed leaves of the induced power. */
function inflow(mu: number): number {
  return Math.sqrt(-(mu ** 2) / 2 + Math.sqrt(mu ** 4 / 4 + 1));
}

/** Power that a hover or level flight takes, momentum theory with blade drag. @source docs/calculations.md, hover */
export function requiredPower(model: HoverModel, mass_kg: number, at: Condition): HoverPower {
  const { main, tail } = model;
  const { rho, nr, kg } = at;
  const A = disc(main.R_m);
  const solidity = solidityOf(main);
  const vtip = main.vtip_mps * nr;
  const thrust_N = mass_kg * G0 * (1 + model.download);
  const vh_mps = Math.sqrt(thrust_N / (2 * rho * A));
  const kw = at.speed_mps === 0 ? 1 : inflow(at.speed_mps / vh_mps);
  const induced = main.kappa * kg * kw * thrust_N * vh_mps;
  const advance = at.level ? at.speed_mps / vtip : 0;
  const profile = ((rho * A * vtip ** 3 * solidity * main.cd0) / 8) * (1 + 4.65 * advance ** 2);
  const parasite = at.level ? 0.5 * rho * at.speed_mps ** 3 * model.flatplate_m2 : 0;
  const mainPower = induced + profile + parasite;
  const torque_main_Nm = (mainPower * main.R_m) / vtip;
  const tailThrust = (torque_main_Nm / tail.arm_m) * (1 + tail.blockage);
  const tailDisc = disc(tail.R_m);
  const tailPower =
    (tail.kappa * tailThrust ** 1.5) / Math.sqrt(2 * rho * tailDisc) +
    (rho * tailDisc * (tail.vtip_mps * nr) ** 3 * solidityOf(tail) * tail.cd0) / 8;
  return {
    thrust_N,
    disc_area_m2: A,
    solidity,
    vh_mps,
    kg,
    kw,
    P_induced_kW: induced / 1000,
    P_profile_kW: profile / 1000,
    P_parasite_kW: parasite / 1000,
    P_main_kW: mainPower / 1000,
    torque_main_Nm,
    P_tail_kW: tailPower / 1000,
    P_shaft_kW: (mainPower + tailPower) / model.eta / 1000 + model.accessory_kW,
    ct_sigma: thrust_N / (rho * A * vtip ** 2 * solidity),
    fom: kg === 1 && at.speed_mps === 0 ? (thrust_N * vh_mps) / mainPower : null,
    rho,
    z_over_R: at.z_over_R,
  };
}

/** Checks the air and the height of a hover. @throws Refused OUT_OF_DOMAIN, OUT_OF_RANGE */
export function hoverCondition(
  model: HoverModel,
  air: Air,
  height: Height,
  usualModel: GroundEffectModel,
  headwind_kt = 0,
): Condition {
  const pa_ft = needNumber(air.pa_ft, 'pa_ft', -1000, 20_000, 'OUT_OF_DOMAIN');
  const oat_C = needNumber(air.oat_C, 'oat_C', -45, 50, 'OUT_OF_DOMAIN');
  const nr = numberOr(air.nr_frac, 1, 'nr_frac', 0.95, 1.05);
  const speed_kt = needNumber(headwind_kt, 'headwind_kt', 0, 60);
  return {
    ...groundOf(model, height, usualModel),
    rho: airRatios({ pa_ft, oat_C }).rho_kgm3,
    nr,
    speed_mps: convert(speed_kt, 'kt', 'm/s'),
    level: false,
  };
}

/** Where the rotor is above the ground, and what that leaves of the induced power. @throws Refused OUT_OF_DOMAIN */
export function groundOf(
  model: HoverModel,
  height: Height,
  usualModel: GroundEffectModel,
): { z_over_R: number | null; kg: number } {
  const skid_ft = numberOr(height.skid_height_ft, null, 'skid_height_ft', 0, 10_000);
  if (skid_ft === null) return { z_over_R: null, kg: 1 };
  const z_over_R = (model.main.hub_above_skid_m + skid_ft * FT_m) / model.main.R_m;
  if (z_over_R < 0.5) throw new Refused('OUT_OF_DOMAIN', 'skid_height_ft');
  return { z_over_R, kg: groundEffect(z_over_R, height.ge_model ?? usualModel).k_induced };
}

/** The mass that the calculators take: 0.8 of the empty mass to 1.5 of the greatest. @throws Refused OUT_OF_RANGE */
export function needMass(aircraft: { empty_kg: number; mtow_kg: number }, mass_kg: unknown): number {
  return needNumber(mass_kg, 'mass_kg', 0.8 * aircraft.empty_kg, 1.5 * aircraft.mtow_kg);
}

/** Torque each engine shows for a shaft power, %. */
export function torque_pct(aircraft: PoweredAircraft, shaft_kW: number, nr: number): number {
  return (100 * shaft_kW) / (aircraft.engines * aircraft.engine.p100_kW * nr);
}

/** Power and torque of a hover, best estimate of the ground effect (calculator `hover_power`). */
export function hoverPower(
  aircraft: PoweredAircraft,
  input: Air & Height & { mass_kg: number; headwind_kt?: number | undefined },
): HoverPower & { torque_pct: number; warnings: 'BLADE_LOADING'[]; display: { torque_pct: number } } {
  const mass = needMass(aircraft, input.mass_kg);
  const at = hoverCondition(aircraft, input, input, 'hayden', input.headwind_kt);
  const power = requiredPower(aircraft, mass, at);
  const torque = torque_pct(aircraft, power.P_shaft_kW, at.nr);
  return {
    ...power,
    torque_pct: torque,
    warnings: power.ct_sigma > aircraft.main.ct_sigma_max ? ['BLADE_LOADING'] : [],
    display: { torque_pct: roundStep(torque, 0.1, 'ceil') },
  };
}
