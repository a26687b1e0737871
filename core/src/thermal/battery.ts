import { K0 } from '../atmosphere/index.ts';
import { needNumber, numberOr, roundStep } from '../quantity/index.ts';
import type { CrankedAircraft, OilModel } from './model.ts';

/** Kinematic viscosity of the oil, Walther's line through 40 and 100 °C. @throws Refused OUT_OF_DOMAIN */
export function oilViscosity(oil: OilModel, temp_C: number, field = 'temp_C'): { nu_cSt: number } {
  const t = needNumber(temp_C, field, oil.t_domain_C[0], oil.t_domain_C[1], 'OUT_OF_DOMAIN');
  const w = (nu: number): number => Math.log10(Math.log10(nu + 0.7));
  const x = (t_C: number): number => Math.log10(t_C + K0);
  const slope = (w(oil.nu40_cSt) - w(oil.nu100_cSt)) / (x(100) - x(40));
  const log = w(oil.nu40_cSt) - slope * (x(t) - x(40));
  return { nu_cSt: 10 ** (10 ** log) - 0.7 };
}

export interface ColdBattery {
  capacity_Ah: number;
  r_battery_mohm: number;
  voc_V: number;
  oil_nu_cSt: number;
  i_crank_A: number;
  v_crank_V: number;
  v_margin_V: number;
  /** what can be drawn before the volts are too low */
  i_max_A: number;
  starts: number;
  verdict: 'GOOD' | 'MARGINAL' | 'USE_GROUND_POWER';
  display: { v_crank_V: number };
}

const MARGINAL_V = 1.5;
/** Share of the capacity that is spent on starts. */
const SPENT = 0.8;

/** What a battery does at a temperature, charge and age: volts while cranking and starts left in it. */
export function batteryCold(
  aircraft: CrankedAircraft,
  input: { temp_C: number; soc?: number | undefined; r_ratio?: number | undefined; oil_temp_C?: number | undefined },
): ColdBattery {
  const { battery, crank, oil } = aircraft;
  const t = needNumber(input.temp_C, 'temp_C', battery.t_domain_C[0], battery.t_domain_C[1], 'OUT_OF_DOMAIN');
  const soc = numberOr(input.soc, 1, 'soc', 0, 1);
  const ageing = numberOr(input.r_ratio, 1, 'r_ratio', 0.5, 10);
  const oil_nu_cSt = oilViscosity(oil, numberOr(input.oil_temp_C, t, 'oil_temp_C'), 'oil_temp_C').nu_cSt;
  const capacity_Ah = battery.c_ref_Ah * Math.min(1, 1 + battery.lambda_per_C * (t - battery.t_ref_C)) * soc;
  const r_battery_mohm =
    battery.r_ref_mohm * ageing * Math.exp(battery.r_b_K * (1 / (t + K0) - 1 / (battery.t_ref_C + K0)));
  const voc_V = battery.voc_ref_V + battery.voc_coef_V_per_C * (t - battery.t_ref_C) - 2 * (1 - soc);
  const i_crank_A = crank.i_ref_A * (oil_nu_cSt / crank.visc_ref_cSt) ** crank.visc_exp;
  const r_ohm = (r_battery_mohm + battery.r_cable_mohm) / 1000;
  const v_crank_V = Math.max(0, voc_V - i_crank_A * r_ohm);
  const v_margin_V = v_crank_V - battery.vmin_limit_V;
  const verdict = v_margin_V < 0 ? 'USE_GROUND_POWER' : v_margin_V < MARGINAL_V ? 'MARGINAL' : 'GOOD';
  return {
    capacity_Ah,
    r_battery_mohm,
    voc_V,
    oil_nu_cSt,
    i_crank_A,
    v_crank_V,
    v_margin_V,
    i_max_A: (voc_V - battery.vmin_limit_V) / r_ohm,
    starts: verdict === 'USE_GROUND_POWER' ? 0 : Math.floor((SPENT * capacity_Ah * 3600) / crank.charge_per_start_As),
    verdict,
    display: { v_crank_V: roundStep(v_crank_V, 0.1, 'floor') },
  };
}
