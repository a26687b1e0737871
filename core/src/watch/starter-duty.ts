import type { StarterDutySpec } from '../aircraft/index.ts';

/** shorter breaks than this belong to the same engagement: a contactor that chatters */
const SAME_ENGAGEMENT_S = 1;
const ROUNDING_S = 1e-6;

/** How long a starter has turned, how long it may, and what rest is due before it turns again. */
export class StarterDuty {
  /** seconds of the present engagement, 0 at rest */
  on_s = 0;
  /** which engagement of the cycle this is, or the last one was, from 0; -1 before the first */
  engagement = -1;
  private offSince_s = NaN;
  private readonly spec: StarterDutySpec;

  constructor(spec: StarterDutySpec) {
    this.spec = spec;
  }

  /** seconds that the present, or the next, engagement may last */
  get allowed_s(): number {
    const { on_s } = this.spec;
    return on_s[this.on_s > 0 ? this.engagement : this.next]!;
  }

  get left_s(): number {
    return Math.max(0, this.allowed_s - this.on_s);
  }

  /** @returns seconds of rest that are still due at this time, 0 when the starter may turn */
  restDue_s(t_s: number): number {
    if (this.engagement < 0 || this.on_s > 0 || Number.isNaN(this.offSince_s)) return 0;
    return Math.max(0, this.spec.rest_s[this.engagement]! - (t_s - this.offSince_s));
  }

  /** Engagements that are left before the longest rest; after that rest all of them. */
  triesLeft(t_s: number): number {
    const { rest_s, on_s } = this.spec;
    const rested = t_s - this.offSince_s >= rest_s[rest_s.length - 1]!;
    return rested ? on_s.length : on_s.length - 1 - this.engagement;
  }

  /** One frame. @returns rest that was still due when the starter was engaged with this frame, 0 otherwise */
  step(t_s: number, dt_s: number, on: boolean): number {
    if (!on) {
      if (this.on_s > 0) {
        if (Number.isNaN(this.offSince_s)) this.offSince_s = t_s;
        if (t_s - this.offSince_s > SAME_ENGAGEMENT_S) this.on_s = 0;
      }
      return 0;
    }
    if (this.on_s > 0) {
      this.on_s += dt_s;
      this.offSince_s = NaN;
      return 0;
    }
    const due_s = this.restDue_s(t_s);
    const { rest_s } = this.spec;
    // after the longest rest the starter is as good as cold, and the cycle begins anew
    if (t_s - this.offSince_s >= rest_s[rest_s.length - 1]!) this.engagement = -1;
    this.engagement = this.next;
    this.on_s = dt_s > 0 ? dt_s : ROUNDING_S;
    this.offSince_s = NaN;
    return due_s;
  }

  private get next(): number {
    return (this.engagement + 1) % this.spec.on_s.length;
  }
}
