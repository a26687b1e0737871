import { pow, tanh } from './elementary.ts';
import type { RotorParameters } from '../aircraft/index.ts';
import type { Engine } from './engine.ts';
import type { Environment } from './environment.ts';
import { clip, GRAVITY_M_S2, KELVIN, smoothstep, viscosityRatio } from './physics.ts';

/** Rotor, freewheels, gearbox oil, hydraulics and the vertical motion of the aircraft (docs/physics.md 11 to 13). */
export class Rotor {
  readonly p: RotorParameters;
  mass_kg: number;

  nr = 0;
  vi = 0;
  h_m = 0;
  vz = 0;
  c = 0;
  Tmgb: number;
  pmgb = 0;
  hyd1 = 0;
  hyd2 = 0;

  d_nr = 0;
  Fz = 0;

  private mu35 = 1;
  private mu45 = 1;
  private d_vi = 0;
  private d_vz = 0;
  private l_vz = 0;
  private d_h = 0;
  private d_c = 0;
  private d_Tmgb = 0;
  private d_pmgb = 0;
  private d_hyd1 = 0;
  private d_hyd2 = 0;

  constructor(p: RotorParameters, mass_kg: number, height_m: number, coll: number, gearbox_K: number) {
    this.p = p;
    this.mass_kg = mass_kg;
    this.h_m = height_m;
    this.c = coll;
    this.Tmgb = gearbox_K;
    this.refreshViscosity();
  }

  refreshViscosity(): void {
    const mu = viscosityRatio(this.Tmgb - KELVIN);
    this.mu35 = pow(mu, 0.35);
    this.mu45 = pow(mu, 0.45);
  }

  evaluate(
    air: Environment,
    engines: readonly Engine[],
    coll: number,
    brake: number,
    hydTest: number,
    hyd1Fail: number,
    hyd2Fail: number,
    pumpFail: number,
  ): void {
    const p = this.p;
    const nr = this.nr;
    const rho = air.rho;
    const A = p.disc_area_m2;
    const Vr = p.tip_speed_m_s;
    const Vt = nr * Vr;
    const theta = p.theta_min_rad + (p.theta_max_rad - p.theta_min_rad) * this.c;
    const Vc = this.vz;
    const w1 = (Vt * theta) / 3 - 0.5 * (Vc + this.vi);
    const Traw = 0.5 * rho * p.solidity * A * p.lift_slope * Vt * w1;
    const Tmax = p.ct_sigma_max * p.solidity * rho * A * Vt * Vt + 1;
    const r = Traw / Tmax;
    const lim = 1 / Math.sqrt(Math.sqrt(1 + r * r * r * r));
    const T = Traw * lim;
    const alpha = (6 * T) / (rho * A * p.solidity * p.lift_slope * Vt * Vt + 200);
    const cd = p.cd0 + p.cd2 * alpha * alpha;
    const q_prof = ((rho * p.solidity * A) / 8) * Vt * Vt * Vr * cd;
    const q_ind = 0.5 * rho * p.solidity * A * p.lift_slope * Vr * w1 * lim * (Vc + p.kappa * this.vi);
    const q_aero = (q_prof + q_ind) * (1 + p.tail_frac);
    this.d_vi = (this.inflowTarget(T, Vc, rho, air.wind_m_s) - this.vi) / 0.18;

    const q_m = p.mgb_visc_w * this.mu35 * nr + p.mgb_windage_w * nr * nr + p.acc_w * nr;
    const B = p.brake_w * brake;
    let q_in = 0;
    let KE = p.ke_ref_j;
    for (let i = 0; i < engines.length; i++) {
      const e = engines[i]!;
      if (e.clutch) {
        q_in += e.q_p * p.gb_eff - e.p.pt_drag_w * nr;
        KE += e.p.pt_ke_ref_j;
      }
    }
    if (nr <= 0) {
      const hold = 1.6 * p.mgb_coul_w + B;
      this.d_nr = q_in <= hold ? 0 : (q_in - hold) / (2 * KE);
    } else {
      this.d_nr = (q_in - q_aero - q_m - p.mgb_coul_w - 0.85 * B) / (2 * KE);
    }
    for (let i = 0; i < engines.length; i++) {
      const e = engines[i]!;
      e.q_sh = e.clutch ? e.q_p * p.gb_eff - e.p.pt_drag_w * nr - 2 * e.p.pt_ke_ref_j * this.d_nr : 0;
    }

    this.Fz =
      T * (1 - p.download_frac) - this.mass_kg * GRAVITY_M_S2 - 0.5 * rho * p.vert_drag_area_m2 * Vc * Math.abs(Vc);
    if (this.h_m <= 0 && this.Fz < 0) {
      this.d_vz = -this.vz / 0.05;
      this.l_vz = 20;
      this.d_h = 0;
    } else {
      this.d_vz = this.Fz / this.mass_kg;
      this.l_vz = 0;
      this.d_h = this.vz;
    }
    this.d_c = (coll - this.c) / 0.08;

    let target = 0;
    if (!pumpFail) {
      target = p.mgb_p_ref_bar * (0.55 * this.mu45 * nr + 0.45 * nr * nr);
      if (target > p.mgb_p_relief_bar) target = p.mgb_p_relief_bar + 0.15 * (target - p.mgb_p_relief_bar);
      target = Math.min(target, p.mgb_p_max_bar);
    }
    this.d_pmgb = (target - this.pmgb) / 0.8;
    const heat = (Math.max(0, q_in) * nr * (1 - p.gb_eff)) / p.gb_eff + 0.9 * q_m * nr + p.mgb_coul_w * nr;
    const U =
      p.mgb_ua_leak_w_k +
      p.mgb_ua_cooler_w_k * smoothstep((this.Tmgb - KELVIN - p.mgb_therm_c) / 18) * Math.min(1, nr / 0.6);
    this.d_Tmgb = (heat - U * (this.Tmgb - air.T_oat)) / p.mgb_cap_j_k;
    const hyd = p.hyd_p_bar * Math.min(1, nr / p.hyd_knee_nr);
    const two = p.hyd_systems === 2;
    this.d_hyd1 = ((hyd1Fail || hydTest === 1 ? 0 : hyd) - this.hyd1) / 0.35;
    this.d_hyd2 = ((!two || hyd2Fail || hydTest === 2 ? 0 : hyd) - this.hyd2) / 0.35;
  }

