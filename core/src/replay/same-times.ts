/** Where reading can go on later, at the beginning of a row. */
export interface RowPlace {
  offset: number;
  line: number;
  first_s: number;
  day_s: number;
  clock_s: number;
  rows: number;
}

/** more rows of one time stamp than this are no recorder's: they are given as they are, a thousandth apart */
const MOST = 2000;
/** where nothing tells how far the next stamp would be, s */
const USUAL_STEP_S = 1;

type Given = (t_s: number, values: Float64Array, line: number, place: RowPlace) => void;

/**
 * Rows whose clock shows whole seconds only share a time stamp: they are held back until the next one comes, and spread
 * evenly up to it. A row alone in its time goes through at once when the next has come.
 */
export class SameTimes {
  last_s = -Infinity;
  /** rows whose time did not go on from the row before */
  repeated = 0;
  private readonly give: Given;
  private readonly lines: number[] = [];
  private readonly held: Float64Array[] = [];
  private count = 0;
  private place: RowPlace | null = null;
  private step_s = USUAL_STEP_S;

  constructor(give: Given) {
    this.give = give;
  }

  reset(): void {
    this.last_s = -Infinity;
    this.count = 0;
    this.place = null;
  }

  /** @param values used again by the caller */
  row(t_s: number, values: Float64Array, line: number, place: RowPlace): void {
    if (t_s > this.last_s) {
      if (this.count > 0) this.release(t_s - this.last_s);
      this.last_s = t_s;
      this.place = place;
    } else this.repeated++;
    if (this.count >= MOST) this.release(this.step_s);
    (this.held[this.count] ??= new Float64Array(values.length)).set(values);
    this.lines[this.count++] = line;
  }

  /** No row comes any more. */
  end(): void {
    if (this.count > 0) this.release(this.step_s);
  }

  private release(gap_s: number): void {
    // after a hole the rows before it are spread as the rows before them were
    const over_s = this.count > 1 ? Math.min(gap_s, USUAL_STEP_S) : gap_s;
    if (this.count > 1) this.step_s = over_s;
    for (let k = 0; k < this.count; k++)
      this.give(this.last_s + (k * over_s) / this.count, this.held[k]!, this.lines[k]!, this.place!);
    this.count = 0;
  }
}
