import { needNumber, Refused } from '../quantity/index.ts';
import { normalQuantile, normalTail } from '../statistics/index.ts';

/** A duration in logs: median exp(mu), spread sigma. */
export interface Lognormal {
  mu: number;
  sigma: number;
}

export interface LognormalFit extends Lognormal {
  sigma_within: number;
  median_s: number;
  p90_s: number;
  n_effective: number;
}

/** What is believed before anything was measured, worth `n` measurements. */
export interface DurationPrior {
  median_s: number;
  sigma: number;
  n: number;
}

const FEWEST = 5;

/** A duration learned from this tail's past, with the type's own as a prior. @throws Refused INSUFFICIENT_DATA */
export function lognormalFit(input: { durations_s: number[]; prior?: DurationPrior | null | undefined }): LognormalFit {
  if (!Array.isArray(input.durations_s)) throw new Refused('MISSING', 'durations_s');
  const logs = input.durations_s.map((d) => {
    if (!(needNumber(d, 'durations_s') > 0)) throw new Refused('OUT_OF_RANGE', 'durations_s');
    return Math.log(d);
  });
  const { prior } = input;
  const n = logs.length;
  if (!prior && n < FEWEST) throw new Refused('INSUFFICIENT_DATA', 'durations_s');
  const sum = logs.reduce((a, b) => a + b, 0);
  const mean = n > 0 ? sum / n : 0;
  const squares = logs.reduce((a, x) => a + (x - mean) ** 2, 0);
  let mu: number;
  let variance: number;
  let weight = 0;
  if (prior) {
    weight = needNumber(prior.n, 'prior.n', Number.MIN_VALUE, 1e6);
    const mu0 = Math.log(needNumber(prior.median_s, 'prior.median_s', Number.MIN_VALUE));
    const sigma0 = needNumber(prior.sigma, 'prior.sigma', 0, 5);
    mu = (weight * mu0 + sum) / (weight + n);
    const between = n > 0 ? ((weight * n) / (weight + n)) * (mean - mu0) ** 2 : 0;
    // with so little there is nothing to measure a spread by: it is the one believed
    const measurable = n > 0 && weight + n >= 2;
    variance = measurable ? (weight * sigma0 ** 2 + squares + between) / (weight + n - 1) : sigma0 ** 2;
  } else {
    mu = mean;
    variance = squares / (n - 1);
  }
  const n_effective = weight + n;
  const sigma_within = Math.sqrt(variance);
  const sigma = sigma_within * Math.sqrt(1 + 1 / n_effective);
  return {
    mu,
    sigma_within,
    sigma,
    median_s: Math.exp(mu),
    p90_s: Math.exp(mu + sigma * normalQuantile(0.9)),
    n_effective,
  };
}

export interface Remaining {
  /** probability that it is still going on by now */
  survival: number;
  remaining_s: number[];
  status: 'NORMAL' | 'LATE' | 'OVERDUE';
}

/** What is left of a duration that has run for a while: a late wait does not owe its average. @throws OUT_OF_DOMAIN */
export function lognormalRemaining(input: Lognormal & { elapsed_s: number; p: number[] }): Remaining {
  const mu = needNumber(input.mu, 'mu');
  const sigma = needNumber(input.sigma, 'sigma', Number.MIN_VALUE, 10);
  const elapsed = needNumber(input.elapsed_s, 'elapsed_s', 0);
  const survival = elapsed === 0 ? 1 : normalTail((Math.log(elapsed) - mu) / sigma);
  if (survival < 1e-12) throw new Refused('OUT_OF_DOMAIN', 'elapsed_s');
  return {
    survival,
    remaining_s: input.p.map((p) => {
      needNumber(p, 'p', 1e-9, 1 - 1e-9);
      return Math.exp(mu - sigma * normalQuantile((1 - p) * survival)) - elapsed;
    }),
    status: survival < 0.02 ? 'OVERDUE' : survival < 0.1 ? 'LATE' : 'NORMAL',
  };
}