  /** Momentum inflow with wind, ground effect and a quasi-steady descent branch. @source docs/physics.md 11 */
  private inflowTarget(T: number, Vc: number, rho: number, wind_m_s: number): number {
    const p = this.p;
    const vh = Math.sqrt(Math.max(T, 0) / (2 * rho * p.disc_area_m2));
    if (vh <= 0.05) return 0;
    const x = clip(Vc / vh, -2, 4);
    let v0 =
      x >= 0
        ? vh * (-x / 2 + Math.sqrt((x * x) / 4 + 1))
        : vh * (1 + x * (-1.125 + x * (-1.372 + x * (-1.718 - 0.655 * x))));
    const y = Math.abs(wind_m_s) / vh;
    const y2 = (y * y) / 2;
    v0 *= Math.sqrt(Math.sqrt(1 + y2 * y2) - y2);
    const z = Math.max(this.h_m + p.hub_height_m, 0.5 * p.radius_m);
    const ge = p.radius_m / (4 * z);
    return v0 * (1 - ge * ge);
  }

  integrate(h: number, engines: readonly Engine[]): void {
    for (let i = 0; i < engines.length; i++) {
      const e = engines[i]!;
      const d = e.clutch
        ? this.d_nr
        : (e.q_p - e.p.pt_drag_w * (e.np + 0.3 * (e.np > 0.2 ? 1 : tanh(e.np / 0.01)))) / (2 * e.p.pt_ke_ref_j);
      e.np = Math.max(0, e.np + h * d);
    }
    this.nr = Math.max(0, this.nr + h * this.d_nr);
    this.vi += (h * this.d_vi) / (1 + h / 0.18);
    this.vz += (h * this.d_vz) / (1 + h * this.l_vz);
    this.h_m += h * this.d_h;
    if (this.h_m <= 0) {
      this.h_m = 0;
      this.vz = Math.max(0, this.vz);
    }
    this.c += (h * this.d_c) / (1 + h * 12.5);
    this.Tmgb += h * this.d_Tmgb;
    this.pmgb += (h * this.d_pmgb) / (1 + h * 1.25);
    this.hyd1 += (h * this.d_hyd1) / (1 + h / 0.35);
    this.hyd2 += (h * this.d_hyd2) / (1 + h / 0.35);
    this.freewheels(engines);
  }

  /** Engages a turbine that overtakes the rotor, lets go of one that the rotor overtakes. */
  private freewheels(engines: readonly Engine[]): void {
    for (let i = 0; i < engines.length; i++) {
      const e = engines[i]!;
      if (e.clutch) {
        e.np = this.nr;
        if (e.q_sh < 0 && this.nr > 0) e.clutch = false;
      } else if (e.np > this.nr) {
        let J = this.p.ke_ref_j;
        for (let k = 0; k < engines.length; k++) if (engines[k]!.clutch) J += engines[k]!.p.pt_ke_ref_j;
        const Jp = e.p.pt_ke_ref_j;
        this.nr = (J * this.nr + Jp * e.np) / (J + Jp);
        e.clutch = true;
        for (let k = 0; k < engines.length; k++) if (engines[k]!.clutch) engines[k]!.np = this.nr;
      }
    }
  }
}
