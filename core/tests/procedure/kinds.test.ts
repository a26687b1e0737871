import type { Item, ItemKind } from '@rouse/core/aircraft';
import { askOf, type Payload, reduceRun, rightAnswer, type RunState } from '@rouse/core/procedure';
import { describe, expect, test } from 'vitest';
import { acceptDone, handsOf } from '../../src/procedure/kinds/registry.ts';
import { channelIndex, skerry } from '../skerry.ts';

type Of<K extends ItemKind> = Extract<Item, { kind: K }>;
type Wanted = Extract<Payload, { kind: 'item-done' }>;

/** An item of a kind, with what is particular to it. */
function item<K extends ItemKind>(kind: K, own: Omit<Of<K>, keyof Of<'set'> | 'kind'> & Partial<Of<K>>): Item {
  const base = { id: 'x', leg: 'before-start', zone: 'cabin', challenge: 'Thing', response: 'as it should be', why: 'w', ifSkipped: 's', failure: 'caution', by: 'pilot' }; // oxfmt-ignore
  return { ...base, kind, ...own } as unknown as Item;
}

const open: RunState = { ...reduceRun([]), status: 'open', source: 'stand-in' };
const briefed = (expected: Record<string, number | null>, oat_C: number | null = 12): RunState => ({
  ...open,
  brief: { ways: {}, overrides: [], accepted: [], expected: { altimeter: null, 'pressure-setting': null, fuel: null, mass: null, ...expected }, oat_C, pa_ft: 200, words: '', input: {} }, // oxfmt-ignore
});
const frame = (...readings: [id: string, value: number][]): Float64Array => {
  const values = new Float64Array(skerry.channels.length).fill(NaN);
  for (const [id, value] of readings) values[channelIndex(id)] = value;
  return values;
};
const says = (rest: Partial<Wanted> = {}): Wanted => ({ kind: 'item-done', item: 'x', how: 'declared', value: null, words: '', ...rest }); // oxfmt-ignore

/** What comes of an answer: the entry that is written, or why none is. */
function answered(of: Item, wanted: Partial<Wanted> = {}, values: Float64Array | null = null, state = open): unknown {
  const verdict = acceptDone(of, { type: skerry, state, wanted: says(wanted), values });
  if (!verdict.ok) return verdict.message;
  const { kind: _, item: _i, how, ...rest } = verdict.payload as Wanted;
  expect(how).toBe('declared');
  return rest;
}
const taken = (words: string, value: number | null = null) => ({ words, value });
const askedOf = (of: Item, state = open) => askOf(of, { type: skerry, state });
const rightOf = (of: Item, state = open) => rightAnswer(of, { type: skerry, state });

describe('a word', () => {
  test('is taken of what is said, called, set or looked at where nothing senses it', () => {
    const brief = item('brief', { points: ['a'] });
    const call = item('call', { say: 'Clear' });
    const set = item('set', {});
    const check = item('check', {});
    for (const one of [brief, call, set, check]) {
      expect(answered(one)).toEqual(taken(''));
      expect(rightOf(one)).toEqual(says());
    }
    expect([brief, call, set, check].map((i) => askedOf(i))).toEqual(['said', 'called', 'done', 'seen'].map((word) => ({ kind: 'word', word }))); // oxfmt-ignore
    expect([brief, call, set, check].map(handsOf)).toEqual([20, 5, 4, 4]);
    expect(handsOf(item('set', { hands_s: 30 }))).toBe(30);
  });

  test('keeps that it differed from the flow', () => {
    expect(answered(item('set', {}), { differs: true })).toEqual({ ...taken(''), differs: true });
  });

  test('that a sensor denies is refused with the reading, what is expected and the remedy', () => {
    const battery = item('set', { expect: { channel: 'switch.battery', is: 1 } });
    expect(answered(battery, {}, frame(['switch.battery', 1]))).toEqual(taken('on', 1));
    expect(answered(battery, {}, frame(['switch.battery', 0]))).toBe('Thing: off; expected on. Put it right, record a fault, or skip it with a reason'); // oxfmt-ignore
    expect(answered(item('set', { failure: 'no-go', expect: { channel: 'switch.battery', is: 1 } }), {}, frame(['switch.battery', 0]))).toMatch(/No-go: put it right, or record a fault$/); // oxfmt-ignore
  });

  test('that no sensor can judge is taken as declared; a reading by eye is judged as the sensor would', () => {
    const volts = item('check', { expect: { channel: 'bus.volts', atLeast: 24 } });
    expect(answered(volts, {}, null)).toEqual(taken('unknown, declared'));
    expect(answered(volts, {}, frame())).toEqual(taken('unknown, declared'));
    expect(answered(volts, { value: 25 }, null)).toEqual(taken('25.0 V, read by eye', 25));
    expect(answered(volts, { value: 23 }, null)).toMatch(/^Thing: 23\.0 V; expected /);
    // a sensor that reads is believed before an eye
    expect(answered(volts, { value: 25 }, frame(['bus.volts', 23]))).toMatch(/^Thing: 23\.0 V; expected /);
  });
});

