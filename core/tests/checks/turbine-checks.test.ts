import { needWatched, type StandInAction } from '@rouse/core/aircraft';
import { describe, expect, test } from 'vitest';
import { typeOf } from '../fleet.ts';
import { type FlyOptions, type Flown, figure, flyCheck } from './fly-check.ts';

const TURBINES = ['C5', 'S7', 'H9', 'X14'];
const TWINS = ['H9', 'X14'];

/** An aircraft with its engines at flight, flat pitch, as the scenario files begin. */
function running(id: string, options: Partial<FlyOptions> = {}): FlyOptions {
  const type = needWatched(typeOf(id));
  const engines = type.engines.flatMap(({ id: e }): StandInAction[] => [
    { control: `e${e}.gen`, to: 1 },
    ...(type.engines[0]!.control === 'digital'
      ? [{ control: `e${e}.mode`, to: 'FLY' }]
      : [{ control: `e${e}.grip`, to: 1 }]),
  ]);
  return {
    conditions: { running: { coll: 0 }, env: { oat_c: 12 } },
    before: [
      { control: 'battery', to: 1 },
      { control: 'boost', to: 1 },
      { control: 'load.base_bus', to: 1 },
      ...engines,
    ],
    settle_s: 40,
    ...options,
  };
}

const found = (flown: Flown): string => `${flown.result?.verdict} ${flown.result?.cause ?? ''}`.trim();

describe.each(TURBINES)('hydraulics of %s', (id) => {
  const two = id !== 'C5';

  test('healthy: each falls, and comes back', () => {
    const flown = flyCheck(id, 'hydraulics', running(id));
    expect(found(flown)).toBe('good');
    expect(figure(flown, 'fall-1')).toBeLessThan(2);
  });

  test('a system that is lost is named, and the other one is never taken away', () => {
    const flown = flyCheck(id, 'hydraulics', running(id, { faults: { [`ac.hyd${two ? 2 : 1}_fail`]: 1 } }));
    expect(found(flown)).toBe(`fault system-${two ? 2 : 1}-low`);
    expect(flown.cockpit.simulation.signal('control.hyd_test')).toBe(0);
  });

  test('a pressure that is not there is unknown', () => {
    const i = typeOf(id).channels.findIndex((c) => c.id === 'hydraulic.1.pressure');
    const flown = flyCheck(id, 'hydraulics', running(id, { spoil: (values) => (values[i] = NaN) }));
    expect(flown.result!.verdict).toBe('unknown');
  });
});

describe.each(['S7', 'H9', 'X14'])('two hydraulic systems of %s', (id) => {
  test('the other system lost in mid-test is called at once', () => {
    const lostLater = (values: Float64Array, t_s: number): void => {
      if (t_s < 46) return;
      values[typeOf(id).channels.findIndex((c) => c.id === 'hydraulic.2.pressure')] = 3;
    };
    expect(found(flyCheck(id, 'hydraulics', running(id, { spoil: lostLater })))).toBe('fault both-low');
  });
});

describe.each(TURBINES)('electrical loads of %s', (id) => {
  const fly = (faults: Record<string, number> = {}): Flown => flyCheck(id, 'load-steps', running(id, { faults }));

  test('each draws its own', () => {
    expect(found(fly())).toBe('good');
  });

  test('a step is read within 0.5 A or 5 % of the current that really flows', () => {
    for (const share of [1, 0.5, 2]) {
      const flown = fly({ 'load.landing_light': share });
      const nominal = typeOf(id).electricalLoads.find((l) => l.id === 'landing_light')!.amps;
      // a consumer is a resistance: it draws by the volts that it has
      const volts = Number(flown.cockpit.simulation.signal('volts'));
      const truth = (share * nominal * volts) / 28;
      expect(Math.abs(figure(flown, 'landing-light')! - truth)).toBeLessThan(Math.max(0.5, 0.05 * truth));
    }
  });

  test.each([
    ['missing', { 'load.pitot_heat': 0 }, 'fault load-missing', /Pitot heat draws nothing/],
    ['half', { 'load.pitot_heat': 0.5 }, 'fault load-low', /Pitot heat draws too little/],
    ['doubled', { 'load.landing_light': 2 }, 'fault load-excess', /Landing light draws too much/],
  ])('one %s is found and named', (_what, faults, verdict, words) => {
    const flown = fly(faults);
    expect(found(flown)).toBe(verdict);
    expect(flown.result!.words).toMatch(words);
  });

  test('this tail’s own past is the measure, once it is known', () => {
    const own = { pitot_heat: { amps: 2, sd: 0.1 } };
    expect(found(flyCheck(id, 'load-steps', running(id, { habit: { loads: own } })))).toBe('fault load-excess');
  });

  test('a generator off line: nothing can be measured', () => {
    expect(found(fly({ 'e1.gen_fail': 1 }))).toBe('fault off-line');
  });
});

describe.each(TURBINES)('bleed air of %s', (id) => {
  test.each(['anti-ice', 'heater'])('%s costs temperature, and gives it back', (item) => {
    expect(found(flyCheck(id, item, running(id)))).toBe('good');
  });

  test('air that is lost all the time hides the rise', () => {
    const flown = flyCheck(id, 'anti-ice', running(id));
    const leaky = flyCheck(id, 'anti-ice', running(id, { faults: { 'e1.tc_gain': 0.2 } }));
    expect(figure(leaky, typeOf(id).engines.length > 1 ? 'rise-1' : 'rise')!).toBeLessThan(
      figure(flown, typeOf(id).engines.length > 1 ? 'rise-1' : 'rise')!,
    );
    expect(found(leaky)).toBe('fault no-bleed');
  });

  test('a probe that is open is unknown', () => {
    expect(flyCheck(id, 'anti-ice', running(id, { faults: { 'e1.tc_open': 1 } })).result!.verdict).toBe('unknown');
  });
});

