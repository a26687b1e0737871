import { expect, test } from 'vitest';
import { calculate, type CalculatorAircraft } from '@rouse/core/calculator';
import { difference, type Tolerance } from '../compare-vector.ts';
import cases from '../../../vectors/calculators.json' with { type: 'json' };
import reference from '../../../vectors/reference-aircraft.json' with { type: 'json' };

interface Vector {
  id: string;
  fn: string;
  input: Record<string, unknown>;
  expected: unknown;
  tol: Tolerance;
  note: string;
}

export const fleet = reference.aircraft as unknown as Record<string, CalculatorAircraft>;
const groups = cases.groups as unknown as Record<string, Vector[]>;

for (const [group, vectors] of Object.entries(groups))
  test.each(vectors.map((v) => [v.id, v.fn, v.note, v] as const))(`${group} %s %s %s`, (_id, fn, _note, vector) => {
    expect(difference(calculate(fn, vector.input, fleet), vector.expected, vector.tol)).toBeNull();
  });
