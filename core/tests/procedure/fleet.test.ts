import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { type Choice, type Item, stagesOf, type TypeFile } from '@rouse/core/aircraft';
import {
  acceptFromPilot,
  isFinished,
  isReachable,
  itemState,
  noGoFaults,
  openBefore,
  type Payload,
  presentItem,
  procedureOf,
  reduceRun,
  stillOpen,
  rightAnswer,
} from '@rouse/core/procedure';
import { fleet, typeOf } from '../fleet.ts';
import { Hand } from '../hand.ts';
import { tries } from '../whole.ts';

/** Every answer to every choice of a type, once. */
const waysToTry = (type: TypeFile): Record<string, string>[] =>
  type.choices.flatMap((c: Choice) => c.alternatives.map((a) => ({ [c.id]: a.id })));

/** Each way with each other one: some items wait for two answers. */
const pairsOf = (ways: Record<string, string>[]): Record<string, string>[] =>
  ways.flatMap((a) => ways.map((b) => ({ ...a, ...b })));

describe.each(fleet.map((t) => [t.id, t] as const))('the procedure of %s', (_id, type) => {
  test('has 20 to 55 items before start, each with its reason, its cost and its zone', () => {
    const list = procedureOf(type, reduceRun([])).filter((i) => i.leg === 'before-start');
    expect(list.length).toBeGreaterThanOrEqual(20);
    expect(list.length).toBeLessThanOrEqual(55);
    for (const item of type.items) {
      expect(item.why.split(/[.!?] /).length, item.id).toBeLessThanOrEqual(3);
      expect(item.ifSkipped.length * item.response.length, item.id).toBeGreaterThan(0);
    }
  });

  test('can be worked to its end in every way of working', () => {
    for (const ways of [{}, ...waysToTry(type)]) {
      const hand = new Hand(type, ways);
      hand.settleAll();
      expect(isFinished(type, hand.state), JSON.stringify(ways)).toBe(true);
      for (const leg of ['hover', 'shut-down']) {
        expect(hand.wants({ kind: 'leg-begun', leg, how: 'declared' })).toBe(true);
        hand.settleAll();
        expect(isFinished(type, hand.state), `${leg} ${JSON.stringify(ways)}`).toBe(true);
      }
      expect(hand.wants({ kind: 'closed', outcome: 'shut-down' })).toBe(true);
    }
  });

  test('every item is on the list in some way of working', () => {
    const reached = new Set<string>();
    const found = type.items.flatMap((i) => (i.when ?? []).flatMap((w) => ('check' in w ? [w] : [])));
    const everythingFound = Object.fromEntries(
      found.map((w) => [w.check, { verdict: 'fault' as const, words: '', t_s: 0, attempts: 1, causes: w.found }]),
    );
    const answers = type.items.flatMap((i) => (i.kind === 'decide' ? i.alternatives.map((a) => [i.id, a.id]) : []));
    for (const ways of [{}, ...pairsOf(waysToTry(type))])
      for (const decided of [[], ...answers]) {
        const decisions = decided.length ? { [decided[0]!]: decided[1]! } : {};
        for (const source of ['stand-in', 'by-hand'] as const)
          for (const begun of [{ hover: 1 }, { hover: 1, 'shut-down': 2 }, {}])
            for (const measured of [{}, everythingFound])
              for (const item of procedureOf(type, { ...reduceRun([]), source, ways, decisions, begun, measured }))
                reached.add(item.id);
      }
    expect(type.items.filter((i) => !reached.has(i.id)).map((i) => i.id)).toEqual([]);
  });

  test('a wrong reading is refused where a reading is asked for', () => {
    const hand = new Hand(type);
    const taken: string[] = [];
    let asked = 0;
    for (let i = 0; i < 200 && presentItem(type, hand.state); i++) {
      const item = presentItem(type, hand.state)!;
      if (item.kind === 'enter' || item.kind === 'measure' || (item.kind === 'check' && item.reads)) {
        asked++;
        for (const value of [1e6, null])
          if (hand.wants({ kind: 'item-done', item: item.id, how: 'declared', value, words: '' })) taken.push(item.id);
      }
      hand.settle(item);
    }
    expect(taken).toEqual([]);
    expect(asked).toBeGreaterThan(2);
  });
});

test('any legal order gives the same state, and none reaches the lift with an open loop or a no-go', () => {
  fc.assert(
    fc.property(
      fc.constantFrom(...fleet.map((t) => t.id)),
      fc.array(fc.nat(1000), { minLength: 60, maxLength: 60 }),
      fc.nat(40),
      (id, picks, faultAt) => {
        const type = typeOf(id);
        const hand = new Hand(type);
        const straight = new Hand(type);
        for (let n = 0; n < 120; n++) {
          const open = hand.open().filter((i) => itemState(hand.state, i.id).status === 'todo');
          if (open.length === 0) break;
          const item = open[picks[n % picks.length]! % open.length]!;
          const gate = type.legs.find((l) => l.id === item.leg)?.gate === true;
          expect(gate ? [...openBefore(type, hand.state, item.leg), ...noGoFaults(type, hand.state)] : []).toEqual([]);
          if (n === faultAt && item.failure !== 'no-go')
            hand.wants({ kind: 'item-fault', item: item.id, note: 'not so today' });
          else hand.settle(item);
        }
        for (let n = 0; n < 120 && presentItem(type, straight.state); n++)
          straight.settle(presentItem(type, straight.state)!);
        const statuses = (h: Hand): string[] =>
          procedureOf(type, h.state).map((i) => `${i.id} ${itemState(h.state, i.id).status === 'todo'}`);
        expect(statuses(hand)).toEqual(statuses(straight));
      },
    ),
    { numRuns: tries(25) },
  );
});

