import { describe, expect, test } from 'vitest';
import type { TypeFile } from '@rouse/core/aircraft';
import {
  acceptFromPilot,
  burned_kg,
  type Entry,
  finalScan,
  isFinished,
  legsAhead,
  massNow_kg,
  notReadyBecause,
  type Payload,
  powerNow,
  presentItem,
  reduceRun,
  Runner,
  sayPower,
} from '@rouse/core/procedure';
import { typeOf } from '../fleet.ts';
import { Hand } from '../hand.ts';
import { journalOf } from '../skerry.ts';

/** A frame in which everything is as it should be before lift. */
function goodFrame(type: TypeFile): Float64Array {
  const frame = new Float64Array(type.channels.length);
  const set = (id: string, v: number): void => {
    const at = type.channels.findIndex((c) => c.id === id);
    if (at >= 0) frame[at] = v;
  };
  for (const e of [1, 2]) {
    set(`tot.${e}`, 500);
    set(`ng.${e}`, 80);
    set(`oil.${e}.pressure`, 4);
    set(`oil.${e}.temperature`, 70);
    set(`tq.${e}`, 15);
  }
  set('nr', 100);
  set('bus.volts', 28);
  set('gearbox.oil.temperature', 70);
  set('outside.air', 12);
  return frame;
}

/** A run of this type that has come to its word ready. */
function readyFor(id: string): Hand {
  const hand = new Hand(typeOf(id));
  for (let i = 0; i < 200 && presentItem(hand.type, hand.state)?.id !== 'ready'; i++)
    hand.settle(presentItem(hand.type, hand.state)!);
  return hand;
}
const at = (type: TypeFile, id: string): number => type.channels.findIndex((c) => c.id === id);
const line = (hand: Hand, frame: Float64Array | null, id: string) =>
  finalScan(hand.type, hand.state, frame, 600).find((l) => l.id === id)!;
const saysReady: Payload = { kind: 'item-done', item: 'ready', how: 'declared', value: null, words: '' };

describe('the last look', () => {
  test('has nothing against it when all is well, and then the word ready is taken', () => {
    const hand = readyFor('H9');
    const lines = finalScan(hand.type, hand.state, goodFrame(hand.type), 600);
    expect(notReadyBecause(lines)).toBeNull();
    expect(lines.map((l) => l.id)).toEqual(expect.arrayContaining(['tot.1', 'nr', 'captions', 'power', 'fuel', 'still-open', 'not-done', 'wind', 'people'])); // oxfmt-ignore
    expect(acceptFromPilot(hand.type, hand.state, saysReady, goodFrame(hand.type)).ok).toBe(true);
  });

  test.each<[string, number, RegExp]>([
    ['oil.1.pressure', 1.2, /Engine oil pressure 1: 1\.2 bar; at least 2\.3/],
    ['nr', 94, /Rotor: 94/],
    ['tot.2', 800, /Turbine outlet temperature 2: 800/],
    ['captions', 1, /Captions: .*extra GEN 1/],
  ])('%s at %s holds the word, by its name and figure', (channel, value, words) => {
    const hand = readyFor('H9');
    const frame = goodFrame(hand.type);
    frame[at(hand.type, channel)] = value;
    const verdict = acceptFromPilot(hand.type, hand.state, saysReady, frame);
    expect(verdict.ok ? '' : verdict.message).toMatch(words);
  });

  test('a lost reading is never good, and no data at all leaves every sensed line to the eye', () => {
    const hand = readyFor('H9');
    const frame = goodFrame(hand.type);
    frame[at(hand.type, 'tot.1')] = NaN;
    expect(line(hand, frame, 'tot.1').verdict).toBe('unknown');
    for (const id of ['tot.1', 'nr', 'captions']) expect(line(hand, null, id).verdict).toBe('unknown');
  });

  test('of people, doors and area it says settled only for what was asked and answered', () => {
    const hand = readyFor('H9');
    expect(line(hand, null, 'people')).toMatchObject({ verdict: true });
    expect(line(hand, null, 'people').words).toMatch(/^settled: .*area/);
    const silent = { ...hand.type, items: hand.type.items.filter((i) => i.role !== 'people') };
    const asked = finalScan(silent, hand.state, null, 600).find((l) => l.id === 'people')!;
    expect(asked).toMatchObject({ verdict: 'unknown', words: expect.stringContaining('not asked') });
  });

  test('what was skipped is told with its reason, and fuel is held against the flight with a reserve', () => {
    const hand = new Hand(typeOf('H9'));
    for (let i = 0; i < 200 && presentItem(hand.type, hand.state)?.id !== 'autopilot'; i++)
      hand.settle(presentItem(hand.type, hand.state)!);
    hand.wants({ kind: 'item-skipped', item: 'autopilot', reason: 'computer is out' });
    expect(line(hand, goodFrame(hand.type), 'not-done')).toMatchObject({ verdict: 'unknown', words: 'Autopilot and trims: skipped, computer is out' }); // oxfmt-ignore
    // 20 minutes of cruise alone take 75 kg
    const brief = hand.state.brief!;
    const dry = { ...hand.state, brief: { ...brief, expected: { ...brief.expected, fuel: 40 } } };
    expect(finalScan(hand.type, dry, goodFrame(hand.type), 600).find((l) => l.id === 'fuel')!.verdict).toBe(false);
  });
});

