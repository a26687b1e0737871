import { describe, expect, test } from 'vitest';
import { stagesOf, type TypeFile } from '@rouse/core/aircraft';
import {
  differences,
  durationOf,
  itemState,
  lateItems,
  meanwhileItems,
  notDone,
  type PastWait,
  passage,
  type Payload,
  presentFlow,
  presentItem,
  procedureOf,
  reduceRun,
  scheduleOf,
  twoCrewTurn,
  waitsOf,
  warmTargets,
  wayOf,
  zonesOf,
  rightAnswer,
} from '@rouse/core/procedure';
import type { Lognormal } from '@rouse/core/schedule';
import { fleet, typeOf } from '../fleet.ts';
import { Hand } from '../hand.ts';

const present = (hand: Hand) => presentItem(hand.type, hand.state)!;
const done = (item: string): Payload => ({ kind: 'item-done', item, how: 'declared', value: null, words: '' });
/** Settles so many items of the list from its top. */
function walk(hand: Hand, count: number): string[] {
  return Array.from({ length: count }, () => {
    const item = present(hand);
    hand.settle(item);
    return item.id;
  });
}

describe.each(fleet.map((t) => [t.id, t] as const))('flow, then verify, in %s', (_id, type: TypeFile) => {
  const flowing = (): Hand => new Hand(type, { method: 'flow-then-verify' });

  test('the zones come first, in the order of the walk, and each once', () => {
    const hand = flowing();
    const walked: string[] = [];
    for (let zone = presentFlow(type, hand.state); zone; zone = presentFlow(type, hand.state)) {
      walked.push(zone.zone);
      expect(hand.wants({ kind: 'zone-flowed', leg: zone.leg, zone: zone.zone })).toBe(true);
    }
    const leg = type.legs.find((l) => l.flow)!;
    expect(walked).toEqual(zonesOf(type, hand.state, leg.id).map((z) => z.zone));
    expect(present(hand).id).toBe(procedureOf(type, hand.state)[0]!.id);
  });

  test('every item of the leg stands in exactly one zone', () => {
    const hand = flowing();
    const leg = type.legs.find((l) => l.flow)!;
    const zoned = zonesOf(type, hand.state, leg.id).flatMap((z) => z.items.map((i) => i.id));
    const listed = procedureOf(type, hand.state)
      .filter((i) => i.leg === leg.id)
      .map((i) => i.id);
    expect(zoned.toSorted()).toEqual(listed.toSorted());
  });

  test('what the list finds otherwise than the flow left it is marked, whatever it was', () => {
    const hand = flowing();
    for (let zone = presentFlow(type, hand.state); zone; zone = presentFlow(type, hand.state))
      hand.wants({ kind: 'zone-flowed', leg: zone.leg, zone: zone.zone });
    expect(differences(type, hand.state)).toEqual([]);
    const first = present(hand);
    hand.write({ ...done(first.id), differs: true } as Payload);
    const second = present(hand);
    hand.write({ kind: 'item-fault', item: second.id, note: 'not as it was' });
    expect(differences(type, hand.state).map((i) => i.id)).toEqual([first.id, second.id]);
  });

  test('a zone that is not there cannot be walked', () => {
    expect(flowing().wants({ kind: 'zone-flowed', leg: 'before-start', zone: 'attic' })).toBe(false);
  });

  test('the other methods have no flow', () => {
    for (const method of ['read-and-do', 'two-crew'])
      expect(presentFlow(type, new Hand(type, { method }).state)).toBeNull();
  });
});

describe('two crew', () => {
  const crew = (reader: string): Hand => new Hand(typeOf('C5'), { method: 'two-crew', reader });

  test('an item is read first and answered then', () => {
    const hand = crew('second-crew-reads');
    const item = present(hand);
    expect(twoCrewTurn(hand.type, hand.state, item)).toEqual({
      reader: 'second-crew',
      answers: 'pilot',
      turn: 'challenge',
    });
    expect(hand.wants(done(item.id))).toBe(false);
    expect(hand.wants({ kind: 'challenged', item: item.id })).toBe(true);
    expect(twoCrewTurn(hand.type, hand.state, item)!.turn).toBe('response');
    expect(hand.wants(done(item.id))).toBe(true);
  });

  test('the operator says who reads', () => {
    const hand = crew('pilot-reads');
    expect(twoCrewTurn(hand.type, hand.state, present(hand))).toMatchObject({
      reader: 'pilot',
      answers: 'second-crew',
    });
  });

  test('an item that is opened again is read again', () => {
    const hand = crew('pilot-reads');
    const [first] = walk(hand, 1);
    hand.wants({ kind: 'item-reopened', item: first! });
    expect(present(hand).id).toBe(first);
    expect(twoCrewTurn(hand.type, hand.state, present(hand))!.turn).toBe('challenge');
  });

  test('alone there is nobody to read', () => {
    const hand = new Hand(typeOf('C5'), { method: 'read-and-do' });
    expect(twoCrewTurn(hand.type, hand.state, present(hand))).toBeNull();
  });
});

