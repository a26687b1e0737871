import {
  closingOutcome,
  differences,
  isFinished,
  isReachable,
  isShuttingDown,
  lateItems,
  legsAhead,
  legSpans,
  meanwhileItems,
  nextItems,
  noGoFaults,
  notDone,
  openBefore,
  passage,
  presentFlow,
  presentItem,
  procedureOf,
  stagesDone,
  standInActions,
  stillOpen,
  toPutBack,
  twoCrewTurn,
  wasFlowed,
  wayOf,
  workingList,
  zonesOf,
  type Payload,
  type RunState,
} from '@rouse/core/procedure';
import type { Item } from '@rouse/core/aircraft';
import { describe, expect, test } from 'vitest';
import { aborted, after, begins, did, fault, item, skip, stage, typeWith } from './small-type.ts';

const ids = (items: readonly Item[]): string[] => items.map((i) => i.id);
const way = (choice: string, to: string) => ({ kind: 'way-changed', choice, to, reason: 'r' }) as const;

const a = item('a', 'check');
const b = item('b', 'check', { needs: ['a'] });
const warm = item('warm', 'wait', { background: true, until: { channel: 'oil.1.temperature', atLeast: 40 }, usual_s: 60, needs: ['a'] }); // oxfmt-ignore
const radio = item('radio', 'check', { meanwhile: true });
const last = item('last', 'check', { needs: ['warm'] });
const lifts = item('lifts', 'call', { leg: 'lift' });
const hovers = item('hovers', 'check', { leg: 'hover' });
const downs = item('downs', 'check', { leg: 'down' });
const type = typeWith([a, b, warm, radio, last, lifts, hovers, downs]);

describe('the present item', () => {
  const now = (state: RunState) => presentItem(type, state)?.id ?? null;

  test('is the first that can be done; a wait beside the list is that only when nothing else is left', () => {
    expect(now(after())).toBe('a');
    expect(now(after(did('a')))).toBe('b');
    expect(now(after(did('a'), did('b')))).toBe('radio');
    expect(now(after(did('a'), did('b'), did('radio')))).toBe('warm');
    expect(now(after(did('a'), did('b'), did('radio'), did('warm')))).toBe('last');
    expect(now(after(...['a', 'b', 'radio', 'warm', 'last', 'lifts'].map((id) => did(id))))).toBeNull();
  });

  test('is the one that was chosen, when it can be begun', () => {
    expect(now(after({ kind: 'item-chosen', item: 'radio' }))).toBe('radio');
    expect(now(after({ kind: 'item-chosen', item: 'b' }))).toBe('a');
    expect(now(after({ kind: 'item-chosen', item: 'radio' }, did('radio')))).toBe('a');
  });

  test('and the list are found once for a state, and anew for another type', () => {
    const state = after(did('a'));
    expect(procedureOf(type, state)).toBe(procedureOf(type, state));
    const shorter = typeWith([radio, lifts]);
    expect(ids(procedureOf(shorter, state))).toEqual(['radio', 'lifts']);
    expect(presentItem(shorter, state)?.id).toBe('radio');
    expect(presentItem(type, state)?.id).toBe('b');
    expect(presentItem(type, after(did('a'), did('b')))?.id).toBe('radio');
  });

  test('is an action of the abort while there is one, and nothing once the run is closed', () => {
    const state = after(aborted);
    const actions = workingList(type, state);
    expect(actions.length).toBeGreaterThan(1);
    expect(now(state)).toBe(actions[0]!.id);
    expect(now(after(aborted, did(actions[0]!.id)))).toBe(actions[1]!.id);
    expect(now(after(aborted, { kind: 'item-chosen', item: actions[1]!.id }))).toBe(actions[1]!.id);
    expect(now(after({ kind: 'closed', outcome: 'given-up' }))).toBeNull();
  });

  test('what runs or may be done beside it is open only when it can be begun', () => {
    expect(ids(meanwhileItems(type, after()))).toEqual(['radio']);
    expect(ids(meanwhileItems(type, after(did('a'))))).toEqual(['warm', 'radio']);
    expect(ids(meanwhileItems(type, after(did('a'), did('b'))))).toEqual(['warm']);
    expect(ids(meanwhileItems(type, after(did('a'), did('warm'))))).toEqual(['radio']);
    expect(meanwhileItems(type, after(did('a'), aborted))).toEqual([]);
    expect(meanwhileItems(type, after(did('a'), { kind: 'closed', outcome: 'given-up' }))).toEqual([]);
  });

  test('is followed by what is to do, without what is beside it', () => {
    expect(ids(nextItems(type, after(), 9))).toEqual(['b', 'warm', 'last', 'lifts']);
    expect(ids(nextItems(type, after(did('a')), 2))).toEqual(['last', 'lifts']);
    expect(nextItems(type, after({ kind: 'closed', outcome: 'given-up' }), 1).length).toBe(1);
  });
});

