import { exp, pow } from '../elementary.ts';
import { clip } from '../physics.ts';
import type { PistonControls, PistonFaults } from './controls.ts';
import type { PistonState } from './state.ts';

/** The contactor stays open this long after it has dropped out. */
const REST_s = 0.15;
const PRIMER_A = 4;
const CHARGING = 0.9;

/** Battery, contactor and starter, alternator, and the actuator that tightens the belts. @source docs/piston.md 2.2 */
export function electrics(x: PistonState, c: PistonControls, f: PistonFaults, dt: number): void {
  const p = x.p;
  const voc = p.ocv0_v + p.ocv1_v * x.SOC;
  const empty = 1 - x.SOC;
  const rb = p.r_b0_ohm * exp(p.k_rbt_per_k * (25 - x.Tbat)) * (1 + p.k_rbs * empty * Math.sqrt(empty)) * f.battR;
  const e = voc - x.vp;
  contactor(x, c, f, voc, dt);
  const act = actuator(x, c, f);
  x.light = c.master > 0 && ((c.clutch > 0 && !x.tensOK) || (!c.clutch && x.x > 0));

  x.Ist = x.Qst = x.Ia = 0;
  if (!c.master) {
    x.V = e;
    x.Ib = 0;
  } else {
    let load = p.i_base_a + (x.injected ? p.i_pump_a * c.boost : 0) + p.i_act_a * Math.abs(act) + PRIMER_A * c.primer;
    let gs = 0;
    let ek = 0;
    let overruns = false;
    if (x.relay) {
      ek = p.k_st_vs_per_rad * x.we + p.v_br_v;
      gs = 1 / p.r_st_ohm;
      x.V = node(e, rb, p.v_reg_v, 0, gs, ek, load, 0);
      if (x.V - ek < 0.6 * p.i_stnl_a * p.r_st_ohm) {
        overruns = true;
        gs = 0;
        load += p.i_stnl_a;
        x.Ist = p.i_stnl_a;
        x.V = node(e, rb, p.v_reg_v, 0, 0, 0, load, 0);
      }
    } else x.V = node(e, rb, p.v_reg_v, 0, 0, 0, load, 0);
    if (c.alt && x.n > p.n_alt0) {
      const most = p.i_alt_a * f.alternator * (1 - exp(-(x.n - p.n_alt0) / p.n_alt1));
      let v2 = node(e, rb, p.v_reg_v, p.g_alt_a_per_v, gs, ek, load, 0);
      x.Ia = p.g_alt_a_per_v * (p.v_reg_v - v2);
      if (x.Ia > most) {
        x.Ia = most;
        v2 = node(e, rb, p.v_reg_v, 0, gs, ek, load, most);
      }
      if (x.Ia > 0) x.V = v2;
      else x.Ia = 0;
    }
    if (x.relay && !overruns) {
      x.Ist = Math.max(0, gs * (x.V - ek));
      x.Qst = p.k_st_vs_per_rad * p.eta_st * x.Ist;
    }
    x.Ib = (e - x.V) / rb;
  }
  x.SOC = clip(x.SOC - ((x.Ib * dt) / 3600 / p.cap_ah) * (x.Ib < 0 ? CHARGING : 1), 0, 1);
  x.vp += ((x.Ib * p.k_pol * rb - x.vp) * dt) / p.tau_pol_s;
  if (c.master) x.x = clip(x.x + ((act * f.actRate) / p.t_act_s) * (x.V / 13) * dt, 0, 1.06);
}

/** Volts of the one node: battery behind its resistance, alternator, starter, loads. */
function node(
  e: number,
  rb: number,
  v_reg: number,
  ga: number,
  gs: number,
  ek: number,
  load: number,
  given: number,
): number {
  return (e + rb * (ga * v_reg + gs * ek - load + given)) / (1 + rb * (ga + gs));
}

function contactor(x: PistonState, c: PistonControls, f: PistonFaults, voc: number, dt: number): void {
  const p = x.p;
  const asked =
    (c.master > 0 && ((c.starter > 0 && c.mags !== 'OFF') || c.mags === 'START') && c.brake < 0.05 && !f.starterOpen) ||
    (f.starterStuck > 0 && x.relay);
  x.relT -= dt;
  if (!x.relay) {
    if (asked && x.relT <= 0 && (x.V === 0 ? voc : x.V) > p.v_pull_v) x.relay = true;
  } else if (!asked || x.V < p.v_drop_v) {
    x.relay = false;
    x.relT = REST_s;
  }
}

/** @returns +1 while it tightens, -1 while it loosens, 0 at rest */
function actuator(x: PistonState, c: PistonControls, f: PistonFaults): number {
  const p = x.p;
  x.fb =
    x.x <= p.x_slack
      ? 0
      : pow((x.x - p.x_slack) / (1 - p.x_slack), p.f_expb) * Math.max(0, 1 - p.k_bexp_per_k * (x.Tblt - 20));
  if (!c.clutch) {
    x.tensOK = false;
    return x.x > 0 && c.master ? -1 : 0;
  }
  if (x.tensOK && x.fb < p.f_low) x.tensOK = false;
  if (x.tensOK) return 0;
  if (x.fb >= p.f_tgt) {
    x.tensOK = true;
    return 0;
  }
  return x.x < Math.min(1.05, f.actStopAt) && c.master ? 1 : 0;
}
