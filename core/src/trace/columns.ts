/** A stretch of recorded frames: run clock in seconds and one column per channel, NaN where a sensor was lost. */
export interface Trace {
  readonly channels: readonly string[];
  readonly t_s: Float64Array;
  readonly columns: readonly Float64Array[];
}

/** A trace that grows frame by frame; its buffers double, so appending does not allocate per frame. */
export class TraceBuilder {
  readonly channels: readonly string[];
  length = 0;
  private t: Float64Array;
  private columns: Float64Array[];

  constructor(channels: readonly string[], capacity = 512) {
    this.channels = channels;
    this.t = new Float64Array(capacity);
    this.columns = channels.map(() => new Float64Array(capacity));
  }

  push(t_s: number, values: ArrayLike<number>): void {
    if (this.length === this.t.length) this.grow();
    this.t[this.length] = t_s;
    for (let i = 0; i < this.columns.length; i++) this.columns[i]![this.length] = values[i] ?? NaN;
    this.length++;
  }

  clear(): void {
    this.length = 0;
  }

  /** The frames so far, as they stand here: good until the next one. */
  view(): Trace {
    return {
      channels: this.channels,
      t_s: this.t.subarray(0, this.length),
      columns: this.columns.map((c) => c.subarray(0, this.length)),
    };
  }

  /** The frames so far, as a copy. */
  toTrace(): Trace {
    return {
      channels: this.channels,
      t_s: this.t.slice(0, this.length),
      columns: this.columns.map((c) => c.slice(0, this.length)),
    };
  }

  private grow(): void {
    const wider = (old: Float64Array): Float64Array => {
      const next = new Float64Array(old.length * 2);
      next.set(old);
      return next;
    };
    this.t = wider(this.t);
    this.columns = this.columns.map(wider);
  }
}

/** Traces of the same channels one after the other. @throws RangeError when the channels differ */
export function joinTraces(parts: readonly Trace[], channels: readonly string[]): Trace {
  const rows = parts.reduce((n, p) => n + p.t_s.length, 0);
  const t_s = new Float64Array(rows);
  const columns = channels.map(() => new Float64Array(rows));
  let at = 0;
  for (const part of parts) {
    if (part.channels.length !== channels.length) throw new RangeError('traces of different channels cannot be joined');
    t_s.set(part.t_s, at);
    part.columns.forEach((c, i) => columns[i]!.set(c, at));
    at += part.t_s.length;
  }
  return { channels, t_s, columns };
}

/** The column of one channel. @throws RangeError for a channel that the trace does not have */
export function columnOf(trace: Trace, channel: string): Float64Array {
  const column = trace.columns[trace.channels.indexOf(channel)];
  if (!column) throw new RangeError(`the trace has no channel named ${channel}`);
  return column;
}

/** Copies row `i` into `into`, in channel order. */
export function rowInto(trace: Trace, i: number, into: Float64Array): void {
  for (let c = 0; c < trace.columns.length; c++) into[c] = trace.columns[c]![i]!;
}

/** First row at or after `t_s`. */
export function rowAt(trace: Trace, t_s: number): number {
  let low = 0;
  let high = trace.t_s.length;
  while (low < high) {
    const mid = (low + high) >> 1;
    if (trace.t_s[mid]! < t_s) low = mid + 1;
    else high = mid;
  }
  return low;
}
