import type { Trace } from './columns.ts';

/**
 * Thins a trace for drawing without losing its extremes.
 * @param points upper bound on the rows of the result; each bucket keeps, per channel, its lowest and its highest value
 */
export function decimate(trace: Trace, points: number): Trace {
  const rows = trace.t_s.length;
  const buckets = Math.floor(points / 2);
  if (rows <= points || buckets < 1) return trace;
  const t_s = new Float64Array(buckets * 2);
  const columns = trace.columns.map(() => new Float64Array(buckets * 2));
  for (let b = 0; b < buckets; b++) {
    const from = Math.floor((b * rows) / buckets);
    const to = Math.floor(((b + 1) * rows) / buckets);
    t_s[2 * b] = trace.t_s[from]!;
    t_s[2 * b + 1] = trace.t_s[to - 1]!;
    trace.columns.forEach((column, c) => {
      let low = NaN;
      let high = NaN;
      let lowAt = 0;
      let highAt = 0;
      for (let i = from; i < to; i++) {
        const v = column[i]!;
        if (Number.isNaN(v)) continue;
        if (!(v >= low)) {
          low = v;
          lowAt = i;
        }
        if (!(v <= high)) {
          high = v;
          highAt = i;
        }
      }
      columns[c]![2 * b] = lowAt <= highAt ? low : high;
      columns[c]![2 * b + 1] = lowAt <= highAt ? high : low;
    });
  }
  return { channels: trace.channels, t_s, columns };
}
