import { needNumber, needOption, Refused } from './refused.ts';

export type RoundDirection = 'floor' | 'ceil' | 'nearest';

/** What a figure is, and so which way is the safe one. */
const DIRECTIONS = {
  available: 'floor',
  allowed: 'floor',
  remaining: 'floor',
  margin: 'floor',
  required: 'ceil',
  used: 'ceil',
  distance: 'ceil',
  waiting: 'ceil',
  neutral: 'nearest',
} as const;
export type FigureKind = keyof typeof DIRECTIONS;

const GUARD = 1e-9;

/**
 * Rounds to a multiple of `step`, halves up, with a guard of a billionth of a step so that 0.3 does not become 0.2.
 * For display only: a decision is taken on the figure itself.
 */
export function roundStep(value: number, step: number, direction: RoundDirection): number {
  const q = value / step;
  const n =
    direction === 'floor'
      ? Math.floor(q + GUARD)
      : direction === 'ceil'
        ? Math.ceil(q - GUARD)
        : Math.floor(q + 0.5 + GUARD);
  const decimals = Math.min(100, Math.max(0, Math.ceil(-Math.log10(step) - GUARD)));
  return Number((n * step).toFixed(decimals)) + 0;
}

/**
 * Rounds a figure the safe way for what it is (calculator `round_conservative`).
 * @throws Refused BAD_OPTION, NOT_A_NUMBER, OUT_OF_RANGE for a step that is not positive
 */
export function roundConservative(
  value: number,
  step: number,
  kind: string,
): { value: number; direction: RoundDirection } {
  const direction = DIRECTIONS[needOption(kind, Object.keys(DIRECTIONS) as FigureKind[], 'kind')];
  needNumber(value, 'value');
  if (!(needNumber(step, 'step') > 0)) throw new Refused('OUT_OF_RANGE', 'step');
  return { value: roundStep(value, step, direction), direction };
}
