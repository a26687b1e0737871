import { exp, pow } from '../elementary.ts';
import { clip, KELVIN, R_AIR } from '../physics.ts';
import type { PistonControls, PistonFaults } from './controls.ts';
import type { PistonState } from './state.ts';
import { ramp } from './ramp.ts';

const GAMMA = 1.4;
/** Pressure ratio below which the throttle is choked. */
const CHOKED = 0.528;

/** Throttle, manifold and cylinders. @source docs/piston.md 2.3 */
export function breathe(x: PistonState, c: PistonControls, f: PistonFaults, dt: number): void {
  const p = x.p;
  const heat = x.injected || f.carbHeatFail ? 0 : c.carbHeat;
  x.Tin = x.env.oat + heat * (x.Tmuff - x.env.oat);
  const Tm = x.Tin - p.dt_ch_k * Math.min(1, x.phi) + p.k_pick * (x.Th - x.Tin) + KELVIN;
  const open = p.cda_idle_m2 * f.idleAdj + (p.cda_max_m2 - p.cda_idle_m2) * pow(x.th, p.th_exp);
  const A = Math.max(open - p.a_ice_m2_per_g * x.ice, 0.12 * open);
  const K = (0.6847 * A * x.pa) / Math.sqrt(R_AIR * (x.Tin + KELVIN));
  const c1 = p.r_c / (p.r_c - 1) - (GAMMA - 1) / (GAMMA * (p.r_c - 1));
  const c2 = 1 / (GAMMA * (p.r_c - 1));
  const off = x.n - p.etav_n;
  const eta = p.etav0 * (1 - p.etav_k * off * off);
  const B = (eta * p.v_d_m3 * x.we) / (4 * Math.PI) / (R_AIR * Tm);
  let steady = x.pa;
  let tau = 5;
  if (B > 0) {
    steady = x.pa * steadyRatio(c2 / c1, K / (B * c1 * x.pa));
    tau = Math.min(5, p.v_m_m3 / (R_AIR * Tm * B * c1));
  }
  x.pm += (steady - x.pm) * (1 - exp(-dt / tau));
  x.ma = Math.max(0, B * (c1 * x.pm - c2 * x.pa) * (1 - (0.9 * x.ewDew) / x.pa));
}

/** Manifold over ambient pressure at which the cylinders take what the throttle gives. */
function steadyRatio(x0: number, r: number): number {
  const y = x0 + r;
  if (y <= CHOKED) return y;
  const q = (r / 0.472) ** 2;
  const a = 1 + q;
  const b = x0 + CHOKED * q;
  return (b + Math.sqrt(Math.max(0, b * b - a * (x0 * x0 + 0.2788 * q - r * r)))) / a;
}

/** Fuel metered, liquid on the walls, vapour that reaches the cylinders. @source docs/piston.md 2.4 */
export function carburate(x: PistonState, c: PistonControls, f: PistonFaults, dt: number): void {
  const p = x.p;
  const { oat } = x.env;
  const ma = x.ma;
  const gm = c.mix < p.mix0 ? 0 : p.mix_g0 + ((1 - p.mix_g0) * (c.mix - p.mix0)) / (1 - p.mix0);
  x.vlock = 0;
  if (x.injected) x.mf = injected(x, c, f, gm);
  else {
    const s = pow(Math.max(0.3, x.rho / 1.225), -p.alt_en);
    const venturi = (ma * ma) / (ma * ma + p.m_vent_kg_s * p.m_vent_kg_s);
    const warm = Math.sqrt((x.Tin + KELVIN) / (oat + KELVIN));
    x.mf = (p.phi_full * f.mixtureRich * s * warm * gm * venturi * ma) / p.afr;
  }
  if (!c.fuel) x.mf = 0;
  const Tn = x.Tin + 0.25 * (x.Th - x.Tin);
  const xv = clip(p.xv0 + p.xv1_per_k * Tn + (x.injected ? p.xv_inj : 0), 0.03, 0.95);
  let pr = 0;
  if (!x.injected) {
    if (c.primer && c.master && c.fuel && !f.primerFail) pr += p.q_prime_g_s;
    pr += f.primerLeak * ramp(x.pa - x.pm, 2e4, 6e4);
    if (x.u > 0) pr += p.m_acc_g * x.u;
    if (x.Tcb > p.t_perc_c && ma < 0.002) pr += p.perc_g_s;
  }
  const pw = pr > 0.5 ? p.wet_pr * pr : 0;
  const ev = (x.film / (p.tau_e0_s * exp(-(Tn - 15) / p.tau_et_k))) * (0.1 + ma / (ma + 0.004));
  const en = x.film * p.k_ent_per_kg * ma;
  x.film = Math.max(
    0,
    x.film + dt * (1e3 * x.mf * (1 - (xv * ma) / (ma + 0.001)) + pr - pw - ev - en - x.film / p.tau_dr_s),
  );
  const ec = clip(p.ec0 + p.ec1_per_k * x.Th, 0.05, 1);
  const vapour = xv * x.mf + 1e-3 * ((ev * ma) / (ma + 0.002) + ec * en);
  const drying =
    exp(Math.min(x.Th - 15, 150) / 35) / p.tau_w_s + p.k_wpurge_per_kg * ma + p.k_wburn_per_s * x.comp * x.n;
  x.wet = Math.max(0, x.wet + dt * ((1 - ec) * en + pw - x.wet * drying));
  const entering = ma > 2e-4 ? (p.afr * vapour) / ma : 0;
  x.phi += (Math.min(entering, 6) - x.phi) * Math.min(1, dt / (0.1 + 30 / (x.we + 3)));
}

function injected(x: PistonState, c: PistonControls, f: PistonFaults, gm: number): number {
  const p = x.p;
  const onset = p.t_vl_c - 25 * (1 - x.pa / 101325) + p.dt_vlp_k * c.boost;
  x.vlock = ramp(x.Tfl, onset, onset + p.dt_vlw_k);
  const liquid = 1 - x.vlock;
  const metered = (p.phi_full * f.mixtureRich * gm * liquid * x.ma) / p.afr;
  if (gm <= 0 || !c.boost) return metered;
  const share = x.we < 1 ? 1 : x.ma < 0.012 ? 0.35 : 0;
  return Math.max(metered, 1e-3 * p.q_primei_g_s * gm * liquid * share);
}
