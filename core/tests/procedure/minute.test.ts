import {
  atHandNow,
  burned_kg,
  chartLimitsOf,
  durationOf,
  finalScan,
  offeredItems,
  type Payload,
  type PastWait,
  pastWaitsOf,
  type PowerNow,
  powerNow,
  reduceRun,
  rotorWindNow,
  Runner,
  type RunState,
  samePayload,
  sayPower,
  scheduleOf,
  startAir,
  waitsOf,
  warmTargets,
  begunAt_s,
  forecastWait,
} from '@rouse/core/procedure';
import { predictedHover } from '../../src/procedure/predicted-hover.ts';
import type { Item } from '@rouse/core/aircraft';
import type { Trace } from '@rouse/core/trace';
import type { WatchEvent } from '@rouse/core/watch';
import { describe, expect, test } from 'vitest';
import { typeOf } from '../fleet.ts';
import { channelIndex, skerry } from '../skerry.ts';
import { aborted, after, begins, did, fault, item, journal, skip, typeWith } from './small-type.ts';

const frame = (...readings: [id: string, value: number][]): Float64Array => {
  const values = new Float64Array(skerry.channels.length).fill(NaN);
  for (const [id, value] of readings) values[channelIndex(id)] = value;
  return values;
};
/** A brief of the day with what is given. */
const brief = (rest: object = {}): Payload =>
  ({ kind: 'briefed', brief: { ways: {}, overrides: [], accepted: [], expected: { altimeter: 61, 'pressure-setting': 1008, fuel: 200, mass: 1800 }, oat_C: 12, pa_ft: 200, bleed: 'none', variation_E_deg: 0, words: '', input: { flight_min: 40 }, ...rest } }) as Payload; // oxfmt-ignore
const phase = (name: 'off' | 'start' | 'idle' | 'run-up' | 'flight'): Payload => ({ kind: 'phase', phase: name });

