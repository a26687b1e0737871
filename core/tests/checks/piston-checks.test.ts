import { describe, expect, test } from 'vitest';
import { type FlyOptions, type Flown, figure, flyCheck, RUNNING, warm } from './fly-check.ts';

/** A warm trainer at `n`, its governor off, ready for the check. */
function at(n: number, options: Partial<FlyOptions> = {}): FlyOptions {
  return {
    conditions: { env: { oat: 15, dew: 5 }, init: warm(n) },
    before: [...RUNNING, { control: 'pilotN', to: n }],
    settle_s: 25,
    ...options,
  };
}

const found = (flown: Flown): string => `${flown.result?.verdict} ${flown.result?.cause ?? ''}`.trim();

describe.each(['T2', 'T2i'])('magnetos of %s', (type) => {
  test.each([
    ['healthy', {}, 'good'],
    ['right one dead', { magR: 0 }, 'fault dead'],
    ['left one dead', { magL: 0 }, 'fault dead'],
    ['left one live when off', { groundL: 1 }, 'fault no-drop'],
    ['right one live when off', { groundR: 1 }, 'fault no-drop'],
    ['a fouled plug on the left', { 'plug.2': 0.15 }, 'fault rough'],
    ['a fouled plug on the right', { 'plug.6': 0.1 }, 'fault rough'],
    ['a weak right one', { magR: 0.6 }, 'fault weak'],
  ])('%s, at either speed and either side first', (_what, faults, verdict) => {
    for (const speed of ['low', 'high'])
      for (const first of ['left', 'right'])
        expect(
          found(flyCheck(type, `magnetos-${speed}-${first}-first`, at(speed === 'low' ? 0.78 : 0.88, { faults }))),
          `${speed} ${first}`,
        ).toBe(verdict);
  });

  test('the words of a live magneto name the one that stays live', () => {
    expect(flyCheck(type, 'magnetos-low-left-first', at(0.78, { faults: { groundL: 1 } })).result!.words).toMatch(
      /No drop on the right.*left one stays live/,
    );
  });

  test('a late magneto passes the drop and fails the difference', () => {
    const late = flyCheck(type, 'magnetos-high-left-first', at(0.88, { faults: { retardL: 10 } }));
    expect(found(late)).toBe('fault timing');
    expect(figure(late, 'drop-left')).toBeLessThan(4);
  });
});

describe('magneto drop against the truth', () => {
  test('within 0.2 % at 20 Hz with the noise of the gauge', () => {
    const errors: number[] = [];
    for (let seed = 1; seed <= 12; seed++)
      for (const faults of [{}, { retardL: 10 }, { 'plug.2': 0.15 }]) {
        const conditions = { env: { oat: 18 - 2 * seed, dew: -20 }, init: warm(0.78) };
        const flown = flyCheck('T2', 'magnetos-low-left-first', at(0.78, { conditions, faults, seed, hz: 20 }));
        const truthAt = (t_s: number): number => flown.truth.findLast((x) => x.t_s <= t_s + 1e-6)!.n;
        for (const [side, stage] of [
          ['left', 2],
          ['right', 5],
        ] as const) {
          const selected_s = flown.machine.marks[stage]!;
          errors.push(
            Math.abs(figure(flown, `drop-${side}`)! - (truthAt(selected_s - 0.04) - truthAt(selected_s + 4))),
          );
        }
      }
    expect(errors).toHaveLength(72);
    expect(Math.max(...errors)).toBeLessThan(0.2);
  });
});

