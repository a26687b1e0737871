/** a speed that is gone from one frame to the next, from here on, is a lost pick-up: what turns has inertia */
const GONE_FROM_PCT = 5;
/** no engine, however it races, changes its speed faster */
const FASTEST_PCT_S = 500;
/** noise and coarse digits, whatever the time between two readings */
const COARSE_PCT = 8;

/** The speed of an engine in a start as far as its reading can be believed: what turns has inertia, a reading has none. */
export class Pickup {
  /** NaN where it is not read, or cannot be */
  speed_pct = NaN;
  /** how fast it rose since the reading before that could be, NaN where there is none */
  rate_pct_s = NaN;
  /** time between these two readings */
  step_s = 0;
  private last_pct = NaN;
  private since_s = 0;

  reset(): void {
    this.speed_pct = NaN;
    this.rate_pct_s = NaN;
    this.step_s = 0;
    this.last_pct = NaN;
    this.since_s = 0;
  }

  /** One frame. @param dt_s time since the frame before @param reading_pct NaN where it is missing */
  read(dt_s: number, reading_pct: number): void {
    this.since_s += dt_s;
    this.speed_pct = NaN;
    this.rate_pct_s = NaN;
    if (Number.isNaN(reading_pct)) return;
    const gone = reading_pct === 0 && this.last_pct > GONE_FROM_PCT;
    const leapt = Math.abs(reading_pct - this.last_pct) > COARSE_PCT + FASTEST_PCT_S * this.since_s;
    if (gone || leapt) return;
    this.speed_pct = reading_pct;
    this.rate_pct_s = (reading_pct - this.last_pct) / this.since_s;
    this.step_s = this.since_s;
    this.last_pct = reading_pct;
    this.since_s = 0;
  }
}
