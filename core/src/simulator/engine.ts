import { exp, log, pow, tanh } from './elementary.ts';
import type { TurbineParameters } from '../aircraft/index.ts';
import type { Environment } from './environment.ts';
import { noEngineFaults } from './inputs.ts';
import {
  clip,
  CP_AIR,
  CP_GAS,
  FAR_STOICHIOMETRIC,
  KELVIN,
  LHV_J_KG,
  P_STD_PA,
  pow3_5,
  powMinusQuarter,
  smoothstep,
  T_STD_K,
  viscosityRatio,
} from './physics.ts';
import { turbineConstants } from './turbine-constants.ts';

/** No more than this share of its air can be taken from a turbine. */
const MOST_BLED_frac = 0.45;

/** Bleeds, boost and rotor as one engine sees them at one instant. */
export interface EngineSurroundings {
  boost: number;
  bleed_frac: number;
  /** air that the starters of the engines take from the auxiliary unit */
  bleed_kg_s: number;
  recirc_max: number;
  recirc: number;
  nr: number;
}

/**
 * One gas generator with its power turbine, fuel system, flame, hot section, starter-generator and oil:
 * thirteen states, their rates and their first-order lags (docs/physics.md 7 to 10).
 * Speeds are fractions of 100 %, torque-powers are watts at 100 % speed, temperatures kelvin.
 */
export class Engine {
  readonly p: TurbineParameters;
  readonly faults = noEngineFaults();

  n = 0;
  np = 0;
  Tm: number;
  Ttc: number;
  wf = 0;
  m_man = 0;
  m_pool = 0;
  ign = 0;
  b = 0;
  Toil: number;
  poil = 0;
  dTst = 0;
  sgen = 0;

  lit = false;
  ext_i = 0;
  clutch = true;

  /** commands held between control ticks */
  starter = false;
  spark = false;
  fuelValve = false;
  wf_cmd = 0;
  genOnline = false;
  gen_ovl = 0;
  gen_trip = false;

  /** results of the last evaluation that others read */
  pi = 1;
  q_p = 0;
  q_sh = 0;
  q_self = 0;
  q_f = 0;
  T45: number;
  torch_kg_s = 0;
  starter_a = 0;
  gen_a = 0;

  private mu35 = 1;
  private mu45 = 1;
  private wn = 0;
  private wpool = 0;
  private mcore = 0;
  private d_n = 0;
  private d_Tm = 0;
  private d_Ttc = 0;
  private l_Ttc = 0;
  private d_wf = 0;
  private l_wf = 0;
  private d_man = 0;
  private l_man = 0;
  private d_pool = 0;
  private l_pool = 0;
  private d_ign = 0;
  private l_ign = 0;
  private d_b = 0;
  private l_b = 0;
  private d_oil_K = 0;
  private d_poil = 0;
  private l_poil = 1;
  private d_dTst = 0;
  private d_sgen = 0;

  constructor(p: TurbineParameters, T_oat: number, residual_K: number, oil_K: number) {
    this.p = turbineConstants(p);
    this.Tm = T_oat + (residual_K - T_oat) / p.soak_view;
    this.Ttc = residual_K;
    this.T45 = residual_K;
    this.Toil = oil_K;
    this.refreshViscosity();
  }

  /** Oil viscosity moves slowly: refreshed once a control tick. */
  refreshViscosity(): void {
    const mu = viscosityRatio(this.Toil - KELVIN);
    this.mu35 = pow(mu, 0.35);
    this.mu45 = pow(mu, 0.45);
  }