describe('how long the rest of the list takes', () => {
  const a = item('a', 'check', { hands_s: 10 });
  const b = item('b', 'check', { hands_s: 20 });
  const hold = item('hold', 'hold', { hold_s: 6 });
  const warm = item('warm', 'wait', { background: true, until: { channel: 'oil.1.temperature', atLeast: 40 }, usual_s: 100, needs: ['a'] }); // oxfmt-ignore
  const go = item('go', 'check', { hands_s: 5, needs: ['warm'] });
  const type = typeWith([a, warm, b, hold, go]);
  const ready = (...args: [RunState, Parameters<typeof scheduleOf>[2]?]) => scheduleOf(type, ...args);

  test('hands work one after the other, waits run beside them, and the longest path is what holds', () => {
    const plan = ready(after());
    expect(plan.ready_s).toBeCloseTo(10 + 100 + 5, 6);
    expect(plan.heldBy).toBe(warm);
    expect(plan.p80_s).toBeNull();
    expect(plan.planned.map((p) => [p.item.id, Math.round(p.from_s), Math.round(p.to_s), p.critical])).toEqual([
      ['a', 0, 10, true],
      ['warm', 10, 110, true],
      ['b', 10, 30, false],
      ['hold', 30, 38, false],
      ['go', 110, 115, true],
    ]);
    expect(ready(after(did('a'), did('warm'))).ready_s).toBeCloseTo(20 + 8 + 5, 6);
    expect(ready(after(did('a'), did('warm'))).heldBy).toBe(b);
    expect(ready(after(...['a', 'warm', 'b', 'hold', 'go'].map((id) => did(id))))).toMatchObject({ ready_s: 0, heldBy: null }); // oxfmt-ignore
  });

  test('a wait that runs counts with what is left of it; one that has not begun does not', () => {
    const left = { remaining_s: (id: string) => (id === 'warm' ? 7 : null) };
    expect(ready(after(did('a')), left).ready_s).toBeCloseTo(20 + 8 + 5, 6);
    expect(ready(after(), left).ready_s).toBeCloseTo(115, 6);
    expect(ready(after(did('a'), did('b'), did('hold')), { remaining_s: () => -4 }).ready_s).toBeCloseTo(5, 6);
  });

  test('the longest wait of the longest path holds; of hands alone, the first', () => {
    const first = item('first', 'wait', { until: { channel: 'bus.volts', atLeast: 26 }, usual_s: 30 });
    const second = item('second', 'watch', { watch: 'engine-1-start', usual_s: 50, needs: ['first'] });
    const beside = item('beside', 'wait', { background: true, until: { channel: 'bus.volts', atLeast: 26 }, usual_s: 60 }); // oxfmt-ignore
    const slow = item('slow', 'check', { hands_s: 90 });
    expect(scheduleOf(typeWith([first, second, beside, slow]), after()).heldBy).toBe(second);
    expect(scheduleOf(typeWith([slow, beside]), after()).heldBy).toBe(slow);
  });

  test('what of a hundred runs eighty need is drawn only where something is uncertain', () => {
    const drawn = ready(after(), { draws: 400 });
    expect(drawn.p80_s!).toBeGreaterThan(115);
    expect(drawn.p80_s!).toBeLessThan(160);
    expect(ready(after(did('a'), did('warm')), { draws: 400 }).p80_s).toBeNull();
    expect(ready(after(), { draws: 0 }).p80_s).toBeNull();
  });

  test('of what may be done meanwhile, what begins the longest wait is first, behind the waits that run', () => {
    const early = item('early', 'check', { meanwhile: true, hands_s: 3 });
    const heat = item('heat', 'check', { meanwhile: true, hands_s: 3 });
    const long = item('long', 'wait', { background: true, until: { channel: 'oil.1.temperature', atLeast: 40 }, usual_s: 500, needs: ['heat'] }); // oxfmt-ignore
    const far = item('far', 'check', { meanwhile: true, needs: ['b'] });
    const many = typeWith([a, warm, early, heat, long, b, far]);
    expect(scheduleOf(many, after()).beginFirst).toEqual([heat, early]);
    // the first of them is what is present
    expect(offeredItems(many, after(did('a'))).map((i) => i.id)).toEqual(['warm', 'heat']);
  });

  test('nothing of a gate is begun before all that comes before it', () => {
    const lift = item('lift', 'check', { leg: 'lift', hands_s: 4 });
    const gated = typeWith([a, warm, lift]);
    expect(scheduleOf(gated, after()).planned.at(-1)).toMatchObject({ from_s: expect.closeTo(110, 6) as number });
  });

  test('an item takes its own time: hands, a hold and its reach, a wait as its type or its tail says', () => {
    const of = (one: Item, past: PastWait[] = [], oat_C: number | null = 10) => {
      const dur = durationOf(type, one, past, oat_C);
      return 'fixed' in dur ? dur.fixed : Math.exp(dur.mu);
    };
    const past = (took_s: number, oat_C: number | null, id = 'volts', n = 40) => Array.from({ length: n }, (): PastWait => ({ item: id, took_s, oat_C })); // oxfmt-ignore
    const volts = item('volts', 'wait', { until: { channel: 'bus.volts', atLeast: 26 }, usual_s: 40 });
    expect([of(a), of(hold), of(item('h', 'hold', { hold_s: 6, hands_s: 3 }))]).toEqual([10, 8, 3]);
    expect(of(volts)).toBeCloseTo(40, 9);
    expect(of(item('w', 'watch', { usual_s: 30, watch: 'engine-1-start' }))).toBeCloseTo(30, 9);
    expect(of(volts, past(80, 10))).toBeGreaterThan(70);
    expect(of(volts, past(80, 18))).toBeGreaterThan(70);
    expect(of(volts, past(80, 18.1))).toBeCloseTo(40, 9);
    expect(of(volts, past(80, null))).toBeGreaterThan(70);
    expect(of(volts, past(80, 40), null)).toBeGreaterThan(70);
    expect(of(volts, past(80, 10, 'other'))).toBeCloseTo(40, 9);
    expect([of(volts, past(160, 10)) > 100, of(volts, past(161, 10)), of(volts, past(10, 10)) < 20, of(volts, past(9, 10))]).toEqual([true, expect.closeTo(40, 9), true, expect.closeTo(40, 9)]); // oxfmt-ignore
    // thirty are enough: older ones are not asked
    expect(of(volts, [...past(40, 10, 'volts', 30), ...past(150, 10)])).toBeCloseTo(40, 6);
    const check = item('m', 'measure', { trace: { stages: [{ id: 'p', do: 'P', hold_s: 6 }, { id: 'q', do: 'Q' }] } } as never); // oxfmt-ignore
    expect(of(check)).toBeCloseTo(14, 9);
    expect(of(item('m', 'measure', { measures: {} } as never))).toBe(15);
  });

  test('a warm-up is told from this tail’s earlier ones, carried over to this air', () => {
    const oil = item('oil', 'wait', { until: { channel: 'oil.1.temperature', atLeast: 40 }, usual_s: 300 });
    const curve = { every_s: 5, rise_K: Array.from({ length: 20 }, (_, i) => 2 * i) };
    const past = (rest: Partial<PastWait> = {}): PastWait => ({ item: 'oil', took_s: 75, oat_C: 10, curves: { 'oil.1.temperature': curve }, ...rest }); // oxfmt-ignore
    const of = (all: PastWait[], oat_C: number | null = 10) => {
      const dur = durationOf(type, oil, all, oat_C);
      return 'mu' in dur ? [Math.exp(dur.mu), dur.sigma] : [];
    };
    const many = (rest: Partial<PastWait> = {}, n = 20): PastWait[] => Array.from({ length: n }, () => past(rest));
    // 30 K above this air is the fifteenth step of five seconds
    expect(of(many())[0]).toBeGreaterThan(65);
    expect(of(many())[0]).toBeLessThan(90);
    expect(of(many(), 20)[0]).toBeLessThan(of(many())[0]! - 10);
    expect(of(many({ oat_C: 30 }))[1]).toBeGreaterThan(of(many())[1]!);
    expect(of(many({ oat_C: -10 }))[1]).toBeCloseTo(of(many({ oat_C: 30 }))[1]!, 9);
    // of another item, in an air that is not known, or without a curve, it is an ordinary wait
    const usual = of([]);
    expect(usual[0]).toBeCloseTo(300, 6);
    for (const other of [{ item: 'other' }, { curves: undefined, took_s: 9 }, { oat_C: null, took_s: 9 }, { curves: {}, took_s: 9 }])
      expect(of(many(other))[0], JSON.stringify(other)).toBeCloseTo(300, 6); // oxfmt-ignore
    // thirty are enough
    const slower = { every_s: 5, rise_K: Array.from({ length: 60 }, (_, i) => i / 2) };
    expect(of([...many({}, 30), ...many({ curves: { 'oil.1.temperature': slower } }, 30)])).toEqual(of(many({}, 30)));
  });

  test('what a finished run took is counted from what each wait needed', () => {
    const entries = journal(did('a'), did('b'), did('warm'), did('hold'), did('go'));
    expect(waitsOf(type, entries, 9)).toEqual([{ item: 'warm', took_s: 4, oat_C: 9 }]);
    expect(waitsOf(type, journal(did('a'), skip('warm')), 9)).toEqual([]);
    const check = item('m', 'measure', { trace: { stages: [{ id: 'p', do: 'P' }] } } as never);
    const measured = typeWith([a, b, check]);
    expect(waitsOf(measured, journal(did('b'), did('a'), did('m')), null)).toEqual([{ item: 'm', took_s: 2, oat_C: null }]); // oxfmt-ignore
    expect(begunAt_s(reduceRun(entries), warm)).toBe(2);
    expect(begunAt_s(reduceRun(entries), a)).toBe(0);
  });
});