describe('captions that are counted', () => {
  const count = item('count', { channel: 'captions', captions: ['generator', 'oil'] });

  test('are named where they are missing or extra', () => {
    expect(answered(count, {}, frame(['captions', 3]))).toEqual(taken('2 lit', 3));
    expect(answered(count, {}, frame(['captions', 1]))).toBe('Thing: 1 lit; missing ENG OIL; expected as it should be. Put it right, record a fault, or skip it with a reason'); // oxfmt-ignore
    expect(answered(count, {}, frame(['captions', 15]))).toMatch(/^Thing: 4 lit; extra ROTOR LOW, GEARBOX OIL; /);
    expect(answered(count, {}, frame(['captions', 6]))).toMatch(/^Thing: 2 lit; missing GEN; extra ROTOR LOW; /);
  });

  test('by eye, as they are typed', () => {
    expect(answered(count)).toEqual(taken('unknown, declared'));
    expect(answered(count, { value: 3 })).toEqual(taken('2 lit, read by eye', 3));
    expect(answered(count, { value: 0 })).toMatch(/^Thing: 0 lit; missing GEN, ENG OIL; /);
    expect(askedOf(count)).toEqual({ kind: 'word', word: 'seen' });
    expect(handsOf(count)).toBe(6);
  });
});

describe('a figure that is typed', () => {
  const enters = { label: 'Altimeter', unit: 'ft', range: [0, 5000] as [number, number], against: { figure: 'altimeter' as const, within: 50 } }; // oxfmt-ignore
  const enter = item('enter', { enters });

  test('is asked for, possible, and as the brief says', () => {
    expect(askedOf(enter)).toEqual({ kind: 'number', quantity: enters });
    expect(answered(enter)).toBe('Thing: enter the altimeter in ft');
    expect(answered(enter, { value: -1 })).toBe("Thing: -1 ft can't be; 0 to 5000 can");
    expect(answered(enter, { value: 5001 })).toBe("Thing: 5001 ft can't be; 0 to 5000 can");
    expect(answered(enter, { value: 5000 })).toEqual(taken('5000 ft', 5000));
    expect(answered(enter, { value: 0 })).toEqual(taken('0 ft', 0));
    const expected = briefed({ altimeter: 200.4 });
    expect(answered(enter, { value: 250.04 }, null, expected)).toEqual(taken('250 ft, brief 200', 250.04));
    expect(answered(enter, { value: 150.4 }, null, expected)).toEqual(taken('150.4 ft, brief 200', 150.4));
    expect(answered(enter, { value: 251 }, null, expected)).toBe('Thing: 251 ft; the brief says 200, within 50. Put it right, record a fault, or skip it with a reason'); // oxfmt-ignore
    expect(answered(enter, { value: 150 }, null, expected)).toMatch(/the brief says 200/);
    expect(answered(enter, { value: 900 }, null, briefed({ altimeter: null }))).toEqual(taken('900 ft', 900));
  });

  test('rightly is what the brief says, else the middle of what can be', () => {
    expect(rightOf(enter, briefed({ altimeter: 61 }))).toEqual(says({ value: 61 }));
    expect(rightOf(enter, briefed({ altimeter: null }))).toEqual(says({ value: 2500 }));
    expect(rightOf(enter)).toEqual(says({ value: 2500 }));
    expect(rightOf(item('enter', { enters: { ...enters, against: undefined } }), briefed({ altimeter: 61 }))).toEqual(says({ value: 2500 })); // oxfmt-ignore
  });

  test('of a check that reads, the same', () => {
    const reads = { label: 'Oil', unit: 'L', range: [0, 5] as [number, number], against: { figure: 'fuel' as const, within: 1 } }; // oxfmt-ignore
    const check = item('check', { reads });
    expect(askedOf(check)).toEqual({ kind: 'number', quantity: reads });
    expect(answered(check, { value: 3 }, null, briefed({ fuel: 3 }))).toEqual(taken('3 L, brief 3', 3));
    expect(answered(check, { value: 9 })).toMatch(/can't be/);
    expect(rightOf(check)).toEqual(says({ value: 3 }));
  });
});

describe('two places that are compared', () => {
  const words = item('compare', { between: ['left', 'right'] });
  const compass = item('compare', { between: ['left', 'right'], apart: { most: 5, unit: '°', range: [0, 360], circle: 360 } }); // oxfmt-ignore
  const gauge = item('compare', { between: ['left', 'right'], apart: { most: 0.5, unit: 'bar', range: [0, 10] } });

  test('both have to be read', () => {
    expect(answered(words)).toBe('Thing: enter what left shows');
    expect(answered(words, { read: ['a', ' '] })).toBe('Thing: enter what right shows');
    expect(askedOf(words)).toEqual({ kind: 'pair', between: ['left', 'right'], unit: null });
    expect(askedOf(gauge)).toEqual({ kind: 'pair', between: ['left', 'right'], unit: 'bar' });
    expect(handsOf(words)).toBe(8);
  });

  test('words are the same, whatever their case', () => {
    expect(answered(words, { read: [' a7', 'A7 '] })).toEqual({ ...taken('both a7'), read: ['a7', 'A7'] });
    expect(answered(words, { read: ['A7', 'B7'] })).toBe('Thing: left shows A7, right shows B7. Put it right, record a fault, or skip it with a reason'); // oxfmt-ignore
    expect(rightOf(words)).toEqual({ ...says(), read: ['A7', 'A7'] });
  });

  test('figures lie so far apart, on a circle by the shorter way, and a figure that no gauge shows is refused', () => {
    expect(answered(gauge, { read: ['4', '4.5'] })).toEqual({ ...taken('0.5 bar apart', 0.5), read: ['4', '4.5'] });
    expect(answered(gauge, { read: ['4', '4.6'] })).toBe('Thing: left shows 4 bar, right shows 4.6 bar, 0.6 bar apart; at most 0.5 is good. Put it right, record a fault, or skip it with a reason'); // oxfmt-ignore
    expect(answered(gauge, { read: ['4', '11'] })).toBe('Thing: right cannot show 11; 0 to 10 bar can');
    expect(answered(gauge, { read: ['-1', '4'] })).toBe('Thing: left cannot show -1; 0 to 10 bar can');
    expect(answered(gauge, { read: ['x', '4'] })).toBe('Thing: left cannot show x; 0 to 10 bar can');
    expect(answered(gauge, { read: ['0', '0'] })).toMatchObject({ value: 0 });
    expect(answered(gauge, { read: ['10', '10'] })).toMatchObject({ value: 0 });
    expect(answered(compass, { read: ['358', '2'] })).toMatchObject({ value: 4, words: '4 ° apart' });
    expect(answered(compass, { read: ['2', '358'] })).toMatchObject({ value: 4 });
    expect(answered(compass, { read: ['0', '360'] })).toMatchObject({ value: 0 });
    expect(answered(compass, { read: ['90', '270'] })).toMatch(/180 ° apart/);
    expect(rightOf(compass)).toEqual({ ...says(), read: ['180', '180'] });
  });
});

describe('something that is held', () => {
  const byAir = item('hold', { hold_s: 3, byOutsideAir: [[0, 6], [20, 2]] }); // oxfmt-ignore

  test('for its time, or as long as the air of the brief asks', () => {
    const hold = item('hold', { hold_s: 3 });
    expect(askedOf(hold)).toEqual({ kind: 'hold', hold_s: 3 });
    expect(askedOf(byAir, briefed({}, 10))).toEqual({ kind: 'hold', hold_s: 4 });
    expect(askedOf(byAir)).toEqual({ kind: 'hold', hold_s: 3 });
    expect(answered(hold, { value: 2.95 })).toEqual(taken('3.0 s', 2.95));
    expect(answered(hold, { value: 2.94 })).toBe('Thing: hold for 3.0 s; it was 2.9 s. Press and hold again');
    expect(answered(hold)).toMatch(/it was 0\.0 s/);
    expect(answered(byAir, { value: 3.5 }, null, briefed({}, 10))).toMatch(/hold for 4\.0 s/);
    expect(rightOf(byAir, briefed({}, 10))).toEqual(says({ value: 4 }));
    expect(handsOf(hold)).toBe(5);
  });

  test('is seen as well, where a sensor sees it', () => {
    const sensed = item('hold', { hold_s: 1, expect: { channel: 'switch.battery', is: 1 } });
    expect(answered(sensed, { value: 1 }, frame(['switch.battery', 1]))).toEqual(taken('on', 1));
    expect(answered(sensed, { value: 1 }, frame(['switch.battery', 0]))).toMatch(/^Thing: off; expected /);
  });
});

describe('what ends by itself', () => {
  test('a wait settles itself where it is sensed; where nothing reads, a word is taken', () => {
    const wait = item('wait', { until: { channel: 'oil.1.temperature', atLeast: 40 }, usual_s: 60 });
    expect(answered(wait, {}, frame(['oil.1.temperature', 20]))).toMatch(/^Thing settles itself when it has lasted: .*40.*\. Or skip it with a reason$/); // oxfmt-ignore
    expect(answered(wait, {}, frame(['oil.1.temperature', 50]))).toMatch(/settles itself/);
    expect(answered(wait)).toEqual(taken('unknown, declared'));
    expect(answered(wait, { value: 45 })).toEqual(taken('45 °C, read by eye', 45));
    expect(askedOf(wait)).toEqual({ kind: 'word', word: 'seen' });
    expect(handsOf(wait)).toBe(0);
  });

  test('a watched start is ended by the watch, or by its last moment', () => {
    const watch = item('watch', { watch: 'engine-1-start', usual_s: 40 });
    const timed = item('watch', { watch: 'engine-1-start', usual_s: 40, moments: [{ id: 'a', do: 'Starter' }, { id: 'b', do: 'Light' }] } as never); // oxfmt-ignore
    const byHand: RunState = { ...open, source: 'by-hand' };
    expect(answered(watch)).toBe('The watch itself ends this item. Stop the start if it must end');
    expect(answered(timed)).toBe('Thing is ended by the watch, or by its last moment. Stop the start if it must end');
    expect(askedOf(watch, byHand)).toEqual({ kind: 'sensed' });
    expect(askedOf(timed)).toEqual({ kind: 'sensed' });
    expect(askedOf(timed, byHand)).toEqual({ kind: 'stage', stage: 0 });
    expect(rightOf(watch)).toEqual(says());
    expect(rightOf(timed, { ...byHand, stages: { x: [4] } })).toEqual({ kind: 'stage-done', item: 'x', stage: 1, value: null, words: 'Light', last: false }); // oxfmt-ignore
    expect(handsOf(timed)).toBe(0);
  });

  test('a test ends with its last stage', () => {
    const tried = item('test', { stages: [{ id: 'a', do: 'Press' }, { id: 'b', do: 'Let go', restores: true }], opens: 'pressed' } as never); // oxfmt-ignore
    expect(answered(tried)).toBe('Thing ends with its last stage, when everything is back');
    expect(askedOf(tried, { ...open, stages: { x: [3] } })).toEqual({ kind: 'stage', stage: 1 });
    expect(rightOf(tried)).toEqual({ kind: 'stage-done', item: 'x', stage: 0, value: null, words: 'Press', last: false }); // oxfmt-ignore
    expect(handsOf(tried)).toBe(10);
  });
});

describe('a choice', () => {
  const decide = item('decide', { alternatives: [{ id: 'hot', label: 'Heat on' }, { id: 'cold', label: 'Heat off' }] }); // oxfmt-ignore
  const ruled = item('decide', { alternatives: [{ id: 'hot', label: 'Heat on' }, { id: 'cold', label: 'Heat off' }, { id: 'as-is', label: 'As it is' }], rule: { kind: 'carburettor-icing', cooling_K: 15, expected: 'hot', otherwise: 'cold' } }); // oxfmt-ignore

  test('is made, not confirmed', () => {
    expect(answered(decide)).toBe('Thing: choose one of the answers');
    expect(askedOf(decide)).toMatchObject({ kind: 'choice', alternatives: [{ id: 'hot' }, { id: 'cold' }] });
    expect(rightOf(decide)).toEqual({ kind: 'decided', item: 'x', alternative: 'cold', reason: 'Heat off' });
    expect(handsOf(decide)).toBe(5);
  });

  test('follows the rule of the day where the type has one', () => {
    const air = (oat_C: number, dew_C: number): RunState => {
      const state = briefed({});
      return { ...state, brief: { ...state.brief!, input: { oat_C, dew_C } } };
    };
    expect(rightOf(ruled, air(8, 7))).toMatchObject({ alternative: 'hot', reason: expect.stringMatching(/\w/) });
    expect(rightOf(ruled, air(30, -10))).toMatchObject({ alternative: 'cold' });
    // what nobody knows is taken the safe way
    expect(rightOf(ruled)).toMatchObject({ alternative: 'hot' });
  });
});

describe('a check with figures', () => {
  const measures = { label: 'Drop', unit: '%', range: [0, 20] as [number, number], good: [2, 8] as [number, number] };
  const typed = item('measure', { measures });
  const traced = item('measure', { measures, trace: { stages: [{ id: 'a', do: 'Left', expect: { channel: 'switch.battery', is: 1 } }, { id: 'b', do: 'Both' }] } } as never); // oxfmt-ignore
  const byHand: RunState = { ...open, source: 'by-hand' };
  const found = (verdict: 'good' | 'unusual' | 'fault' | 'unknown'): RunState => ({
    ...open,
    measured: { x: { verdict, words: 'too much', t_s: 1, attempts: 1, causes: [] } },
  });

  test('is typed where nothing measures it, or by hand', () => {
    expect(askedOf(typed)).toEqual({ kind: 'number', quantity: measures });
    expect(askedOf(traced, byHand)).toEqual({ kind: 'number', quantity: measures });
    expect(answered(typed, { value: 5 })).toEqual(taken('5 %', 5));
    expect([2, 8].map((value) => answered(typed, { value }))).toEqual([taken('2 %', 2), taken('8 %', 8)]);
    expect(answered(typed, { value: 8.1 })).toBe('Thing: 8.1 %; expected 2 to 8. Put it right, record a fault, or skip it with a reason'); // oxfmt-ignore
    expect(answered(typed, { value: 1.9 })).toMatch(/expected 2 to 8/);
    expect(answered(traced, { value: 5 }, null, byHand)).toEqual(taken('5 %', 5));
    expect(rightOf(typed)).toEqual(says({ value: 5 }));
    expect(handsOf(typed)).toBe(15);
  });

  test('measured, is not taken at a word, unless the trace could not say', () => {
    expect(askedOf(traced)).toEqual({ kind: 'measured', stage: 0, sensed: true });
    expect(askedOf(traced, { ...open, stages: { x: [2] } })).toEqual({ kind: 'measured', stage: 1, sensed: false });
    expect(answered(traced, { value: 5 })).toBe('Thing is measured from the readings: Left is next');
    expect(answered(traced, { value: 5 }, null, { ...open, stages: { x: [2] } })).toBe('Thing is measured from the readings: Both is next'); // oxfmt-ignore
    expect(answered(traced, { value: 5 }, null, found('unknown'))).toEqual(taken('5 %', 5));
    expect(answered(traced, { value: 5 }, null, found('fault'))).toBe('Thing: too much. Put it right, record a fault, or skip it with a reason'); // oxfmt-ignore
    expect(answered(traced, { value: 5 }, null, found('good'))).toMatch(/is measured from the readings/);
  });
});

describe('what the program judges itself', () => {
  test('the wind of this minute at the rotor, with the limit of start or stop', () => {
    const start = item('check', { judges: 'rotor-wind' });
    const stop = item('check', { judges: 'rotor-wind-stop' });
    const wind = (speed_kt: number, gust_kt: number | null = null) => ({ direction_deg: null, speed_kt, gust_kt });
    expect([askedOf(start), askedOf(stop)]).toEqual([{ kind: 'wind', phase: 'start' }, { kind: 'wind', phase: 'stop' }]); // oxfmt-ignore
    expect(answered(start)).toBe('Thing: no wind entered. Enter the wind of this minute');
    expect(answered(start, { wind: wind(8) })).toMatchObject({ value: 8, wind: wind(8) });
    expect(answered(start, { wind: wind(29) })).toMatch(/29 kt with the gust, from any side; 28 kt at most\. Wait, or turn the aircraft$/); // oxfmt-ignore
    expect(answered(stop, { wind: wind(29) })).toMatchObject({ words: expect.stringMatching(/30 kt at most, close to the limit$/) }); // oxfmt-ignore
    expect(answered(start, { wind: wind(8) })).not.toMatchObject({ words: expect.stringMatching(/close/) });
    const state = briefed({});
    const windy: RunState = { ...state, brief: { ...state.brief!, input: { wind: wind(10, 12) } } };
    expect(answered(start, {}, null, windy)).toEqual(taken('12 kt with the gust, from any side; 28 kt at most', 12));
    expect(rightOf(start, windy)).toMatchObject({ wind: wind(10, 12) });
    expect(rightOf(start)).toMatchObject({ wind: wind(4) });
  });

  test('the power of this minute: a hover has to be left, and what is not known is not taken for granted', () => {
    const power = item('check', { judges: 'power' });
    expect(answered(power)).toEqual(taken('not computed: there is no brief'));
    expect(answered(power, {}, null, briefed({ mass: 1800 }))).toMatchObject({ words: expect.stringMatching(/left out of ground effect/) }); // oxfmt-ignore
    expect(answered(power, {}, null, briefed({ mass: 9000 }))).toMatch(/Get lighter, or wait for colder air$|Skip it with a reason, and look at the chart$/); // oxfmt-ignore
    expect(answered(power, {}, null, briefed({ mass: null }))).toBe('Thing: unknown: the brief has no weight. Skip it with a reason, and look at the chart'); // oxfmt-ignore
  });
});