describe('what holds an item', () => {
  test('is what it needs, unless that is done, skipped, or a fault that is no no-go', () => {
    const strict = typeWith([item('a', 'check', { failure: 'no-go' }), b]);
    expect(isReachable(type, after(), b)).toBe(false);
    for (const done of [did('a'), skip('a'), fault('a')]) expect(isReachable(type, after(done), b)).toBe(true);
    expect(isReachable(strict, after(fault('a')), b)).toBe(false);
    expect(isReachable(strict, after(skip('a')), b)).toBe(true);
    expect(ids(noGoFaults(strict, after(fault('a'))))).toEqual(['a']);
    expect(noGoFaults(strict, after(skip('a')))).toEqual([]);
    expect(noGoFaults(type, after(fault('a')))).toEqual([]);
    // what is not on this list holds nothing
    expect(isReachable(typeWith([b]), after(), b)).toBe(true);
  });

  test('of a gate is everything of the legs before it', () => {
    const before = ['a', 'b', 'warm', 'radio'].map((id) => did(id));
    expect(isReachable(type, after(...before), lifts)).toBe(false);
    expect(isReachable(type, after(...before, did('last')), lifts)).toBe(true);
    expect(isReachable(type, after(...before, skip('last')), lifts)).toBe(true);
  });

  test('of a gate is what is out of its place', () => {
    const press = item('press', 'test', { stages: [{ id: 'p', do: 'Press' }, { id: 'q', do: 'Hold' }, { id: 'r', do: 'Let go', restores: true }], opens: 'pressed' } as never); // oxfmt-ignore
    const tried = typeWith([press, lifts]);
    expect(stillOpen(tried, after())).toEqual([]);
    for (const n of [1, 2]) {
      const state = after(...Array.from({ length: n }, (_, i) => stage('press', i)), skip('press'));
      expect(stillOpen(tried, state)).toMatchObject([{ words: 'pressed' }]);
      expect(isReachable(tried, state, lifts)).toBe(false);
      expect(isFinished(tried, state)).toBe(false);
    }
    const back = after(stage('press', 0), stage('press', 1), stage('press', 2, true));
    expect(stillOpen(tried, back)).toEqual([]);
    expect(isReachable(tried, back, lifts)).toBe(true);
  });

  test('a switch that another item puts back is out of its place until that is done, before the leg in which it is', () => {
    const on = item('on', 'set', { opens: { words: 'pump on', closedBy: 'off' } });
    const off = item('off', 'set', { leg: 'down' });
    const pumped = typeWith([on, item('go', 'check', { leg: 'start' }), lifts, off]);
    expect(stillOpen(pumped, after())).toEqual([]);
    expect(stillOpen(pumped, after(skip('on')))).toEqual([]);
    expect(stillOpen(pumped, after(did('on')))).toMatchObject([{ item: on, words: 'pump on', closedIn: 'down' }]);
    expect(openBefore(pumped, after(did('on')), 'down')).toEqual([]);
    expect(openBefore(pumped, after(did('on')), 'lift')).toEqual([]);
    // the leg that puts it back has not begun: it does not hold the end of the list; once it has, it does
    expect(toPutBack(pumped, after(did('on')))).toEqual([]);
    expect(toPutBack(pumped, after(did('on'), begins('down')))).toHaveLength(1);
    expect(stillOpen(pumped, after(did('on'), begins('down'), did('off')))).toEqual([]);
    const early = typeWith([on, item('off', 'set', { leg: 'start' }), lifts]);
    expect(openBefore(early, after(did('on')), 'lift')).toHaveLength(1);
    expect(openBefore(early, after(did('on')), 'start')).toEqual([]);
    expect(openBefore(early, after(did('on')), 'before')).toEqual([]);
  });
});

