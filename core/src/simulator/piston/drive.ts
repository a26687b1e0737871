import { exp, pow } from '../elementary.ts';
import { clip, KELVIN, R_AIR } from '../physics.ts';
import type { PistonControls, PistonFaults } from './controls.ts';
import type { PistonState } from './state.ts';

const FADES_ABOVE_C = 250;
const SLIPPING_Nm = 25;

/** What the rotor takes: air, gears, brake. @source docs/piston.md 2.7 */
export function rotorLoad(x: PistonState, c: PistonControls, f: PistonFaults): void {
  const p = x.p;
  const theta = p.th_min_rad + (p.th_max_rad - p.th_min_rad) * c.col;
  const k = (p.sol * p.a_lift_per_rad) / 2;
  const s = (-k / (2 * Math.SQRT2) + Math.sqrt((k * k) / 8 + (4 * k * theta) / 3)) / 2;
  const ct = s * s;
  const al = (6 * ct) / (p.sol * p.a_lift_per_rad);
  const cp = (p.kap * p.k_ige * s * ct) / Math.SQRT2 + (p.sol / 8) * (p.cd0 + p.cd2_per_rad2 * al * al);
  const rho = (x.pa - 0.378 * x.ewDew) / (R_AIR * (x.env.oat + KELVIN));
  const disc = Math.PI * p.r_rot_m * p.r_rot_m;
  const tip = x.wr * p.r_rot_m;
  const scale = rho * disc * tip * tip;
  x.Qa = p.k_tr * scale * p.r_rot_m * cp;
  x.thrust = scale * ct;
  x.Qv = p.q_rv_nms * x.wr;
  const hot = x.Tbrk > FADES_ABOVE_C ? Math.max(0.35, 1 - (x.Tbrk - FADES_ABOVE_C) / 300) : 1;
  x.Qb = p.q_brk_nm * c.brake * (p.brk_dyn + (1 - p.brk_dyn) * exp(-x.wr / p.w_brk_rad_s)) * hot + f.brakeDrag;
  x.chatter = x.wr > 0.5 ? c.brake * (1 - p.brk_dyn) * ((x.wr * p.g) / p.w_e100_rad_s) : 0;
}

/** Belts and freewheel between crank and rotor, and one non-smooth step of both. @source docs/piston.md 2.8, 2.9 */
export function couple(x: PistonState, _c: PistonControls, f: PistonFaults, dt: number): void {
  const p = x.p;
  const cap = beltCapacity(x, f);
  const hi = f.sprag === 'slip' ? Math.min(cap, SLIPPING_Nm) : cap * f.spragCap;
  const lo =
    f.sprag === 'seized'
      ? -cap
      : f.sprag === 'sticking'
        ? -Math.min(f.stickTorque * x.stick, cap)
        : -Math.min(p.q_ovr_nm, cap);

  const we = x.we;
  const wr = x.wr;
  const Td = x.Tind + x.Qst - x.Talt - x.Tpump;
  const tf = clip(((we + (dt * (Td - x.lam)) / p.j_e_kgm2) * p.j_e_kgm2) / dt, -x.Tfr, x.Tfr);
  const hold = p.q_rc_nm + x.Qb;
  const qd = clip(((wr + (dt * (p.g * x.lam - x.Qa - x.Qv)) / p.i_r_kgm2) * p.i_r_kgm2) / dt, -hold, hold);
  const e = we + (dt * (Td - tf)) / p.j_e_kgm2;
  const r = wr + (dt * (-x.Qa - x.Qv - qd)) / p.i_r_kgm2;
  x.lam = clip((e - p.g * r) / (dt * (1 / p.j_e_kgm2 + (p.g * p.g) / p.i_r_kgm2)), lo, hi);
  x.we = Math.max(0, e - (dt * x.lam) / p.j_e_kgm2);
  x.wr = Math.max(0, r + (dt * p.g * x.lam) / p.i_r_kgm2);
  if (f.sprag === 'sticking') {
    const dragged = x.lam <= lo + 1e-9 && lo < -1;
    x.stick = clip(x.stick + (dragged ? -dt / 6 : dt / 20), 0, 1);
  }
  const meanE = (we + x.we) / 2;
  const meanR = (wr + x.wr) / 2;
  const slipped = x.lam >= 0 ? x.lam * (meanE - p.g * meanR) * dt : 0;
  x.sum_belt += slipped;
  x.ebelt += slipped;
  x.sum_f += tf * meanE * dt;
  x.sum_brake += hold > 0 ? ((qd * x.Qb) / hold) * meanR * dt : 0;
}

/** Torque at the crank that the belts can carry. @source Euler-Eytelwein */
function beltCapacity(x: PistonState, f: PistonFaults): number {
  const p = x.p;
  const F = x.fb * p.f_belt_n * f.tension;
  if (F === 0) return 0;
  const rim = x.we * p.r_sh_m;
  const heat = x.Tblt < p.t_glaze_c ? 1 : Math.max(0.35, 1 - (x.Tblt - p.t_glaze_c) / 120);
  const mf = f.beltMu * heat * (1 - 0.5 * x.glaze);
  return 2 * Math.max(F - p.m_belt_kg_per_m * rim * rim, 0) * pow(x.gripRatio, 1 / Math.max(mf, 0.05)) * p.r_sh_m;
}
