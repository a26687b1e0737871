import type { FigureSpec, Finding } from '../aircraft/index.ts';
import type { CheckHabit, FigureReading } from './figure-source.ts';

/** Unusual is good, and not as this tail usually shows it. */
export type CheckVerdict = 'good' | 'unusual' | 'fault' | 'unknown';

/** One figure of a finished check, judged. */
export interface FigureResult {
  id: string;
  label: string;
  unit: string;
  decimals: number;
  value: number | null;
  /** what was good, as it was judged */
  good: readonly [number | null, number | null];
  verdict: CheckVerdict;
  /** of a figure that is not good */
  finding: Finding | null;
  from_s: number;
  to_s: number;
}

/**
 * Holds a figure against what is good, and then against what is usual. What was not read is unknown, never good.
 * @param usual what this tail's earlier checks were, where enough are known
 */
export function judgeFigure(spec: FigureSpec, taken: FigureReading, usual?: CheckHabit['usual'][string]): FigureResult {
  const { id, label, unit, decimals } = spec;
  const { value, from_s, to_s, expected } = taken;
  const good: FigureResult['good'] = expected
    ? [expected.amps - expected.tolerance, expected.amps + expected.tolerance]
    : (taken.good ?? spec.good);
  const result = { id, label, unit, decimals, value, good, from_s, to_s };
  if (value === null || (expected && expected.verdict === 'NO_WINDOW'))
    return {
      ...result,
      value: null,
      verdict: 'unknown',
      finding: { cause: 'not-read', words: `${label} could not be read` },
    };
  if (expected) {
    const finding = loadFinding(label, value, expected);
    return { ...result, verdict: finding ? 'fault' : 'good', finding };
  }
  const said = sayFigure(value, decimals, unit);
  const [low, high] = good;
  const outside = spec.caution ? 'unusual' : 'fault';
  if (low !== null && value < low)
    return {
      ...result,
      verdict: outside,
      finding: fill(spec.below, said) ?? { cause: 'low', words: `${label} ${said}, at least ${round(low)} expected` },
    };
  if (high !== null && value > high)
    return {
      ...result,
      verdict: outside,
      finding: fill(spec.above, said) ?? { cause: 'high', words: `${label} ${said}, at most ${round(high)} expected` },
    };
  const unusual = usual === undefined ? null : unusualFinding(spec, value, usual);
  return { ...result, verdict: unusual ? 'unusual' : 'good', finding: unusual };
}

/** Further from the middle than the type allows for, and outside everything that this tail has shown. */
function unusualFinding(
  { usual: rule, decimals, unit }: FigureSpec,
  value: number,
  { median, least, most }: CheckHabit['usual'][string],
): Finding | null {
  if (!rule || Math.abs(value - median) <= rule.by || (value >= least && value <= most)) return null;
  const found = fill(value > median ? rule.above : rule.below, sayFigure(value, decimals, unit));
  return found && { ...found, words: found.words.replace('{usual}', sayFigure(median, decimals, unit)) };
}

/** A figure with its unit; what rounds to nothing has no sign. */
export function sayFigure(value: number, decimals: number, unit: string): string {
  const text = value.toFixed(decimals);
  return `${Number(text) === 0 ? text.replace('-', '') : text}${unit && ` ${unit}`}`;
}

const round = (v: number): number => Math.round(v * 100) / 100;

/** The words of a finding with its figure in them. */
function fill(finding: Finding | undefined, said: string): Finding | null {
  return finding ? { cause: finding.cause, words: finding.words.replace('{}', said) } : null;
}

const LOAD_WORDS: Record<string, [string, string]> = {
  MISSING: ['load-missing', 'draws nothing'],
  LOW: ['load-low', 'draws too little'],
  EXCESS: ['load-excess', 'draws too much'],
  WRONG_SIGN: ['load-wrong', 'takes away instead of adding'],
};

function loadFinding(label: string, value: number, expected: NonNullable<FigureReading['expected']>): Finding | null {
  const words = LOAD_WORDS[expected.verdict];
  return words
    ? { cause: words[0], words: `${label} ${words[1]}: ${value.toFixed(1)} A, ${expected.amps.toFixed(1)} A expected` }
    : null;
}