describe('an interruption', () => {
  test('the two items before it are seen again, the older first, and then the list goes on', () => {
    const hand = new Hand(typeOf('H9'));
    const walked = walk(hand, 5);
    const at = present(hand).id;
    expect(hand.wants({ kind: 'interrupted', words: 'a call' })).toBe(true);
    expect(hand.state.seeAgain).toEqual(walked.slice(-2));
    expect(hand.wants({ kind: 'reseen', item: walked.at(-2)! })).toBe(true);
    expect(hand.state.seeAgain).toEqual(walked.slice(-1));
    expect(hand.wants({ kind: 'reseen', item: walked[0]! })).toBe(false);
    expect(hand.wants({ kind: 'reseen', item: walked.at(-1)! })).toBe(true);
    expect(present(hand).id).toBe(at);
  });

  test('one of them that is not so any more is done again, first', () => {
    const hand = new Hand(typeOf('H9'));
    const walked = walk(hand, 5);
    hand.wants({ kind: 'interrupted', words: '' });
    hand.wants({ kind: 'item-reopened', item: walked[4]! });
    expect(hand.state.seeAgain).toEqual([walked[3]]);
    expect(present(hand).id).toBe(walked[4]);
  });

  test('before anything was done there is nothing to see again', () => {
    const hand = new Hand(typeOf('T2'));
    hand.wants({ kind: 'interrupted', words: '' });
    expect(hand.state.seeAgain).toEqual([]);
  });
});

describe('ways of this run', () => {
  test('a way is changed with its reason, and the list follows', () => {
    const type = typeOf('T2');
    const hand = new Hand(type, { priming: 'primer' });
    const primes = (): string[] =>
      procedureOf(type, hand.state)
        .filter((i) => i.id.startsWith('prime'))
        .map((i) => i.id);
    expect(primes()).toEqual(['prime-primer']);
    expect(hand.wants({ kind: 'way-changed', choice: 'priming', to: 'throttle', reason: 'primer leaks' })).toBe(true);
    expect(primes()).toEqual(['prime-throttle']);
    expect(wayOf(type, hand.state, 'priming')).toBe('throttle');
    expect(hand.wants({ kind: 'way-changed', choice: 'priming', to: 'petrol', reason: 'why not' })).toBe(false);
    expect(hand.wants({ kind: 'way-changed', choice: 'music', to: 'loud', reason: 'why not' })).toBe(false);
  });

  test('the short list keeps the rest of the run whole', () => {
    for (const type of fleet) {
      const whole = procedureOf(type, new Hand(type).state);
      const short = procedureOf(type, new Hand(type, { list: 'turn-round' }).state);
      expect(short.length, type.id).toBeLessThan(whole.length);
      const rest = (list: typeof whole) => list.filter((i) => i.leg !== type.legs[0]!.id).map((i) => i.id);
      expect(rest(short), type.id).toEqual(rest(whole));
      for (const id of type.turnRound!.items)
        expect(short.some((i) => i.id === id) || whole.every((i) => i.id !== id)).toBe(true);
    }
  });

  test('which engine is first turns the start leg round', () => {
    for (const id of ['H9', 'X14']) {
      const type = typeOf(id);
      const starts = (first: string): string[] =>
        procedureOf(type, new Hand(type, { 'first-engine': first }).state)
          .filter((i) => i.kind === 'watch' && /engine/i.test(i.challenge))
          .map((i) => i.challenge);
      expect(starts('1')).toEqual(starts('2').toReversed());
    }
  });
});

