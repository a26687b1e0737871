import type { PistonParameters } from '../../aircraft/index.ts';
import { burn } from './combustion.ts';
import type { PistonControls, PistonFaults } from './controls.ts';
import { couple, rotorLoad } from './drive.ts';
import { electrics } from './electrics.ts';
import { gripStep } from './grip.ts';
import { breathe, carburate } from './mixture.ts';
import { PistonSensors } from './sensors.ts';
import { settleSlow, SLOW_s } from './slow.ts';
import { type PistonEnvironment, PistonState } from './state.ts';

/**
 * A piston engine with its battery, starter, carburettor or injection, belt clutch, rotor and heat: mean values, no
 * single strokes (docs/piston.md 2).
 */
export class PistonPlant extends PistonState {
  readonly sensors = new PistonSensors();
  private since_s = 0;
  private count = 0;

  constructor(p: PistonParameters, env: Partial<PistonEnvironment> = {}) {
    super(p, env);
    this.sensors.settle(this);
  }

  /** One step of `dt_s`, 0.01 s as a rule, 0.02 s at most. Never allocates. */
  step(c: PistonControls, f: PistonFaults, dt_s: number): void {
    this.n = this.we / this.p.w_e100_rad_s;
    gripStep(this, c, f, dt_s);
    electrics(this, c, f, dt_s);
    breathe(this, c, f, dt_s);
    carburate(this, c, f, dt_s);
    burn(this, c, f);
    rotorLoad(this, c, f);
    couple(this, c, f, dt_s);
    this.accumulate(dt_s);
    this.since_s += dt_s;
    this.count += 1;
    if (this.count >= Math.round(SLOW_s / dt_s)) {
      settleSlow(this, c, f, this.since_s, this.count);
      this.since_s = 0;
      this.count = 0;
    }
    this.sensors.follow(this, c, f, dt_s);
  }

  private accumulate(dt_s: number): void {
    this.sum_qh += this.qh * dt_s;
    this.sum_qo += this.qo * dt_s;
    this.sum_starter += (this.Ist * this.Ist * this.p.r_st_ohm + this.Ist * this.p.v_br_v) * dt_s;
    this.sum_ib += this.p.r_b0_ohm * this.Ib * this.Ib * dt_s;
    this.sum_ma += this.ma;
    this.sum_mf += this.mf;
    this.sum_comp += this.comp;
  }
}
