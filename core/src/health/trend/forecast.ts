import { needNumber, needOption, roundStep } from '../../quantity/index.ts';
import { studentQuantile } from '../../statistics/index.ts';
import { needSeries } from './baseline.ts';
import { leastSquares } from './regression.ts';

const FEWEST = 5;
/** Further out than this many times the record nothing useful can be said. */
const ILL_CONDITIONED = 50;
const FAR = 3;

export interface Forecast {
  status: 'AT_OR_BEYOND_LIMIT' | 'NOT_APPROACHING' | 'NO_SIGNIFICANT_TREND' | 'OK' | 'FAR';
  point: number | null;
  /** the figure to show, rounded down */
  lower: number | null;
  /** null: no useful upper bound */
  upper: number | null;
  slope_per_start: number;
  fitted_now: number;
  s: number;
  display: { starts: number | null };
}

/**
 * Starts until a drifting figure reaches its limit, with Fieller's interval.
 * @param input.direction which way the limit lies; `down` when absent
 */
export function forecast(input: {
  y: number[];
  limit: number;
  direction?: 'down' | 'up' | undefined;
  conf?: number | undefined;
}): Forecast {
  const direction = needOption(input.direction ?? 'down', ['down', 'up'] as const, 'direction');
  const values = needSeries(input.y, 'y', FEWEST);
  const sign = direction === 'down' ? 1 : -1;
  const limit = sign * needNumber(input.limit, 'limit');
  const conf = input.conf === undefined ? 0.9 : needNumber(input.conf, 'conf', 0.5, 0.999);
  const y = values.map((v) => sign * v);
  const n = y.length;
  const x = y.map((_, i) => i);
  const { slope, intercept, s } = leastSquares({ x, y });
  const fitted = intercept + slope * (n - 1);
  const result = (
    status: Forecast['status'],
    point: number | null,
    lower: number | null,
    upper: number | null,
  ): Forecast => ({
    status,
    point,
    lower,
    upper,
    slope_per_start: sign * slope,
    fitted_now: sign * fitted,
    s,
    display: { starts: lower === null ? null : roundStep(lower, 1, 'floor') },
  });
  if (fitted <= limit) return result('AT_OR_BEYOND_LIMIT', 0, 0, 0);
  if (slope >= 0) return result('NOT_APPROACHING', null, null, null);
  const meanX = (n - 1) / 2;
  const meanY = y.reduce((a, b) => a + b, 0) / n;
  const sxx = x.reduce((a, v) => a + (v - meanX) ** 2, 0);
  const t2 = studentQuantile((1 + conf) / 2, n - 2) ** 2;
  const a = slope ** 2 - (t2 * s ** 2) / sxx;
  if (a <= 0) return result('NO_SIGNIFICANT_TREND', null, null, null);
  const b = 2 * slope * (meanY - limit);
  const c = (meanY - limit) ** 2 - (t2 * s ** 2) / n;
  const root = Math.sqrt(Math.max(0, b ** 2 - 4 * a * c));
  const ahead = (d: number): number => meanX + d - (n - 1);
  const point = (limit - intercept) / slope - (n - 1);
  const lower = Math.max(0, ahead((-b - root) / (2 * a)));
  const upper = ahead((-b + root) / (2 * a));
  return result(point > FAR * n ? 'FAR' : 'OK', point, lower, upper > ILL_CONDITIONED * n ? null : upper);
}
