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
  const decimals = Math.max(0, Math.ceil(-Math.log10(step) - GUARD));
  return Number((n * step).toFixed(decimals)) + 0;
}

export type RoundResult =
  | { value: number; direction: RoundDirection }
  | { error: 'OUT_OF_RANGE' | 'BAD_OPTION' | 'NOT_A_NUMBER'; field: 'value' | 'step' | 'kind' };

/** Rounds a figure the safe way for what it is (calculator `round_conservative`). */
export function roundConservative(input: { value: number; step: number; kind: string }): RoundResult {
  if (!(input.kind in DIRECTIONS)) return { error: 'BAD_OPTION', field: 'kind' };
  if (!Number.isFinite(input.value)) return { error: 'NOT_A_NUMBER', field: 'value' };
  if (!(input.step > 0)) return { error: 'OUT_OF_RANGE', field: 'step' };
  const direction = DIRECTIONS[input.kind as FigureKind];
  return { value: roundStep(input.value, input.step, direction), direction };
}
