import { expect, test } from 'vitest';
import { calculate } from '@rouse/core/calculator';
import { difference, type Tolerance } from '../compare-vector.ts';
import cases from '../../../vectors/calculators.json' with { type: 'json' };
import { references } from '../reference.ts';

interface Vector {
  id: string;
  fn: string;
  input: Record<string, unknown>;
  expected: unknown;
  tol: Tolerance;
  note: string;
}

const groups = cases.groups as unknown as Record<string, Vector[]>;

for (const [group, vectors] of Object.entries(groups))
  test.each(vectors.map((v) => [v.id, v.fn, v.note, v] as const))(`${group} %s %s %s`, (_id, fn, _note, vector) => {
    expect(difference(calculate(fn, vector.input, references), vector.expected, vector.tol)).toBeNull();
  });
