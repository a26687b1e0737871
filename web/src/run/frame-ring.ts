import { FRAME_HEADER, type SourceState } from '@rouse/core/contract';
import type { Trace } from '@rouse/core/trace';
import { SOURCE_LOST_AFTER_S } from '@rouse/core/watch';

/** 50 Hz for three minutes: what the live drawings look back on. */
const CAPACITY = 9000;

/** The latest frames of the followed run, outside React and Redux: widgets draw from it when they paint. */
export class FrameRing {
  private t = new Float64Array(CAPACITY);
  private columns: Float64Array[] = [];
  private head = 0;
  length = 0;
  unit_s = NaN;
  /** what the server says of the source, and when it said so */
  private source: SourceState = 'none';
  private heardAt_ms = -Infinity;

  /** Begins anew with frames that the server had stored already. */
  reset(channels: number, stored: Trace | null): void {
    this.columns = Array.from({ length: channels }, () => new Float64Array(CAPACITY));
    this.head = 0;
    this.length = 0;
    this.source = 'none';
    this.heardAt_ms = -Infinity;
    if (!stored) return;
    const row = new Float64Array(FRAME_HEADER + channels);
    for (let i = 0; i < stored.t_s.length; i++) {
      row[0] = stored.t_s[i]!;
      stored.columns.forEach((c, k) => (row[FRAME_HEADER + k] = c[i]!));
      this.store(row, 0);
    }
  }

  /** Takes frames in, one behind the other; of another aircraft than this ring is for, none. */
  push(frames: Float64Array): void {
    const width = this.columns.length + FRAME_HEADER;
    if (frames.length % width !== 0) return;
    for (let at = 0; at < frames.length; at += width) this.store(frames, at);
    if (frames.length) this.unit_s = frames[frames.length - width + 1]!;
  }

  /** Whether there is data is judged where it arrives; the page only hears of it. */
  heard(source: SourceState, now_ms: number): void {
    this.source = source;
    this.heardAt_ms = now_ms;
  }

  /** Whether the last frame may be believed: its source is live, by a word that is not older than a reading may be. */
  fresh(now_ms: number): boolean {
    return this.source === 'live' && now_ms - this.heardAt_ms < 1000 * SOURCE_LOST_AFTER_S;
  }

  /** Time of frame `i`, counted from the oldest. */
  timeAt(i: number): number {
    return this.t[this.place(i)]!;
  }

  valueAt(channel: number, i: number): number {
    return this.columns[channel]?.[this.place(i)] ?? NaN;
  }

  /** Last value of a channel, NaN when there is none. */
  last(channel: number): number {
    return this.length ? this.valueAt(channel, this.length - 1) : NaN;
  }

  lastTime(): number {
    return this.length ? this.timeAt(this.length - 1) : NaN;
  }

  /** First frame at or after a time. */
  indexAt(t_s: number): number {
    let low = 0;
    let high = this.length;
    while (low < high) {
      const mid = (low + high) >> 1;
      if (this.timeAt(mid) < t_s) low = mid + 1;
      else high = mid;
    }
    return low;
  }

  /** The last frame in channel order, NaN everywhere when it is not fresh. */
  lastFrame(now_ms: number): Float64Array {
    const fresh = this.fresh(now_ms);
    return Float64Array.from(this.columns, (_, k) => (fresh ? this.last(k) : NaN));
  }

  private place(i: number): number {
    return (this.head - this.length + i + CAPACITY) % CAPACITY;
  }

  private store(frames: Float64Array, at: number): void {
    if (this.length && !(frames[at]! > this.lastTime())) return;
    this.t[this.head] = frames[at]!;
    for (let k = 0; k < this.columns.length; k++) this.columns[k]![this.head] = frames[at + FRAME_HEADER + k]!;
    this.head = (this.head + 1) % CAPACITY;
    if (this.length < CAPACITY) this.length++;
  }
}

/** One page follows one run at a time. */
export const ring = new FrameRing();
