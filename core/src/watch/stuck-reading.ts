const STANDS_FOR_S = 3;
/** a slow and coarse recorder repeats a figure now and then; so many in a row it does not */
const STANDS_FOR_SAMPLES = 10;

/** A reading that stands still while the engine that it belongs to does not. */
export class StuckReading {
  private readonly within: number;
  private stands_s = 0;
  private samples = 0;
  private from = NaN;
  private movedFrom = NaN;

  /** @param within how much a reading that stands still may tremble, 0 for to the last digit */
  constructor(within: number) {
    this.within = within;
  }

  reset(): void {
    this.stands_s = 0;
    this.samples = 0;
    this.from = NaN;
    this.movedFrom = NaN;
  }

  /** @param other a reading that moves with it @param moves how far `other` must have gone @returns true while it is not to be believed */
  update(dt_s: number, value: number, other: number, moves: number): boolean {
    if (!(Math.abs(value - this.from) <= this.within)) {
      this.from = value;
      this.stands_s = 0;
      this.samples = 0;
      this.movedFrom = other;
      return false;
    }
    if (Number.isNaN(this.movedFrom)) this.movedFrom = other;
    this.stands_s += dt_s;
    this.samples++;
    const stands = this.stands_s >= STANDS_FOR_S && this.samples >= STANDS_FOR_SAMPLES;
    return stands && Math.abs(other - this.movedFrom) >= moves;
  }
}
