import type { AuxiliaryParameters, DigitalParameters, LimitSet } from '../aircraft/index.ts';
import { type ControlInputs, type EngineControl, FilteredRate } from './engine-control.ts';
import { clip, interpolate, P_STD_PA, T_STD_K } from './physics.ts';

export type ControlMode =
  | 'OFF'
  | 'PURGE'
  | 'CRANK'
  | 'LIGHT'
  | 'ACCEL'
  | 'RUN'
  | 'SHUTDOWN'
  | 'VENT'
  | 'WAIT'
  | 'LOCKOUT';

/** The digital engine control: automatic start with its aborts and one retry, governing and limiting (docs/physics.md 16). */
export class DigitalControl implements EngineControl {
  mode: ControlMode = 'OFF';
  retries = 0;
  readonly causes: string[] = [];
  channel: 'A' | 'B' = 'A';
  /** name of the loop that sets the fuel, for the log */
  limitedBy = '';

  starter = false;
  spark = false;
  fuelValve = false;
  wf = 0;

  time_s = 0;
  private pending: ControlMode | null = null;
  readonly grip = 0;
  private readonly p: DigitalParameters;
  /** an auxiliary unit has one pick-up, and runs at one speed below one temperature */
  private readonly auxiliary: AuxiliaryParameters | null;
  readonly ng = new FilteredRate();
  private readonly tot = new FilteredRate();
  private readonly np = new FilteredRate();
  private readonly tq = new FilteredRate();
  private ngValid = true;
  private totMinimum_C = 0;
  private sinceFuel_s = 0;
  private hung_s = 0;
  private lastColl = 0;
  private collRate = 0;

  constructor(p: DigitalParameters, auxiliary: AuxiliaryParameters | null = null) {
    this.p = p;
    this.auxiliary = auxiliary;
  }

  /** Puts the control into RUN as after a completed start (a scenario that begins in flight). */
  startRunning(wf_kg_s: number, coll: number): void {
    this.mode = 'RUN';
    this.time_s = 20;
    this.wf = wf_kg_s;
    this.ng.value = 92;
    this.lastColl = coll;
  }

  tick(input: ControlInputs, dt_s: number): void {
    this.sense(input, dt_s);
    if (this.pending) {
      this.enter(this.pending);
      this.pending = null;
    }
    const powered =
      (input.volts > this.p.ctrl_v_min_v || input.ngA_pct > 50 || input.ngB_pct > 50) &&
      !(input.channelALost && input.channelBLost);
    if (!powered) {
      this.unpowered();
      return;
    }
    if (this.mode === 'OFF' && input.start && input.selector !== 'OFF' && this.ng.value < 5) {
      this.retries = 0;
      this.enter(input.totValid && this.tot.value > this.p.purge_tot_c ? 'PURGE' : 'CRANK');
    }
    this.time_s += dt_s;
    this.runMode(input, dt_s);
    if (input.selector === 'OFF' && this.mode !== 'OFF' && this.mode !== 'SHUTDOWN' && this.mode !== 'LOCKOUT') {
      this.pending = 'SHUTDOWN';
    }
  }

  private sense(input: ControlInputs, dt_s: number): void {
    if (
      !this.auxiliary &&
      this.channel === 'A' &&
      (input.channelALost || (Math.abs(input.ngA_pct - input.ngB_pct) > 6 && input.ngB_pct > input.ngA_pct))
    ) {
      this.channel = 'B';
    }
    this.ngValid = !(input.ngA_pct === 0 && (this.auxiliary || input.ngB_pct === 0) && this.ng.value > 6);
    const ng = !this.ngValid ? this.ng.value : this.channel === 'A' ? input.ngA_pct : input.ngB_pct;
    this.ng.update(ng, dt_s);
    this.tot.update(input.tot_C, dt_s);
    this.np.update(input.np_pct, dt_s);
    this.tq.update(input.tq_pct, dt_s);
    this.collRate = (input.coll - this.lastColl) / dt_s;
    this.lastColl = input.coll;
  }

  private unpowered(): void {
    switch (this.mode) {
      case 'RUN':
        return;
      case 'PURGE':
      case 'CRANK':
      case 'LIGHT':
      case 'ACCEL':
        this.abort('CONTROL POWER LOST');
        break;
      default:
        break;
    }
    this.output(false, false, false);
  }

