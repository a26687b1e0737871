import { solve, spreadOf } from '../statistics/index.ts';

/** A column of a regression: one value a row. */
export type Column = readonly number[];

export interface Fitted {
  /** one for each column, in their order */
  slopes: number[];
  /** of each slope, over its standard error */
  t: number[];
  /** spread of what is left */
  s: number;
  residuals: number[];
}

/** further out than this many spreads a value has no say in the fit */
const OUTLIER_SIGMAS = 3.5;

/**
 * Least squares of `y` on `columns` (no intercept of its own), values far from the first fit left out of the second.
 * @returns null when the columns cannot be told apart, or leave no freedom
 */
export function fit(y: Column, columns: readonly Column[]): Fitted | null {
  const all = y.map(() => true);
  const first = leastSquares(y, columns, all);
  if (!first) return null;
  const spread = spreadOf(first.residuals);
  if (!(spread > 0)) return first;
  const kept = first.residuals.map((r) => Math.abs(r) <= OUTLIER_SIGMAS * spread);
  return kept.every(Boolean) ? first : (leastSquares(y, columns, kept) ?? first);
}

function leastSquares(y: Column, columns: readonly Column[], kept: readonly boolean[]): Fitted | null {
  const p = columns.length;
  const n = kept.filter(Boolean).length;
  if (n <= p + 1) return null;
  const normal = columns.map((a) => columns.map((b) => sum(y.length, (i) => (kept[i] ? a[i]! * b[i]! : 0))));
  const slopes = solve(
    normal,
    columns.map((a) => sum(y.length, (i) => (kept[i] ? a[i]! * y[i]! : 0))),
  );
  if (!slopes) return null;
  const residuals = y.map((v, i) => v - sum(p, (j) => slopes[j]! * columns[j]![i]!));
  const s = Math.sqrt(sum(y.length, (i) => (kept[i] ? residuals[i]! ** 2 : 0)) / (n - p));
  const t = slopes.map((slope, j) => {
    const unit = columns.map((_, k) => Number(k === j));
    const variance = solve(normal, unit)?.[j] ?? NaN;
    return s > 0 && variance > 0 ? slope / (s * Math.sqrt(variance)) : slope === 0 ? 0 : Math.sign(slope) * Infinity;
  });
  return { slopes, t, s, residuals };
}

function sum(n: number, of: (i: number) => number): number {
  let total = 0;
  for (let i = 0; i < n; i++) total += of(i);
  return total;
}
