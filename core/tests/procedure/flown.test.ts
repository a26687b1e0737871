import { describe, expect, test } from 'vitest';
import {
  chainEntries,
  checkChain,
  type Entry,
  parseEntry,
  type Payload,
  reduceRun,
  Runner,
  sayEntry,
} from '@rouse/core/procedure';
import { payloadOf } from '../hand.ts';
import { channelIndex, flyPreset, journalOf, once, skerry } from '../skerry.ts';

const mild = once(() => flyPreset('mild'));

describe('the journal of a run that was flown', () => {
  test('every entry of a whole run and of an aborted one can be told', () => {
    for (const entry of [...mild().entries, ...flyPreset('no-light').entries]) {
      const words = sayEntry(skerry, entry);
      expect(words === null || words.title.length > 0).toBe(true);
    }
  });

  test('continues behind an entry as if it had been made in one go', () => {
    const whole = mild().entries;
    const first = whole.slice(0, 20);
    const rest = chainEntries(
      first[0]!.run,
      first[19],
      whole.slice(20).map((e) => ({ id: e.id, at_ms: Date.parse(e.at), t_s: e.t, by: e.by, payload: payloadOf(e) })),
    );
    expect([...first, ...rest]).toEqual(whole);
    expect(checkChain([...first, ...rest])).toBeNull();
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
    const flown = mild().entries;
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
      for (const entry of (preset === 'mild' ? mild() : flyPreset(preset)).entries)
        expect(() => parseEntry(JSON.parse(JSON.stringify(entry)))).not.toThrow();
    }
  });
});
