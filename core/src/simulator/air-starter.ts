import { pow } from './elementary.ts';
import type { AirStarterParameters } from '../aircraft/index.ts';
import type { Engine } from './engine.ts';
import type { Environment } from './environment.ts';
import { CP_AIR, pow3_5, T_STD_K } from './physics.ts';

/** The auxiliary unit feeds the starters above this speed. */
const FEEDS_ABOVE_n = 0.8;
/** What the duct leaves of the delivery pressure. */
const DUCT = 0.94;

/** A turbine starter on bleed air of the auxiliary unit, with its valve (docs/physics.md 10). */
export class AirStarter {
  flow_kg_s = 0;
  power_w = 0;
  private valve = 0;
  private readonly p: AirStarterParameters;

  constructor(p: AirStarterParameters) {
    this.p = p;
  }

  /** Moves the valve towards its command, once a control tick; it closes four times as fast. */
  moveValve(open: boolean, dt_s: number): void {
    const step = dt_s / this.p.ats_open_s;
    this.valve = open ? Math.min(1, this.valve + step) : Math.max(0, this.valve - 4 * step);
  }

  /** Air taken and torque-power given at the present speeds. */
  evaluate(auxiliary: Engine, bleedOn: boolean, engine: Engine, air: Environment): void {
    this.flow_kg_s = 0;
    this.power_w = 0;
    if (!bleedOn || this.valve <= 0 || auxiliary.n <= FEEDS_ABOVE_n || engine.faults.starter_drop) return;
    const p = this.p;
    const a = auxiliary.p;
    const slip = 1 - auxiliary.n / Math.sqrt(air.T_oat / T_STD_K);
    const efficiency = a.comp_eff * (1 - a.comp_eff_drop * slip * slip) * auxiliary.faults.comp_eff;
    const dT = a.comp_dt_k * auxiliary.n * auxiliary.n;
    const T2 = air.T_oat + dT;
    const pr = Math.max(1, pow3_5(Math.max(0, 1 + (efficiency * dT) / air.T_oat)) * DUCT);
    this.flow_kg_s =
      ((this.valve * p.ats_flow_coeff * pr * air.p_a) / Math.sqrt(T2)) * Math.sqrt(Math.max(0, 1 - 1 / (pr * pr)));
    const ideal = Math.sqrt(Math.max(0, (CP_AIR * T2 * (1 - pow(pr, -0.2857))) / p.ats_dh_ref_j_kg));
    this.power_w = Math.max(
      0,
      this.flow_kg_s * p.ats_eff * p.ats_dh_ref_j_kg * p.ats_ratio * (2 * ideal - engine.n * p.ats_ratio),
    );
  }
}