describe('a warm-up', () => {
  const a = item('a', 'check');
  const both = item('both', 'wait', { until: { all: [{ channel: 'oil.1.temperature', atLeast: 40 }, { channel: 'gearbox.oil.temperature', atLeast: 30 }, { channel: 'bus.volts', atLeast: 26 }, { channel: 'nr', below: 5 }] }, usual_s: 60, needs: ['a'] } as never); // oxfmt-ignore
  const type = typeWith([a, both, item('z', 'check')]);

  test('waits for temperatures that rise, each with its target', () => {
    expect(warmTargets(type, both)).toEqual([{ channel: 'oil.1.temperature', target_C: 40 }, { channel: 'gearbox.oil.temperature', target_C: 30 }]); // oxfmt-ignore
    expect(warmTargets(type, a)).toEqual([]);
    expect(warmTargets(type, item('n', 'wait', { until: { channel: 'oil.1.temperature', atMost: 40 } }))).toEqual([]);
    expect(warmTargets(type, item('n', 'wait', { until: { channel: 'oil.1.temperature', minus: 'outside.air', atLeast: 40 } } as never))).toEqual([]); // oxfmt-ignore
  });

  test('leaves its curve of each temperature above the air, in steps of five seconds from when it could begin', () => {
    const t_s = Float64Array.from({ length: 600 }, (_, i) => i / 10);
    const trace: Trace = {
      channels: ['oil.1.temperature', 'gearbox.oil.temperature'],
      t_s,
      columns: [t_s.map((t) => 10 + t), t_s.map((t) => (t > 20 ? NaN : 10))],
    };
    const entries = journal(did('a'), ...Array.from({ length: 17 }, () => ({ kind: 'mark', words: '' }) as Payload), did('both')); // oxfmt-ignore
    const [wait] = pastWaitsOf(type, entries, trace, 10);
    expect(wait).toMatchObject({ item: 'both', took_s: 36, oat_C: 10 });
    // a point is the mean of the two and a half seconds on either side
    const { every_s, rise_K } = wait!.curves!['oil.1.temperature']!;
    expect(every_s).toBe(5);
    expect(rise_K.length).toBe(7);
    expect(rise_K[1]! - rise_K[0]!).toBeCloseTo(3.7, 0);
    expect(rise_K[3]! - rise_K[2]!).toBeCloseTo(5, 1);
    expect(wait!.curves!['gearbox.oil.temperature']!.rise_K.every((k) => k === 0)).toBe(true);
    expect(pastWaitsOf(type, entries, trace, null)[0]!.curves).toBeUndefined();
    expect(forecastWait(type, a, [], 10, () => ({ t_s: [], value_C: [] }) as never)).toBeNull();
  });
});