describe('power and weight of this minute', () => {
  const phases = (...list: [number, string][]): Entry[] =>
    journalOf(list.map(([t_s, phase]) => ({ t_s, by: 'watch', payload: { kind: 'phase', phase } as Payload })));

  test('fuel burns by the phase, faster at flight than at idle, and not before the engine runs', () => {
    const type = typeOf('H9');
    const { ground_idle, flight_idle } = type.loading.fuel.flow_kgph;
    const state = reduceRun(phases([100, 'start'], [130, 'idle'], [430, 'run-up'], [460, 'flight']));
    expect(burned_kg(type, state, 100)).toBe(0);
    expect(burned_kg(type, state, 430)).toBeCloseTo((ground_idle * 330) / 3600, 6);
    expect(burned_kg(type, state, 1060)).toBeCloseTo((ground_idle * 330 + flight_idle * 630) / 3600, 6);
    expect(massNow_kg(type, state, 1060)).toBeNull();
  });

  test('too heavy for any hover is refused with the remedy; what the brief lacks is unknown, not good', () => {
    const hand = new Hand(typeOf('S7'));
    const brief = hand.state.brief!;
    const heavy = {
      ...hand.state,
      brief: { ...brief, expected: { ...brief.expected, mass: 3200 }, oat_C: 40, pa_ft: 6000 },
    };
    expect(sayPower(powerNow(hand.type, heavy, null, 0)).hovers).toBe(false);
    const vague = { ...hand.state, brief: { ...brief, pa_ft: null } };
    expect(sayPower(powerNow(hand.type, vague, null, 0))).toEqual({
      words: 'unknown: the brief has no pressure',
      hovers: null,
    });
    const far = { ...hand.state, brief: { ...brief, pa_ft: 19_000 } };
    expect(powerNow(hand.type, far, null, 0)).toMatchObject({
      unknown: expect.stringMatching(/outside what the charts say/),
    });
  });

  test.each(['S7', 'T2'])('below the lowest line of its charts %s reads that line, where there is less power', (id) => {
    const hand = new Hand(typeOf(id));
    const at = (pa_ft: number) =>
      powerNow(hand.type, { ...hand.state, brief: { ...hand.state.brief!, pa_ft } }, null, 0) as object;
    expect(at(-400)).toEqual(at(0));
    expect(at(-400)).toHaveProperty('high');
  });

  test('a gauge that is warmer than the brief takes power away, a colder one gives none, and the difference is shown', () => {
    const hand = readyFor('H9');
    const frame = goodFrame(hand.type);
    const gauge = (oat_C: number) => {
      frame[at(hand.type, 'outside.air')] = oat_C;
      const now = powerNow(hand.type, hand.state, frame, 600) as Exclude<
        ReturnType<typeof powerNow>,
        { unknown: string }
      >;
      return { ...now, line: line(hand, frame, 'air') };
    };
    const asBriefed = gauge(12);
    expect(asBriefed.line).toMatchObject({ verdict: true, words: '12 °C; 12 °C in the brief' });
    const hot = gauge(38);
    expect(hot.high.margin).toBeLessThan(asBriefed.high.margin);
    expect(hot.line).toMatchObject({ verdict: 'unknown', words: expect.stringMatching(/38 °C; 12 °C.*the warmer/) });
    expect(gauge(-5).high.margin).toBe(asBriefed.high.margin);
    expect(gauge(NaN).high.margin).toBe(asBriefed.high.margin);
    expect(line(hand, frame, 'air').verdict).toBe('unknown');
  });

  test('limits and hovers are rounded the safe way', () => {
    const hand = new Hand(typeOf('X14'));
    const now = powerNow(hand.type, hand.state, null, 0);
    expect(now).toMatchObject({ unit: '%' });
    const { low, high, takeOff, continuous } = now as Exclude<typeof now, { unknown: string }>;
    expect(low.required).toBeLessThan(high.required);
    expect(continuous).toBeLessThan(takeOff);
    expect(high.required + high.margin).toBeLessThanOrEqual(high.available + 1e-9);
  });
});

