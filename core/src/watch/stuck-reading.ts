const STANDS_FOR_S = 3;
/** a slow and coarse recorder repeats a figure now and then; so many in a row it does not */
const STANDS_FOR_SAMPLES = 10;

/** A reading that stands still, to the last digit, while the engine that it belongs to does not. */
export class StuckReading {
  private stands_s = 0;
  private samples = 0;
  private last = NaN;
  private movedFrom = NaN;

  reset(): void {
    this.stands_s = 0;
    this.samples = 0;
    this.last = NaN;
    this.movedFrom = NaN;
  }

  /** @param other a reading that moves with it @param moves how far `other` must have gone @returns true while it is not to be believed */
  update(dt_s: number, value: number, other: number, moves: number): boolean {
    if (value !== this.last || Number.isNaN(this.movedFrom)) {
      this.last = value;
      this.stands_s = 0;
      this.samples = 0;
      this.movedFrom = other;
      return false;
    }
    this.stands_s += dt_s;
    this.samples++;
    const stands = this.stands_s >= STANDS_FOR_S && this.samples >= STANDS_FOR_SAMPLES;
    return stands && Math.abs(other - this.movedFrom) >= moves;
  }
}