describe('taking back', () => {
  test('undo takes back the last thing, of every kind, once', () => {
    const type = typeOf('C5');
    const kinds: Payload[] = [
      { kind: 'mark', words: '' },
      { kind: 'interrupted', words: '' },
      { kind: 'way-changed', choice: 'doors', to: 'open', reason: 'hot day' },
      { kind: 'item-skipped', item: present(new Hand(type)).id, reason: 'done before' },
      { kind: 'item-fault', item: present(new Hand(type)).id, note: 'worn' },
    ];
    for (const payload of kinds) {
      const hand = new Hand(type);
      const before = hand.state;
      expect(hand.wants(payload), payload.kind).toBe(true);
      const undo: Payload = { kind: 'undone', entry: hand.entries.at(-1)!.id };
      expect(hand.wants(undo), payload.kind).toBe(true);
      const { lastSeq: _a, lastUndoable: _b, ...after } = hand.state;
      const { lastSeq: _c, lastUndoable: _d, ...was } = before;
      expect(after, payload.kind).toEqual(was);
      expect(hand.wants(undo), payload.kind).toBe(false);
    }
  });

  test('a skip wants a reason and a fault its note', () => {
    const hand = new Hand(typeOf('C5'));
    const item = present(hand).id;
    hand.wants({ kind: 'item-skipped', item, reason: 'called away' });
    expect(notDone(hand.type, hand.state)).toMatchObject([{ words: 'called away', status: 'skipped' }]);
  });

  test('any prefix of a journal is the state of that moment', () => {
    const hand = new Hand(typeOf('X14'));
    const states = [hand.state];
    for (let i = 0; i < 12; i++) {
      walk(hand, 1);
      states.push(reduceRun(hand.entries));
    }
    const settled = (at: number): number => Object.values(states[at]!.items).filter((i) => i.status === 'done').length;
    states.forEach((_, i) => expect(settled(i)).toBe(i));
  });
});

