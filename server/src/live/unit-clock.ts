const APART_MS = 500;
/** frames that come later than this are no longer what the aircraft does now */
const LATE_MS = 2000;

/**
 * The clock of a unit beside that of the program: its readings keep the distances that the unit gives them, also when the
 * line held them back for a moment, and are set anew when the two have come apart, as after a loss of power. A unit that
 * is hurried may run ahead.
 */
export class UnitClock {
  private zero_ms = NaN;
  private last_ms = NaN;

  /**
   * @param unit_s the unit's own time of a reading
   * @param expected_ms when it would be taken to have happened if nothing were known of the unit
   * @returns when it happened, epoch ms
   */
  at(unit_s: number, expected_ms: number, hurried: boolean): number {
    const unit_ms = unit_s * 1000;
    const ahead_ms = this.zero_ms + unit_ms - expected_ms;
    const follows = unit_ms > this.last_ms && unit_ms - this.last_ms < APART_MS;
    const late = ahead_ms < 0 && ahead_ms > -LATE_MS;
    const keeps = Math.abs(ahead_ms) < APART_MS || (follows && (hurried || late));
    if (!keeps) this.zero_ms = expected_ms - unit_ms;
    this.last_ms = unit_ms;
    return this.zero_ms + unit_ms;
  }
}