describe('the list of a run', () => {
  test('has what its ways, decisions and findings leave, each answer of several', () => {
    const one = item('one', 'check', { when: [{ choice: 'doors', is: 'open' }] });
    const two = item('two', 'check', { when: [{ choice: 'doors', is: ['open', 'closed'] }] });
    const hot = item('hot', 'check', { when: [{ decision: 'heat', is: 'on' }] });
    const found = item('found', 'check', { when: [{ check: 'drop', found: ['weak', 'late'] }] });
    const both = item('both', 'check', { when: [{ choice: 'doors', is: 'open' }, { decision: 'heat', is: 'on' }] }); // oxfmt-ignore
    const chosen = typeWith([one, two, hot, found, both]);
    const list = (...said: Payload[]) => ids(procedureOf(chosen, after(...said)));
    const decided = { kind: 'decided', item: 'heat', alternative: 'on', reason: 'r' } as const;
    const measured = (cause: string | null) => ({ kind: 'measured', item: 'drop', check: 'drop', verdict: 'fault', cause, words: '', figures: [], from_s: 0, to_s: 1 }) as never; // oxfmt-ignore
    expect(list()).toEqual(['two']);
    expect(list(way('doors', 'open'))).toEqual(['one', 'two']);
    expect(list(decided)).toEqual(['two', 'hot']);
    expect(list(way('doors', 'open'), decided)).toEqual(['one', 'two', 'hot', 'both']);
    expect(list(measured('late'))).toEqual(['two', 'found']);
    expect(list(measured('other'))).toEqual(['two']);
    expect(list(measured('weak'), measured(null))).toEqual(['two', 'found']);
    expect(wayOf(chosen, after(), 'doors')).toBe('closed');
    expect(wayOf(chosen, after(way('doors', 'open')), 'doors')).toBe('open');
    expect(wayOf(chosen, after(), 'nothing')).toBeUndefined();
  });

  test('has items for the hand only where nothing is sensed', () => {
    const hand = typeWith([item('tap', 'check', { byHandOnly: true }), a]);
    expect(ids(procedureOf(hand, after()))).toEqual(['a']);
    expect(ids(procedureOf(hand, { ...after(), source: 'by-hand' }))).toEqual(['tap', 'a']);
  });

  test('is the short one between two flights, in its first leg alone', () => {
    const short = typeWith([a, radio, item('s', 'check', { leg: 'start' })], { turnRound: { items: ['radio'] } } as never); // oxfmt-ignore
    expect(ids(procedureOf(short, after()))).toEqual(['a', 'radio', 's']);
    expect(ids(procedureOf(short, after(way('list', 'turn-round'))))).toEqual(['radio', 's']);
    expect(ids(procedureOf(type, after(way('list', 'turn-round'))))).toContain('a');
  });

  test('goes on with the leg that was begun; what was left undone is behind, what was touched is not', () => {
    expect(ids(procedureOf(type, after()))).not.toContain('hovers');
    expect(ids(procedureOf(type, after(did('a'), begins('hover'))))).toEqual(['a', 'hovers']);
    expect(ids(procedureOf(type, after(did('a'), stage('b', 0), begins('down'))))).toEqual(['a', 'b', 'downs']);
    expect(legsAhead(type, after()).map((l) => l.id)).toEqual(['hover', 'down']);
    expect(legsAhead(type, after(begins('hover'))).map((l) => l.id)).toEqual(['down']);
    expect(legsAhead(type, after(begins('down')))).toEqual([]);
    expect([after(), after(begins('hover')), after(begins('down'))].map((s) => isShuttingDown(type, s))).toEqual([false, false, true]); // oxfmt-ignore
  });

  test('of what was not done as written says which, and why', () => {
    expect(notDone(type, after(did('a'), fault('b'), skip('radio')))).toMatchObject([
      { item: b, words: 'not so', status: 'fault' },
      { item: radio, words: 'no time', status: 'skipped' },
    ]);
  });
});