describe('legs that are begun', () => {
  test('the lift waits for everything before it, the shut-down for nothing but a start; neither is begun twice', () => {
    const hand = new Hand(typeOf('T2'));
    const begin = (leg: string): boolean => hand.wants({ kind: 'leg-begun', leg, how: 'declared' });
    expect(begin('hover')).toBe(false);
    expect(legsAhead(hand.type, hand.state).map((l) => l.id)).toEqual(['hover', 'shut-down']);
    hand.write({ kind: 'phase', phase: 'start' });
    expect(begin('shut-down')).toBe(false);
    hand.write({ kind: 'phase', phase: 'idle' });
    expect(begin('shut-down')).toBe(true);
    expect([begin('shut-down'), begin('hover')]).toEqual([false, false]);
    expect(presentItem(hand.type, hand.state)!.leg).toBe('shut-down');
    expect(hand.wants({ kind: 'closed', outcome: 'shut-down' })).toBe(false);
    hand.settleAll();
    expect(isFinished(hand.type, hand.state)).toBe(true);
    expect(hand.wants({ kind: 'closed', outcome: 'shut-down' })).toBe(true);
  });

  test('a lift is seen by itself, once, when it has lasted; and not before the list is done', () => {
    const type = typeOf('H9');
    const hand = readyFor('H9');
    const flying = goodFrame(type);
    for (const e of [1, 2]) flying[at(type, `tq.${e}`)] = 60;
    flying[at(type, 'height')] = 5;
    const seen = (runner: Runner, from: number, to: number): Payload[] => {
      const out: Payload[] = [];
      for (let t = from; t <= to; t += 0.1) out.push(...runner.observe(t, flying, hand.state));
      return out.filter((p) => p.kind === 'leg-begun');
    };
    expect(seen(new Runner(type), 0, 10)).toEqual([]);
    hand.settleAll();
    const runner = new Runner(type);
    expect(seen(runner, 20, 21.5)).toEqual([]);
    expect(seen(runner, 21.6, 40)).toEqual([{ kind: 'leg-begun', leg: 'hover', how: 'sensed' }]);
  });
});

describe('what only has to last', () => {
  test('the cool-down counts from the moment that the lever is seen at idle, and anew after a blip of it', () => {
    const type = typeOf('S7');
    const hand = readyFor('S7');
    hand.write({ kind: 'leg-begun', leg: 'shut-down', how: 'declared' });
    while (presentItem(type, hand.state)!.id !== 'cool-down') hand.settle(presentItem(type, hand.state)!);
    const frame = goodFrame(type);
    const runner = new Runner(type);
    const left = (t_s: number, selector: number): number | undefined => {
      frame[at(type, 'engine.1.selector')] = selector;
      runner.observe(t_s, frame, hand.state);
      return runner.dwells().find((d) => d.item === 'cool-down')?.left_s;
    };
    expect(left(10, 2)).toBeUndefined();
    expect(left(11, 1)).toBe(80);
    expect(left(41, 1)).toBe(50);
    expect(left(42, 2)).toBeUndefined();
    expect(left(43, 1)).toBe(80);
    expect(left(122.9, 1)).toBeCloseTo(0.1, 6);
    expect(left(123.1, 1)).toBeUndefined();
  });
});
