import { calculate } from '@rouse/core/calculator';
import fc from 'fast-check';
import { expect, test } from 'vitest';
import cases from '../../../vectors/calculators.json' with { type: 'json' };
import { references } from '../reference.ts';

const vectors = (Object.values(cases.groups) as { fn: string; input: Record<string, unknown> }[][]).flat();
const first = [...new Map(vectors.map((v) => [v.fn, v.input])).entries()];

/** Ways to numbers inside a value that are none. */
function unfinished(value: unknown, way = ''): string[] {
  if (typeof value === 'number') return Number.isFinite(value) ? [] : [`${way}: ${value}`];
  if (value === undefined) return [`${way}: undefined`];
  if (value === null || typeof value !== 'object') return [];
  return Object.entries(value).flatMap(([key, inner]) => unfinished(inner, `${way}.${key}`));
}

test.each(first)('%s answers with figures or a refusal, whatever number it is given', (fn, input) => {
  const numbers = Object.keys(input).filter((key) => typeof input[key] === 'number');
  if (numbers.length === 0) return;
  fc.assert(
    fc.property(
      fc.constantFrom(...numbers),
      fc.oneof(
        fc.constantFrom(0, -1, 1, 1e-9, 1e9, -1e9, 1e300, -1e300),
        fc.double({ min: -1000, max: 1000, noNaN: true }),
      ),
      (key, odd) => {
        expect(unfinished(calculate(fn, { ...input, [key]: odd }, references))).toEqual([]);
      },
    ),
    { numRuns: 100 },
  );
});
