import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  acceptFromPilot,
  checkChain,
  type Entry,
  itemState,
  legSpans,
  meanwhileItems,
  nextItems,
  notDone,
  parseEntry,
  passage,
  type Payload,
  presentItem,
  reduceRun,
  type RunSchedule,
  scheduleOf,
  stillOpen,
} from '@rouse/core/procedure';
import { channelIndex, flyPreset, journalOf, once, skerry } from '../skerry.ts';

const opened: Payload = {
  kind: 'run-opened',
  tail: 'QV-SKY',
  type: 'S7',
  typeVersion: 1,
  source: 'stand-in',
  pad: 'pad 2',
  conditions: '',
};
const done = (item: string): Payload => ({ kind: 'item-done', item, how: 'declared', value: null, words: '' });
const journal = (...payloads: Payload[]): Entry[] =>
  journalOf(payloads.map((payload, i) => ({ t_s: i, by: 'pilot', payload })));
const frame = (values: Record<string, number>): Float64Array => {
  const out = new Float64Array(skerry.channels.length);
  for (const [id, v] of Object.entries(values)) out[channelIndex(id)] = v;
  return out;
};

const flown = once(() => flyPreset('mild').entries);
const aborted = once(() => flyPreset('hot-start').entries);

describe('the journal', () => {
  test('reading an entry back gives the same entry, and nonsense is refused', () => {
    for (const entry of flown()) expect(parseEntry(JSON.parse(JSON.stringify(entry)))).toEqual(entry);
    expect(() => parseEntry({ ...flown()[1], kind: 'item-exploded' })).toThrow(/kind/);
    expect(() => parseEntry({ ...flown()[1], extra: 1 })).toThrow(/extra/);
  });

  test('the chain of a run is whole, and any change to any entry breaks it', () => {
    expect(checkChain(flown())).toBeNull();
    fc.assert(
      fc.property(fc.integer({ min: 0, max: flown().length - 2 }), (i) => {
        const tampered = flown().map((e, k) => (k === i ? { ...e, t: e.t + 0.001 } : e));
        expect(checkChain(tampered)?.seq).toBe(i + 2);
        expect(checkChain(flown().toSpliced(i, 1))).not.toBeNull();
      }),
    );
  });

  test('any prefix replays, one entry at a time, and what was settled stays settled', () => {
    let before = reduceRun([]);
    for (let n = 1; n <= flown().length; n++) {
      const state = reduceRun(flown().slice(0, n));
      const settled = Object.keys(before.items).filter((id) => itemState(before, id).status === 'done');
      expect(settled.filter((id) => itemState(state, id).status !== 'done')).toEqual([]);
      expect(state.lastSeq).toBe(n);
      before = state;
    }
    expect(before.outcome).toBe('ready');
  });

  test('replaying twice gives equal states', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: aborted().length }), (n) => {
        expect(reduceRun(aborted().slice(0, n))).toEqual(reduceRun(aborted().slice(0, n)));
      }),
    );
  });

  test('undo gives the state as if the entry had never been, but keeps both entries', () => {
    const entries = journal(opened, done('papers'), done('blades'));
    const undone = [...entries, ...journal(opened, opened, opened, { kind: 'undone', entry: entries[2]!.id }).slice(3)];
    const state = reduceRun(undone);
    expect(itemState(state, 'blades').status).toBe('todo');
    expect({ ...state, lastSeq: 0 }).toEqual({ ...reduceRun(entries.slice(0, 2)), lastSeq: 0 });
    expect(state.lastUndoable).toBe(entries[1]!.id);
  });

  test('an entry of an unknown kind stops the reducer', () => {
    expect(() => reduceRun([{ ...flown()[0]!, kind: 'from-the-future' } as unknown as Entry])).toThrow(
      /unknown journal entry/,
    );
  });
});