describe('fuel and weight of this minute', () => {
  const { ground_idle, flight_idle, hover, cruise } = skerry.loading.fuel.flow_kgph;
  const type = typeWith([item('a', 'check')]);

  test('fuel burns by the phase, in the air by the smaller flow', () => {
    const ground = after(phase('start'), phase('idle'), phase('flight'));
    expect(burned_kg(type, ground, 2)).toBe(0);
    expect(burned_kg(type, ground, 3)).toBeCloseTo(ground_idle / 3600, 9);
    expect(burned_kg(type, ground, 6)).toBeCloseTo((4 * ground_idle) / 3600, 9);
    expect(burned_kg(type, ground, 16)).toBeCloseTo((4 * ground_idle + 10 * flight_idle) / 3600, 9);
    const flown = after(phase('flight'), begins('hover'), phase('off'));
    expect(burned_kg(type, flown, 100)).toBeCloseTo((2 * flight_idle + 2 * Math.min(hover, cruise)) / 3600, 9);
    // the last leg is the way down: a type that has it alone is never in the air
    const low = typeWith([], { legs: type.legs.filter((l) => l.id !== 'hover') });
    expect(burned_kg(low, after(phase('flight'), begins('down')), 12)).toBeCloseTo((10 * flight_idle) / 3600, 9);
  });

  test('at hand is what the brief has, with the gauge before it and the fuel less what was burned', () => {
    const said = brief({ pa_ft: 200.2, input: { wind: { direction_deg: 240, speed_kt: 12 }, heading_deg: 30 } });
    const state = after(said, phase('idle'));
    expect(atHandNow(type, state, frame(['outside.air', 15]), 364)).toEqual({ pa_ft: 201, oat_C: 15, wind_deg: 240, wind_kt: 12, nose_deg: 30, fuel_kg: Math.floor(200 - ground_idle / 10) }); // oxfmt-ignore
    expect(atHandNow(type, state, null, 4)).toMatchObject({ oat_C: 12, fuel_kg: 200 });
    expect(atHandNow(type, after(), null, 4)).toEqual({ pa_ft: null, oat_C: null, wind_deg: null, wind_kt: null, nose_deg: null, fuel_kg: null }); // oxfmt-ignore
    expect(atHandNow(type, after(brief({ expected: { fuel: 1 } }), phase('flight')), null, 1e6).fuel_kg).toBe(0);
  });
});

