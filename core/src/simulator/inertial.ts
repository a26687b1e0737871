import type { InertialParameters } from '../aircraft/index.ts';

/** Heading alignment of an inertial platform: a time without a break in its volts, longer in the cold (docs/physics.md 13). */
export class Inertial {
  private readonly p: InertialParameters;
  private counted_s = 0;
  aligned = false;
  resets = 0;

  constructor(p: InertialParameters) {
    this.p = p;
  }

  tick(on: boolean, volts: number, oat_C: number, dt_s: number): void {
    const p = this.p;
    if (!on) {
      this.counted_s = 0;
      this.aligned = false;
      return;
    }
    if (this.aligned) return;
    if (volts < p.v_reset_v) {
      if (this.counted_s > 0) this.resets++;
      this.counted_s = 0;
    } else if (volts >= p.v_min_v) this.counted_s += dt_s;
    this.aligned = this.counted_s >= p.time_s * (1 + p.cold_factor_per_k * Math.max(0, 15 - oat_C));
  }
}
