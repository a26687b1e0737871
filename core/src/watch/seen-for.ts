import { HOLE_S } from './seen.ts';

/**
 * How long something was seen to be so. A frame without the reading adds nothing and takes nothing away: a poor line loses
 * one in ten. Where it is missing for longer, what was seen before counts no more.
 */
export class SeenFor {
  private seen_s = 0;
  private missing_s = 0;

  reset(): void {
    this.seen_s = 0;
    this.missing_s = 0;
  }

  /** One frame. @param dt_s time since the frame before @param reading NaN where it is missing @returns seconds */
  update(dt_s: number, reading: number, is: boolean): number {
    if (!Number.isNaN(reading)) {
      this.missing_s = 0;
      this.seen_s = is ? this.seen_s + dt_s : 0;
    } else if ((this.missing_s += dt_s) > HOLE_S) this.seen_s = 0;
    return this.seen_s;
  }

  get seconds(): number {
    return this.seen_s;
  }
}
