import type { Channel, Quantity } from '../aircraft/index.ts';

const FIRST_ROWS = 1024;

/** The frames of one check, only the channels that it reads, for as long as it goes on. */
export class CheckRecord {
  rows = 0;
  private times_s = new Float64Array(FIRST_ROWS);
  private readonly columns = new Map<string, { index: number; values: Float64Array }>();

  /** @throws RangeError for a channel that the type does not have */
  constructor(channels: readonly Channel[], ids: Iterable<string>) {
    for (const id of ids) {
      const index = channels.findIndex((c) => c.id === id);
      if (index < 0) throw new RangeError(`there is no channel named ${id}`);
      this.columns.set(id, { index, values: new Float64Array(FIRST_ROWS) });
    }
  }

  push(t_s: number, frame: ArrayLike<number>): void {
    if (this.rows === this.times_s.length) this.grow();
    this.times_s[this.rows] = t_s;
    for (const column of this.columns.values()) column.values[this.rows] = frame[column.index]!;
    this.rows++;
  }

  get first_s(): number {
    return this.times_s[0]!;
  }

  get last_s(): number {
    return this.times_s[this.rows - 1]!;
  }

  /** Forgets everything older than this. */
  dropBefore(t_s: number): void {
    const from = this.indexAt(t_s);
    if (from < FIRST_ROWS) return;
    this.times_s.copyWithin(0, from, this.rows);
    for (const { values } of this.columns.values()) values.copyWithin(0, from, this.rows);
    this.rows -= from;
  }

  /** The rows of a quantity in a stretch of time, ends included: NaN where any of its channels is lost. */
  read({ plus, minus = [] }: Quantity, from_s: number, to_s: number): { t_s: number[]; values: number[] } {
    const t_s: number[] = [];
    const values: number[] = [];
    for (let i = this.indexAt(from_s - 1e-9); i < this.rows && this.times_s[i]! <= to_s + 1e-9; i++) {
      let value = 0;
      for (const id of plus) value += this.columns.get(id)!.values[i]!;
      for (const id of minus) value -= this.columns.get(id)!.values[i]!;
      t_s.push(this.times_s[i]!);
      values.push(value);
    }
    return { t_s, values };
  }

  /** Copies the channels of one row into a frame in channel order. */
  frameAt(row: number, frame: Float64Array): void {
    for (const { index, values } of this.columns.values()) frame[index] = values[row]!;
  }

  timeAt(row: number): number {
    return this.times_s[row]!;
  }

  /** First row at or after this time. */
  indexAt(t_s: number): number {
    let [low, high] = [0, this.rows];
    while (low < high) {
      const mid = (low + high) >> 1;
      if (this.times_s[mid]! < t_s) low = mid + 1;
      else high = mid;
    }
    return low;
  }

  private grow(): void {
    const wider = (old: Float64Array): Float64Array<ArrayBuffer> => {
      const next = new Float64Array(2 * old.length);
      next.set(old);
      return next;
    };
    this.times_s = wider(this.times_s);
    for (const column of this.columns.values()) column.values = wider(column.values);
  }
}
