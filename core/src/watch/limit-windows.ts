import type { BandMonitor } from './band-monitor.ts';

/** neighbours further apart than this are a gap: the worse of them is held over it */
export const GAP_S = 2;

/**
 * The limits of one phase, asked once a frame. Each channel has a window in which a reading can change nothing;
 * a reading inside it costs two comparisons, and the monitors are told of it only when one leaves the window.
 */
export class LimitWindows {
  private readonly columns: Int32Array;
  private readonly high: Float64Array;
  private readonly low: Float64Array;
  private readonly last: Float64Array;
  /** time of the last good sample of a channel that is lost, NaN while it is not */
  private readonly goodUntil_s: Float64Array;
  private readonly monitors: BandMonitor[][];

  /** @param limits column of each limit's channel, with its monitor */
  constructor(limits: readonly { index: number; monitor: BandMonitor }[]) {
    const columns = [...new Set(limits.map((l) => l.index))];
    this.columns = Int32Array.from(columns);
    this.high = new Float64Array(columns.length);
    this.low = new Float64Array(columns.length);
    this.last = new Float64Array(columns.length);
    this.goodUntil_s = new Float64Array(columns.length);
    this.monitors = columns.map((c) => limits.filter((l) => l.index === c).map((l) => l.monitor));
    this.begin();
  }

  /** The phase of these limits begins: every channel is looked at once. */
  begin(): void {
    this.high.fill(-Infinity);
    this.low.fill(-Infinity);
    this.last.fill(NaN);
    this.goodUntil_s.fill(NaN);
  }

  /** The phase ends at the frame of `t_s`: the monitors learn the readings that they were spared. */
  end(t_s: number): void {
    for (let k = 0; k < this.columns.length; k++) this.catchUp(k, t_s);
  }

  /** @param before_s time of the frame before, NaN for the first */
  step(before_s: number, t_s: number, values: Float64Array): void {
    const { columns, high, low, last } = this;
    const gap = t_s - before_s > GAP_S;
    for (let k = 0; k < columns.length; k++) {
      const v = values[columns[k]!]!;
      if (v < high[k]! && v > low[k]! && !gap) last[k] = v;
      else this.judge(k, before_s, t_s, v);
    }
  }

  /**
   * First of the rows from `from` that needs a closer look, `to` when none does: column by column, as far as all are inside.
   * @param columnsOf the trace's columns, in channel order
   */
  quietUntil(columnsOf: readonly Float64Array[], from: number, to: number): number {
    let end = to;
    for (let k = 0; k < this.columns.length && end > from; k++) {
      end = insideUntil(columnsOf[this.columns[k]!]!, this.low[k]!, this.high[k]!, from, end);
    }
    return end;
  }

  /** Takes over the readings of a row up to which all were inside. */
  skipTo(columnsOf: readonly Float64Array[], row: number): void {
    for (let k = 0; k < this.columns.length; k++) this.last[k] = columnsOf[this.columns[k]!]![row]!;
  }

  private judge(k: number, before_s: number, t_s: number, v: number): void {
    if (Number.isNaN(v)) {
      // a lost sample is bridged; one that stays lost becomes a gap when it is back
      if (Number.isNaN(this.goodUntil_s[k]!)) this.goodUntil_s[k] = before_s;
      this.high[k] = -Infinity;
      return;
    }
    this.catchUp(k, before_s);
    this.goodUntil_s[k] = NaN;
    let high = Infinity;
    let low = -Infinity;
    for (const monitor of this.monitors[k]!) {
      if (!monitor.started) monitor.start(t_s, v);
      else if (t_s - monitor.t_s > GAP_S) {
        monitor.jump(monitor.worse(monitor.value, v));
        monitor.hold(t_s);
        monitor.jump(v);
      } else monitor.line(t_s, v);
      if (monitor.active) high = -Infinity;
      else if (monitor.table.direction === 'high') high = Math.min(high, monitor.quiet);
      else low = Math.max(low, monitor.quiet);
    }
    this.high[k] = high;
    this.low[k] = low;
    this.last[k] = v;
  }

  private catchUp(k: number, before_s: number): void {
    if (Number.isNaN(this.last[k]!)) return;
    const at_s = Number.isNaN(this.goodUntil_s[k]!) ? before_s : this.goodUntil_s[k]!;
    for (const monitor of this.monitors[k]!) if (monitor.started && !monitor.active) monitor.pass(at_s, this.last[k]!);
  }
}

/** First row whose value is not strictly between the edges; NaN never is. Four at a time, and an edge at infinity costs nothing. */
export function insideUntil(column: Float64Array, low: number, high: number, from: number, to: number): number {
  const last = Math.min(to, column.length);
  let i = from;
  if (low === -Infinity) {
    while (i + 3 < last && column[i]! < high && column[i + 1]! < high && column[i + 2]! < high && column[i + 3]! < high)
      i += 4;
  } else if (high === Infinity) {
    while (i + 3 < last && column[i]! > low && column[i + 1]! > low && column[i + 2]! > low && column[i + 3]! > low)
      i += 4;
  }
  for (; i < last; i++) {
    const v = column[i]!;
    if (!(v < high && v > low)) return i;
  }
  return last;
}
