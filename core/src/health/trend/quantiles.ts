import { needNumber } from '../../quantity/index.ts';
import { normalQuantile, normalTail, studentQuantile } from '../../statistics/index.ts';

/** Checked quantile of the standard normal (calculator `normal_quantile`), and the probability that leads back. */
export function checkedNormalQuantile(input: { p: number }): { z: number; cdf_back: number } {
  const p = needNumber(input.p, 'p', Number.MIN_VALUE, 1 - Number.EPSILON / 2);
  const z = normalQuantile(p);
  return { z, cdf_back: normalTail(-z) };
}

/** Checked quantile of Student's t (calculator `t_quantile`). */
export function checkedStudentQuantile(input: { p: number; df: number }): { t: number } {
  const p = needNumber(input.p, 'p', Number.MIN_VALUE, 1 - Number.EPSILON / 2);
  const df = needNumber(input.df, 'df', 1);
  if (p === 0.5) return { t: 0 };
  return { t: p > 0.5 ? studentQuantile(p, df) : -studentQuantile(1 - p, df) };
}
