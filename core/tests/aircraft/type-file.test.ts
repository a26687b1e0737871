import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  type Condition,
  type Item,
  sayCondition,
  Sensed,
  stagesOf,
  type ChannelTest,
  type TypeFile,
  TypeParts,
  typeFileJsonSchema,
  typeFileSchema,
} from '@rouse/core/aircraft';
import { conditionOf } from '@rouse/core/procedure';
import { fleet } from '../fleet.ts';
import { channelIndex, skerry } from '../skerry.ts';

/** A frame in which a condition holds, or does not. */
function frameFor(type: TypeFile, condition: Condition, wanted: boolean): Float64Array {
  const frame = new Float64Array(type.channels.length).fill(NaN);
  const at = (id: string): number => type.channels.findIndex((c) => c.id === id);
  const fill = (c: Condition, met: boolean): void => {
    if ('all' in c) return c.all.forEach((part) => fill(part, met));
    if ('any' in c) return c.any.forEach((part) => fill(part, met));
    if ('not' in c) return fill(c.not, !met);
    const value = valueFor(c, met);
    if (c.minus !== undefined && Number.isNaN(frame[at(c.minus)]!)) {
      const known = frame[at(c.channel)]!;
      frame[at(c.minus)] = Number.isNaN(known) ? 50 : known - value;
    }
    const base = c.minus === undefined ? 0 : frame[at(c.minus)]!;
    frame[at(c.channel)] = c.bit === undefined ? base + value : value * 2 ** c.bit;
  };
  fill(condition, wanted);
  return frame;
}

function valueFor(c: ChannelTest, met: boolean): number {
  if ('atLeast' in c) return c.atLeast + (met ? 0 : -1);
  if ('atMost' in c) return c.atMost + (met ? 0 : 1);
  if ('above' in c) return c.above + (met ? 1 : 0);
  if ('below' in c) return c.below + (met ? -1 : 0);
  if ('between' in c) return met ? (c.between[0] + c.between[1]) / 2 : c.between[0] - 1;
  return met ? c.is : 1 - c.is;
}

/** The file with one place changed. */
function spoiled(change: (file: typeof skerry) => void): { path: string; message: string } {
  const copy = structuredClone(skerry);
  change(copy);
  const result = typeFileSchema.safeParse(copy);
  if (result.success) throw new Error('the spoiled file was accepted');
  return { path: result.error.issues[0]!.path.join('.'), message: result.error.issues[0]!.message };
}

describe('the type file', () => {
  test('the shipped file is whole, and its schema can be published', () => {
    expect(typeFileSchema.safeParse(skerry).success).toBe(true);
    expect(JSON.stringify(typeFileJsonSchema())).toContain('rouse-type/1');
  });

  test.each<[string, (file: typeof skerry) => void, string, RegExp]>([
    ['a limit on a channel that is not there', (f) => (f.limits[0]!.channel = 'tot.9'), 'limits.0.channel', /tot\.9/],
    ['bands out of order', (f) => f.limits[0]!.bands.reverse(), 'limits.0.bands.1', /mild to severe/],
    ['a need that stands later', (f) => (f.items[0]!.needs = ['ready']), 'items.0.needs', /ready/],
    ['an unknown leg', (f) => (f.items[0]!.leg = 'taxi'), 'items.0.leg', /taxi/],
    ['an item twice', (f) => f.items.push(f.items[0]!), 'items', /papers is there twice/],
    [
      'a wrong unit of nothing',
      (f) => delete (f.channels[0] as { unit?: string }).unit,
      'channels.0.unit',
      /expected string/,
    ],
    ['a key that nobody reads', (f) => ((f as unknown as Record<string, unknown>)['colour'] = 'red'), '', /colour/],
  ])('%s is named with its place', (_what, change, path, message) => {
    const issue = spoiled(change);
    expect(issue.path).toBe(path);
    expect(issue.message).toMatch(message);
  });

  test.each(fleet.map((t) => [t.id, t] as const))(
    'every condition of every item and stage of %s can be met, can fail, and can be said',
    (_id, type) => {
      const items: Item[] = [...type.items, ...Object.values(type.aborts).flatMap((a) => a.actions)];
      for (const item of items) {
        const conditions = [conditionOf(item), ...stagesOf(item).map((s) => s.expect)].filter((c) => c != null);
        for (const condition of conditions) {
          for (const wanted of [true, false]) {
            const sensed = new Sensed(condition, type.channels);
            const frame = frameFor(type, condition, wanted);
            sensed.update(0, frame);
            expect(sensed.update(300, frame), `${item.id} ${JSON.stringify(condition)}`).toBe(wanted);
          }
          expect(sayCondition(condition, type.channels)).not.toMatch(/undefined|NaN|\?/);
        }
      }
    },
  );
});

