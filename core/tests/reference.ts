import type { CalculatorAircraft } from '@rouse/core/calculator';
import reference from '../../vectors/reference-aircraft.json' with { type: 'json' };

/** The two invented aircraft of the calculator cases: REF1 a single, REF2 a twin. */
export const references = reference.aircraft as unknown as Record<'REF1' | 'REF2', CalculatorAircraft>;
