import { describe, expect, test } from 'vitest';
import type { SimulatorParameters, StandInAction } from '@rouse/core/aircraft';
import { type FlyOptions, flyCheck, RUNNING, warm } from './fly-check.ts';
import { typeOf } from '../fleet.ts';

const TURBINES = ['C5', 'S7', 'H9', 'X14'];
const engines = (id: string): string[] => typeOf(id).engines.map((e) => `e${e.id}`);
const lever = (id: string, where: 'flight' | 'idle' | 'off', after_s?: number): StandInAction[] =>
  engines(id).map((e) => ({
    ...(id === 'C5'
      ? { control: `${e}.grip`, to: { flight: 1, idle: 0.4, off: 0 }[where] }
      : { control: `${e}.mode`, to: { flight: 'FLY', idle: 'IDLE', off: 'OFF' }[where] }),
    ...(after_s !== undefined && { after_s }),
  }));
const POWERED: StandInAction[] = [
  { control: 'battery', to: 1 },
  { control: 'boost', to: 1 },
];
const atIdle = (id: string): FlyOptions => ({
  conditions: { running: { coll: 0 } },
  before: [...POWERED, ...lever(id, 'idle')],
  settle_s: 90,
});
const said = ({ result }: ReturnType<typeof flyCheck>): string => `${result?.verdict} ${result?.cause}`;

describe.each(TURBINES)('the engines of %s stop', (id) => {
  const residual = id === 'H9' || id === 'X14' ? 'residual-after-1' : 'residual-after';

  test('a good run-down has its time, and a noisy speed changes nothing', () => {
    const flown = flyCheck(id, 'cut', {
      ...atIdle(id),
      spoil: (values, t_s, type) => {
        const ng = type.channels.findIndex((c) => c.id === 'ng.1');
        values[ng]! += 0.3 * Math.sin(997 * t_s);
      },
    });
    expect(said(flown)).toBe('good null');
    expect(flown.result!.figures[0]!.value).toBeGreaterThan(18);
  });

  test('friction shortens it', () => {
    const { engine } = typeOf(id).simulator as SimulatorParameters;
    const faults = { 'e1.gg_drag_w': 0.75 * engine.fric_coul_w };
    expect(said(flyCheck(id, 'cut', { ...atIdle(id), faults }))).toBe('fault short-run-down');
  });

  test('the brake of a fast rotor is called at once', () => {
    const brake = { control: 'rotor_brake', to: 0.3, after_s: 95 };
    const options = atIdle(id);
    expect(said(flyCheck(id, 'cut', { ...options, before: [...options.before!, brake] }))).toBe('fault brake-early');
  });

  test('after power without cool-down the temperature hangs, and motoring is asked for', () => {
    const hot: FlyOptions = {
      conditions: { running: { coll: 0.6 }, env: { oat_c: 38 }, height_m: 30 },
      before: [
        ...POWERED,
        ...lever(id, 'flight'),
        { control: 'coll', to: id === 'C5' ? 0.72 : 0.66 },
        ...lever(id, 'off', 60),
        { control: 'coll', to: 0, after_s: 60 },
      ],
      settle_s: 88,
    };
    const flown = flyCheck(id, residual, hot);
    expect(said(flown)).toBe('fault hangs');
    expect(flown.result!.words).toMatch(/motor the engine/);
  });

  test('after a cool-down it does not; a lost probe is no good word', () => {
    const options = atIdle(id);
    const cut: FlyOptions = { ...options, before: [...options.before!, ...lever(id, 'off', 90)], settle_s: 125 };
    expect(said(flyCheck(id, residual, cut))).toBe('good null');
    const lost = flyCheck(id, residual, {
      ...cut,
      spoil: (values, _t, type) => (values[type.channels.findIndex((c) => c.id === 'tot.1')] = NaN),
    });
    expect(lost.result?.verdict).toBe('unknown');
  });
});

describe.each(['T2', 'T2i'])('the trainer %s', (id) => {
  const idle: FlyOptions = {
    conditions: { env: { oat: 15, dew: 6, pa_ft: 0 }, init: warm(0.48) },
    before: [...RUNNING, { control: 'pilotN', to: 0.48 }],
    settle_s: 20,
  };

  test.each([0.46, 0.48, 0.5])('the engine speeds up as the belts let go, straight from the cool-down to %f', (to) => {
    const flown = flyCheck(id, 'clutch-release', {
      ...idle,
      conditions: { ...idle.conditions, init: warm(0.62) },
      before: [...RUNNING, { control: 'pilotN', to: 0.62 }, { control: 'pilotN', to, after_s: 20 }],
    });
    expect(said(flown)).toBe('good null');
  });

  test('an actuator that does not move leaves the rotor tied to the engine', () => {
    expect(said(flyCheck(id, 'clutch-release', { ...idle, faults: { actRate: 0 } }))).toBe('fault drags');
  });

  test('the brake of a fast rotor is called, and one that is pulled too hard', () => {
    const cut = flyCheck(id, 'cut', { ...idle, before: [...idle.before!, { control: 'brake', to: 0.4, after_s: 23 }] });
    expect(said(cut)).toBe('fault brake-early');
    const still: FlyOptions = { conditions: { env: { oat: 15, dew: 6, pa_ft: 0 }, init: { wr: 0.28 * 51.86 } } };
    const before: StandInAction[] = [{ control: 'master', to: 1 }];
    expect(said(flyCheck(id, 'brake-after', { ...still, before }))).toBe('good null');
    const hard: FlyOptions['spoil'] = (values, t_s, type) => {
      if (t_s > 3) values[type.channels.findIndex((c) => c.id === 'rotor.brake')] = 0.95;
    };
    expect(said(flyCheck(id, 'brake-after', { ...still, before, spoil: hard }))).toBe('fault brake-hard');
  });
});