  private enter(mode: ControlMode): void {
    if (mode === 'CRANK') this.totMinimum_C = this.tot.value;
    if (mode === 'LIGHT') {
      this.sinceFuel_s = 0;
      this.hung_s = 0;
      this.totMinimum_C = this.tot.value;
    }
    this.mode = mode;
    this.time_s = 0;
  }

  private abort(cause: string): void {
    this.causes.push(cause);
    this.pending = 'VENT';
  }

  private output(starter: boolean, spark: boolean, fuel: boolean): void {
    this.starter = starter;
    this.spark = spark;
    this.fuelValve = fuel;
    if (!fuel) this.wf = 0;
  }

  /** Another try where the cause allows one, the spool has slowed down and the volts are there; else none. */
  private waitForRetry(input: ControlInputs, t: number): void {
    const p = this.p;
    if (!p.retry_causes.includes(this.causes[this.causes.length - 1] ?? '') || this.retries >= p.retries_max) {
      this.pending = 'LOCKOUT';
    } else if (this.ng.value < p.retry_ng_pct && t > p.retry_wait_s) {
      if (input.volts < p.retry_v_min_v) this.pending = 'LOCKOUT';
      else {
        this.retries += 1;
        this.pending = 'CRANK';
      }
    }
  }

  private runMode(input: ControlInputs, dt_s: number): void {
    const p = this.p;
    const t = this.time_s;
    switch (this.mode) {
      case 'OFF':
        this.output(input.starterSwitch > 0, false, false);
        return;
      case 'PURGE':
        this.output(true, false, false);
        if ((this.tot.value < p.purge_tot_c && t >= p.purge_min_s) || t > p.purge_max_s) this.pending = 'CRANK';
        return;
      case 'CRANK':
        this.output(true, true, false);
        if (this.ng.value >= p.n_fuel_pct || (t > p.n_fuel_late_s && this.ng.value >= p.n_fuel_min_pct))
          this.pending = 'LIGHT';
        else if (t > p.t_crank_max_s) this.abort('NO CRANK');
        return;
      case 'LIGHT':
        this.light(input, dt_s);
        return;
      case 'ACCEL':
        this.accelerate(input, dt_s);
        return;
      case 'RUN':
        this.run(input, dt_s);
        return;
      case 'SHUTDOWN':
        this.output(input.starterSwitch > 0, false, false);
        if (this.ng.value < 4 && t > 3) this.pending = 'OFF';
        return;
      case 'VENT': {
        const done = (t > p.vent_min_s && this.tot.value < p.vent_tot_c) || t > p.vent_max_s || input.stopMotoring;
        this.output(!done, false, false);
        if (done && t > 1) this.pending = 'WAIT';
        return;
      }
      case 'WAIT':
        this.output(false, false, false);
        this.waitForRetry(input, t);
        return;
      case 'LOCKOUT':
        this.output(input.starterSwitch > 0, false, false);
        if (input.selector === 'OFF') this.pending = 'OFF';
        return;
    }
  }

  /** The control's own air-flow estimate: air known, wind and bleed unknown. */
  private airFlow(input: ControlInputs): number {
    const sqrtTheta = Math.sqrt(input.T_oat / T_STD_K);
    const nc = this.ng.value / 100 / sqrtTheta;
    const fm = nc * (this.p.flow_a0 + (1 - this.p.flow_a0) * nc * nc);
    return ((this.p.air_flow_ref_kg_s * (input.p_a / P_STD_PA)) / sqrtTheta) * fm;
  }

  private light(input: ControlInputs, dt_s: number): void {
    const p = this.p;
    this.output(true, true, true);
    this.sinceFuel_s += dt_s;
    if (this.tot.value < this.totMinimum_C) this.totMinimum_C = this.tot.value;
    this.wf =
      p.far_light * this.airFlow(input) * (1 + (p.far_light_cold * Math.max(0, 15 - (input.T_oat - 273.15))) / 40);
    if (!input.totValid) this.abort('SENSOR TOT');
    else if (this.tot.value > this.totMinimum_C + p.light_detect_k) this.pending = 'ACCEL';
    else if (this.time_s > p.t_light_max_s) this.abort('NO LIGHT');
  }

