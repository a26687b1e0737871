import { describe, expect, test } from 'vitest';
import {
  canonicalJson,
  chainEntries,
  checkChain,
  digestOf,
  type Entry,
  parseEntry,
  type Payload,
  reduceRun,
  Runner,
  sayClock,
  sayEntry,
} from '@rouse/core/procedure';
import { channelIndex, flyPreset, journalOf, skerry } from '../skerry.ts';
import { payloadOf } from '../hand.ts';

const say = (payload: Payload): ReturnType<typeof sayEntry> =>
  sayEntry(skerry, journalOf([{ t_s: 1, by: 'pilot', payload }])[0]!);

test('a time is told in whole seconds that have passed, and never falls back at the minute', () => {
  expect([0, 59.6, 60, 119.5, 3600].map(sayClock)).toEqual(['0:00', '0:59', '1:00', '1:59', '60:00']);
});

describe('entries in words', () => {
  test.each<[Payload, string, string, boolean]>([
    [
      { kind: 'item-done', item: 'bus-volts', how: 'declared', value: 25, words: '25.0 V' },
      'Bus volts',
      '25.0 V',
      false,
    ],
    [{ kind: 'item-done', item: 'battery-on', how: 'sensed', value: 1, words: 'on' }, 'Battery', 'on, sensed', false],
    [{ kind: 'item-fault', item: 'controls', note: 'stiff in roll' }, 'Fault: Controls', 'stiff in roll', true],
    [{ kind: 'item-skipped', item: 'altimeter', reason: 'broken' }, 'Altimeter skipped', '“broken”', true],
    [{ kind: 'item-reopened', item: 'altimeter' }, 'Back to altimeter', '', false],
    [{ kind: 'note', text: 'Rain.' }, 'Note', 'Rain.', true],
    [{ kind: 'mark', words: '' }, 'Marked', '', true],
    [
      { kind: 'start-state', watch: 'engine-1-start', state: 'accelerating', words: 'Light-off' },
      'Light-off',
      '',
      false,
    ],
    [
      {
        kind: 'abort',
        watch: 'engine-1-start',
        reason: 'hung',
        text: 'Ng hangs at 21 %',
        say: 'Abort.',
        figure: '21 %',
      },
      'Abort: hung start',
      'Ng hangs at 21 %',
      true,
    ],
    [
      { kind: 'cue', code: 'x', severity: 'caution', text: 'Oil above 6.4 bar', say: '' },
      'Oil above 6.4 bar',
      '',
      true,
    ],
    [{ kind: 'closed', outcome: 'ready' }, 'Closed, ready for lift', '', false],
  ])('%j', (payload, title, detail, stands) => {
    expect(say(payload)).toEqual({ title, detail, stands });
  });

  test('what only the program needs is not told', () => {
    expect(say({ kind: 'phase', phase: 'idle' })).toBeNull();
    expect(say({ kind: 'cue', code: 'light-off', severity: 'call', text: 'Light-off', say: '' })).toBeNull();
    expect(say({ kind: 'start-state', watch: 'engine-1-start', state: 'aborted', words: '' })).toBeNull();
  });

  test('an exceedance says how long, past what, to how much', () => {
    const words = say({
      kind: 'exceedance',
      limit: 'tot-start',
      channel: 'tot.1',
      band: 'A',
      edge: 770,
      severity: 'caution',
      start_s: 1,
      end_s: 3.1,
      duration_s: 2.1,
      peak: 801.4,
      peakAt_s: 2,
      area: 30,
      allowed_s: 8,
      expired: false,
    });
    expect(words).toEqual({ title: 'Turbine outlet temperature', detail: '2.1 s past 770 °C, to 801', stands: false });
  });

  test('every entry of a whole run and of an aborted one can be told', () => {
    for (const entry of [...flyPreset('mild').entries, ...flyPreset('no-light').entries]) {
      const words = sayEntry(skerry, entry);
      expect(words === null || words.title.length > 0).toBe(true);
    }
  });
});

