import { changePoint, cusum, ewma, type Forecast, forecast, theilSen } from '../health/index.ts';
import { median, spreadOf, studentQuantile } from '../statistics/index.ts';
import type { Corrected } from './correct.ts';
import type { Sign } from './sign.ts';

/** Fewer starts than this since the last maintenance say nothing. @source docs/calculations.md: trends of a tail */
export const SPEAKS_FROM = 12;
/** a usual is made of the first values, up to so many */
const USUAL_OF = 20;
/** the last values that are compared with the usual */
const LATEST = 5;
/** An alarm needs all of these; together they are wrong less than once a year on a page (`npm run bench trends`). */
const CHANCE = 1e-5;
const DRIFT_SIGMAS = 1;
const CUSUM_H = 6;
const EWMA_L = 3.2;

/** What a sign of one tail does. */
export type Course = 'too-few' | 'steady' | 'better' | 'worse';

export interface Judged {
  course: Course;
  /** middle of its usual and one sigma of its noise; null while there are too few */
  usual: { middle: number; sigma: number } | null;
  /** how far the latest stand from the usual, in the unit of the sign; 0 when nothing is known */
  away: number;
  /** first value of the drift, an index into the values; null without one */
  since: number | null;
  /** of the drift, per start */
  slope: number | null;
  /** values until the nearest limit ahead; null where none lies ahead, or nothing drifts */
  ahead: { limit: Sign['limits'][number]; forecast: Forecast } | null;
}

/**
 * Judges corrected values since the last maintenance, oldest first.
 * @param moves their slope in the fit that corrected them, and from which value on
 */
export function judge(sign: Sign, values: readonly number[], moves: Pick<Corrected, 'rampT' | 'freedom' | 'movesFrom'>): Judged {
  const { rampT, freedom, movesFrom } = moves;
  if (values.length < SPEAKS_FROM) return { course: 'too-few', usual: null, away: 0, since: null, slope: null, ahead: null };
  const usual = usualOf(sign, values);
  const away = median(values.slice(-LATEST)) - usual.middle;
  const drift = isSure(rampT, freedom) && Math.abs(away) >= Math.max(sign.notable, DRIFT_SIGMAS * usual.sigma) && Math.sign(away) === Math.sign(rampT) && inAlarm(values, usual, Math.sign(away)); // oxfmt-ignore
  if (!drift) return { course: 'steady', usual, away, since: null, slope: null, ahead: null };
  const bad = sign.worse === 'either' || (sign.worse === 'high') === away > 0;
  const since = movesFrom > 0 ? movesFrom : onsetOf(values, usual);
  const moving = values.slice(Math.min(since, values.length - SPEAKS_FROM));
  return {
    course: bad ? 'worse' : 'better',
    usual,
    away,
    since,
    slope: theilSen({ x: moving.map((_, i) => i), y: [...moving] }).slope,
    ahead: bad ? aheadOf(sign, moving, away > 0 ? 'up' : 'down') : null,
  };
} // oxfmt-ignore

/** Whether a slope is none that chance makes: few values need a steeper one. */
const isSure = (t: number, freedom: number): boolean =>
  freedom >= 3 && Math.abs(t) >= studentQuantile(1 - CHANCE / 2, freedom);

/** Noise by the steps from one value to the next, which a drift does not widen. */
function usualOf(sign: Sign, values: readonly number[]): { middle: number; sigma: number } {
  const first = values.slice(0, Math.min(USUAL_OF, Math.max(8, Math.floor(values.length / 3))));
  const steps = values.slice(1).map((v, i) => v - values[i]!);
  const finest = 10 ** -sign.decimals / 2;
  return { middle: median(first), sigma: Math.max(spreadOf(steps) / Math.SQRT2, finest) };
}

/** Both charts of the values stand outside their limits now, on the side that they moved to. */
function inAlarm(values: readonly number[], { middle: mu, sigma }: NonNullable<Judged['usual']>, side: number): boolean {
  const x = [...values];
  const sums = cusum({ x, mu, sigma, h: CUSUM_H });
  const mean = ewma({ x, mu, sigma, L: EWMA_L });
  const sum = (side > 0 ? sums.hi : sums.lo).at(-1)!;
  return sum > CUSUM_H && side * mean.z.at(-1)! > mean.limit.at(-1)!;
} // oxfmt-ignore

/** Where it began to move: the jump if there was one, else where the sums began to rise. */
function onsetOf(values: readonly number[], { middle: mu, sigma }: NonNullable<Judged['usual']>): number {
  const x = [...values];
  const jump = changePoint({ x });
  const sums = cusum({ x, mu, sigma, h: CUSUM_H });
  const rising = sums.onset_estimate ?? jump.index;
  return jump.significant && Math.abs(jump.shift_sigma ?? 0) > 3 ? jump.index : Math.min(rising, jump.index);
}

function aheadOf(sign: Sign, moving: readonly number[], direction: 'up' | 'down'): Judged['ahead'] {
  const last = moving.at(-1)!;
  const [limit] = sign.limits.filter((l) => (direction === 'up' ? l.at > last : l.at < last));
  return limit && sign.worse !== 'either' ? { limit, forecast: forecast({ y: [...moving], limit: limit.at, direction }) } : null;
} // oxfmt-ignore