describe('bleed valves against what this tail usually shows', () => {
  const usual = { 'anti-ice/rise': { median: 24, least: 22, most: 26 } };

  test('one that opens in part is named', () => {
    const healthy = figure(flyCheck('S7', 'anti-ice', running('S7')), 'rise')!;
    const more = { 'anti-ice/rise': { median: healthy + 8, least: healthy + 6, most: healthy + 10 } };
    expect(found(flyCheck('S7', 'anti-ice', running('S7', { habit: { usual: more } })))).toBe('unusual less-bleed');
    const same = { 'anti-ice/rise': { median: healthy, least: healthy - 1, most: healthy + 1 } };
    expect(found(flyCheck('S7', 'anti-ice', running('S7', { habit: { usual: same } })))).toBe('good');
  });

  test('one that stays half open when it is switched off', () => {
    const options = running('S7', { habit: { usual } });
    const stuck = { control: 'fault.e1.bleed_stuck', to: 0.02, after_s: 56 };
    const flown = flyCheck('S7', 'anti-ice', { ...options, before: [...options.before!, stuck] });
    expect(found(flown)).toBe('fault stuck-open');
  });
});

describe.each(TURBINES)('the hover of %s', (id) => {
  const twin = TWINS.includes(id);
  const loading = typeOf(id).loading as { mtow_kg: number };
  const mass_kg = 0.85 * loading.mtow_kg;
  const situation = { pa_ft: 0, oat_C: 12, bleed: 'none', mass_kg, headwind_kt: 0, hoverOffset_pct: 0 };
  const hover = (faults: Record<string, number> = {}, more: Partial<FlyOptions> = {}, heater = 0): Flown => {
    const options = running(id, { faults, situation, settle_s: 30, ...more });
    return flyCheck(id, 'hover-check', {
      ...options,
      conditions: { running: { coll: 0.5 }, env: { oat_c: 12 }, mass_kg, height_m: 1.52 },
      before: [
        ...options.before!,
        { control: 'bleed_heat', to: heater },
        { control: 'h_ref', to: 1.52 },
        { control: 'coll_mode', to: 'hover' },
      ],
    });
  };
  const near = (value: number): { median: number; least: number; most: number } => ({
    median: value,
    least: value - 3,
    most: value + 3,
  });
  const usual = {
    'hover/between': near(0),
    'hover/temperature': near(30),
    'hover/temperature-1': near(30),
    'hover/temperature-2': near(30),
  };

  test('healthy is good, and its margin is read', () => {
    const flown = hover({}, { habit: { usual } });
    expect(found(flown)).toBe('good');
    expect(figure(flown, twin ? 'temperature-1' : 'temperature')).toBeGreaterThan(20);
  });

  test.each([
    ['a turbine worn by 2 %', { 'e1.turb_eff': 0.98 }],
    ['a compressor worn by 3 %', { 'e1.comp_eff': 0.97 }],
    ['air that leaks away', { 'e1.bleed_stuck': 0.03 }],
  ])('%s is seen', (_what, faults) => {
    expect(found(hover(faults, { habit: { usual } }))).toBe(`unusual ${twin ? 'engine-1-hot' : 'hotter-hover'}`);
  });

  test('a heater left on is told, unless the brief counts on it', () => {
    expect(found(hover({}, {}, 1))).toBe('unusual bleed-on');
    expect(found(hover({}, { situation: { ...situation, bleed: 'heater' } }, 1))).toBe('good');
  });

  test('a heater left on is seen though the frame in which the hover became steady had lost its switch', () => {
    const heater = typeOf(id).channels.findIndex((c) => c.id === 'switch.heater');
    let first = true;
    const spoil = (values: Float64Array): void => {
      if (!first) return;
      first = false;
      values[heater] = NaN;
    };
    expect(found(hover({}, { spoil }, 1))).toBe('unusual bleed-on');
  });

  test('a switch that is not read says nothing of the hover', () => {
    const i = typeOf(id).channels.findIndex((c) => c.id === 'switch.heater');
    expect(found(hover({}, { spoil: (values) => (values[i] = NaN) }))).toBe('good');
  });
});

describe.each(TWINS)('the second engine of %s', (id) => {
  test('each generator carries alone, and they share again', () => {
    expect(found(flyCheck(id, 'generator-split', running(id)))).toBe('good');
  });

  test.each([1, 2])('generator %i off line', (engine) => {
    expect(found(flyCheck(id, 'generator-split', running(id, { faults: { [`e${engine}.gen_fail`]: 1 } })))).toBe('fault off-line'); // oxfmt-ignore
  });

  test('training mode changes nothing on the ground', () => {
    expect(found(flyCheck(id, 'training-mode', running(id)))).toBe('good');
  });
});

describe('the rest', () => {
  test('the low-rotor lamp of C5 lights at its speed', () => {
    const flown = flyCheck('C5', 'low-rotor', running('C5'));
    expect(found(flown)).toBe('good');
    expect(Math.abs(figure(flown, 'light')! - 95)).toBeLessThan(0.6);
  });

  test('oil pressure is judged by its temperature: a weak pump when cold is not hidden by its figure', () => {
    const weak = (values: Float64Array): void => {
      values[typeOf('S7').channels.findIndex((c) => c.id === 'oil.1.pressure')] = 2.4;
      values[typeOf('S7').channels.findIndex((c) => c.id === 'oil.1.temperature')] = 20;
      values[typeOf('S7').channels.findIndex((c) => c.id === 'ng.1')] = 67;
    };
    const flown = flyCheck('S7', 'oil-for-temperature', running('S7', { spoil: weak }));
    expect(found(flown)).toBe('fault low-for-temperature');
  });
});
