import type { ManualPilotPlan } from './inputs.ts';
import { clip, interpolate } from './physics.ts';

/** Below this the hand does not close the grip on a rising temperature, °C. */
const COLD_C = 120;
const TICKS_PER_S = 50;

/** A pilot's hand on the twist-grip of a manual start, with the delay of a person. @source docs/physics.md 19.1 */
export class ManualPilot {
  private readonly seen: { tot_C: number; rate_K_s: number; ng_pct: number }[] = [];
  private opened = false;
  private at = 0;

  /** @returns where the hand has the grip after this tick */
  grip(
    plan: ManualPilotPlan,
    tot: { value: number; rate: number },
    ng_pct: number,
    cut: number,
    idle: number,
    dt_s: number,
  ): number {
    this.seen.push({ tot_C: tot.value, rate_K_s: tot.rate, ng_pct });
    if (this.seen.length > Math.round(plan.delay_s * TICKS_PER_S) + 1) this.seen.shift();
    const { tot_C, rate_K_s, ng_pct: ng } = this.seen[0]!;
    if (!this.opened) {
      if (ng < plan.fuel_ng) return this.at;
      this.opened = true;
      this.at = plan.grip0;
      return this.at;
    }
    if (plan.fixed) return this.at;
    if (plan.sched_ng && plan.sched_grip) {
      this.at = interpolate(ng, plan.sched_ng, plan.sched_grip);
      return this.at;
    }
    const wanted = plan.gain! * (plan.target_c! - (tot_C + plan.lead_s! * rate_K_s));
    let rate = clip(wanted, -plan.close_rate!, plan.open_rate!);
    if (tot_C < COLD_C) rate = Math.min(rate, 0);
    this.at = clip(this.at + rate * dt_s, cut + 0.02, idle);
    return this.at;
  }
}
