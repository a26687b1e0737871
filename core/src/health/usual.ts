import { quantile } from '../watch/index.ts';
import { type FeatureSpec, START_FEATURES } from './features.ts';

/** fewer earlier starts than this are no habit */
const ENOUGH = 8;
const USUAL_SHARE = 0.9;

/** 90 % of earlier values, with their median, and all that was ever seen. */
export interface Usual {
  low: number;
  median: number;
  high: number;
  least: number;
  most: number;
}

export interface Compared {
  spec: FeatureSpec;
  value: number | null;
  /** null when there are too few earlier starts */
  usual: Usual | null;
  verdict: AgainstUsual | 'unknown';
}

export type AgainstUsual = 'usual' | 'high' | 'low';

/** What earlier values usually were, null when they are too few to be a habit. */
export function usualOf(values: readonly number[]): Usual | null {
  if (values.length < ENOUGH) return null;
  const past = values.toSorted((a, b) => a - b);
  return {
    low: quantile(past, (1 - USUAL_SHARE) / 2),
    median: quantile(past, 0.5),
    high: quantile(past, (1 + USUAL_SHARE) / 2),
    least: past[0]!,
    most: past[past.length - 1]!,
  };
}

/** Sets one start beside the tail's earlier ones, figure by figure. */
export function compareStart(
  features: Record<string, number | null>,
  earlier: readonly Record<string, number | null>[],
): Compared[] {
  return START_FEATURES.map((spec) => {
    const value = features[spec.id] ?? null;
    const usual = usualOf(earlier.map((e) => e[spec.id]).filter((v): v is number => typeof v === 'number'));
    return { spec, value, usual, verdict: value === null || !usual ? 'unknown' : againstUsual(value, usual) };
  });
}

/**
 * Outside everything that was ever seen, by more than a hair, is what deserves a word.
 * @param finest the last digit that is shown: less is no difference
 */
export function againstUsual(value: number, usual: Usual, finest = 0): AgainstUsual {
  const hair = Math.max(finest, 0.02 * Math.max(usual.most - usual.least, 1e-6));
  if (value > usual.most + hair) return 'high';
  if (value < usual.least - hair) return 'low';
  return 'usual';
}

/** Outside its habit on the side that matters for this figure. */
export function isWorse(spec: FeatureSpec, verdict: Compared['verdict']): boolean {
  return (verdict === 'high' || verdict === 'low') && (spec.worse === 'either' || spec.worse === verdict);
}

/** The habits that this start broke, on the side that matters, in words. */
export function brokenHabits(compared: readonly Compared[]): string[] {
  return compared
    .filter(({ spec, verdict }) => isWorse(spec, verdict))
    .map(({ spec, verdict }) => `${spec.label} ${verdict === 'high' ? 'higher' : 'lower'} than its habit`);
}