  private accelerate(input: ControlInputs, dt_s: number): void {
    const p = this.p;
    const cranking = this.ng.value < p.n_cut_pct;
    this.output(cranking, cranking, true);
    this.sinceFuel_s += dt_s;
    const r = Math.min(
      p.k_nd * (interpolate(this.ng.value, p.ndot_sched_ng, p.ndot_sched) - this.ng.rate),
      p.k_t * (p.tot_start_ctl_c - this.tot.value) - p.k_td * this.tot.rate,
    );
    const me = this.airFlow(input);
    this.wf = clip(this.wf + r * p.wf_ref_kg_s * dt_s, p.far_start_min * me, p.far_start_max * me);

    const slow = this.ng.value < p.n_idle_pct - 4 && this.ng.rate < p.hung_ndot;
    this.hung_s = slow ? this.hung_s + dt_s : Math.max(0, this.hung_s - dt_s);
    if (!input.totValid) this.abort('SENSOR TOT');
    else if (!this.ngValid) this.abort('SENSOR NG');
    else if (this.tot.value > p.abort_tot_c) this.abort('HOT');
    else if (this.hung_s > p.hung_time_s) this.abort('HUNG');
    else if (this.sinceFuel_s > p.t_idle_max_s) this.abort('SLOW');
    else if (this.tot.value < this.totMinimum_C + 0.3 * p.light_detect_k && this.time_s > 2) this.abort('FLAME OUT');
    else if (this.ng.value >= p.n_idle_pct - 1) this.pending = 'RUN';
  }

  private run(input: ControlInputs, dt_s: number): void {
    const ng = this.ng;
    this.output(false, !input.lit && ng.value > 40, true);
    if (this.auxiliary) this.holdSpeed(this.auxiliary, input, dt_s);
    else this.govern(input, input.limits!, dt_s);
  }

  private holdSpeed(p: AuxiliaryParameters, input: ControlInputs, dt_s: number): void {
    const r = Math.min(
      p.k_ni * (100 - this.ng.value) - p.k_np * this.ng.rate,
      p.k_t * (p.tot_run_lim_c - this.tot.value) - p.k_td * this.tot.rate,
    );
    this.meter(input, clip(r, -0.6, 0.6), dt_s);
  }

  private govern(input: ControlInputs, lim: LimitSet, dt_s: number): void {
    const p = this.p;
    const ng = this.ng;
    const idle = p.k_ni * (p.n_idle_pct - ng.value) - p.k_np * ng.rate;
    let r = idle;
    this.limitedBy = 'GOV';
    if (input.selector === 'FLY') {
      r = Math.max(
        idle,
        p.k_pi * (p.np_ref_pct + input.trim_pct - this.np.value) - p.k_pp * this.np.rate + p.k_ff * this.collRate,
      );
    }
    const acc = p.k_na * (interpolate(ng.value, p.acc_sched_ng, p.acc_sched) - ng.rate);
    if (acc < r) {
      r = acc;
      this.limitedBy = 'ACC';
    }
    const byNg = p.k_nl * (lim.ng - ng.value) - p.k_nld * ng.rate;
    if (byNg < r) {
      r = byNg;
      this.limitedBy = 'NG';
    }
    const byTot = p.k_tr * (lim.tot - this.tot.value) - p.k_tdr * this.tot.rate;
    if (byTot < r) {
      r = byTot;
      this.limitedBy = 'TOT';
    }
    const byTq = p.k_q * (lim.tq - this.tq.value) - p.k_qd * this.tq.rate;
    if (byTq < r) {
      r = byTq;
      this.limitedBy = 'TQ';
    }
    r = Math.max(r, p.k_na * (-p.dec_max - ng.rate));
    this.meter(input, clip(r, -1.2, 1.2), dt_s);
  }

  /** Moves the fuel at a rate, inside what the air can burn, and watches for the engine running away or going out. */
  private meter(input: ControlInputs, rate: number, dt_s: number): void {
    const p = this.p;
    const me = this.airFlow(input);
    this.wf = input.fuelCut
      ? p.far_min * me
      : clip(this.wf + rate * p.wf_ref_kg_s * dt_s, p.far_min * me, p.far_max * me);
    if (this.np.value > p.np_trip_pct) this.pending = 'SHUTDOWN';
    else if (!input.lit && this.ng.value < p.n_idle_pct - 12 && this.time_s > 2) this.pending = 'SHUTDOWN';
  }
}