describe('what cannot be read is unknown', () => {
  const spoiled = (channel: string, change: (v: number, t_s: number) => number): NonNullable<FlyOptions['spoil']> => {
    return (values, t_s, type) => {
      const i = type.channels.findIndex((c) => c.id === channel);
      values[i] = change(values[i]!, t_s);
    };
  };

  test('a roughness sensor that is lost', () => {
    const flown = flyCheck(
      'T2',
      'magnetos-low-left-first',
      at(0.78, { spoil: spoiled('engine.roughness', () => NaN) }),
    );
    expect(found(flown)).toBe('unknown not-read');
    expect(figure(flown, 'drop-left')).not.toBeNull();
  });

  test('a tachometer so noisy that a drop is lost in it', () => {
    const noisy = spoiled('engine.rpm', (v, t_s) => v + (t_s > 30 ? 1.6 * Math.sin(1e4 * t_s * t_s) : 0));
    expect(found(flyCheck('T2', 'magnetos-low-left-first', at(0.78, { spoil: noisy })))).toBe('unknown not-read');
  });

  test('a fault that is seen counts, though another reading is lost', () => {
    const flown = flyCheck('T2', 'magnetos-low-left-first', at(0.78, { faults: { groundL: 1 }, spoil: spoiled('engine.roughness', () => NaN) })); // oxfmt-ignore
    expect(found(flown)).toBe('fault no-drop');
  });

  test('a tachometer that dies in mid-check is not a dead magneto', () => {
    const dies = spoiled('engine.rpm', (v, t_s) => (t_s > 38 ? 0 : v));
    expect(found(flyCheck('T2', 'magnetos-low-left-first', at(0.78, { spoil: dies })))).toBe('unknown tachometer');
  });

  test('a selector that is lost in mid-check', () => {
    const lost = spoiled('magnetos', (v, t_s) => (t_s > 40 ? NaN : v));
    const flown = flyCheck('T2', 'magnetos-low-left-first', at(0.78, { spoil: lost }));
    expect(found(flown)).toBe('unknown sensor-lost');
    expect(flown.result!.words).toMatch(/Magnetos lost/);
  });

  test.each([
    ['two seconds', 2, 'unknown data-lost'],
    ['half a second', 0.5, 'good'],
  ])('a hole of %s in the middle of it', (_long, length_s, verdict) => {
    const hole = [37, 37 + length_s] as const;
    expect(found(flyCheck('T2', 'magnetos-low-left-first', at(0.78, { hole })))).toBe(verdict);
  });

  test('no carburettor temperature', () => {
    const lost = spoiled('carburettor.air', () => NaN);
    expect(found(flyCheck('T2', 'carb-heat-after', at(0.78, { spoil: lost })))).toBe('unknown not-read');
  });

  test('a horn channel that is not there is no silent horn', () => {
    const lost = spoiled('horn', () => NaN);
    const flown = flyCheck('T2', 'low-rotor-throttle', at(0.97, { spoil: lost }));
    expect(flown.result?.verdict ?? 'none').not.toBe('good');
    expect(flown.result?.cause).not.toBe('silent-horn');
  });
});

describe('carburettor heat', () => {
  test.each([
    ['dry air', { oat: 15, dew: -10 }, {}, 'good'],
    ['the flap does not open', { oat: 15, dew: -10 }, { carbHeatFail: 1 }, 'fault no-heat'],
  ])('%s', (_what, env, faults, verdict) => {
    expect(found(flyCheck('T2', 'carb-heat-after', at(0.78, { conditions: { env, init: warm(0.78) }, faults })))).toBe(
      verdict,
    );
  });

  test('ice is known by its pattern, and gone at the second try', () => {
    const before = [...RUNNING, { control: 'pilotN', to: 0.78 }, { control: 'pilotN', to: null, after_s: 30 }, { control: 'grip', to: 'HOLD', after_s: 30 }]; // oxfmt-ignore
    const damp = { conditions: { env: { oat: 12, dew: 10 }, init: warm(0.78) }, before, settle_s: 150 };
    const iced = flyCheck('T2', 'carb-heat-after', at(0.78, damp));
    expect(found(iced)).toBe('fault ice');
    expect(figure(iced, 'recovery')).toBeGreaterThan(2);
  });
});

describe('freewheel', () => {
  test.each([
    ['free', {}, 'good'],
    ['slipping', { sprag: 'slip' }, 'fault slips'],
    ['seized', { sprag: 'seized' }, 'fault no-split'],
    ['sticking', { sprag: 'sticking' }, 'fault no-split'],
  ])('%s', (_what, faults, verdict) => {
    expect(found(flyCheck('T2', 'freewheel', at(0.78, { faults })))).toBe(verdict);
  });

  test('the split is timed from the throttle', () => {
    const split_s = figure(flyCheck('T2', 'freewheel', at(0.78)), 'split')!;
    expect(split_s).toBeGreaterThan(0.1);
    expect(split_s).toBeLessThan(0.6);
  });
});

