import type { Trace } from '../trace/index.ts';
import type { BandMonitor } from './band-monitor.ts';

/** neighbours further apart than this are a gap: the worse of them is held over it */
export const GAP_S = 2;

export interface Guard {
  index: number;
  low: number;
  high: number;
}

/**
 * The limits of one phase, asked once a frame. Each channel has a window in which a reading can change nothing;
 * a reading inside it costs two comparisons, and the monitors are told of it only when one leaves the window.
 */
export class LimitWindows {
  private readonly columns: Int32Array;
  private readonly high: Float64Array;
  private readonly low: Float64Array;
  /** the same for a replay, which can book a stay in a band afterwards: its window reaches to the next edge */
  private readonly steadyHigh: Float64Array;
  private readonly steadyLow: Float64Array;
  private steadyUntil_s = Infinity;
  private readonly last: Float64Array;
  /** time of the last good sample of a channel that is lost, NaN while it is not */
  private readonly goodUntil_s: Float64Array;
  private readonly monitors: BandMonitor[][];
  private readonly guards: Guard[];

  /**
   * @param limits column of each limit's channel, with its monitor
   * @param guards readings outside which a replay must look closer for another reason than a limit
   */
  constructor(limits: readonly { index: number; monitor: BandMonitor }[], guards: readonly Guard[]) {
    const columns = [...new Set([...limits.map((l) => l.index), ...guards.map((g) => g.index)])];
    // several may guard one channel: the closest of their edges count
    this.guards = columns.map((index) => {
      const own = guards.filter((g) => g.index === index);
      const low = Math.max(-Infinity, ...own.map((g) => g.low));
      return { index, low, high: Math.min(Infinity, ...own.map((g) => g.high)) };
    });
    this.columns = Int32Array.from(columns);
    this.high = new Float64Array(columns.length);
    this.low = new Float64Array(columns.length);
    this.steadyHigh = new Float64Array(columns.length);
    this.steadyLow = new Float64Array(columns.length);
    this.last = new Float64Array(columns.length);
    this.goodUntil_s = new Float64Array(columns.length);
    this.monitors = columns.map((c) => limits.filter((l) => l.index === c).map((l) => l.monitor));
    this.begin();
  }

  /** The phase of these limits begins: every channel is looked at once. */
  begin(): void {
    this.high.fill(-Infinity);
    this.low.fill(-Infinity);
    this.steadyHigh.fill(-Infinity);
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

  /** First of the rows from `from` that needs a closer look, `to` when none does: column by column, as far as all are inside. */
  quietUntil({ t_s, columns }: Trace, from: number, to: number): number {
    let end = to;
    for (let k = 0; k < this.columns.length && end > from; k++) {
      end = insideUntil(columns[this.columns[k]!]!, this.steadyLow[k]!, this.steadyHigh[k]!, from, end);
    }
    return end > from && t_s[end - 1]! < this.steadyUntil_s ? end : from;
  }

  /** Takes over rows in which all were inside; stays that are open are booked sample by sample. */
  skip({ t_s, columns }: Trace, from: number, to: number): void {
    for (let k = 0; k < this.columns.length; k++) {
      const column = columns[this.columns[k]!]!;
      for (const monitor of this.monitors[k]!) {
        if (!monitor.active) continue;
        for (let i = from; i < to; i++) monitor.line(t_s[i]!, column[i]!);
      }
      this.last[k] = column[to - 1]!;
    }
  }

  private judge(k: number, before_s: number, t_s: number, v: number): void {
    if (Number.isNaN(v)) {
      // a lost sample is bridged; one that stays lost becomes a gap when it is back
      if (Number.isNaN(this.goodUntil_s[k]!)) this.goodUntil_s[k] = before_s;
      this.high[k] = -Infinity;
      this.steadyHigh[k] = -Infinity;
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
    this.findSteady(k);
  }

  private findSteady(k: number): void {
    let { low, high } = this.guards[k]!;
    for (const monitor of this.monitors[k]!) {
      const steady = monitor.steady();
      high = Math.min(high, steady.high);
      low = Math.max(low, steady.low);
    }
    this.steadyHigh[k] = high;
    this.steadyLow[k] = low;
    this.steadyUntil_s = Infinity;
    for (const list of this.monitors)
      for (const monitor of list)
        if (monitor.active) this.steadyUntil_s = Math.min(this.steadyUntil_s, monitor.steady().until_s);
  }

  private catchUp(k: number, before_s: number): void {
    if (Number.isNaN(this.last[k]!)) return;
    const at_s = Number.isNaN(this.goodUntil_s[k]!) ? before_s : this.goodUntil_s[k]!;
    for (const monitor of this.monitors[k]!) if (monitor.started && !monitor.active) monitor.pass(at_s, this.last[k]!);
  }
}

/**
 * First row whose value is not strictly between the edges; NaN never is. Eight at a time: strictly between two edges is
 * where the product of the distances is positive, and an edge at infinity costs nothing.
 */
// the loops are unrolled by hand: a replay spends its time here
// oxlint-disable-next-line eslint/complexity
function insideUntil(column: Float64Array, low: number, high: number, from: number, to: number): number {
  const c = column;
  const last = Math.min(to, c.length);
  const full = last - 7;
  let i = from;
  if (low === -Infinity) {
    while (
      i < full &&
      c[i]! < high &&
      c[i + 1]! < high &&
      c[i + 2]! < high &&
      c[i + 3]! < high &&
      c[i + 4]! < high &&
      c[i + 5]! < high &&
      c[i + 6]! < high &&
      c[i + 7]! < high
    )
      i += 8;
  } else if (high === Infinity) {
    while (
      i < full &&
      c[i]! > low &&
      c[i + 1]! > low &&
      c[i + 2]! > low &&
      c[i + 3]! > low &&
      c[i + 4]! > low &&
      c[i + 5]! > low &&
      c[i + 6]! > low &&
      c[i + 7]! > low
    )
      i += 8;
  } else {
    while (
      i < full &&
      (c[i]! - low) * (high - c[i]!) > 0 &&
      (c[i + 1]! - low) * (high - c[i + 1]!) > 0 &&
      (c[i + 2]! - low) * (high - c[i + 2]!) > 0 &&
      (c[i + 3]! - low) * (high - c[i + 3]!) > 0
    )
      i += 4;
  }
  for (; i < last; i++) {
    const v = c[i]!;
    if (!(v < high && v > low)) return i;
  }
  return last;
}
