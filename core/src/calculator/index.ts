import { attempt, Refused } from '../quantity/index.ts';
import { type CalculatorAircraft, type Input, lookupIn } from './aircraft.ts';
import { checkInputs } from './inputs.ts';
import { CALCULATORS } from './calculators.ts';

export type { CalculatorAircraft } from './aircraft.ts';

export const CALCULATOR_NAMES: readonly string[] = Object.keys(CALCULATORS);

/**
 * Runs a calculator by name on an input that may be anything.
 * @param fleet aircraft that an input may name
 * @returns the result, `{ error, field }` for a refused input or a figure that no number can hold, or undefined for an
 * unknown name
 */
export function calculate(
  name: string,
  input: Readonly<Input>,
  fleet: Readonly<Record<string, CalculatorAircraft>>,
): unknown {
  const calculator = Object.hasOwn(CALCULATORS, name) ? CALCULATORS[name] : undefined;
  if (!calculator) return undefined;
  return attempt(() => {
    checkInputs(name, input);
    const result = calculator(input, lookupIn(fleet));
    const way = wayToNoFigure(result, '');
    if (way !== null) throw new Refused('OUT_OF_RANGE', way);
    return result;
  });
}

/** @returns the way to the first number in a result that is none, null when all are */
function wayToNoFigure(value: unknown, way: string): string | null {
  if (typeof value === 'number') return Number.isFinite(value) ? null : way || 'result';
  if (value === null || typeof value !== 'object') return null;
  for (const [key, inner] of Object.entries(value)) {
    const found = wayToNoFigure(inner, way ? `${way}.${key}` : key);
    if (found !== null) return found;
  }
  return null;
}