describe('governor', () => {
  test('takes over, settles, lets go, and comes back', () => {
    const flown = flyCheck('T2', 'governor', at(0.78));
    expect(found(flown)).toBe('good');
    expect(figure(flown, 'settling')).toBeGreaterThan(5);
    expect(figure(flown, 'overshoot')).toBeCloseTo(1.5, 0);
    expect(figure(flown, 'held')).toBeCloseTo(99.8, 0);
  });

  test.each([
    ['dead', { govFail: 1 }, 'fault no-take-over'],
    ['set low', { govBias: -0.03 }, 'fault low-set'],
    ['set a little low', { govBias: -0.01 }, 'fault low-set'],
    ['set high', { govBias: 0.01 }, 'fault high-set'],
    ['answering too strongly', { govGain: 4 }, 'fault overshoot'],
  ])('%s', (_what, faults, verdict) => {
    expect(found(flyCheck('T2', 'governor', at(0.78, { faults })))).toBe(verdict);
  });
});

test('a speed that goes up and down and never settles is a governor that hunts', () => {
  const spoil: FlyOptions['spoil'] = (values, t_s, type) => {
    const i = type.channels.findIndex((c) => c.id === 'engine.rpm');
    if (values[i]! > 95) values[i] = 99.8 + 1.6 * Math.sin(2.2 * t_s);
  };
  expect(found(flyCheck('T2', 'governor', at(0.78, { spoil })))).toBe('fault hunts');
});

describe('low-rotor warning', () => {
  test.each(['throttle', 'collective'])('by %s: horn and light at their speed, and a silent horn', (way) => {
    const n = way === 'throttle' ? 0.97 : 0.945;
    const good = flyCheck('T2', `low-rotor-${way}`, at(n));
    expect(found(good)).toBe('good');
    expect(Math.abs(figure(good, 'horn')! - 93)).toBeLessThan(0.6);
    expect(found(flyCheck('T2', `low-rotor-${way}`, at(n, { faults: { hornFail: 1 } })))).toBe('fault silent-horn');
  });
});

describe('rotor engagement', () => {
  const idle = (faults: FlyOptions['faults'] = {}, extra: Partial<FlyOptions> = {}): FlyOptions => {
    const init = { Th: 100, To: 50, Tc: 42, Tb: 30, Tcb: 5, gal: 1, pm: 35_000, phi: 1.1, film: 2, we: 130.69 };
    const before = [...RUNNING.filter((a) => a.control !== 'clutch'), { control: 'grip', to: 0.11 }, { control: 'pilotN', to: 0.48 }]; // oxfmt-ignore
    return { conditions: { env: {}, init }, before, settle_s: 15, faults, ...extra };
  };

  test('the figures are those of the drive', () => {
    const flown = flyCheck('T2', 'clutch-engage', idle());
    expect(found(flown)).toBe('good');
    expect(Math.abs(figure(flown, 'joined')! - 21.9)).toBeLessThan(1);
    expect(Math.abs(figure(flown, 'light-out')! - 47.1)).toBeLessThan(7);
    expect(Math.abs(figure(flown, 'sag')! - 43.4)).toBeLessThan(1.2);
  });

  test.each([
    ['an actuator that stops early', { actStopAt: 0.3 }, 'fault light-on'],
    ['an actuator that does not move', { actRate: 0 }, 'fault not-turning'],
  ])('%s', (_what, faults, verdict) => {
    expect(found(flyCheck('T2', 'clutch-engage', idle(faults)))).toBe(verdict);
  });

  test('a throttle that is not held lets the rotor pull the engine down', () => {
    const letGo = [...RUNNING.filter((a) => a.control !== 'clutch'), { control: 'pilotN', to: 0.48 }, { control: 'pilotN', to: null, after_s: 20 }, { control: 'grip', to: 0.105, after_s: 20 }]; // oxfmt-ignore
    expect(found(flyCheck('T2', 'clutch-engage', idle({}, { before: letGo })))).toBe('fault stalled');
  });
});

