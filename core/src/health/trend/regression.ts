import { Refused } from '../../quantity/index.ts';
import { median } from '../../statistics/index.ts';
import { needSeries } from './baseline.ts';

interface Pairs {
  x: number[];
  y: number[];
}

function needPairs(input: Pairs, fewest: number): Pairs {
  const x = needSeries(input.x, 'x', fewest);
  const y = needSeries(input.y, 'y', fewest);
  if (x.length !== y.length) throw new Refused('INCONSISTENT', 'y');
  return { x, y };
}

/** A line by the median of all slopes between pairs: a few strange values do not turn it. @throws Refused NO_SPREAD */
export function theilSen(input: Pairs): { slope: number; intercept: number; pairs: number } {
  const { x, y } = needPairs(input, 2);
  const slopes: number[] = [];
  for (let i = 0; i < x.length; i++)
    for (let j = i + 1; j < x.length; j++) if (x[j] !== x[i]) slopes.push((y[j]! - y[i]!) / (x[j]! - x[i]!));
  if (slopes.length === 0) throw new Refused('NO_SPREAD', 'x');
  const slope = median(slopes);
  return { slope, intercept: median(y.map((v, i) => v - slope * x[i]!)), pairs: slopes.length };
}

export interface LeastSquares {
  slope: number;
  intercept: number;
  /** spread of the residuals */
  s: number;
  se_slope: number;
  se_intercept: number;
  t_slope: number | null;
  n: number;
}

/** A least-squares line with its standard errors. @throws Refused INSUFFICIENT_DATA, NO_SPREAD */
export function leastSquares(input: Pairs): LeastSquares {
  const { x, y } = needPairs(input, 3);
  const n = x.length;
  const meanX = x.reduce((a, b) => a + b, 0) / n;
  const meanY = y.reduce((a, b) => a + b, 0) / n;
  const sxx = x.reduce((a, v) => a + (v - meanX) ** 2, 0);
  if (!(sxx > 0)) throw new Refused('NO_SPREAD', 'x');
  const slope = x.reduce((a, v, i) => a + (v - meanX) * (y[i]! - meanY), 0) / sxx;
  const intercept = meanY - slope * meanX;
  const sse = y.reduce((a, v, i) => a + (v - intercept - slope * x[i]!) ** 2, 0);
  const s = Math.sqrt(sse / (n - 2));
  const se_slope = s / Math.sqrt(sxx);
  return {
    slope,
    intercept,
    s,
    se_slope,
    se_intercept: s * Math.sqrt(1 / n + meanX ** 2 / sxx),
    t_slope: se_slope > 0 ? slope / se_slope : null,
    n,
  };
}