describe('power of this minute', () => {
  const now = (rest: object = {}, values: Float64Array | null = null) =>
    powerNow(skerry, after(brief(rest)), values, 0);
  const figure = (margin: number) => ({ required: 1, available: 1, margin, limitedBy: 'the transmission' });
  const known = (low: number, high: number): PowerNow => ({ ...(now() as PowerNow), unit: '%', low: figure(low), high: figure(high) }); // oxfmt-ignore

  test('says what it lacks, one thing at a time, and never guesses', () => {
    expect(powerNow(skerry, after(), null, 0)).toEqual({ unknown: 'the brief has no pressure' });
    expect(now({ pa_ft: null })).toEqual({ unknown: 'the brief has no pressure' });
    expect(now({ oat_C: null })).toEqual({ unknown: 'the brief has no outside temperature' });
    expect(now({ expected: { mass: null } })).toEqual({ unknown: 'the brief has no weight' });
    expect(now({ pa_ft: 40_000 })).toEqual({ unknown: expect.stringMatching(/^outside what the charts say \(/) });
    expect(now()).toMatchObject({ mass_kg: 1800, pa_ft: 200, oat_C: 12, bleed: 'none' });
    expect(now({ bleed: undefined })).toMatchObject({ bleed: 'none' });
    expect((now() as PowerNow).low.required).toBeLessThan((now() as PowerNow).high.required);
    expect(now({}, frame(['outside.air', 30]))).toMatchObject({ oat_C: 30 });
  });

  test('in words: no hover, one in ground effect alone, or both, with what limits', () => {
    expect(sayPower(known(-1, -2))).toEqual({ words: 'no hover in ground effect: -1.0 % short, the transmission limits', hovers: false }); // oxfmt-ignore
    expect(sayPower(known(0, -0.1))).toEqual({ words: 'in ground effect only: 0.0 % left there, -0.1 % short above it, the transmission limits', hovers: true }); // oxfmt-ignore
    expect(sayPower(known(9, 0))).toEqual({ words: '0.0 % left out of ground effect, 9.0 % left in it, the transmission limits', hovers: true }); // oxfmt-ignore
    expect(sayPower({ unknown: 'x' })).toEqual({ words: 'unknown: x', hovers: null });
  });

  test('of a piston says whether its chart or its full throttle limits it', () => {
    const at = (pa_ft: number): string => (powerNow(typeOf('T2'), after(brief({ pa_ft, oat_C: 15, expected: { mass: 600 } })), null, 0) as PowerNow).high.limitedBy; // oxfmt-ignore
    expect([at(0), at(9000)]).toEqual(['the chart', 'full throttle']);
  });

  test('a hover of a piston is predicted as a band, never above what it has; without a brief it is not', () => {
    const trainer = typeOf('T2');
    const hover = (rest: object = {}) => predictedHover(trainer, after(brief({ oat_C: 15, expected: { mass: 560 }, ...rest })), null); // oxfmt-ignore
    const now = powerNow(trainer, after(brief({ oat_C: 15, expected: { mass: 560 } })), null, 0) as PowerNow;
    const [least, most] = hover()!;
    expect(most - least).toBeCloseTo(2.5, 6);
    expect(least).toBeGreaterThan(now.low.required - 1.7);
    expect(least).toBeLessThan(now.low.required - 1.3);
    const [, heavy] = hover({ expected: { mass: 620 }, pa_ft: 3000 })!;
    expect(heavy).toBeLessThanOrEqual((powerNow(trainer, after(brief({ oat_C: 15, pa_ft: 3000, expected: { mass: 620 } })), null, 0) as PowerNow).takeOff); // oxfmt-ignore
    expect(hover({ oat_C: null })).toBeNull();
    expect(predictedHover(skerry, after(brief()), null)).toBeNull();
  });

  test('limits of the chart for the ledgers are known only with the air', () => {
    const limits = (rest: object) => chartLimitsOf(typeOf('T2'), after(brief(rest)));
    const [continuous, takeOff] = limits({})!;
    expect(continuous).toBeLessThan(takeOff);
    expect([limits({ pa_ft: null }), limits({ oat_C: null }), limits({ pa_ft: 60_000 })]).toEqual([null, null, null]);
    expect(chartLimitsOf(typeOf('T2'), after())).toBeNull();
  });
});

describe('wind of this minute', () => {
  const at = (input: object, rest: object = {}) => startAir(after(brief({ input, ...rest })));
  const wind = (direction_deg: number | null, speed_kt: number | null) => ({ direction_deg, speed_kt, gust_kt: null });

  test('along the tailpipe is known only with both directions; calm is none', () => {
    expect(at({ heading_deg: 30, wind: wind(30, 10) }).tailwind_kt).toBeCloseTo(-10, 6);
    expect(at({ heading_deg: 30, wind: wind(210, 10) }).tailwind_kt).toBeCloseTo(10, 6);
    expect(at({ heading_deg: 30, wind: wind(40, 10) }, { variation_E_deg: 10 }).tailwind_kt).toBeCloseTo(-10, 6);
    expect(at({ wind: wind(30, 0) }).tailwind_kt).toBeCloseTo(0, 9);
    for (const lacking of [
      {},
      { wind: wind(30, 10) },
      { heading_deg: 30 },
      { heading_deg: 30, wind: wind(null, 10) },
      { heading_deg: 30, wind: wind(30, null) },
    ])
      // oxfmt-ignore
      expect(at(lacking).tailwind_kt, JSON.stringify(lacking)).toBeNaN();
    expect(at({}).pressureAltitude_ft).toBe(200);
    expect(startAir(after()).pressureAltitude_ft).toBeNaN();
  });

  test('at the rotor is judged on its side, or by the lowest of all limits', () => {
    const state = after(brief({ input: { heading_deg: 30 } }));
    const judged = (now: Parameters<typeof rotorWindNow>[2], phaseOf?: 'start' | 'stop') => rotorWindNow(skerry, state.brief, now, phaseOf); // oxfmt-ignore
    expect(judged(null)).toEqual({ verdict: 'UNKNOWN', words: 'no wind entered', wind_kt: null });
    expect(judged({ direction_deg: 30, speed_kt: 20, gust_kt: 19 })).toEqual({ verdict: 'UNKNOWN', words: 'the gust is below the wind; enter both again', wind_kt: null }); // oxfmt-ignore
    expect(judged({ direction_deg: 30, speed_kt: 20, gust_kt: 20 }).verdict).toBe('WITHIN');
    expect(judged({ direction_deg: 30, speed_kt: 20, gust_kt: null })).toEqual({ verdict: 'WITHIN', words: '20 kt with the gust, from ahead; 45 kt at most', wind_kt: 20 }); // oxfmt-ignore
    expect(judged({ direction_deg: 210, speed_kt: 20.2, gust_kt: null }).words).toBe('21 kt with the gust, from behind; 28 kt at most'); // oxfmt-ignore
    expect(judged({ direction_deg: 120, speed_kt: 20, gust_kt: null }, 'stop').words).toMatch(/from the right; 36 kt/);
    expect(judged({ direction_deg: 300, speed_kt: 20, gust_kt: null }, 'stop').words).toMatch(/from the left; 34 kt/);
    expect(judged({ direction_deg: null, speed_kt: 20, gust_kt: null }).words).toMatch(/from any side; 28 kt at most/);
    expect(judged({ direction_deg: null, speed_kt: 0, gust_kt: null })).toMatchObject({ verdict: 'WITHIN' });
  });
});

describe('the last look, line by line', () => {
  const people = item('area', 'check', { role: 'people', leg: 'lift' });
  const count = item('lamps', 'count', { channel: 'captions', captions: [] });
  const a = item('a', 'check');
  const type = typeWith([a, count, people]);
  const line = (id: string, values: Float64Array | null, ...said: Payload[]) => {
    const found = finalScan(type, after(...said), values, 4).find((l) => l.id === id)!;
    return [found.verdict, found.words];
  };

  test('rotor, temperatures and pressures against the limits of flight, their edges included', () => {
    const nr = skerry.limits.filter((l) => l.channel === 'nr' && l.phases.includes('flight'));
    const [low, high] = skerry.runUpWatch!.rotor_pct;
    expect(nr.length + 1).toBeGreaterThan(1);
    expect(line('nr', frame(['nr', low]))[0]).toBe(true);
    expect(line('nr', frame(['nr', high]))[0]).toBe(true);
    expect(line('nr', frame(['nr', low - 0.1]))[0]).toBe(false);
    expect(line('nr', frame(['nr', high + 0.1]))[0]).toBe(false);
    expect(line('nr', null)).toEqual(['unknown', 'unknown']);
    // a type without limits for its rotor in flight still has the window of its run-up; a channel with neither has no line
    const bare = typeWith([a], { room: ['nr', 'outside.air'], limits: [] });
    const lines = (nrNow: number) => finalScan(bare, after(), frame(['nr', nrNow], ['outside.air', 12]), 4);
    expect(lines(high).map((l) => l.id)).not.toContain('outside.air');
    expect([lines(low), lines(high), lines(low - 0.1), lines(high + 0.1)].map((all) => all.find((l) => l.id === 'nr')!.verdict)).toEqual([true, true, false, false]); // oxfmt-ignore
    expect(line('oil.1.pressure', frame(['oil.1.pressure', 0.2]))[1]).toMatch(
      /^0\.2 bar; .*at least .* bar in flight$/,
    );
  });

  test('captions, air, fuel, what is open and what was skipped', () => {
    expect(line('captions', frame(['captions', 0]))).toEqual([true, '0 lit']);
    expect(line('captions', null)[0]).toBe('unknown');
    expect(finalScan(typeWith([a]), after(), null, 0).find((l) => l.id === 'captions')).toMatchObject({ verdict: 'unknown', words: 'not counted' }); // oxfmt-ignore
    expect(line('air', null)).toEqual(['unknown', 'no reading']);
    expect(line('air', frame(['outside.air', 12]))).toEqual(['unknown', '12 °C; not in the brief']);
    expect(line('air', frame(['outside.air', 17]), brief())).toEqual([true, '17 °C; 12 °C in the brief']);
    expect(line('air', frame(['outside.air', 17.1]), brief())).toEqual(['unknown', '17 °C; 12 °C in the brief, power is judged in the warmer']); // oxfmt-ignore
    expect(line('air', frame(['outside.air', 6.9]), brief())[0]).toBe('unknown');
    const needed = Math.ceil((skerry.loading.fuel.flow_kgph.cruise * 60) / 60);
    expect(line('fuel', null)).toEqual(['unknown', 'not in the brief']);
    expect(line('fuel', null, brief({ expected: { fuel: needed } }))).toEqual([true, `about ${needed} kg; ${needed} kg for 40 min and 20 min of reserve`]); // oxfmt-ignore
    expect(line('fuel', null, brief({ expected: { fuel: needed - 0.1 } }))[0]).toBe(false);
    expect(line('still-open', null)).toEqual([true, 'everything is back in its place']);
    expect(line('not-done', null)).toEqual([true, 'none']);
    expect(line('not-done', null, fault('a'), skip('lamps'))).toEqual([
      'unknown',
      'A: not so; Lamps: skipped, no time',
    ]);
    expect(line('people', null)).toEqual(['unknown', 'not settled: area']);
    expect(line('people', null, did('area'))).toEqual([true, 'settled: area']);
    expect(line('people', null, skip('area'))[0]).toBe('unknown');
    expect(line('wind', null)[0]).toBe('unknown');
    expect(line('wind', null, brief({ input: { wind: { direction_deg: null, speed_kt: 8, gust_kt: null } } }))[0]).toBe(true); // oxfmt-ignore
    expect(line('wind', null, brief({ input: { wind: { direction_deg: null, speed_kt: 80, gust_kt: null } } }))[0]).toBe(false); // oxfmt-ignore
    expect(line('power', null, brief())[0]).toBe(true);
    expect(line('power', null)[0]).toBe('unknown');
  });
});

describe('what sensors settle', () => {
  const on = item('on', 'set', { expect: { channel: 'switch.battery', is: 1 } });
  const seen = item('seen', 'check', { expect: { channel: 'switch.boost', is: 1 } });
  const lasts = item('lasts', 'wait', { background: true, until: { channel: 'switch.boost', is: 1, for: 3 }, usual_s: 5 }); // oxfmt-ignore
  const type = typeWith([on, seen, lasts]);

  test('an item that is present, once in one try; what has only been looked at is the pilot’s', () => {
    const runner = new Runner(type);
    const settled = runner.observe(1, frame(['switch.battery', 1], ['switch.boost', 1]), after());
    expect(settled).toEqual([{ kind: 'item-done', item: 'on', how: 'sensed', value: 1, words: 'on' }]);
    expect(runner.observe(2, frame(['switch.battery', 1]), after())).toEqual([]);
    expect(new Runner(type).observe(1, frame(['switch.battery', 0]), after())).toEqual([]);
    expect(new Runner(type).observe(1, frame(), after())).toEqual([]);
    // gone back to, it is settled once more
    const again = after(did('on'), { kind: 'item-reopened', item: 'on' });
    expect(runner.observe(3, frame(['switch.battery', 1]), again)).toHaveLength(0);
    expect(new Runner(type).observe(3, frame(['switch.battery', 1]), again)).toHaveLength(1);
  });

  test('a wait, when it has lasted; how long still is said', () => {
    const runner = new Runner(type);
    const values = frame(['switch.boost', 1]);
    const state = after(did('on'));
    runner.observe(10, values, state);
    expect(runner.dwells()).toEqual([{ item: 'lasts', left_s: 3 }]);
    runner.observe(12, values, state);
    expect(runner.dwells()).toEqual([{ item: 'lasts', left_s: 1 }]);
    expect(runner.observe(13.1, values, state)).toMatchObject([{ item: 'lasts', how: 'sensed' }]);
    expect(runner.dwells()).toEqual([]);
    expect(runner.check()).toBeNull();
  });

  test('what the watch reports becomes entries, and ends its item', () => {
    const watch = item('go', 'watch', { watch: 'engine-1-start', usual_s: 40 });
    const of = typeWith([watch]);
    const record = { attempt: 1, peak_C: 712.4, idleAt_s: NaN, unseen_s: 0, doubted_s: 0 } as never;
    const event = (rest: object): WatchEvent => ({ kind: 'start-done', t_s: 5, watch: 'engine-1-start', verdict: 'good', record, profile: {}, ...rest }) as never; // oxfmt-ignore
    const written = (e: WatchEvent, state = after()) => new Runner(of).fromWatch(e, state);
    expect(written(event({}))).toEqual([
      { kind: 'start-done', watch: 'engine-1-start', verdict: 'good', record: { attempt: 1, peak_C: 712.4, idleAt_s: null, unseen_s: 0, doubted_s: 0 } }, // oxfmt-ignore
      { kind: 'item-done', item: 'go', how: 'watched', value: 712.4, words: 'peak 712 °C' },
    ]);
    expect(written(event({ record: { attempt: 1, peak_C: NaN } }))[1]).toMatchObject({ value: null, words: 'idle stable' }); // oxfmt-ignore
    expect(written(event({ verdict: 'unknown' }))[1]).toMatchObject({ words: expect.stringMatching(/^peak 712 °C as far as it was seen; /) }); // oxfmt-ignore
    for (const state of [after(aborted), after(did('go')), { ...after(), source: 'recording' as const }])
      expect(written(event({}), state)).toHaveLength(1);
    expect(written(event({ watch: 'other' }))).toHaveLength(1);
    expect(written({ kind: 'start-ended' } as never)).toEqual([]);
    expect(written({ kind: 'phase', t_s: 1, phase: 'idle' })).toEqual([{ kind: 'phase', phase: 'idle' }]);
    const done = { kind: 'run-up-done', t_s: 9, watch: 'engine-1-start', took_s: 12.34, torqueMax_pct: 0, splitMax_pct: 0, rotorMax_pct: 100.2 } as const; // oxfmt-ignore
    expect(written(done)).toEqual([
      { kind: 'run-up-done', watch: 'engine-1-start', took_s: 12.34, torqueMax_pct: 0, splitMax_pct: 0, rotorMax_pct: 100.2 }, // oxfmt-ignore
      { kind: 'item-done', item: 'go', how: 'watched', value: 12.34, words: '12.3 s, rotor to 100.2 %' },
    ]);
    expect(written({ ...done, torqueMax_pct: 31, splitMax_pct: 4 })[1]).toMatchObject({ words: '12.3 s, rotor to 100.2 %, torque to 31 %, split to 4 %' }); // oxfmt-ignore
    const [cue] = written({ kind: 'cue', t_s: 1, code: 'c', severity: 'call', text: 't', say: 's' });
    expect(samePayload(cue!, { kind: 'cue', code: 'c', severity: 'call', text: 't', say: 's' })).toBe(true);
    expect(cue).toEqual({ kind: 'cue', code: 'c', severity: 'call', text: 't', say: 's' });
  });
});
