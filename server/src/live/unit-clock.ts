const APART_MS = 500;
/** frames that come later than this, or stay late for as long as that, are taken as they come */
const LATE_MS = 2000;
const LATE_FOR_MS = 1000;

/**
 * The clock of a unit beside that of the program: its readings keep the distances that the unit gives them, also when the
 * line held them back for a moment, and are set anew when the two have come apart, as after a loss of power. A unit that
 * is hurried may run ahead.
 */
export class UnitClock {
  private zero_ms = NaN;
  private last_ms = NaN;
  private lateSince_ms = NaN;

  /**
   * @param unit_s the unit's own time of a reading
   * @param expected_ms when it would be taken to have happened if nothing were known of the unit
   * @returns when it happened, epoch ms
   */
  at(unit_s: number, expected_ms: number, hurried: boolean): number {
    const unit_ms = unit_s * 1000;
    const ahead_ms = this.zero_ms + unit_ms - expected_ms;
    const follows = unit_ms > this.last_ms && unit_ms - this.last_ms < APART_MS;
    if (!(ahead_ms <= -APART_MS)) this.lateSince_ms = NaN;
    else if (Number.isNaN(this.lateSince_ms)) this.lateSince_ms = expected_ms;
    const ahead = ahead_ms > 0 && hurried;
    const late = ahead_ms > -LATE_MS && expected_ms - this.lateSince_ms < LATE_FOR_MS;
    const keeps = Math.abs(ahead_ms) < APART_MS || (follows && (ahead || late));
    if (!keeps) this.zero_ms = expected_ms - unit_ms;
    this.last_ms = unit_ms;
    return this.zero_ms + unit_ms;
  }
}