describe('the kinds of item', () => {
  const upTo = (type: TypeFile, id: string, ways: Record<string, string> = {}): [Hand, Item] => {
    const hand = new Hand(type, ways);
    for (let i = 0; i < 100 && presentItem(type, hand.state)?.id !== id; i++)
      hand.settle(presentItem(type, hand.state)!);
    return [hand, type.items.find((i) => i.id === id)!];
  };
  const done = (item: Item, value: number | null = null, read?: [string, string]): Payload => ({
    kind: 'item-done',
    item: item.id,
    how: 'declared',
    value,
    words: '',
    ...(read && { read }),
  });

  test('a test stays open from its first stage until what it moved is back, even when it is given up', () => {
    const [hand, item] = upTo(typeOf('T2'), 'throttle-range');
    expect(hand.wants(done(item))).toBe(false);
    expect(hand.wants({ kind: 'stage-done', item: item.id, stage: 1, value: null, words: '', last: true })).toBe(false);
    hand.wants(rightAnswer(item, { type: hand.type, state: hand.state }));
    const moved = (): string[] => stillOpen(hand.type, hand.state).map((l) => l.words).filter((w) => !w.startsWith('Frictions')); // oxfmt-ignore
    expect(moved()).toEqual(['Throttle is open']);
    expect(hand.wants({ kind: 'item-skipped', item: item.id, reason: 'called away' })).toBe(true);
    expect(moved()).toHaveLength(1);
    const ready = hand.type.items.find((i) => i.id === 'ready')!;
    expect(isReachable(hand.type, hand.state, ready)).toBe(false);
    expect(hand.wants({ kind: 'closed', outcome: 'ready' })).toBe(false);
    const restore = item.kind === 'test' ? item.stages.findIndex((s) => s.restores) : -1;
    expect(hand.wants({ kind: 'stage-done', item: item.id, stage: restore, value: null, words: '', last: true })).toBe(
      true,
    );
    expect(moved()).toEqual([]);
    expect(itemState(hand.state, item.id).status).toBe('skipped');
  });

  test('two identifiers have to agree, whatever their case', () => {
    const [hand, item] = upTo(typeOf('H9'), 'computers');
    expect(hand.wants(done(item))).toBe(false);
    expect(hand.wants(done(item, null, ['4.2', '']))).toBe(false);
    expect(hand.wants(done(item, null, ['4.2', '4.1']))).toBe(false);
    expect(hand.wants(done(item, null, ['v4.2 ', 'V4.2']))).toBe(true);
  });

  test('a hold lasts as long as the air asks', () => {
    const [hand, item] = upTo(typeOf('T2'), 'prime-primer');
    // 12 °C is between 5.0 s at 0 °C and 3.0 s at 15 °C
    expect(hand.wants(done(item, 3.2))).toBe(false);
    expect(hand.wants(done(item, 3.4))).toBe(true);
  });

  test('a decision puts its branch on the list, and taking it back takes the branch away', () => {
    const [hand] = upTo(typeOf('T2i'), 'hot-engine');
    const has = (): boolean => procedureOf(hand.type, hand.state).some((i) => i.id === 'purge');
    expect(has()).toBe(false);
    expect(hand.wants({ kind: 'decided', item: 'hot-engine', alternative: 'tepid', reason: '?' })).toBe(false);
    expect(hand.wants({ kind: 'decided', item: 'hot-engine', alternative: 'hot', reason: '160 °C' })).toBe(true);
    expect(has()).toBe(true);
    hand.wants({ kind: 'item-reopened', item: 'hot-engine' });
    expect(has()).toBe(false);
  });

  test('volts read by eye are judged like volts that are sensed', () => {
    const [hand, item] = upTo(typeOf('C5'), 'bus-volts');
    expect(hand.wants(done(item, 23.1))).toBe(false);
    expect(hand.wants(done(item, 25.2))).toBe(true);
    expect(itemState(hand.state, item.id).words).toMatch(/25\.2 V, read by eye/);
  });

  test('captions ticked by eye name what is missing and what is extra', () => {
    const [hand, item] = upTo(typeOf('T2'), 'captions-cold');
    const verdict = acceptFromPilot(hand.type, hand.state, done(item, 1 + 2 + 16), null);
    expect(!verdict.ok && verdict.message).toMatch(/missing ROTOR LOW.*extra STARTER/);
  });

  test('every stage and every item of the fleet can fail', () => {
    for (const type of fleet)
      for (const item of type.items) {
        const hand = new Hand(type);
        const leg = type.legs.find((l) => l.id === item.leg)!;
        if (leg.begins) hand.write({ kind: 'leg-begun', leg: leg.id, how: 'declared' });
        hand.write({ kind: 'item-fault', item: item.id, note: 'failed' });
        expect(noGoFaults(type, hand.state).length === 1 || item.failure !== 'no-go' || item.when !== undefined).toBe(
          true,
        );
        expect(stagesOf(item).every((s) => s.do.length > 0)).toBe(true);
      }
  });
});
