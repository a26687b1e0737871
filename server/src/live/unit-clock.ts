const RESYNC_AFTER_MS = 500;

/**
 * The clock of a unit beside that of the program: its readings keep the distances that the unit gives them, and are set
 * anew when the two have come apart, as after a loss of power. A unit that is hurried may run ahead.
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
    const keeps = hurried && ahead_ms > 0 && unit_ms - this.last_ms < RESYNC_AFTER_MS;
    if (!(Math.abs(ahead_ms) < RESYNC_AFTER_MS) && !keeps) this.zero_ms = expected_ms - unit_ms;
    this.last_ms = unit_ms;
    return this.zero_ms + unit_ms;
  }
}
