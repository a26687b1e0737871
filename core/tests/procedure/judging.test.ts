import { acceptFromPilot, itemState, type Payload, reduceRun, type RunState, samePayload } from '@rouse/core/procedure';
import { describe, expect, test } from 'vitest';
import { channelIndex, skerry } from '../skerry.ts';
import { aborted, after, begins, did, fault, item, journal, skip, stage, typeWith } from './small-type.ts';

const a = item('a', 'check');
const b = item('b', 'check', { needs: ['a'] });
const lifts = item('lifts', 'check', { leg: 'lift' });
const downs = item('downs', 'check', { leg: 'down' });
const type = typeWith([a, b, lifts, downs]);

/** What comes of an answer: true when it is taken as it is, else what was said. */
function answer(wanted: Payload, state: RunState, of = type, values: Float64Array | null = null): unknown {
  const verdict = acceptFromPilot(of, state, wanted, values);
  if (!verdict.ok) return `${verdict.code}: ${verdict.message}`;
  return verdict.payload === wanted ? true : verdict.payload;
}

describe('what a person may write', () => {
  test('of an item: a fault, a skip and a word, when it is on the list, to do, and can be begun', () => {
    const state = after();
    expect(answer(fault('a'), state)).toBe(true);
    expect(answer(skip('a'), state)).toBe(true);
    expect(answer({ kind: 'challenged', item: 'a' }, state)).toBe(true);
    expect(answer(did('a'), state)).toMatchObject({ kind: 'item-done', item: 'a' });
    expect(answer(did('z'), state)).toBe('not-this-item: z is not on the list that is being worked');
    expect(answer(did('downs'), state)).toBe('not-this-item: downs is not on the list that is being worked');
    expect(answer(did('a'), after(did('a')))).toBe('not-this-item: A is already settled; go back to it first');
    expect(answer(did('b'), state)).toBe('not-this-item: B comes later; A is next');
    expect(answer(skip('lifts'), after(did('a')))).toBe('not-this-item: Lifts comes later; B is next');
  });

  test('a gate says what has to be put back first', () => {
    const press = item('press', 'test', { stages: [{ id: 'p', do: 'Press' }, { id: 'q', do: 'Let go', restores: true }], opens: 'still pressed' } as never); // oxfmt-ignore
    const tried = typeWith([press, lifts]);
    expect(answer(did('lifts'), after(stage('press', 0), skip('press')), tried)).toBe('not-this-item: Lifts is held: still pressed. Put it back first'); // oxfmt-ignore
    // and that is taken, though the test was given up
    expect(answer(stage('press', 1), after(stage('press', 0), skip('press')), tried)).toMatchObject({ kind: 'stage-done', stage: 1, last: true, words: 'Let go' }); // oxfmt-ignore
    expect(answer(stage('press', 0), after(stage('press', 0), skip('press')), tried)).toBe('not-this-item: Press: Let go is next'); // oxfmt-ignore
    expect(answer(stage('press', 0), after(), tried)).toMatchObject({ stage: 0, last: false });
    expect(answer(stage('press', 1), after(), tried)).toBe('not-this-item: Press: Press is next');
    expect(answer(stage('press', 2), after(stage('press', 0), stage('press', 1, true)), tried)).toMatch(/already settled/); // oxfmt-ignore
    expect(answer({ kind: 'closed', outcome: 'ready' }, after(stage('press', 0), skip('press')), tried)).toBe('not-so: Not ready: still pressed. Put it back first'); // oxfmt-ignore
  });

  test('a stage that is sensed is taken when it is so, or nobody can say', () => {
    const expects = { channel: 'switch.hydraulic-test', is: 1 };
    const test1 = item('t', 'test', { stages: [{ id: 'p', do: 'System 1', expect: expects }, { id: 'q', do: 'Off', restores: true }], opens: 'o' } as never); // oxfmt-ignore
    const check = item('m', 'measure', { trace: { stages: [{ id: 'p', do: 'System 1', expect: expects }, { id: 'q', do: 'Off' }] } } as never); // oxfmt-ignore
    const of = typeWith([test1, check]);
    const frame = (v: number): Float64Array => {
      const values = new Float64Array(skerry.channels.length).fill(NaN);
      values[channelIndex('switch.hydraulic-test')] = v;
      return values;
    };
    expect(answer(stage('t', 0), after(), of, frame(1))).toMatchObject({ words: 'System 1: system 1', value: 1 });
    expect(answer(stage('t', 0), after(), of)).toMatchObject({ words: 'System 1, declared', value: null });
    expect(answer(stage('t', 0), after(), of, frame(2))).toBe('not-so: System 1: system 2; expected system 1. Wait for it, or record a fault'); // oxfmt-ignore
    expect(answer(stage('m', 0), after(did('t')), of, frame(1))).toBe('not-so: M: System 1 is sensed by itself; do it, and it goes on'); // oxfmt-ignore
    expect(answer(stage('m', 1), after(did('t'), stage('m', 0)), of)).toMatchObject({ stage: 1, last: true });
  });

  test('a decision is one of its answers', () => {
    const decide = item('d', 'decide', { alternatives: [{ id: 'x', label: 'X' }, { id: 'y', label: 'Y' }] }); // oxfmt-ignore
    const of = typeWith([decide, a]);
    const decided = (alternative: string, on = 'd'): Payload => ({ kind: 'decided', item: on, alternative, reason: 'r' }); // oxfmt-ignore
    expect(answer(decided('y'), after(), of)).toBe(true);
    expect(answer(decided('z'), after(), of)).toBe('not-so: z is not an answer to D');
    expect(answer(decided('x', 'a'), after(), of)).toBe('not-so: x is not an answer to A');
  });

  test('in two-crew work the answer comes after the reading', () => {
    const crew: Payload = { kind: 'way-changed', choice: 'method', to: 'two-crew', reason: 'r' };
    expect(answer(did('a'), after(crew))).toBe('not-so: A is read aloud first, then answered');
    expect(answer(did('a'), after(crew, { kind: 'challenged', item: 'a' }))).toMatchObject({ item: 'a' });
  });

  test('how the list is worked: chosen, gone back to, undone, flowed, seen again, by what is there', () => {
    const chosen = (id: string): Payload => ({ kind: 'item-chosen', item: id });
    expect(answer(chosen('a'), after())).toBe(true);
    expect(answer(chosen('b'), after())).toBe('not-this-item: B cannot be begun yet');
    expect(answer(chosen('z'), after())).toBe('not-this-item: z cannot be begun yet');
    expect(answer(chosen('a'), after(did('a')))).toBe('not-this-item: A cannot be begun yet');
    expect(answer({ kind: 'item-reopened', item: 'a' }, after(did('a')))).toBe(true);
    expect(answer({ kind: 'item-reopened', item: 'z' }, after())).toBe('not-this-item: z is not an item of this type');
    const [, entry] = journal(did('a'));
    expect(answer({ kind: 'undone', entry: entry!.id }, after(did('a')))).toBe(true);
    expect(answer({ kind: 'undone', entry: 'other' }, after(did('a')))).toBe('nothing-to-undo: Only the last thing that you entered can be undone'); // oxfmt-ignore
    expect(answer({ kind: 'zone-flowed', leg: 'before', zone: 'cabin' }, after())).toBe(true);
    expect(answer({ kind: 'zone-flowed', leg: 'before', zone: 'tail' }, after())).toBe('not-this-item: there is no zone tail on this list'); // oxfmt-ignore
    expect(answer({ kind: 'zone-flowed', leg: 'start', zone: 'cabin' }, after())).toMatch(/no zone cabin/);
    const interrupted = after(did('a'), { kind: 'interrupted', words: 'tower' });
    expect(answer({ kind: 'reseen', item: 'a' }, interrupted)).toBe(true);
    expect(answer({ kind: 'reseen', item: 'b' }, interrupted)).toBe('not-this-item: b does not wait to be seen again');
    expect(answer({ kind: 'way-changed', choice: 'doors', to: 'open', reason: 'r' }, after())).toBe(true);
    expect(answer({ kind: 'way-changed', choice: 'doors', to: 'ajar', reason: 'r' }, after())).toMatch(/^not-this-item: ajar is not an answer to /); // oxfmt-ignore
    expect(answer({ kind: 'way-changed', choice: 'z', to: 'open', reason: 'r' }, after())).toBe('not-this-item: open is not an answer to z'); // oxfmt-ignore
  });

  test('a stop is taken once, and is the pilot’s; its actions may be taken in any order', () => {
    expect(answer(aborted, after())).toBe(true);
    expect(answer({ ...aborted, reason: 'hot' } as Payload, after())).toMatch(/^not-so: The start is stopped already/);
    expect(answer(aborted, after(aborted))).toMatch(/^not-so: The start is stopped already; work the actions/);
    const actions = skerry.aborts.pilot!.actions;
    expect(answer({ kind: 'item-chosen', item: actions[1]!.id }, after(aborted))).toBe(true);
    expect(answer(skip(actions[1]!.id), after(aborted))).toBe(true);
    expect(answer(did('a'), after(aborted))).toBe('not-this-item: a is not on the list that is being worked');
    expect(answer({ kind: 'item-reopened', item: actions[0]!.id }, after(aborted))).toBe(true);
  });

  test('a leg is begun when its time has come, the last one whenever nothing starts', () => {
    const all = [did('a'), did('b'), did('lifts')];
    expect(answer(begins('hover'), after(...all))).toEqual({ kind: 'leg-begun', leg: 'hover', how: 'declared' });
    expect(answer(begins('hover'), after())).toBe('not-so: Not ready: A is not settled');
    expect(answer(begins('hover'), after(did('a')))).toBe('not-so: Not ready: B is not settled');
    expect(answer(begins('down'), after())).toMatchObject({ leg: 'down' });
    expect(answer(begins('before'), after())).toBe('not-this-item: before is not a leg that can be begun now');
    expect(answer(begins('hover'), after(begins('down')))).toMatch(/not a leg that can be begun now/);
    expect(answer(begins('down'), after(aborted))).toBe(
      'not-so: The start was stopped; work the actions on the screen',
    );
    expect(answer(begins('down'), after({ kind: 'phase', phase: 'start' }))).toBe('not-so: An engine is starting; stop it, or wait'); // oxfmt-ignore
    const strict = typeWith([item('a', 'check', { failure: 'no-go' })]);
    expect(answer(begins('hover'), after(fault('a')), strict)).toBe('not-so: Not ready: a no-go is not settled');
  });

  test('a run is closed as what it was', () => {
    const closed = (outcome: 'ready' | 'shut-down' | 'given-up' | 'recorded' | 'aborted'): Payload => ({ kind: 'closed', outcome }); // oxfmt-ignore
    const all = [did('a'), did('b'), did('lifts')];
    expect(answer(closed('ready'), after(...all))).toBe(true);
    expect(answer(closed('ready'), after())).toBe('not-so: Not ready: A is not settled');
    expect(answer(closed('ready'), after(did('a'), begins('hover')))).toBe(true);
    expect(answer(closed('given-up'), after())).toBe(true);
    expect(answer(closed('aborted'), after(aborted))).toBe(true);
    expect(answer(closed('shut-down'), after(...all))).toMatch(/^not-so: Not ready/);
    expect(answer(closed('shut-down'), after(begins('down')))).toBe('not-so: Not ready: Downs is not settled');
    expect(answer(closed('shut-down'), after(begins('down'), did('downs')))).toBe(true);
    expect(answer(closed('recorded'), after(...all))).toMatch(/^not-so/);
    const recording: RunState = { ...after(), source: 'recording' };
    expect(answer(closed('recorded'), recording)).toBe(true);
    expect(answer(closed('ready'), recording)).toBe('not-so: A recording ends as it was recorded');
  });

  test('a closed run takes notes; an open one what is told, and nothing that the watch writes', () => {
    const over = after({ kind: 'closed', outcome: 'given-up' });
    expect(answer({ kind: 'note', text: 't' }, over)).toBe(true);
    expect(answer(did('a'), over)).toBe('not-open: This run is closed. Begin a new one on Today; notes can still be added.'); // oxfmt-ignore
    const told: Payload[] = [{ kind: 'note', text: 't' }, { kind: 'mark', words: 'w' }, { kind: 'interrupted', words: 'w' }, { kind: 'handed-over', person: 'p', to: 'A', from: 'B' }]; // oxfmt-ignore
    for (const one of told) expect(answer(one, after()), one.kind).toBe(true);
    expect(answer({ kind: 'phase', phase: 'start' }, after())).toBe('not-this-item: phase is written by the watch, not by a person'); // oxfmt-ignore
    expect(answer({ kind: 'try-again', watch: 'engine-1-start', items: [] }, after())).toBe('not-so: No start was stopped: there is nothing to try again'); // oxfmt-ignore
  });
});

