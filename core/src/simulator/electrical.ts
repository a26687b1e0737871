import { exp } from './elementary.ts';
import type { ElectricalParameters } from '../aircraft/index.ts';
import { clip, KELVIN } from './physics.ts';
import type { Controls } from './inputs.ts';

const MAX_PASSES = 8;

/** One machine on the bus as the network sees it: a starter (draws) or a generator (feeds). */
export class Branch {
  on = false;
  source_v = 0;
  resistance_ohm = 1;
  limit_a = Infinity;
  /** generators only: giving its limit current instead of holding its voltage */
  limited = false;
  current_a = 0;
}

/** The 28 V node: battery, external power, starters, generators, consumers (docs/physics.md 6). */
export class ElectricalNetwork {
  soc = 0.9;
  polarisation_v = 0;
  battery_K = 288.15;

  volts = 0;
  battery_a = 0;
  private loadConductance_s = 0;
  private coldFactor = 1;
  private emptySag = 0;
  private acceptance = 1;

  d_soc = 0;
  d_polarisation = 0;
  lambda_polarisation: number;
  d_battery_K = 0;

  /** a consumer that has failed open draws 0 of what it should, one that leaks draws more than 1 */
  readonly loadShare: Record<string, number> = {};
  readonly starters: Branch[] = [];
  readonly generators: Branch[] = [];
  private readonly p: ElectricalParameters;
  private readonly battAge: number;

  constructor(p: ElectricalParameters, battAge: number, engines: number) {
    this.p = p;
    this.battAge = battAge;
    this.lambda_polarisation = 1 / p.batt_tau_p_s;
    this.refreshBattery();
    for (let i = 0; i < engines; i++) {
      this.starters.push(new Branch());
      this.generators.push(new Branch());
    }
  }

  /** Charge and battery temperature move slowly: their exponentials are refreshed once a control tick. */
  refreshBattery(): void {
    const p = this.p;
    this.coldFactor = exp(p.batt_r_temp_per_k * clip(20 - (this.battery_K - KELVIN), -25, 65));
    this.emptySag = exp(-this.soc / 0.06);
    this.acceptance = 1 + p.batt_accept_k * exp((this.soc - 1) / 0.06);
  }

  /** Sums the consumers that are switched on; call when a switch moved. */
  setLoads(controls: Controls, sparks: number): void {
    let amps = sparks * this.p.igniter_a + (controls.boost ? this.p.boost_pump_a : 0);
    for (const name in controls.loads)
      if (controls.loads[name]) amps += this.p.loads_a[name]! * (this.loadShare[name] ?? 1);
    this.loadConductance_s = amps / 28;
  }

  /**
   * Solves the node by active sets and sets volts, battery current, branch currents and the battery's derivatives.
   * Branches must have been prepared (`on`, source, resistance, limit).
   */
  solve(controls: Controls, batteryResistanceFactor: number, T_oat: number): void {
    const p = this.p;
    const s = this.soc;
    const t_C = this.battery_K - KELVIN;
    const emf =
      p.batt_e0_v + p.batt_e1_v * (s - 0.8) - p.batt_e2_v * this.emptySag + p.batt_e_temp_v_per_k * (t_C - 20);
    const rBattery =
      p.batt_r0_ohm *
      this.battAge *
      batteryResistanceFactor *
      this.coldFactor *
      (1 + 0.015 / (s + 0.03) + 0.3 * (1 - s) * (1 - s));
    const eBattery = emf - this.polarisation_v;

    let baseG = this.loadConductance_s + 1e-6;
    let baseI = 0;
    if (controls.battery) {
      baseG += 1 / rBattery;
      baseI += eBattery / rBattery;
    }
    if (controls.ext) {
      baseG += 1 / p.ext_r_ohm;
      baseI += p.ext_v / p.ext_r_ohm;
    }
    const v = this.activeSet(baseG, baseI);
    this.volts = v;

    for (const starter of this.starters)
      starter.current_a = starter.on ? (v - starter.source_v) / starter.resistance_ohm : 0;
    for (const gen of this.generators) {
      gen.current_a = !gen.on ? 0 : gen.limited ? gen.limit_a : (gen.source_v - v) / gen.resistance_ohm;
    }
    if (controls.battery) {
      const i = (eBattery - v) / rBattery;
      this.battery_a = i;
      this.d_soc = -i / (3600 * p.batt_cap_ah);
      let rp = p.batt_rp_ohm * this.battAge;
      if (i < 0) rp *= this.acceptance;
      this.d_polarisation = (i * rp - this.polarisation_v) / p.batt_tau_p_s;
      this.d_battery_K =
        (i * (emf - this.polarisation_v - v) + i * this.polarisation_v - p.batt_ua_w_k * (this.battery_K - T_oat)) /
        p.batt_heat_cap_j_k;
    } else {
      this.battery_a = 0;
      this.d_soc = 0;
      this.d_polarisation = -this.polarisation_v / p.batt_tau_p_s;
      this.d_battery_K = (-p.batt_ua_w_k * (this.battery_K - T_oat)) / p.batt_heat_cap_j_k;
    }
  }

  // sources are tried and dropped in one loop that allocates nothing
  // oxlint-disable-next-line eslint/complexity
  private activeSet(baseG: number, baseI: number): number {
    const starters = this.starters;
    const generators = this.generators;
    for (let i = 0; i < generators.length; i++) generators[i]!.limited = false;
    let v = 0;
    for (let pass = 0; pass < MAX_PASSES; pass++) {
      let g = baseG;
      let current = baseI;
      for (let i = 0; i < starters.length; i++) {
        const b = starters[i]!;
        if (b.on) {
          g += 1 / b.resistance_ohm;
          current += b.source_v / b.resistance_ohm;
        }
      }
      for (let i = 0; i < generators.length; i++) {
        const b = generators[i]!;
        if (!b.on) continue;
        if (b.limited) current += b.limit_a;
        else {
          g += 1 / b.resistance_ohm;
          current += b.source_v / b.resistance_ohm;
        }
      }
      v = current / g;
      let dropped = false;
      for (let i = 0; i < starters.length; i++) {
        const b = starters[i]!;
        if (b.on && b.source_v > v) {
          b.on = false;
          dropped = true;
        }
      }
      for (let i = 0; i < generators.length; i++) {
        const b = generators[i]!;
        if (b.on && !b.limited && b.source_v < v) {
          b.on = false;
          dropped = true;
        }
      }
      if (dropped) continue;
      let switched = false;
      for (let i = 0; i < generators.length; i++) {
        const b = generators[i]!;
        if (!b.on) continue;
        if (!b.limited && (b.source_v - v) / b.resistance_ohm > b.limit_a) {
          b.limited = true;
          switched = true;
        } else if (b.limited && v > b.source_v) {
          b.limited = false;
          switched = true;
        }
      }
      if (!switched) break;
    }
    return v;
  }

  integrate(h: number): void {
    this.soc = clip(this.soc + h * this.d_soc, 0, 1);
    this.polarisation_v += (h * this.d_polarisation) / (1 + h * this.lambda_polarisation);
    this.battery_K += h * this.d_battery_K;
  }
}