describe('time', () => {
  test('a deadline counts from its event and ends with the item', () => {
    const type = structuredClone(typeOf('S7'));
    const item = type.items.find((i) => i.id === 'captions-idle')!;
    item.deadline = { within_s: 60, since: 'generator-on' };
    const hand = new Hand(type);
    hand.write({ kind: 'item-done', item: item.deadline!.since, how: 'declared', value: null, words: '' });
    const since_s = itemState(hand.state, item.deadline!.since).t_s;
    expect(lateItems(type, hand.state, since_s + item.deadline!.within_s - 1)).toEqual([]);
    expect(lateItems(type, hand.state, since_s + item.deadline!.within_s + 3)).toMatchObject([{ item, late_s: 3 }]);
    hand.write({ kind: 'item-done', item: item.id, how: 'declared', value: null, words: '' });
    expect(lateItems(type, hand.state, since_s + 9999)).toEqual([]);
  });

  test('ready comes nearer with every item, and the longest wait is proposed first', () => {
    const hand = new Hand(typeOf('X14'));
    let before = Infinity;
    for (let i = 0; i < 10; i++) {
      const { ready_s } = scheduleOf(hand.type, hand.state, {});
      expect(ready_s).toBeLessThan(before + 1e-6);
      before = ready_s;
      walk(hand, 1);
    }
    const plan = scheduleOf(hand.type, hand.state, { draws: 200 });
    expect(plan.p80_s!).toBeGreaterThanOrEqual(plan.ready_s * 0.95);
    expect(plan.heldBy).not.toBeNull();
    expect(plan.planned.every((p) => p.to_s >= p.from_s)).toBe(true);
  });

  test('a wait that still runs counts with what it still needs', () => {
    const hand = new Hand(typeOf('X14'));
    const long = scheduleOf(hand.type, hand.state, {}).planned.find((p) => p.item.kind === 'wait')!.item;
    const of = (left: number): number =>
      scheduleOf(hand.type, hand.state, { remaining_s: (id) => (id === long.id ? left : null) }).ready_s;
    expect(of(2000)).toBeGreaterThanOrEqual(of(10));
  });

  test('how long a wait takes is learned near this temperature, from what is plausible', () => {
    const item = typeOf('X14').items.find((i) => i.kind === 'wait' && i.usual_s > 60)!;
    if (item.kind !== 'wait') throw new Error('no long wait');
    const median = (past: PastWait[], oat_C: number | null = 10): number => {
      const dur = durationOf(typeOf('X14'), item, past, oat_C);
      return 'mu' in dur ? Math.exp(dur.mu) : dur.fixed;
    };
    const took = (took_s: number, oat_C: number, n = 10): PastWait[] =>
      Array.from({ length: n }, () => ({ item: item.id, took_s, oat_C }));
    expect(median([])).toBeCloseTo(item.usual_s, 6);
    expect(median(took(item.usual_s * 1.5, 10))).toBeGreaterThan(item.usual_s * 1.25);
    expect(median(took(item.usual_s * 1.5, 35))).toBeCloseTo(item.usual_s, 6);
    expect(median(took(item.usual_s * 50, 10))).toBeCloseTo(item.usual_s, 6);
    expect(median(took(0.2, 10))).toBeCloseTo(item.usual_s, 6);
  });

  test('a warm-up is carried over to the air of the day, and a day far from the earlier ones is less certain', () => {
    const type = typeOf('C5');
    const item = type.items.find((i) => i.id === 'engine-oil-warm')!;
    const [target] = warmTargets(type, item);
    // warms by a kelvin in two seconds, each time from an air of 10 °C
    const curve = { every_s: 5, rise_K: Array.from({ length: 20 }, (_, i) => 2.5 * i) };
    const past = Array.from({ length: 12 }, (_, i): PastWait => ({
      item: item.id,
      took_s: 25,
      oat_C: 8 + (i % 5),
      curves: { [target!.channel]: curve },
    }));
    const at = (oat_C: number): { mu: number; sigma: number } => durationOf(type, item, past, oat_C) as Lognormal;
    expect(Math.exp(at(10).mu)).toBeCloseTo(2 * (target!.target_C - 10), -1);
    expect(Math.exp(at(-10).mu)).toBeCloseTo(2 * (target!.target_C + 10), -1);
    expect(at(-30).sigma).toBeGreaterThan(at(-10).sigma);
  });

  test('a finished run says how long its waits and its measured checks took', () => {
    const hand = new Hand(typeOf('C5'));
    for (let i = 0; i < 120 && presentItem(hand.type, hand.state); i++) hand.settle(present(hand));
    const waits = waitsOf(hand.type, hand.entries, 12);
    const listed = procedureOf(hand.type, hand.state).filter(
      (i) => i.kind === 'wait' || i.kind === 'watch' || (i.kind === 'measure' && i.trace),
    );
    expect(waits.map((w) => w.item)).toEqual(listed.map((i) => i.id));
    expect(waits.every((w) => w.took_s > 0 && w.oat_C === 12)).toBe(true);
  });

  test('a measured check takes as long as its stages last and as this tail took, not as a glance', () => {
    const check = typeOf('T2').items.find((i) => i.id === 'magnetos-low-left-first')!;
    const lasts_s = stagesOf(check).reduce((sum, stage) => sum + (stage.hold_s ?? 0), 0);
    const took = (past: PastWait[]): number =>
      Math.exp((durationOf(typeOf('T2'), check, past, 12) as { mu: number }).mu);
    expect(took([])).toBeGreaterThan(lasts_s);
    const slow = Array.from({ length: 20 }, () => ({ item: check.id, took_s: 2 * took([]), oat_C: 12 }));
    expect(took(slow)).toBeGreaterThan(1.5 * took([]));
  });

  test('the passage goes leg by leg', () => {
    const hand = new Hand(typeOf('C5'));
    const statuses = (): string[] => passage(hand.type, hand.state).map((l) => l.status);
    expect(statuses()[0]).toBe('now');
    expect(
      statuses()
        .slice(1)
        .every((s) => s === 'ahead'),
    ).toBe(true);
    while (present(hand).leg === 'before-start') hand.settle(present(hand));
    expect(statuses().slice(0, 2)).toEqual(['done', 'now']);
  });

  test('what may be done meanwhile can be taken out of its turn, and only that', () => {
    const hand = new Hand(typeOf('X14'));
    for (let i = 0; i < 40 && meanwhileItems(hand.type, hand.state).length === 0; i++) hand.settle(present(hand));
    const [other] = meanwhileItems(hand.type, hand.state);
    expect(hand.wants({ kind: 'item-chosen', item: other!.id })).toBe(true);
    expect(present(hand).id).toBe(other!.id);
    expect(hand.wants(rightAnswer(other!, { type: hand.type, state: hand.state }))).toBe(true);
    const last = hand.type.items.at(-1)!;
    expect(hand.wants({ kind: 'item-chosen', item: last.id })).toBe(false);
    // even a journal that says so does not put it before what it needs
    hand.write({ kind: 'item-chosen', item: last.id });
    expect(present(hand).id).not.toBe(last.id);
  });
});
