const APART_MS = 500;
/** frames that stay late for as long as this, without catching up, are taken as they come */
const LATE_FOR_MS = 1000;
/** a line that gives back what it held becomes less late, and not by chance */
const CATCHES_UP_MS = 100;
/** a line does not hold back more than this */
const LATE_MS = 60_000;

/**
 * The clock of a unit beside that of the program: its readings keep the distances that the unit gives them, also when the
 * line held them back and lets them go in a heap, and are set anew when the two have come apart, as after a loss of power.
 * A unit that is hurried may run ahead.
 */
export class UnitClock {
  private zero_ms = NaN;
  private last_ms = NaN;
  private lateSince_ms = NaN;
  /** how late it was then */
  private lateFrom_ms = NaN;

  /**
   * @param unit_s the unit's own time of a reading
   * @param expected_ms when it would be taken to have happened if nothing were known of the unit, by a clock that only goes forward
   * @returns when it happened, by that clock
   */
  at(unit_s: number, expected_ms: number, hurried: boolean): number {
    const unit_ms = unit_s * 1000;
    const ahead_ms = this.zero_ms + unit_ms - expected_ms;
    const step_ms = unit_ms - this.last_ms;
    const follows = step_ms > 0 && step_ms < APART_MS;
    if (!(ahead_ms <= -APART_MS)) this.lateSince_ms = NaN;
    else if (Number.isNaN(this.lateSince_ms) || -ahead_ms < this.lateFrom_ms - CATCHES_UP_MS) {
      this.lateSince_ms = expected_ms;
      this.lateFrom_ms = -ahead_ms;
    }
    const ahead = ahead_ms > 0 && hurried;
    const stays = expected_ms - this.lateSince_ms >= LATE_FOR_MS;
    const late = ahead_ms > -LATE_MS && ahead_ms < 0 && !stays;
    if (!(Math.abs(ahead_ms) < APART_MS || (follows && (ahead || late)))) this.zero_ms = expected_ms - unit_ms;
    this.last_ms = unit_ms;
    return this.zero_ms + unit_ms;
  }
}
