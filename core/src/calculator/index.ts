import { attempt } from '../quantity/index.ts';
import { type CalculatorAircraft, type Input, lookupIn } from './aircraft.ts';
import { CALCULATORS } from './calculators.ts';

export type { CalculatorAircraft } from './aircraft.ts';

export const CALCULATOR_NAMES: readonly string[] = Object.keys(CALCULATORS);

/**
 * Runs a calculator by name on an input that may be anything.
 * @param fleet aircraft that an input may name
 * @returns the result, `{ error, field }` for a refused input, or undefined for an unknown name
 */
export function calculate(
  name: string,
  input: Readonly<Input>,
  fleet: Readonly<Record<string, CalculatorAircraft>>,
): unknown {
  const calculator = Object.hasOwn(CALCULATORS, name) ? CALCULATORS[name] : undefined;
  return calculator && attempt(() => calculator(input, lookupIn(fleet)));
}