  /** Rates at the present state, given the bus and the air. Writes no state. */
  evaluate(
    air: Environment,
    around: EngineSurroundings,
    volts: number,
    starter_a: number,
    gen_a: number,
    airStarter_w: number,
  ): void {
    const p = this.p;
    const f = this.faults;
    this.starter_a = starter_a;
    this.gen_a = gen_a;

    const ri =
      ((around.recirc_max * air.tail_m_s) / (air.tail_m_s + 8)) * around.recirc * Math.max(0, 1 - around.nr / 0.45);
    const T_in = air.T_oat + ri * Math.max(0, this.Ttc - air.T_oat);
    const sqrtTheta = Math.sqrt(T_in / T_STD_K);
    const n = this.n;
    const nc = n / sqrtTheta;
    const e1 = 1 - nc;
    const fm = nc * (p.flow_a0 + (1 - p.flow_a0) * nc * nc) * f.comp_flow;
    const ma = ((p.air_flow_ref_kg_s * (air.p_in / P_STD_PA)) / sqrtTheta) * fm;
    const dTc = p.comp_dt_k * n * n;
    const etac = p.comp_eff * (1 - p.comp_eff_drop * e1 * e1) * f.comp_eff;
    const pi = pow3_5(Math.max(0, 1 + (etac * dTc) / T_in));
    this.pi = pi;
    const T3 = T_in + dTc;
    const q_c = ma * CP_AIR * p.comp_dt_k * n;
    const taken = around.bleed_kg_s > 0 ? Math.min(MOST_BLED_frac, around.bleed_kg_s / ma) : 0;
    const beta = f.bleed_stuck + around.bleed_frac + taken;
    const mcore = ma * (1 - beta);
    this.mcore = mcore;

    const weff = this.burn(T_in, air.p_in, around.boost);

    const etab = p.comb_eff * (1 - p.comb_eff_drop * exp(-nc / p.comb_eff_n) * (2 - air.p_in / P_STD_PA));
    const Q = etab * LHV_J_KG * weff;
    const m4 = mcore + weff;
    const C = m4 * CP_GAS + 0.3;
    const z = m4 / p.air_flow_ref_kg_s;
    const hA = p.hot_ha0_w_k + (z > 1e-12 ? p.hot_ha_ref_w_k * exp(0.8 * log(z)) : 0);
    const T4 = (C * T3 + Q + hA * this.Tm) / (C + hA);
    const pit = Math.max(1, (pi * (1 - p.comb_loss * fm * fm) * air.p_in) / air.p_ex);
    const pipt = Math.sqrt((pit * pit + p.stodola_r) / (1 + p.stodola_r));
    const pigt = pit / pipt;
    const etat = p.gt_eff * (1 - p.gt_eff_drop * e1 * e1) * f.turb_eff;
    const P_t = m4 * CP_GAS * T4 * etat * (1 - powMinusQuarter(pigt));
    const q_t = P_t / Math.max(n, 0.004);
    const T45 = T4 - P_t / C;
    this.T45 = T45;
    const dh = CP_GAS * T45 * (1 - powMinusQuarter(pipt));
    this.q_p = m4 * p.pt_eff * p.pt_dh_ref_j_kg * (2 * Math.sqrt(Math.max(0, dh) / p.pt_dh_ref_j_kg) - this.np);

    const q_f = p.fric_coul_w * (n > 0.06 ? 1 : tanh(n / 0.003)) + p.fric_visc_w * this.mu35 * n + f.gg_drag_w;
    this.q_f = q_f;
    const q_s =
      starter_a > 0
        ? (p.starter_ksh + p.starter_kse * starter_a) * starter_a * p.starter_w_ref_rad_s * p.starter_mech_eff
        : 0;
    const q_g = (volts * gen_a) / p.gen_eff / Math.max(n, 0.2);
    this.q_self = q_t - q_c - q_f;
    let q = this.q_self - q_g + q_s + airStarter_w;
    if (n <= 0 && q < 0) q = 0;
    this.d_n = q / (2 * p.gg_ke_ref_j);

    this.hotSection(air.T_oat, hA, T4, T45, m4);
    this.oilAndWinding(air.T_oat, q_f, starter_a, gen_a);
  }

  /** Fuel metering, manifold, pool, ignition and flame. @returns the fuel that burns in the air there is, kg/s */
  private burn(T_in: number, p_in: number, boost: number): number {
    const p = this.p;
    const f = this.faults;
    const mcore = this.mcore;
    let wt = 0;
    let tau = p.fuel_tau_s / 2;
    if (this.fuelValve && !f.fuel_cut) {
      wt = f.wf_stuck_kg_s >= 0 ? f.wf_stuck_kg_s : this.wf_cmd * f.fuel_bias;
      wt = Math.min(wt, p.fuel_pump_cap_kg_s * this.n);
      if (p.boost_needed && !boost) wt *= 0.35;
      tau = p.fuel_tau_s;
    }
    this.l_wf = 1 / tau;
    this.d_wf = (wt - this.wf) / tau;
    const wn = this.wf * smoothstep((this.m_man / p.manifold_kg - 0.7) / 0.3);
    this.wn = wn;
    const draining = wt <= 0;
    this.l_man = draining ? 1 / p.manifold_drain_s : 0;
    this.d_man = this.wf - wn - (draining ? this.m_man / p.manifold_drain_s : 0);

    const cap = FAR_STOICHIOMETRIC * mcore;
    const rpool = 1 / (p.pool_tau_s + this.m_pool / (0.8 * cap + 1e-6));
    const wpool = this.b * this.m_pool * rpool;
    this.wpool = wpool;
    const wburn = this.b * wn + wpool;
    let weff = 0;
    if (wburn >= 1e-9 && cap >= 1e-9) {
      const r = wburn / cap;
      weff = wburn * powMinusQuarter(1 + r * r * r * r);
    }
    this.torch_kg_s = wburn - weff;
    const lev = this.b * rpool + (f.overboard_drain_block ? 0 : (1 - this.b) / p.pool_drain_s);
    this.l_pool = lev;
    this.d_pool = (1 - this.b) * p.pool_wet * wn * (1 - this.m_pool / p.pool_max_kg) - lev * this.m_pool;

    this.l_b = this.lit ? 1 / p.flame_up_s : 1 / p.flame_dn_s;
    this.d_b = this.lit ? (1 - this.b) / p.flame_up_s : -this.b / p.flame_dn_s;

    const phi = mcore < 1e-4 ? 0 : wn / (mcore + 1e-5) / (FAR_STOICHIOMETRIC * p.prim_frac);
    if (this.sparking && this.n > p.ign_n_min && phi > p.phi_lean && phi < p.phi_rich) {
      const off = (phi - p.phi_opt) / p.phi_w;
      let ti = p.ign_tau_s * (1 + off * off) * exp((T_STD_K - T_in) / p.ign_temp_k) * (P_STD_PA / p_in);
      if (this.Tm > 700) ti *= 0.4;
      this.d_ign = 1 / ti;
      this.l_ign = 0;
    } else {
      this.d_ign = -this.ign / 0.5;
      this.l_ign = 2;
    }
    return weff;
  }

