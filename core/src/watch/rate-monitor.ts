import type { BandMonitor, BandTable } from './band-monitor.ts';
import { needNumber, numberOr } from '../quantity/index.ts';
import { MAX_GAP_S } from './limit-monitor.ts';
import { cleanSeries, type MonitorError, type MonitorResult, RecordBook, tableAscends } from './record-book.ts';

export interface RateInput {
  table?: BandTable;
  window_s: number;
  samples: [number, number | null][];
  max_gap_s?: number;
}
export type RateResult = Omit<MonitorResult, 'budgets'> & {
  extreme_rate: number;
  extreme_t: number;
  unmonitored_s: number;
};

/**
 * Time in bands of a rate of change, r(t) = (v(t) − v(t − w))/w on each stretch without gaps
 * (calculator `rate_monitor`, docs/physics.md).
 */
export function rateMonitor(input: RateInput): RateResult | MonitorError {
  const { table } = input;
  if (!table || !tableAscends(table)) return { error: 'BAD_TABLE', field: 'table' };
  const window_s = needNumber(input.window_s, 'window_s', Number.MIN_VALUE);
  const maxGap_s = numberOr(input.max_gap_s, MAX_GAP_S, 'max_gap_s', Number.MIN_VALUE);
  const clean = cleanSeries(input.samples);
  if ('error' in clean) return clean;
  const book = new RecordBook();
  const monitor = book.open('-', table);
  const sign = table.direction === 'high' ? 1 : -1;
  let extreme = -Infinity;
  let extremeAt = NaN;
  let covered_s = 0;
  for (const run of gapFreeRuns(keepLarger(clean), maxGap_s)) {
    const knots = rateKnots(run, window_s);
    if (knots.length === 0) continue;
    covered_s += knots[knots.length - 1]![0] - knots[0]![0];
    for (const [t, r] of knots) {
      if (sign * r > extreme) {
        extreme = sign * r;
        extremeAt = t;
      }
    }
    feed(monitor, knots);
  }
  if (Number.isNaN(extremeAt)) return { error: 'INSUFFICIENT_DATA', field: 'samples' };
  const { events, records, worst } = book.result();
  const total_s = clean[clean.length - 1]![0] - clean[0]![0];
  return {
    events,
    records,
    worst,
    extreme_rate: sign * extreme,
    extreme_t: extremeAt,
    unmonitored_s: total_s - covered_s,
  };
}

function feed(monitor: BandMonitor, knots: [number, number][]): void {
  if (monitor.started) monitor.close(monitor.t_s);
  monitor.start(...knots[0]!);
  for (const [t, r] of knots.slice(1)) monitor.line(t, r);
}

function keepLarger(rows: [number, number][]): [number, number][] {
  const out: [number, number][] = [];
  for (const [t, v] of rows) {
    const last = out[out.length - 1];
    if (last && last[0] === t) last[1] = Math.max(last[1], v);
    else out.push([t, v]);
  }
  return out;
}

function gapFreeRuns(samples: [number, number][], maxGap_s: number): [number, number][][] {
  const runs: [number, number][][] = [];
  for (const sample of samples) {
    const run = runs[runs.length - 1];
    const last = run?.[run.length - 1];
    if (run && last && sample[0] - last[0] <= maxGap_s + 1e-9) run.push(sample);
    else runs.push([sample]);
  }
  return runs;
}

/** The rate is piecewise linear with a knot wherever either end of its window meets a sample. */
function rateKnots(run: [number, number][], window_s: number): [number, number][] {
  const start = run[0]![0];
  const end = run[run.length - 1]![0];
  if (end - start < window_s - 1e-9) return [];
  const times = [...run.map((s) => s[0]), ...run.map((s) => s[0] + window_s)]
    .filter((t) => t >= start + window_s - 1e-9 && t <= end + 1e-9)
    .sort((a, b) => a - b);
  const knots: [number, number][] = [];
  for (const t of times) {
    if (knots.length && t - knots[knots.length - 1]![0] < 1e-9) continue;
    knots.push([t, (valueAt(run, t) - valueAt(run, t - window_s)) / window_s]);
  }
  return knots;
}

function valueAt(run: [number, number][], t: number): number {
  const i = run.findIndex((s) => s[0] >= t - 1e-9);
  if (i <= 0) return run[Math.max(0, i)]![1];
  const [t0, a] = run[i - 1]!;
  const [t1, b] = run[i]!;
  return a + ((b - a) * (t - t0)) / (t1 - t0);
}
