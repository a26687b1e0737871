import { joinTraces, type Trace } from './columns.ts';
import { decimate } from './decimate.ts';

/** frames that lie further apart are not drawn together into one */
const GAP_S = 1;

/** A stretch of the run clock, s. */
export type Stretch = readonly [from_s: number, to_s: number];

/**
 * A trace for keeping long: some stretches as they are, of the rest a few rows a second with every extreme of every channel.
 * Rows of the rest are no frames any more: a channel's lowest and highest of a moment stand in them, side by side.
 * @param perSecond rows of the rest, 0 for none @param whole stretches that are kept as they are, ends included
 */
export function thin(trace: Trace, perSecond: number, whole: readonly Stretch[]): Trace {
  const isWhole = (t_s: number): boolean => whole.some(([from_s, to_s]) => t_s >= from_s && t_s <= to_s);
  const parts: Trace[] = [];
  const rows = trace.t_s.length;
  for (let from = 0; from < rows;) {
    const kept = isWhole(trace.t_s[from]!);
    let to = from + 1;
    while (to < rows && isWhole(trace.t_s[to]!) === kept && trace.t_s[to]! - trace.t_s[to - 1]! <= GAP_S) to++;
    const part: Trace = {
      channels: trace.channels,
      t_s: trace.t_s.subarray(from, to),
      columns: trace.columns.map((c) => c.subarray(from, to)),
    };
    const lasts_s = part.t_s[to - from - 1]! - part.t_s[0]!;
    if (kept) parts.push(part);
    else if (perSecond > 0) parts.push(decimate(part, Math.max(2, 2 * Math.ceil((lasts_s * perSecond) / 2))));
    from = to;
  }
  return joinTraces(parts, trace.channels);
}
