import { exp, pow } from '../elementary.ts';
import { clip, KELVIN } from '../physics.ts';
import type { PistonControls, PistonFaults } from './controls.ts';
import type { PistonState } from './state.ts';
import { ramp } from './ramp.ts';
import { overIce_Pa } from './vapour.ts';

/** Temperatures, oil, ice and plugs move slowly: one step of them in a tenth of a second. */
export const SLOW_s = 0.1;
const VAPOUR_R = 461.5;
const MELT_J_g = 167;
const FUEL_J_kgK = 2200;

/** @source docs/piston.md 2.10 */
export function settleSlow(x: PistonState, c: PistonControls, f: PistonFaults, h: number, steps: number): void {
  const ma = x.sum_ma / steps;
  const mf = x.sum_mf / steps;
  const comp = x.sum_comp / steps;
  heat(x, f, h);
  if (x.injected) fuelLine(x, c, mf, h);
  else carburettor(x, ma, comp, h);
  oil(x, f, h);
  wear(x, h);
  x.sum_qh = x.sum_qo = x.sum_f = x.sum_belt = x.sum_brake = x.sum_starter = x.sum_ib = 0;
  x.sum_ma = x.sum_mf = x.sum_comp = 0;
}

function heat(x: PistonState, f: PistonFaults, h: number): void {
  const p = x.p;
  const { oat } = x.env;
  const n = x.we / p.w_e100_rad_s;
  const sg = x.rho / 1.225;
  const n07 = pow(n, 0.7);
  const sg07 = pow(sg, 0.7);
  const Uh = p.ua_h0_w_per_k + p.ua_h1_w_per_k * pow(n, p.ua_hexp) * pow(sg, p.ua_hexp) * f.coolFan;
  const Qhc = p.g_hc_w_per_k * (x.Th - x.Tc);
  const Qhb = p.g_hb_w_per_k * (x.Th - x.Tb);
  const Qoc = (p.g_oc_w_per_k + p.g_oc1_w_per_k * pow(n, 0.6)) * (x.To - x.Tc);
  const open = p.ua_olk + (1 - p.ua_olk) * clip((x.To - p.t_th0_c) / (p.t_th1_c - p.t_th0_c), 0, 1);
  const Qoa = p.ua_oc_w_per_k * open * n07 * sg07 * f.coolFan * (x.To - oat);
  const Qca = (p.ua_c0_w_per_k + p.ua_c1_w_per_k * n07 * sg07) * (x.Tc - oat);
  const Qba = (p.ua_b0_w_per_k + p.ua_b1_w_per_k * n) * (x.Tb - oat);
  x.Th += (x.sum_qh + p.fr_head * x.sum_f - (Qhc + Qhb + Uh * (x.Th - oat)) * h) / p.c_h_j_per_k;
  x.To += (x.sum_qo + p.fr_oil * x.sum_f - (Qoc + Qoa) * h) / (p.c_o_j_per_k * (1 - 0.7 * f.oilLoss));
  x.Tc += (p.fr_case * x.sum_f + (Qhc + Qoc - Qca) * h) / p.c_c_j_per_k;
  x.Tb += ((Qhb - Qba) * h) / p.c_b_j_per_k;
  const slipping = x.sum_belt > 0 && x.Tblt > p.t_glaze_c;
  x.Tblt += (x.sum_belt - (p.ua_blt0_w_per_k + p.ua_blt1_w_per_k * n) * (x.Tblt - oat) * h) / p.c_belt_j_per_k;
  if (slipping) x.glaze = clip(x.glaze + 0.002 * (x.Tblt - p.t_glaze_c) * h, 0, 1);
  x.Tbrk += (x.sum_brake - p.ua_brk_w_per_k * (x.Tbrk - oat) * h) / p.c_brk_j_per_k;
  x.Tst += (x.sum_starter - p.ua_st_w_per_k * (x.Tst - oat) * h) / p.c_st_j_per_k;
  x.Tbat += (x.sum_ib - p.ua_bat_w_per_k * (x.Tbat - oat) * h) / p.c_bat_j_per_k;
}

