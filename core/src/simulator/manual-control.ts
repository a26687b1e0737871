import { pow } from './elementary.ts';
import type { ManualParameters } from '../aircraft/index.ts';
import { type ControlInputs, type EngineControl, FilteredRate } from './engine-control.ts';
import { ManualPilot } from './manual-pilot.ts';
import { clip, P_STD_PA, RHO_STD_KG_M3, smoothstep } from './physics.ts';

const STARTER_V = 6;
const SPARK_V = 9;
const FUEL_FLOOR_ABOVE_n = 0.45;

/** A hydromechanical control: the pilot's hand opens the fuel, a bellows schedule bounds it, two governors hold speed (docs/physics.md 15). */
export class ManualControl implements EngineControl {
  mode: 'OFF' | 'START' | 'RUN' = 'OFF';
  readonly retries = 0;
  readonly causes: readonly string[] = [];
  readonly channel = 'A';
  limitedBy = '';
  time_s = 0;
  readonly ng = new FilteredRate();
  starter = false;
  spark = false;
  fuelValve = false;
  wf = 0;
  grip = 0;
  private readonly p: ManualParameters;
  private readonly tot = new FilteredRate();
  private readonly np = new FilteredRate();
  private readonly hand = new ManualPilot();

  constructor(p: ManualParameters) {
    this.p = p;
  }

  startRunning(wf_kg_s: number): void {
    this.mode = 'RUN';
    this.time_s = 20;
    this.wf = wf_kg_s;
    this.ng.value = 92;
  }

  tick(input: ControlInputs, dt_s: number): void {
    const p = this.p;
    this.ng.update(input.ngA_pct || input.ngB_pct, dt_s);
    this.tot.update(input.tot_C, dt_s);
    this.np.update(input.np_pct / 100, dt_s);
    this.grip = input.pilot
      ? this.hand.grip(input.pilot, this.tot, this.ng.value, p.grip_cut, p.grip_idle, dt_s)
      : input.grip;
    const mode = this.grip <= p.grip_cut ? 'OFF' : this.grip < p.grip_idle ? 'START' : 'RUN';
    this.time_s = mode === this.mode ? this.time_s + dt_s : 0;
    this.mode = mode;
    this.starter = input.starterSwitch > 0 && input.volts > STARTER_V;
    this.spark = (input.starterSwitch > 0 && input.volts > SPARK_V) || input.igniterSwitch > 0;
    this.fuelValve = this.grip > p.grip_cut;
    this.wf = this.fuel(input);
  }

  private fuel(input: ControlInputs): number {
    const p = this.p;
    const { grip } = this;
    const schedule = p.hmu_w0_kg_s + (p.hmu_w1_kg_s * (input.pi - 1) * input.p_a) / P_STD_PA;
    const open = grip >= p.grip_idle;
    const bound = open ? schedule : schedule * Math.max(0, (grip - p.grip_cut) / (p.grip_idle - p.grip_cut));
    const n_ref = open
      ? p.n_idle + (p.n_max - p.n_idle) * smoothstep((grip - p.grip_idle) / (p.grip_fly - p.grip_idle))
      : p.n_idle;
    const bySpeed = p.hmu_w_idle_kg_s * pow(n_ref / p.n_idle, 2.2) + p.hmu_kn_kg_s * (n_ref - input.n);
    let wf = bound;
    this.limitedBy = 'SCHED';
    if (bySpeed < wf) {
      wf = bySpeed;
      this.limitedBy = 'NG';
    }
    if (open) {
      const c = input.coll;
      const byRotor =
        p.hmu_wp0_kg_s +
        p.hmu_wpc_kg_s * c * c * pow(input.rho / RHO_STD_KG_M3, 0.3) +
        p.hmu_kp_kg_s * (p.np_ref_pct / 100 - this.np.value) -
        p.hmu_kpd_kg_s * this.np.rate;
      if (byRotor < wf) {
        wf = byRotor;
        this.limitedBy = 'GOV';
      }
    }
    const floor = grip > p.grip_cut && input.n > FUEL_FLOOR_ABOVE_n ? p.hmu_wmin_kg_s : 0;
    return clip(wf, floor, Infinity);
  }
}
