import { needOption, Refused } from '../../quantity/index.ts';
import { needSeries } from './baseline.ts';

const LEAST_SEGMENT = 5;
const FEWEST = 12;
/** Critical values by simulation, linear in the number of values and held outside. @source docs/calculations.md, trend */
const COUNTS = [20, 30, 40, 60, 80, 120, 200];
const CRITICAL = {
  '0.01': [11.54, 11.95, 12.05, 12.43, 12.48, 12.9, 13.06],
  '0.05': [7.83, 8.3, 8.52, 8.89, 9.05, 9.36, 9.63],
} as const;

export interface ChangePoint {
  /** first value after the change */
  index: number;
  /** null when both sides are without any spread */
  statistic: number | null;
  critical: number;
  significant: boolean;
  mean_before: number;
  mean_after: number;
  shift: number;
  shift_sigma: number | null;
}

/** Where a series changed its level, and whether that is more than chance. @throws Refused NO_SPREAD for a flat series */
export function changePoint(input: { x: number[]; alpha?: number | undefined }): ChangePoint {
  const alpha = needOption(String(input.alpha ?? 0.01), ['0.01', '0.05'] as const, 'alpha');
  const x = needSeries(input.x, 'x', FEWEST);
  const n = x.length;
  const whole = squares(x);
  if (!(whole.sse > 0)) throw new Refused('NO_SPREAD', 'x');
  let best = { index: -1, sse: Infinity, before: 0, after: 0 };
  for (let k = LEAST_SEGMENT; k <= n - LEAST_SEGMENT; k++) {
    const before = squares(x.slice(0, k));
    const after = squares(x.slice(k));
    const sse = before.sse + after.sse;
    if (sse < best.sse) best = { index: k, sse, before: before.mean, after: after.mean };
  }
  const critical = criticalAt(CRITICAL[alpha], n);
  const statistic = best.sse > 0 ? n * Math.log(whole.sse / best.sse) : null;
  const shift = best.after - best.before;
  return {
    index: best.index,
    statistic,
    critical,
    significant: statistic === null || statistic > critical,
    mean_before: best.before,
    mean_after: best.after,
    shift,
    shift_sigma: best.sse > 0 ? shift / Math.sqrt(best.sse / (n - 2)) : null,
  };
}

function squares(x: readonly number[]): { mean: number; sse: number } {
  const mean = x.reduce((a, b) => a + b, 0) / x.length;
  return { mean, sse: x.reduce((a, v) => a + (v - mean) ** 2, 0) };
}

function criticalAt(values: readonly number[], n: number): number {
  const i = COUNTS.findIndex((count) => count >= n);
  if (i === 0) return values[0]!;
  if (i < 0) return values[values.length - 1]!;
  const share = (n - COUNTS[i - 1]!) / (COUNTS[i]! - COUNTS[i - 1]!);
  return values[i - 1]! + share * (values[i]! - values[i - 1]!);
}
