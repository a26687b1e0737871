import type { LimitSet, OneEngineRatings } from '../aircraft/index.ts';
import type { EngineControl } from './engine-control.ts';
import type { Controls } from './inputs.ts';
import { clip } from './physics.ts';

const SETTLED_s = 8;
const SPLIT_pct = 22;
const FALLING_pct_s = -4;
/** How far above a value counts as above it. */
const OVER = { tq: 0.4, ng: 0.15, tot: 4 } as const;

/** Overridden, the limiter is out of the way: pump, air flow and acceleration schedule are what is left. */
const NO_LIMIT: LimitSet = { tq: 250, tot: 1200, ng: 115 };

interface Sensed {
  ngA_pct: number;
  tot_C: number;
  tq_pct: number;
}

/** Two engines on one rotor: who has failed, which limits hold, how the torques are matched (docs/physics.md 17). */
export class OneEngineOut {
  /** engine that is lost, -1 for none */
  lost = -1;
  /** seconds above the two-minute values, and above the continuous ones */
  over30s_s = 0;
  over2min_s = 0;
  readonly limits: [LimitSet, LimitSet];
  private readonly p: OneEngineRatings & { limits_to: LimitSet; n_idle_pct: number };
  private readonly training: LimitSet = { tq: 0, tot: 0, ng: 0 };
  private trainingCancelled = false;

  constructor(p: OneEngineRatings & { limits_to: LimitSet; n_idle_pct: number }) {
    this.p = p;
    this.limits = [p.limits_to, p.limits_to];
  }

  tick(
    controls: Controls,
    units: readonly EngineControl[],
    sensed: readonly Sensed[],
    nr_pct: number,
    dt_s: number,
  ): void {
    const p = this.p;
    this.lost = -1;
    if (controls.flight)
      for (let own = 0; own < 2; own++)
        if (this.lost < 0 && this.hasFailed(1 - own, controls, units, sensed)) this.lost = 1 - own;
    const rating =
      controls.rating === 'override'
        ? NO_LIMIT
        : p.ratings[controls.rating === '2min' || controls.rating === 'cont' ? controls.rating : '30s'];
    this.limits[0] = this.limits[1] = p.limits_to;
    if (!controls.training) this.trainingCancelled = false;
    else if (nr_pct < p.training_exit_nr_pct || this.lost >= 0) this.trainingCancelled = true;
    if (this.lost >= 0) {
      const own = 1 - this.lost;
      this.limits[own] = rating;
      this.count(sensed[own]!, dt_s);
    } else if (controls.training && !this.trainingCancelled) {
      // training never runs on more than a limit gives
      const shared = controls.rating === 'override' ? p.ratings['30s'] : rating;
      this.training.tq = 0.98 * 0.5 * shared.tq;
      this.training.tot = p.limits_to.tot;
      this.training.ng = p.limits_to.ng;
      this.limits[0] = this.limits[1] = this.training;
    }
  }

  /** Trim of one engine's speed towards the other's torque, % Np. */
  trim(own: number, controls: Controls, units: readonly EngineControl[], sensed: readonly Sensed[]): number {
    if (this.lost >= 0) return 0;
    for (let i = 0; i < 2; i++) if (units[i]!.mode !== 'RUN' || controls.engines[i]!.mode !== 'FLY') return 0;
    return clip(0.05 * (sensed[1 - own]!.tq_pct - sensed[own]!.tq_pct), -0.8, 0.8);
  }

  private hasFailed(
    other: number,
    controls: Controls,
    units: readonly EngineControl[],
    sensed: readonly Sensed[],
  ): boolean {
    const own = units[1 - other]!;
    if (own.mode !== 'RUN' || controls.engines[1 - other]!.mode !== 'FLY' || own.time_s <= SETTLED_s) return false;
    const unit = units[other]!;
    if (unit.mode !== 'RUN' || controls.engines[other]!.mode !== 'FLY') return true;
    if (sensed[other]!.ngA_pct < this.p.n_idle_pct - 2) return true;
    const split = sensed[1 - other]!.tq_pct - sensed[other]!.tq_pct;
    return split > SPLIT_pct && unit.ng.rate < FALLING_pct_s;
  }

  private count(own: Sensed, dt_s: number): void {
    const { ratings } = this.p;
    if (isAbove(own, ratings['2min'])) this.over30s_s += dt_s;
    else if (isAbove(own, ratings.cont)) this.over2min_s += dt_s;
  }
}

function isAbove({ tq_pct, ngA_pct, tot_C }: Sensed, limit: LimitSet): boolean {
  return tq_pct > limit.tq + OVER.tq || ngA_pct > limit.ng + OVER.ng || tot_C > limit.tot + OVER.tot;
}
