import fc from 'fast-check';
import type { Condition, TypeFile } from '@rouse/core/aircraft';
import {
  parseAction,
  parseCondition,
  parseWhen,
  printAction,
  printWhen,
  parseExpectation,
  printCondition,
  printExpectation,
  type Vocabulary,
} from '@rouse/core/authoring';
import { describe, expect, test } from 'vitest';
import { fleet, typeOf } from '../fleet.ts';

const strath = typeOf('X14');
const vocabulary: Vocabulary = { channels: strath.channels, captions: strath.captions };
const parse = (text: string): Condition => parseCondition(text, vocabulary);

const channel = fc.constantFrom(...strath.channels.map((c) => c.id).filter((id) => id !== strath.captions.channel));
const figure = fc.integer({ min: -99_999, max: 99_999 }).map((n) => n / 100);
const dwell = fc.option(
  fc.integer({ min: 1, max: 400 }).map((n) => n / 10),
  { nil: undefined },
);

const compared = fc.oneof(
  figure.map((v) => ({ atLeast: v })),
  figure.map((v) => ({ atMost: v })),
  figure.map((v) => ({ above: v })),
  figure.map((v) => ({ below: v })),
  fc.tuple(figure, figure).map(([a, b]) => ({ between: [Math.min(a, b), Math.max(a, b)] as [number, number] })),
  fc.integer({ min: 0, max: 3 }).map((v) => ({ is: v })),
);
const lamp = fc
  .constantFrom(...strath.captions.list)
  .chain(({ bit }) => fc.constantFrom(0, 1).map((is) => ({ channel: strath.captions.channel, bit, is })));
const one = fc
  .oneof(
    fc.tuple(channel, compared).map(([id, by]) => ({ channel: id, ...by })),
    fc.tuple(channel, channel, compared).map(([id, minus, by]) => ({ channel: id, minus, ...by })),
    lamp,
  )
  .chain((t) => dwell.map((s) => (s === undefined ? t : { ...t, for: s })));

/** Conditions as the grammar writes them: a list of one part is that part. */
const condition: fc.Arbitrary<Condition> = fc.letrec<{ any: Condition }>((tie) => ({
  any: fc.oneof(
    { maxDepth: 4, withCrossShrink: true },
    one as fc.Arbitrary<Condition>,
    fc.array(tie('any'), { minLength: 2, maxLength: 3 }).map((all) => ({ all })),
    fc.array(tie('any'), { minLength: 2, maxLength: 3 }).map((any) => ({ any })),
    tie('any').map((not) => ({ not })),
  ),
})).any;

/** Every test of a channel that stands anywhere in a part of a type. */
function conditionsIn(value: unknown): Condition[] {
  if (typeof value !== 'object' || value === null) return [];
  const compares = ['atLeast', 'atMost', 'above', 'below', 'between', 'is'].some((k) => k in value);
  return 'channel' in value && compares ? [value as Condition] : Object.values(value).flatMap(conditionsIn);
}

describe('a condition as a line', () => {
  test('is read back the same, whatever it says', () => {
    fc.assert(
      fc.property(condition, (c) => {
        expect(parse(printCondition(c, vocabulary))).toEqual(c);
      }),
      { numRuns: 3000, seed: 7 },
    );
  });

  test('with its time limit too', () => {
    const limit = fc.option(fc.integer({ min: 1, max: 99 }), { nil: undefined });
    const since = fc.option(fc.constantFrom('switched', 'off-1'), { nil: undefined });
    fc.assert(
      fc.property(condition, limit, since, (c, within_s, stage) => {
        const whole = {
          condition: c,
          ...(within_s !== undefined && { within_s, ...(stage !== undefined && { since: stage }) }),
        };
        expect(parseExpectation(printExpectation(whole, vocabulary), vocabulary)).toEqual(whole);
      }),
      { numRuns: 500, seed: 8 },
    );
  });

  test('every condition of the shipped types is such a line', () => {
    const conditions = [strath.items, strath.aborts, strath.legs].flatMap(conditionsIn);
    expect(conditions.length).toBeGreaterThan(200);
    for (const c of conditions) expect(parse(printCondition(c, vocabulary))).toEqual(c);
  });

  test.each<[string, Condition]>([
    ['ng.1 >= 12 % and tot.1 < 150 °C for 2 s', { all: [{ channel: 'ng.1', atLeast: 12 }, { channel: 'tot.1', below: 150, for: 2 }] }], // oxfmt-ignore
    ['ng.1>=12 and (tot.1<150 or nr is 0)', { all: [{ channel: 'ng.1', atLeast: 12 }, { any: [{ channel: 'tot.1', below: 150 }, { channel: 'nr', is: 0 }] }] }], // oxfmt-ignore
    ['np.1 - nr between −1.5 and 1.5 %', { channel: 'np.1', minus: 'nr', between: [-1.5, 1.5] }],
    ['nr ≥ 98 for 5 min', { channel: 'nr', atLeast: 98, for: 300 }],
    ['switch.hydraulic-test is "system 1"', { channel: 'switch.hydraulic-test', is: 1 }],
    ['not captions.rotor', { not: { channel: 'captions', bit: strath.captions.list.find((c) => c.id === 'rotor')!.bit, is: 1 } }], // oxfmt-ignore
  ])('%s', (text, wanted) => {
    expect(parse(text)).toEqual(wanted);
  });
});

describe('other lines', () => {
  const every = <T>(find: (type: TypeFile) => readonly (T | undefined)[]): T[] =>
    fleet.flatMap(find).filter((x) => x !== undefined);

  test('every move of a simulated hand is read back the same, but for the plan of a test pilot', () => {
    const moves = every((t) => [...t.legs, ...t.items].flatMap((x) => x.standIn ?? []));
    const lines = moves.map((m) => [m, printAction(m)] as const).filter(([, line]) => line !== null);
    expect(lines.length).toBeGreaterThan(moves.length - 3);
    for (const [move, line] of lines) expect(parseAction(line!)).toEqual(move);
  });

  test('every day on which an item is on the list is read back the same', () => {
    const lines = fleet.flatMap((type) => {
      const idsOf = (kind: string): Set<string> => new Set(type.items.filter((i) => i.kind === kind).map((i) => i.id));
      const choices = new Set(type.choices.map((c) => c.id));
      const questions = { choices, decisions: idsOf('decide'), checks: idsOf('measure') };
      return type.items.flatMap(({ when }) => (when ? [{ when, again: parseWhen(printWhen(when), questions) }] : []));
    });
    expect(lines.length).toBeGreaterThan(50);
    for (const { when, again } of lines) expect(again).toEqual(when);
  });
});