describe('stages', () => {
  const trace = { stages: [{ id: 'l', do: 'Left' }, { id: 'r', do: 'Right' }, { id: 'b', do: 'Both', restores: true }], opens: { from: 'l', words: 'on one side' } }; // oxfmt-ignore
  const mags = item('mags', 'measure', { trace } as never);
  const checked = typeWith([mags, lifts]);
  const measured = (verdict: string) => ({ kind: 'measured', item: 'mags', check: 'mags', verdict, cause: null, words: '', figures: [], from_s: 0, to_s: 1 }) as never; // oxfmt-ignore

  test('are counted, begin anew after a check that has ended, and after one that was not put back go on there', () => {
    expect(stagesDone(after(), mags)).toBe(0);
    expect(stagesDone(after(stage('mags', 0)), mags)).toBe(1);
    expect(stagesDone(after(stage('mags', 0), stage('mags', 1)), mags)).toBe(2);
    expect(stagesDone(after(stage('mags', 0), measured('fault')), mags)).toBe(2);
    expect(stagesDone(after(stage('mags', 0), measured('fault'), stage('mags', 2)), mags)).toBe(0);
    expect(stagesDone(after(...[0, 1, 2].map((n) => stage('mags', n))), mags)).toBe(0);
    expect(stagesDone(after(...[0, 1, 2].map((n) => stage('mags', n)), did('mags')), mags)).toBe(3);
  });

  test('that moved something leave it open until they have put it back', () => {
    const isOpen = (...said: Payload[]) => stillOpen(checked, after(...said)).length === 1;
    expect(isOpen()).toBe(false);
    expect(isOpen(stage('mags', 0))).toBe(true);
    expect(isOpen(stage('mags', 0), stage('mags', 1))).toBe(true);
    expect(isOpen(stage('mags', 0), stage('mags', 1), stage('mags', 2))).toBe(false);
    expect(isOpen(stage('mags', 0), skip('mags'))).toBe(true);
  });

  test('move what a stand-in has for them, else for the item; a hold lasts as the air asks', () => {
    const action = (to: number) => ({ control: 'c', to });
    const staged = item('staged', 'test', { stages: [{ id: 'p', do: 'Press', standIn: [action(1)] }, { id: 'q', do: 'Let go', restores: true }], opens: 'o', standIn: [action(9)] } as never); // oxfmt-ignore
    expect(standInActions(staged, after())).toEqual([action(1)]);
    expect(standInActions(staged, after(stage('staged', 0)))).toEqual([action(9)]);
    const held = item('held', 'hold', { hold_s: 3, standIn: [{ control: 'c', to: 1, release_s: 1 }, action(2)] } as never); // oxfmt-ignore
    expect(standInActions(held, after())).toEqual([{ control: 'c', to: 1, release_s: 3.2 }, action(2)]);
    expect(standInActions(a, after())).toEqual([]);
  });
});

describe('ways of working', () => {
  const flow = way('method', 'flow-then-verify');

  test('a flow goes zone by zone in the order of the list, then the list is read', () => {
    const zoned = typeWith([item('p', 'check', { zone: 'nose' }), item('q', 'check', { zone: 'tail' }), item('r', 'check', { zone: 'nose' }), item('s', 'check', { leg: 'start' })]); // oxfmt-ignore
    expect(zonesOf(zoned, after(), 'before').map((z) => [z.zone, ids(z.items)])).toEqual([['nose', ['p', 'r']], ['tail', ['q']]]); // oxfmt-ignore
    expect(presentFlow(zoned, after())).toBeNull();
    expect(presentFlow(zoned, after(flow))).toMatchObject({ leg: 'before', zone: 'nose' });
    const nose = { kind: 'zone-flowed', leg: 'before', zone: 'nose' } as const;
    expect(presentFlow(zoned, after(flow, nose))).toMatchObject({ zone: 'tail' });
    expect(presentFlow(zoned, after(flow, nose, { ...nose, zone: 'tail' }))).toBeNull();
    expect(presentFlow(zoned, after(flow, did('p'), did('q'), did('r')))).toBeNull();
    expect(presentFlow(zoned, after(flow, aborted))).toBeNull();
    expect(presentFlow(zoned, after(flow, { kind: 'closed', outcome: 'given-up' }))).toBeNull();
    const state = after(flow, nose, did('p', { differs: true }), did('q', { differs: true }), fault('r'));
    expect([wasFlowed(state, zoned.items[0]!), wasFlowed(state, zoned.items[1]!)]).toEqual([true, false]);
    expect(ids(differences(zoned, state))).toEqual(['p', 'r']);
    expect(ids(differences(zoned, after(flow, nose, did('p'), skip('r'))))).toEqual(['r']);
  });

  test('two read and answer in turn, what ends by itself apart', () => {
    const crew = way('method', 'two-crew');
    const turn = (of: Item, ...said: Payload[]) => twoCrewTurn(type, after(...said), of);
    expect(turn(a)).toBeNull();
    expect(turn(a, crew)).toEqual({ reader: 'second-crew', answers: 'pilot', turn: 'challenge' });
    expect(turn(a, crew, { kind: 'challenged', item: 'a' })).toMatchObject({ turn: 'response' });
    expect(turn(a, crew, way('reader', 'pilot-reads'))).toMatchObject({ reader: 'pilot', answers: 'second-crew' });
    expect(turn(warm, crew)).toBeNull();
    expect(turn(item('w', 'watch'), crew)).toBeNull();
    expect(turn(a, crew, aborted)).toBeNull();
  });
});

