import { needNumber, Refused } from '../../quantity/index.ts';
import { median, spreadOf } from '../../statistics/index.ts';

const FEWEST = 5;
const SETTLED = 20;
const OUTLIER_SIGMAS = 3.5;

/** Checked numbers of a series. @throws Refused MISSING, NOT_A_NUMBER, INSUFFICIENT_DATA below `fewest` */
export function needSeries(values: unknown, field: string, fewest: number): number[] {
  if (!Array.isArray(values)) throw new Refused('MISSING', field);
  if (values.length < fewest) throw new Refused('INSUFFICIENT_DATA', field);
  return values.map((v) => needNumber(v, field));
}

export interface RobustBaseline {
  median: number;
  mad: number;
  sigma: number;
  source: 'MAD' | 'FLOOR';
  /** places of values that are far out */
  outliers: number[];
  z_last: number;
  /** fewer values than make a habit */
  provisional: boolean;
}

/** What is usual, and how wide, whatever a few strange values say. @throws Refused NO_SPREAD without a floor */
export function robustBaseline(input: { x: number[]; sigma_floor?: number | undefined }): RobustBaseline {
  const x = needSeries(input.x, 'x', FEWEST);
  const floor = input.sigma_floor === undefined ? 0 : needNumber(input.sigma_floor, 'sigma_floor', 0);
  const middle = median(x);
  const mad = median(x.map((v) => Math.abs(v - middle)));
  const spread = spreadOf(x);
  const sigma = Math.max(spread, floor);
  if (!(sigma > 0)) throw new Refused('NO_SPREAD', 'x');
  const z = x.map((v) => (v - middle) / sigma);
  return {
    median: middle,
    mad,
    sigma,
    source: spread >= floor ? 'MAD' : 'FLOOR',
    outliers: z.flatMap((v, i) => (Math.abs(v) > OUTLIER_SIGMAS ? [i] : [])),
    z_last: z[z.length - 1]!,
    provisional: x.length < SETTLED,
  };
}