describe('conditions', () => {
  const frame = (values: Record<string, number>): Float64Array => {
    const out = new Float64Array(skerry.channels.length).fill(NaN);
    for (const [id, v] of Object.entries(values)) out[channelIndex(id)] = v;
    return out;
  };
  const ask = (condition: Condition, values: Record<string, number>): unknown =>
    new Sensed(condition, skerry.channels).update(0, frame(values));

  test('unknown is never good, and only decides when nothing else does', () => {
    const volts: Condition = { channel: 'bus.volts', atLeast: 24 };
    const speed: Condition = { channel: 'ng.1', below: 5 };
    expect(ask(volts, {})).toBe('unknown');
    expect(ask({ not: volts }, {})).toBe('unknown');
    expect(ask({ all: [volts, speed] }, { 'bus.volts': 25 })).toBe('unknown');
    expect(ask({ all: [volts, speed] }, { 'bus.volts': 20 })).toBe(false);
    expect(ask({ any: [volts, speed] }, { 'bus.volts': 25 })).toBe(true);
    expect(ask({ any: [volts, speed] }, { 'bus.volts': 20 })).toBe('unknown');
  });

  test('edges belong to atLeast, atMost and between, not to above and below', () => {
    const at = { 'bus.volts': 24 };
    expect(ask({ channel: 'bus.volts', atLeast: 24 }, at)).toBe(true);
    expect(ask({ channel: 'bus.volts', atMost: 24 }, at)).toBe(true);
    expect(ask({ channel: 'bus.volts', between: [24, 28] }, at)).toBe(true);
    expect(ask({ channel: 'bus.volts', above: 24 }, at)).toBe(false);
    expect(ask({ channel: 'bus.volts', below: 24 }, at)).toBe(false);
  });

  test('a dwell begins again after every break', () => {
    const sensed = new Sensed({ channel: 'switch.boost', is: 1, for: 8 }, skerry.channels);
    const on = frame({ 'switch.boost': 1 });
    expect(sensed.update(0, on)).toBe(false);
    expect(sensed.update(7.9, on)).toBe(false);
    expect(sensed.update(8, frame({}))).toBe('unknown');
    expect(sensed.update(9, on)).toBe(false);
    expect(sensed.update(17, on)).toBe(true);
  });
});

test('checked part by part, again and again, a type is what it is when it is checked whole', () => {
  const parts = new TypeParts();
  const random = fc.sample(fc.tuple(fc.constantFrom(...fleet), fc.nat(), fc.constantFrom(null, -1, 'x', {}, [])), { numRuns: 60, seed: 9 }); // oxfmt-ignore
  for (const [type, at, wrong] of random) {
    const copy = structuredClone(type) as unknown as Record<string, Record<string, unknown>>;
    const keys = Object.keys(copy).filter((k) => typeof copy[k] === 'object');
    const part = copy[keys[at % keys.length]!]!;
    const names = Object.keys(part);
    if (names.length > 0) part[names[at % names.length]!] = wrong;
    const whole = typeFileSchema.safeParse(copy);
    const say = (path: readonly PropertyKey[], message: string): string => `${path.join('.')}: ${message}`;
    const all = whole.error?.issues ?? [];
    // what parts have to do with each other is looked at when each of them is sound
    const own = all.filter((i) => i.code !== 'custom');
    const found = (own.length > 0 ? own : all).map((i) => say(i.path, i.message));
    for (let again = 0; again < 2; again++) {
      const { type: read, issues } = parts.check(copy);
      expect(issues.map(({ above, issue }) => say([...above, ...issue.path], issue.message)).toSorted()).toEqual(
        found.toSorted(),
      );
      expect(read).toEqual(whole.success ? whole.data : null);
    }
  }
});

test('one object that stands in two parts is checked by the rules of each', () => {
  const parts = new TypeParts();
  const empty = {};
  const issues = parts.check({ ...fleet[0]!, channels: [empty], items: [empty] }).issues;
  const kind = issues.find(({ above }) => above.join('.') === 'items.0');
  expect(kind?.issue.path).toEqual(['kind']);
  expect(issues.some(({ above, issue }) => [...above, ...issue.path].join('.') === 'channels.0.id')).toBe(true);
});