describe('the end of a run', () => {
  const all = ['a', 'b', 'warm', 'radio', 'last', 'lifts'].map((id) => did(id));

  test('is there when nothing is left to do, a fault that is no no-go apart', () => {
    expect(isFinished(type, after(...all))).toBe(true);
    expect(isFinished(type, after(...all.slice(1)))).toBe(false);
    expect(isFinished(type, after(...all.slice(1), fault('a')))).toBe(true);
    expect(isFinished(type, after(...all, aborted))).toBe(false);
    const strict = typeWith([item('a', 'check', { failure: 'no-go' })]);
    expect(isFinished(strict, after(fault('a')))).toBe(false);
  });

  test('is called by what it was', () => {
    const outcome = (...said: Payload[]) => closingOutcome(type, after(...said));
    expect(outcome()).toBe('given-up');
    expect(outcome(...all)).toBe('ready');
    expect(outcome(...all, begins('hover'))).toBe('ready');
    expect(outcome(did('a'), begins('hover'))).toBe('ready');
    expect(outcome(begins('down'))).toBe('given-up');
    expect(outcome(begins('down'), did('downs'))).toBe('shut-down');
    expect(outcome(...all, aborted)).toBe('aborted');
  });
});

describe('the passage', () => {
  const legs = typeWith([a, item('s', 'check', { leg: 'start' }), lifts, hovers, downs]);
  const at = (...said: Payload[]) => passage(legs, after(...said)).map((l) => `${l.id} ${l.status}`);

  test('stands at the leg of the present item, past the end when it is over, and legs without items are left out', () => {
    expect(at()).toEqual(['before now', 'start ahead', 'lift ahead']);
    expect(at(did('a'))).toEqual(['before done', 'start now', 'lift ahead']);
    expect(at(did('a'), did('s'), did('lifts'), { kind: 'closed', outcome: 'ready' })).toEqual(['before done', 'start done', 'lift done']); // oxfmt-ignore
    expect(at(did('a'), { kind: 'closed', outcome: 'given-up' })).toEqual(['before done', 'start now', 'lift ahead']);
    expect(at(did('a'), aborted)).toEqual(['before done', 'start now', 'lift ahead']);
    expect(at(did('a'), did('s'), did('lifts'), begins('hover'), did('hovers'))).toEqual(['before done', 'start done', 'lift done', 'hover now']); // oxfmt-ignore
    expect(at(begins('down'), did('downs'), { kind: 'closed', outcome: 'shut-down' })).toEqual(['down done']);
  });

  test('held by a no-go it stands there', () => {
    const strict = typeWith([item('a', 'check', { failure: 'no-go' }), item('s', 'check', { leg: 'start', needs: ['a'] })]); // oxfmt-ignore
    expect(passage(strict, after(fault('a'))).map((l) => l.status)).toEqual(['now', 'ahead']);
  });

  test('took from the last leg to the last of its own items; an abort takes the rest', () => {
    const spans = (end_s: number, ...said: Payload[]) => legSpans(legs, after(...said), end_s).map((s) => [s.id, s.label, s.from_s, s.to_s]); // oxfmt-ignore
    expect(spans(99)).toEqual([]);
    expect(spans(99, did('a'), did('s'))).toEqual([['before', 'Before', 0, 2], ['start', 'Start', 2, 4]]); // oxfmt-ignore
    expect(spans(99, did('s'), did('a'))).toEqual([['before', 'Before', 0, 4]]);
    expect(spans(99, did('a'), aborted)).toEqual([['before', 'Before', 0, 2], ['abort', 'Abort', 2, 99]]); // oxfmt-ignore
    expect(spans(2, did('a'), aborted)).toEqual([['before', 'Before', 0, 2]]);
  });
});

test('an item is late when it is to do so long after what it is counted from was done', () => {
  const due = item('due', 'check', { deadline: { since: 'a', within_s: 30 } });
  const timed = typeWith([a, due]);
  const late = (t_s: number, ...said: Payload[]) => lateItems(timed, after(...said), t_s);
  expect(late(99)).toEqual([]);
  expect(late(32, did('a'))).toEqual([]);
  expect(late(33, did('a'))).toEqual([{ item: due, late_s: 1 }]);
  expect(late(99, skip('a'))).toEqual([]);
  expect(late(99, did('a'), did('due'))).toEqual([]);
});