describe('the state of a run', () => {
  test('before it is opened and when it was', () => {
    expect(reduceRun([])).toMatchObject({ status: 'not-begun', outcome: null, holder: null, source: null, phase: 'off', lastSeq: 0, marks: 0 }); // oxfmt-ignore
    expect(after()).toMatchObject({ status: 'open', source: 'stand-in', holder: { person: 'pilot', name: null }, lastSeq: 1 }); // oxfmt-ignore
    expect(after({ kind: 'closed', outcome: 'given-up' })).toMatchObject({ status: 'closed', outcome: 'given-up' });
    expect(after({ kind: 'handed-over', person: 'p2', to: 'R. Vale', from: 'A. Tarn' }).holder).toEqual({ person: 'p2', name: 'R. Vale' }); // oxfmt-ignore
  });

  test('what became of an item', () => {
    expect(itemState(after(), 'a')).toEqual({ status: 'todo', t_s: 0, seq: 0, how: null, value: null, words: '', differs: false }); // oxfmt-ignore
    expect(itemState(after(did('a', { value: 4, words: '4 V', differs: true })), 'a')).toEqual({ status: 'done', t_s: 2, seq: 2, how: 'declared', value: 4, words: '4 V', differs: true }); // oxfmt-ignore
    expect(itemState(after(fault('a')), 'a')).toEqual({ status: 'fault', t_s: 2, seq: 2, how: 'declared', value: null, words: 'not so', differs: false }); // oxfmt-ignore
    expect(itemState(after(skip('a')), 'a')).toEqual({ status: 'skipped', t_s: 2, seq: 2, how: 'declared', value: null, words: 'no time', differs: false }); // oxfmt-ignore
    const decided: Payload = { kind: 'decided', item: 'a', alternative: 'x', reason: 'why' };
    expect(itemState(after(decided), 'a')).toMatchObject({
      status: 'done',
      how: 'declared',
      words: 'why',
      t_s: 2,
      seq: 2,
    });
    expect(after(decided).decisions).toEqual({ a: 'x' });
  });

  test('stages: one that was passed over on the way to putting back is done with it; the last settles its item', () => {
    expect(after(stage('a', 0), stage('a', 2)).stages).toEqual({ a: [2, 4, 4] });
    expect(itemState(after(stage('a', 0), stage('a', 1, true)), 'a')).toMatchObject({ status: 'done', words: 'stage 1', t_s: 4 }); // oxfmt-ignore
    expect(itemState(after(stage('a', 0), skip('a'), stage('a', 1, true)), 'a').status).toBe('skipped');
  });

  test('what a check found counts its attempts and keeps every cause', () => {
    const measured = (verdict: string, cause: string | null) => ({ kind: 'measured', item: 'a', check: 'a', verdict, cause, words: verdict, figures: [], from_s: 0, to_s: 1 }) as never; // oxfmt-ignore
    expect(after(measured('fault', 'weak'), measured('good', null), measured('fault', 'late')).measured['a']).toEqual({ verdict: 'fault', words: 'fault', t_s: 6, attempts: 3, causes: ['weak', 'late'] }); // oxfmt-ignore
  });

  test('going back forgets what was known of the item, and looks at it', () => {
    const measured = { kind: 'measured', item: 'a', check: 'a', verdict: 'good', cause: null, words: '', figures: [], from_s: 0, to_s: 1 } as never; // oxfmt-ignore
    const before = [stage('a', 0), measured, { kind: 'challenged', item: 'a' }, { kind: 'decided', item: 'a', alternative: 'x', reason: 'r' }] as Payload[]; // oxfmt-ignore
    const state = after(...before, { kind: 'interrupted', words: '' }, { kind: 'item-reopened', item: 'a' });
    expect(state).toMatchObject({ stages: { a: [] }, measured: {}, decisions: {}, challenged: {}, seeAgain: [], chosen: 'a' }); // oxfmt-ignore
    expect(itemState(state, 'a').status).toBe('todo');
  });

  test('an item that is settled is chosen and challenged no more', () => {
    const state = after({ kind: 'item-chosen', item: 'a' }, { kind: 'challenged', item: 'a' }, did('a'));
    expect(state).toMatchObject({ chosen: null, challenged: {} });
    expect(after({ kind: 'item-chosen', item: 'a' }, did('b')).chosen).toBe('a');
  });

  test('an interruption has the last two that a person or a sensor settled looked at again', () => {
    const interrupted: Payload = { kind: 'interrupted', words: 'tower' };
    expect(after(did('a'), did('b'), did('c'), interrupted)).toMatchObject({
      seeAgain: ['b', 'c'],
      interruptedAt_s: 8,
    });
    expect(after(did('c'), did('b'), did('a'), interrupted).seeAgain).toEqual(['b', 'a']);
    expect(after(did('a'), did('w', { how: 'watched' }), interrupted).seeAgain).toEqual(['a']);
    expect(after(did('a'), did('b'), { kind: 'item-reopened', item: 'b' }, interrupted).seeAgain).toEqual(['a']);
    expect(after(did('a'), did('b'), interrupted, { kind: 'reseen', item: 'a' }).seeAgain).toEqual(['b']);
  });

  test('the last thing that a person did can be undone, and what is undone never was', () => {
    const idOf = (n: number): string => journal(did('a'), did('b'))[n]!.id;
    for (const one of [
      did('a'),
      skip('a'),
      stage('a', 0),
      { kind: 'mark', words: 'w' },
      { kind: 'interrupted', words: '' },
      { kind: 'item-chosen', item: 'a' },
      { kind: 'item-reopened', item: 'a' },
      { kind: 'challenged', item: 'a' },
      { kind: 'zone-flowed', leg: 'l', zone: 'z' },
      { kind: 'way-changed', choice: 'c', to: 't', reason: 'r' },
    ] as Payload[])
      // oxfmt-ignore
      expect(after(one).lastUndoable, one.kind).toBe(idOf(1));
    expect(after(did('a'), did('b', { how: 'sensed' })).lastUndoable).toBe(idOf(1));
    const undone = after(did('a'), { kind: 'mark', words: 'w' }, { kind: 'undone', entry: idOf(1) });
    expect([itemState(undone, 'a').status, undone.marks, undone.lastSeq]).toEqual(['todo', 1, 4]);
  });

  test('what the watch saw', () => {
    const state = after(
      { kind: 'phase', phase: 'start' },
      { kind: 'start-state', watch: 'w', state: 'cranking', words: 'Starter engaged' },
      { kind: 'start-state', watch: 'w', state: 'idle', words: 'Idle' },
      { kind: 'cue', code: 'c', severity: 'caution', text: 'Volts', say: 'Volts' },
      { kind: 'phase', phase: 'idle' },
    );
    expect(state).toMatchObject({ phase: 'idle', phases: [{ t_s: 2, phase: 'start' }, { t_s: 10, phase: 'idle' }], starterAt_s: 4, startState: { state: 'idle', words: 'Idle', t_s: 6 }, lastCue: { t_s: 8, severity: 'caution', text: 'Volts' } }); // oxfmt-ignore
  });

  test('the first abort turns the list; another try takes it back and does its items again', () => {
    const once = after({ kind: 'item-chosen', item: 'a' }, aborted, { ...aborted, reason: 'hot', text: 'Hot' } as Payload); // oxfmt-ignore
    expect(once).toMatchObject({ abort: { reason: 'pilot', t_s: 4, text: 'Stopped', figure: 'own call', watch: 'engine-1-start' }, chosen: null, lastCue: { severity: 'warning', text: 'Hot' } }); // oxfmt-ignore
    const again = after(did('a'), did('b'), aborted, { kind: 'try-again', watch: 'engine-1-start', items: ['b'] });
    expect(again).toMatchObject({ abort: null, triedAgain: [{ reason: 'pilot', t_s: 6 }] });
    expect(['a', 'b'].map((id) => itemState(again, id).status)).toEqual(['done', 'todo']);
    expect(after({ kind: 'try-again', watch: 'w', items: [] }).triedAgain).toEqual([]);
  });

  test('a leg is begun once, and nothing is chosen any more', () => {
    expect(after({ kind: 'item-chosen', item: 'a' }, begins('hover'), begins('hover'))).toMatchObject({ begun: { hover: 4 }, chosen: null }); // oxfmt-ignore
  });

  test('a brief brings its ways; a way that is changed later stands', () => {
    const brief = { ways: { doors: 'open', list: 'full' }, overrides: [], accepted: [], expected: { altimeter: 1, 'pressure-setting': null, fuel: null, mass: null }, oat_C: 4, words: '', input: {} }; // oxfmt-ignore
    const state = after(
      { kind: 'briefed', brief },
      { kind: 'way-changed', choice: 'doors', to: 'closed', reason: 'r' },
    );
    expect(state.ways).toEqual({ doors: 'closed', list: 'full' });
    expect(state.brief?.oat_C).toBe(4);
    expect(after({ kind: 'zone-flowed', leg: 'l', zone: 'z' }).flowed).toEqual({ 'l/z': 2 });
  });
});