describe('the list', () => {
  test('a cold aircraft begins with its first item; needs hold what depends on them', () => {
    const state = reduceRun(journal(opened));
    expect(presentItem(skerry, state)?.id).toBe('papers');
    expect(nextItems(skerry, state, 3).map((i) => i.id)).toEqual(['blades', 'oil-level', 'fuel-sample']);
    const verdict = acceptFromPilot(skerry, state, done('bus-volts'), null);
    expect(verdict).toMatchObject({ ok: false, code: 'not-this-item' });
  });

  test('a background wait runs beside the list and holds only what needs it', () => {
    const until = flown().findIndex((e) => e.kind === 'item-done' && e.item === 'boost-on') + 1;
    const state = reduceRun(flown().slice(0, until));
    expect(meanwhileItems(skerry, state).map((i) => i.id)).toContain('prime');
    expect(presentItem(skerry, state)?.id).toBe('battery-load');
  });

  test('a no-go fault holds the run; a caution does not', () => {
    const fault = (item: string): Payload => ({ kind: 'item-fault', item, note: 'cracked' });
    const before = flown().slice(
      0,
      flown().findIndex((e) => e.kind === 'item-done' && e.item === 'battery-on'),
    );
    const toBattery = [...before, ...journal(...before.map(() => opened), fault('battery-on')).slice(-1)];
    expect(presentItem(skerry, reduceRun(toBattery))).not.toMatchObject({ id: 'bus-volts' });
    const caution = reduceRun(journal(opened, ...['papers', 'blades', 'oil-level'].map(done), fault('fuel-sample')));
    expect(presentItem(skerry, caution)?.id).toBe('intake');
    expect(notDone(skerry, caution)).toMatchObject([{ status: 'fault', words: 'cracked' }]);
  });

  test('what sensors deny cannot be declared; what they confirm or cannot see can', () => {
    const state = reduceRun(
      flown().slice(0, flown().findIndex((e) => e.kind === 'item-done' && e.item === 'battery-on') + 1),
    );
    const weak = acceptFromPilot(skerry, state, done('bus-volts'), frame({ 'bus.volts': 22.1 }));
    expect(weak).toMatchObject({ ok: false, code: 'not-so' });
    expect(!weak.ok && weak.message).toMatch(/22\.1 V.*at least 24\.1 V.*No-go/);
    expect(acceptFromPilot(skerry, state, done('bus-volts'), frame({ 'bus.volts': 25 }))).toMatchObject({
      ok: true,
      payload: { value: 25, words: '25.0 V' },
    });
    const blind = acceptFromPilot(skerry, state, done('bus-volts'), null);
    expect(blind).toMatchObject({ ok: true, payload: { value: null, words: 'unknown, declared' } });
  });

  test('a wait cannot be declared over while its dwell runs; without a reading it can', () => {
    const state = reduceRun(
      flown().slice(0, flown().findIndex((e) => e.kind === 'item-done' && e.item === 'boost-on') + 1),
    );
    const early = acceptFromPilot(skerry, state, done('prime'), frame({ 'switch.boost': 1 }));
    expect(early).toMatchObject({ ok: false, code: 'not-so' });
    expect(acceptFromPilot(skerry, state, done('prime'), null)).toMatchObject({ ok: true });
  });

  test('missing and extra captions are named', () => {
    const state = reduceRun(
      flown().slice(0, flown().findIndex((e) => e.kind === 'item-done' && e.item === 'bus-volts') + 1),
    );
    const verdict = acceptFromPilot(skerry, state, done('captions-cold'), frame({ captions: 127 - 2 }));
    expect(!verdict.ok && verdict.message).toMatch(/missing ENG OIL/);
  });

  test('a watch ends its own item, and a person may not write what the watch writes', () => {
    const state = reduceRun(
      flown().slice(0, flown().findIndex((e) => e.kind === 'item-done' && e.item === 'start-engine') + 1),
    );
    expect(presentItem(skerry, state)?.id).toBe('engine-start');
    expect(acceptFromPilot(skerry, state, done('engine-start'), null)).toMatchObject({ ok: false, code: 'not-so' });
    expect(acceptFromPilot(skerry, state, { kind: 'phase', phase: 'flight' }, null)).toMatchObject({ ok: false });
  });

  test('a closed run takes notes and nothing else', () => {
    const state = reduceRun(flown());
    expect(acceptFromPilot(skerry, state, done('papers'), null)).toMatchObject({ ok: false, code: 'not-open' });
    expect(acceptFromPilot(skerry, state, { kind: 'note', text: 'smooth' }, null)).toMatchObject({ ok: true });
  });

  test('an abort turns the list to the actions of its reason, and dry motoring stays open until it is off', () => {
    const at = aborted().findIndex((e) => e.kind === 'abort');
    const turned = reduceRun(aborted().slice(0, at + 1));
    expect(turned.abort?.reason).toBe('going-to-be-hot');
    expect(presentItem(skerry, turned)?.id).toBe('going-to-be-hot-selector-off');
    const motoring = reduceRun(
      aborted().slice(0, aborted().findIndex((e) => e.kind === 'item-done' && e.item === 'going-to-be-hot-motor') + 1),
    );
    expect(stillOpen(skerry, motoring).map((l) => l.words)).toEqual(['Dry motoring is on; off when cold']);
    expect(stillOpen(skerry, reduceRun(aborted()))).toEqual([]);
  });

  test('the passage and its spans follow the legs in order', () => {
    const state = reduceRun(flown());
    expect(passage(skerry, state).every((l) => l.status === 'done')).toBe(true);
    const spans = legSpans(skerry, state, 200);
    expect(spans.map((s) => s.id)).toEqual(skerry.legs.filter((l) => !l.begins).map((l) => l.id));
    spans.forEach((s, i) => expect(s.from_s).toBe(i === 0 ? 0 : spans[i - 1]!.to_s));
  });

  test('time to ready shrinks as items are settled and names what holds it', () => {
    const ready = (entries: readonly Entry[], left: Record<string, number> = {}): RunSchedule =>
      scheduleOf(skerry, reduceRun(entries), { remaining_s: (id) => left[id] ?? null });
    const seconds = [1, 10, 20, 30].map((n) => ready(flown().slice(0, n)).ready_s);
    expect(seconds).toEqual(seconds.toSorted((a, b) => b - a));
    const warming = flown().slice(
      0,
      flown().findIndex((e) => e.kind === 'item-done' && e.item === 'captions-idle') + 1,
    );
    const slow = ready(warming, { 'engine-oil-warm': 600 });
    expect(slow.heldBy?.id).toBe('engine-oil-warm');
    expect(slow.ready_s).toBeGreaterThan(600);
    // before it has begun, its trend says nothing
    expect(ready(flown().slice(0, 1), { 'engine-oil-warm': 600 }).ready_s).toBeLessThan(600);
  });
});