describe('the chain', () => {
  test('continues behind an entry as if it had been made in one go', () => {
    const whole = flyPreset('mild').entries;
    const first = whole.slice(0, 20);
    const rest = chainEntries(
      first[0]!.run,
      first[19],
      whole.slice(20).map((e) => ({ id: e.id, at_ms: Date.parse(e.at), t_s: e.t, by: e.by, payload: payloadOf(e) })),
    );
    expect([...first, ...rest]).toEqual(whole);
    expect(checkChain([...first, ...rest])).toBeNull();
  });

  test('a repeated id, a missing number and a foreign start are each found', () => {
    const whole = flyPreset('mild').entries.slice(0, 6);
    expect(checkChain(whole.slice(1))).toMatchObject({ seq: 2 });
    const twice = chainEntries(
      whole[0]!.run,
      undefined,
      [0, 1, 2].map(() => ({
        id: whole[0]!.id,
        at_ms: 1e12,
        t_s: 0,
        by: 'p',
        payload: { kind: 'mark', words: '' } as const,
      })),
    );
    expect(checkChain(twice)?.message).toMatch(/repeats an id/);
    expect(checkChain([])).toBeNull();
  });

  test('canonical JSON is one text for one value, whatever the order it was written in', () => {
    expect(canonicalJson({ b: 1, a: [1, { d: null, c: 'x' }], e: undefined })).toBe(
      '{"a":[1,{"c":"x","d":null}],"b":1}',
    );
    expect(canonicalJson({ a: [1, { c: 'x', d: null }], b: 1 })).toBe(
      canonicalJson({ b: 1, a: [1, { d: null, c: 'x' }] }),
    );
    expect(digestOf('')).toBe('e3b0c44298fc1c149afbf4c8996fb92427ae41e4649b934ca495991b7852b855');
  });
});

describe('the runner', () => {
  const opened: Payload = {
    kind: 'run-opened',
    tail: '',
    type: 'S7',
    typeVersion: 1,
    source: 'device',
    pad: '',
    conditions: '',
  };
  const upTo = (item: string): Entry[] => {
    const flown = flyPreset('mild').entries;
    return flown.slice(0, flown.findIndex((e) => e.kind === 'item-done' && e.item === item) + 1);
  };
  const frame = (over: Record<string, number>): Float64Array => {
    const out = new Float64Array(skerry.channels.length);
    for (const [id, v] of Object.entries(over)) out[channelIndex(id)] = v;
    return out;
  };

  test('settles a switch when it is the present item and has moved, once', () => {
    const runner = new Runner(skerry);
    const state = reduceRun(upTo('selector-off'));
    expect(runner.observe(1, frame({}), state)).toEqual([]);
    expect(runner.observe(2, frame({ 'switch.battery': 1 }), state)).toMatchObject([
      { kind: 'item-done', item: 'battery-on', how: 'sensed', value: 1, words: 'on' },
    ]);
    expect(runner.observe(3, frame({ 'switch.battery': 1 }), state)).toEqual([]);
  });

  test('a switch that moves before its turn waits for its turn', () => {
    expect(
      new Runner(skerry).observe(
        1,
        frame({ 'switch.battery': 1 }),
        reduceRun(journalOf([{ t_s: 0, by: 'p', payload: opened }])),
      ),
    ).toEqual([]);
  });

  test('a check is never settled by sensors alone: somebody looks', () => {
    expect(
      new Runner(skerry).observe(1, frame({ 'bus.volts': 26, 'switch.battery': 1 }), reduceRun(upTo('battery-on'))),
    ).toEqual([]);
  });

  test('a wait lasts its dwell, and a break begins it again', () => {
    const runner = new Runner(skerry);
    const state = reduceRun(upTo('boost-on'));
    const on = frame({ 'switch.boost': 1 });
    for (let t = 0; t < 7.9; t += 0.1) expect(runner.observe(t, on, state)).toEqual([]);
    runner.observe(7.95, frame({}), state);
    for (let t = 8; t < 15.9; t += 0.1) expect(runner.observe(t, on, state)).toEqual([]);
    expect(runner.observe(16.1, on, state)).toMatchObject([{ item: 'prime', how: 'sensed' }]);
  });

  test('everything that it writes is a payload that the journal accepts', () => {
    for (const preset of ['mild', 'hung-start', 'weak-battery']) {
      for (const entry of flyPreset(preset).entries)
        expect(() => parseEntry(JSON.parse(JSON.stringify(entry)))).not.toThrow();
    }
  });
});
