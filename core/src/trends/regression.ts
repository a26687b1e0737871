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
  const first = leastSquares(y, columns, null);
  if (!first) return null;
  const spread = spreadOf(first.residuals);
  if (!(spread > 0)) return first;
  const kept: number[] = [];
  for (let i = 0; i < y.length; i++) if (Math.abs(first.residuals[i]!) <= OUTLIER_SIGMAS * spread) kept.push(i);
  return kept.length === y.length ? first : (leastSquares(y, columns, kept) ?? first);
}

/** @param kept rows that have a say; null for all */
function leastSquares(y: Column, columns: readonly Column[], kept: readonly number[] | null): Fitted | null {
  const p = columns.length;
  const n = kept?.length ?? y.length;
  if (n <= p + 1) return null;
  const rows = columns.map((column) => rowsOf(column, kept));
  const wanted = rowsOf(y, kept);
  const normal = rows.map(() => Array.from({ length: p }, () => 0));
  for (let j = 0; j < p; j++) for (let k = 0; k <= j; k++) normal[j]![k] = normal[k]![j] = dot(rows[j]!, rows[k]!);
  const slopes = solve(
    normal,
    rows.map((row) => dot(row, wanted)),
  );
  if (!slopes) return null;
  const residuals = [...y];
  for (let j = 0; j < p; j++) {
    const [slope, column] = [slopes[j]!, columns[j]!];
    for (let i = 0; i < residuals.length; i++) residuals[i]! -= slope * column[i]!;
  }
  const left = rowsOf(residuals, kept);
  const s = Math.sqrt(dot(left, left) / (n - p));
  const t = slopes.map((slope, j) => {
    const unit = columns.map((_, k) => Number(k === j));
    const variance = solve(normal, unit)?.[j] ?? NaN;
    return s > 0 && variance > 0 ? slope / (s * Math.sqrt(variance)) : slope === 0 ? 0 : Math.sign(slope) * Infinity;
  });
  return { slopes, t, s, residuals };
}

const rowsOf = (column: Column, kept: readonly number[] | null): Float64Array =>
  kept ? Float64Array.from(kept, (i) => column[i]!) : Float64Array.from(column);

function dot(a: Float64Array, b: Float64Array): number {
  let total = 0;
  for (let i = 0; i < a.length; i++) total += a[i]! * b[i]!;
  return total;
}
