import { briefOf, type BriefInput } from '@rouse/core/brief';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { contextOf, inputOf } from '../desk.ts';
import { fleet } from '../fleet.ts';

const NO_FIGURE = /\b(NaN|Infinity|undefined)\b/;

/** Every sentence and every number in a value, with the way to it. */
function* sentences(value: unknown, way = ''): Generator<string> {
  if (typeof value === 'string' || typeof value === 'number') yield `${way}: ${value}`;
  else if (ArrayBuffer.isView(value)) return;
  else if (value !== null && typeof value === 'object')
    for (const [key, inner] of Object.entries(value)) yield* sentences(inner, `${way}.${key}`);
}

/** Inputs that a person may leave out, or type beyond what any aircraft can do. */
const odd = (min: number, max: number) =>
  fc.option(fc.oneof(fc.double({ min, max, noNaN: true }), fc.constantFrom(0, -1, 1e9)), { nil: null });

const fields: fc.Arbitrary<Partial<BriefInput>> = fc.record(
  {
    oat_C: odd(-60, 60),
    dew_C: odd(-60, 60),
    qnh_hPa: odd(900, 1100),
    heading_deg: odd(0, 360),
    fuel_kg: odd(0, 2000),
    flight_min: odd(0, 300),
  },
  { requiredKeys: [] },
) as fc.Arbitrary<Partial<BriefInput>>;

describe.each(fleet.map((t) => t.id))('%s', (id) => {
  test('a brief has figures or words, whatever was typed or left out', () => {
    const context = contextOf(id);
    fc.assert(
      fc.property(fields, (some) => {
        const brief = briefOf({ ...inputOf(id), ...some }, context);
        expect([...sentences(brief)].filter((s) => NO_FIGURE.test(s))).toEqual([]);
      }),
      { numRuns: 60 },
    );
  });
});