test('an answer that is sent twice is known by what it means', () => {
  expect(samePayload(did('a', { value: 4, words: 'x' }), did('a'))).toBe(true);
  expect(samePayload(did('a'), did('b'))).toBe(false);
  expect(samePayload(did('a'), skip('a'))).toBe(false);
  const pairs: [Payload, Payload][] = [
    [{ kind: 'undone', entry: '1' }, { kind: 'undone', entry: '2' }],
    [{ kind: 'way-changed', choice: 'a', to: 'x', reason: '' }, { kind: 'way-changed', choice: 'b', to: 'x', reason: '' }], // oxfmt-ignore
    [{ kind: 'way-changed', choice: 'a', to: 'x', reason: '' }, { kind: 'way-changed', choice: 'a', to: 'y', reason: '' }], // oxfmt-ignore
    [{ kind: 'note', text: 'a' }, { kind: 'note', text: 'b' }],
    [{ kind: 'closed', outcome: 'ready' }, { kind: 'closed', outcome: 'aborted' }],
    [begins('a'), begins('b')],
    [{ kind: 'zone-flowed', leg: 'a', zone: 'x' }, { kind: 'zone-flowed', leg: 'a', zone: 'y' }],
    [{ kind: 'decided', item: 'a', alternative: 'x', reason: '' }, { kind: 'decided', item: 'a', alternative: 'y', reason: '' }], // oxfmt-ignore
    [fault('a'), { kind: 'item-fault', item: 'a', note: 'other' }],
    [skip('a'), { kind: 'item-skipped', item: 'a', reason: 'other' }],
    [stage('a', 0), stage('a', 1)],
  ]; // oxfmt-ignore
  for (const [one, other] of pairs) {
    expect(samePayload(one, one)).toBe(true);
    expect(samePayload(one, other), JSON.stringify([one, other])).toBe(false);
  }
});