function fuelLine(x: PistonState, c: PistonControls, mf: number, h: number): void {
  const p = x.p;
  const purge = mf + (c.boost ? 1e-3 * p.q_purge_g_s : 0);
  x.Tfl += ((p.g_fl_w_per_k * (x.Tb - x.Tfl) - purge * FUEL_J_kgK * (x.Tfl - x.env.oat)) * h) / p.c_fl_j_per_k;
}

/** Body, ice in the throat, and the muff that heats the air. */
function carburettor(x: PistonState, ma: number, comp: number, h: number): void {
  const p = x.p;
  const { oat } = x.env;
  const Ts = throat_C(x, ma);
  const Tx = (Ts + x.Tcb) / 2;
  const before = x.ice;
  if (Tx < 0 && ma > 0.002) {
    let d = (x.ewDew / (VAPOUR_R * (oat + KELVIN)) - overIce_Pa(Tx) / (VAPOUR_R * (Tx + KELVIN))) * 1000;
    if (d < 0) d *= 5 * p.k_subl;
    x.ice += p.k_ice_g_s * pow(ma, 0.35) * d * ramp(Tx, p.t_adh0_c, p.t_adh1_c) * h;
  } else if (Tx > 0) x.ice -= p.k_melt_g_per_s_k * Tx * h;
  x.ice = Math.max(0, x.ice);
  const melted = before - x.ice;
  x.Tcb +=
    (((p.h_cb0_w_per_k + p.h_cb1_ws_per_k_kg * ma) * (Ts - x.Tcb) + p.g_cbb_w_per_k * (x.Tb - x.Tcb)) * h -
      MELT_J_g * melted) /
    p.c_cb_j_per_k;
  x.Tmuff += ((oat + (p.dt_muff_k * ma * comp) / (ma + p.m_muff_kg_s) - x.Tmuff) * h) / p.tau_muff_s;
}

/** Air in the throat of the carburettor: cooled by fuel and by the throttle plate. */
export function throat_C(x: PistonState, ma: number): number {
  const p = x.p;
  return x.Tin - (ma > 0.002 ? p.dt_ev_k * Math.min(1, x.phi) + p.dt_th_k * (1 - x.pm / x.pa) : 0);
}

function oil(x: PistonState, f: PistonFaults, h: number): void {
  const p = x.p;
  const n = x.we / p.w_e100_rad_s;
  const mu = p.mu_a_pas * exp(p.mu_b_k / (x.To + p.mu_c_k));
  const Q = (p.d_oil_m3_per_rad * x.we * f.oilPump * (1 - f.oilLoss)) / (1 + mu / p.mu_suc_pas);
  x.gal = clip(x.gal + h * (Q / p.v_gal_m3 - (n < 0.02 ? 0.0008 : 0)), 0, 1);
  const gl = p.gl0_m3 / mu + p.gl1_m3_per_s_pa;
  let pressure = Q / gl;
  if (pressure > p.p_rel_pa) {
    const gr = p.gr0_m3_per_s_pa * pow(p.mu_ref_pas / mu, p.gr_exp);
    pressure = (Q + gr * p.p_rel_pa) / (gl + gr);
  }
  pressure *= ramp(x.gal, 0.75, 1);
  x.poil += ((pressure - x.poil) * h) / (0.35 + 0.25 * Math.min(mu, 6) + h);
}

/** Plugs burn clean at power and foul when rich and slow; a dead one stays dead. */
function wear(x: PistonState, h: number): void {
  const n = x.we / x.p.w_e100_rad_s;
  const clean = n > 0.7 && x.phi > 0.8 && x.phi < 1.12;
  const foul = n > 0.2 && n < 0.55 ? 4e-5 * Math.max(0, x.phi - 1.15) : 0;
  for (let i = 0; i < x.plugs.length; i++) {
    const q = x.plugs[i]!;
    if (q <= 0.01) continue;
    x.plugs[i] = clip(q + h * ((clean ? (1 - q) / 30 : 0) - foul), 0.02, 1);
  }
}