  private get sparking(): boolean {
    return this.spark && !this.faults.igniter_fail;
  }

  private hotSection(T_oat: number, hA: number, T4: number, T45: number, m4: number): void {
    const p = this.p;
    this.d_Tm =
      (hA * (T4 - this.Tm) - p.hot_ua_amb_w_k * (this.Tm - T_oat) - p.hot_ua_oil_w_k * (this.Tm - this.Toil)) /
      p.hot_cap_j_k;
    const w = m4 / (m4 + p.soak_flow_frac * p.air_flow_ref_kg_s);
    const T_probe = w * T45 + (1 - w) * (T_oat + p.soak_view * (this.Tm - T_oat));
    const tau = p.tc_tau_ref_s * Math.min(Math.sqrt(p.air_flow_ref_kg_s / (m4 + 1e-6)), p.tc_tau_ratio_max);
    this.l_Ttc = 1 / tau;
    this.d_Ttc = (T_probe - this.Ttc) / tau;
  }

  private oilAndWinding(T_oat: number, q_f: number, starter_a: number, gen_a: number): void {
    const p = this.p;
    const n = this.n;
    let target = 0;
    if (!this.faults.oil_pump_fail) {
      target = p.oil_p_ref_bar * (p.oil_k_visc * this.mu45 * n + (1 - p.oil_k_visc) * n * n);
      if (target > p.oil_p_relief_bar) target = p.oil_p_relief_bar + p.oil_relief_slope * (target - p.oil_p_relief_bar);
      target = Math.min(target, p.oil_p_max_bar);
    }
    const tau = 0.45 * (1 + 0.25 * this.mu35);
    this.l_poil = 1 / tau;
    this.d_poil = (target - this.poil) / tau;
    const U = p.oil_ua_leak_w_k + p.oil_ua_cooler_w_k * smoothstep((this.Toil - KELVIN - p.oil_therm_c) / 18);
    this.d_oil_K =
      (0.8 * q_f * n +
        p.hot_ua_oil_w_k * (this.Tm - this.Toil) * (0.15 + 0.85 * Math.min(1, n / 0.5)) -
        U * (this.Toil - T_oat)) /
      p.oil_cap_j_k;
    const R = p.starter_r_ohm;
    this.d_dTst =
      (starter_a * starter_a * R + 0.25 * gen_a * gen_a * R - p.starter_ua_w_k * this.dTst) / p.starter_heat_cap_j_k;
    this.d_sgen = ((this.genOnline ? 1 : 0) - this.sgen) / 0.4;
  }

  /** One semi-implicit Euler step of everything but the power turbine, then the flame's events. */
  integrate(h: number): void {
    const p = this.p;
    this.n = Math.max(0, this.n + h * this.d_n);
    this.Tm += h * this.d_Tm;
    this.Ttc += (h * this.d_Ttc) / (1 + h * this.l_Ttc);
    this.wf += (h * this.d_wf) / (1 + h * this.l_wf);
    this.m_man = clip(this.m_man + (h * this.d_man) / (1 + h * this.l_man), 0, p.manifold_kg);
    this.m_pool = Math.max(0, this.m_pool + (h * this.d_pool) / (1 + h * this.l_pool));
    this.ign += (h * this.d_ign) / (1 + h * this.l_ign);
    this.b += (h * this.d_b) / (1 + h * this.l_b);
    this.Toil += h * this.d_oil_K;
    this.poil += (h * this.d_poil) / (1 + h * this.l_poil);
    this.dTst += h * this.d_dTst;
    this.sgen += (h * this.d_sgen) / (1 + h * 2.5);
    this.flameEvents(h);
  }

  private flameEvents(h: number): void {
    const p = this.p;
    if (!this.lit) {
      if (this.ign >= 1) {
        this.lit = true;
        this.ign = 0;
      }
      return;
    }
    const den = FAR_STOICHIOMETRIC * p.prim_frac * (this.mcore + 1e-5);
    const phi_lo = (this.wn + this.wpool) / den;
    const phi_hi = this.wn / den;
    let bad = phi_lo < p.phi_ext_lean || (phi_hi > p.phi_ext_rich && this.Tm < 900) || this.n < 0.01;
    if (this.sparking && phi_lo > 0.8 * p.phi_ext_lean && phi_hi < p.phi_ext_rich) bad = false;
    this.ext_i = bad ? this.ext_i + h : Math.max(0, this.ext_i - h);
    if (this.ext_i > p.ext_delay_s) {
      this.lit = false;
      this.ext_i = 0;
    }
  }
}
