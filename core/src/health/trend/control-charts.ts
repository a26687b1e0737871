import { needNumber } from '../../quantity/index.ts';
import { needSeries } from './baseline.ts';

interface Charted {
  x: number[];
  mu: number;
  sigma: number;
}

function standardised(input: Charted): number[] {
  const x = needSeries(input.x, 'x', 1);
  const mu = needNumber(input.mu, 'mu');
  const sigma = needNumber(input.sigma, 'sigma', Number.MIN_VALUE);
  return x.map((v) => (v - mu) / sigma);
}

/** Exponentially weighted mean against its own widening limit (Lucas and Saccucci 1990). */
export function ewma(input: Charted & { lambda?: number | undefined; L?: number | undefined }): {
  z: number[];
  limit: number[];
  first_alarm: number | null;
  side: 'UP' | 'DOWN' | null;
} {
  const steps = standardised(input);
  const lambda = input.lambda === undefined ? 0.2 : needNumber(input.lambda, 'lambda', Number.MIN_VALUE, 1);
  const L = input.L === undefined ? 2.962 : needNumber(input.L, 'L', Number.MIN_VALUE);
  let mean = 0;
  const z = steps.map((v) => (mean = lambda * v + (1 - lambda) * mean));
  const limit = steps.map((_, i) => L * Math.sqrt((lambda / (2 - lambda)) * (1 - (1 - lambda) ** (2 * (i + 1)))));
  const at = z.findIndex((v, i) => Math.abs(v) > limit[i]!);
  return { z, limit, first_alarm: at < 0 ? null : at, side: at < 0 ? null : z[at]! > 0 ? 'UP' : 'DOWN' };
}

/** Cumulative sums of what exceeds half a sigma; a lasting shift shows as an alarm, and where it began. */
export function cusum(input: Charted & { k?: number | undefined; h?: number | undefined }): {
  hi: number[];
  lo: number[];
  first_alarm: number | null;
  side: 'UP' | 'DOWN' | null;
  onset_estimate: number | null;
} {
  const steps = standardised(input);
  const k = input.k === undefined ? 0.5 : needNumber(input.k, 'k', 0);
  const h = input.h === undefined ? 4.389 : needNumber(input.h, 'h', Number.MIN_VALUE);
  let up = 0;
  let down = 0;
  const hi = steps.map((v) => (up = Math.max(0, up + v - k)));
  const lo = steps.map((v) => (down = Math.max(0, down - v - k)));
  const at = steps.findIndex((_, i) => hi[i]! > h || lo[i]! > h);
  if (at < 0) return { hi, lo, first_alarm: null, side: null, onset_estimate: null };
  const side = hi[at]! > h ? 'UP' : 'DOWN';
  const sums = side === 'UP' ? hi : lo;
  let onset = at;
  while (onset > 0 && sums[onset - 1]! > 0) onset--;
  return { hi, lo, first_alarm: at, side, onset_estimate: onset };
}