describe('a warning that comes too early', () => {
  test.each([94.8, 96, 98])('a horn at %d %% is found, however the rotor is slowed', (at_pct) => {
    const spoil: FlyOptions['spoil'] = (values, _t_s, type) => {
      const index = (id: string): number => type.channels.findIndex((c) => c.id === id);
      if (values[index('nr')]! < at_pct) values[index('horn')] = 1;
    };
    for (const item of ['low-rotor-throttle', 'low-rotor-collective'])
      expect(found(flyCheck('T2', item, at(0.99, { spoil }))), item).toBe('fault early-horn');
  });
});

describe('a check whose first reading is not there', () => {
  test.each([
    ['magnetos-low-left-first', 'engine.rpm'],
    ['freewheel', 'engine.rpm'],
    ['low-rotor-throttle', 'nr'],
    ['governor', 'engine.rpm'],
  ])('%s ends, and says what is lost', (item, channel) => {
    const spoil: FlyOptions['spoil'] = (values, _t_s, type) => {
      values[type.channels.findIndex((c) => c.id === channel)] = NaN;
    };
    const flown = flyCheck('T2', item, at(0.78, { spoil, limit_s: 60 }));
    expect(found(flown)).toBe('unknown sensor-lost');
  });
});

describe('good, and not as this tail usually is', () => {
  /** What a healthy trainer measures, from the least to the most of a year. */
  const usual = {
    'magnetos-low/drop-left': { median: 1.4, least: 1.25, most: 1.7 },
    'magnetos-low/drop-right': { median: 1.52, least: 1.4, most: 1.65 },
    'magnetos-low/rough-left': { median: 0.015, least: 0.01, most: 0.02 },
    'rotor-engagement/light-out': { median: 53, least: 52, most: 54 },
    'rotor-engagement/turning': { median: 10.9, least: 10.6, most: 11.3 },
    'rotor-engagement/gripping': { median: 11.1, least: 10.9, most: 11.5 },
    'freewheel/split': { median: 0.18, least: 0.14, most: 0.24 },
  };
  const fly = (item: string, faults: FlyOptions['faults']): string => {
    const init = { Th: 100, To: 50, Tc: 42, Tb: 30, Tcb: 5, gal: 1, pm: 35_000, phi: 1.1, film: 2, we: 130.69 };
    const still = RUNNING.filter((a) => a.control !== 'clutch');
    const before = [...still, { control: 'grip', to: 0.11 }, { control: 'pilotN', to: 0.48 }];
    const engaging = { conditions: { env: {}, init }, before, settle_s: 15 };
    const options = at(0.78, {
      ...(item === 'clutch-engage' && engaging),
      habit: { usual },
      ...(faults && { faults }),
    });
    return found(flyCheck('T2', item, options));
  };

  test.each([
    ['magnetos-low-left-first', {}, 'good'],
    ['magnetos-low-left-first', { retardL: 6 }, 'unusual more-drop'],
    ['magnetos-low-left-first', { retardR: 7 }, 'unusual more-drop'],
    ['magnetos-low-left-first', { 'plug.2': 0.88 }, 'unusual more-rough'],
    ['clutch-engage', {}, 'good'],
    ['clutch-engage', { actRate: 0.85 }, 'unusual slow-actuator'],
    ['clutch-engage', { tension: 0.8 }, 'unusual weak-grip'],
    ['clutch-engage', { beltMu: 0.45 }, 'unusual weak-grip'],
    ['clutch-engage', { brakeDrag: 60 }, 'unusual drag'],
    ['freewheel', { sprag: 'sticking', stickTorque: 20 }, 'unusual freewheel-drag'],
  ])('%s with %o', (item, faults, verdict) => {
    expect(fly(item, faults)).toBe(verdict);
  });

  test('without a past nothing is unusual', () => {
    expect(found(flyCheck('T2', 'magnetos-low-left-first', at(0.78, { faults: { retardL: 6 } })))).toBe('good');
  });

  test('the words say what it is and what it was', () => {
    const habit = { usual };
    const { words } = flyCheck('T2', 'magnetos-low-left-first', at(0.78, { faults: { retardL: 6 }, habit })).result!;
    expect(words).toMatch(/Drop of 1\.\d % on the left magneto, usually 1\.4 %: it fires late/);
  });
});
