import { expect, test } from 'vitest';
import { runScenario, scenarioSchema } from '@rouse/core/simulator';
import file from '../fixtures/turbine-scenarios.json' with { type: 'json' };
import { turbineOf, skerryPlant } from './plant.ts';

const scenarios = (file.scenarios as unknown[]).map((s) => scenarioSchema.parse(s));
const ofSkerry = scenarios.find((s) => s.type === 'S7')!;

test.each(scenarios.map((s) => [s.id, String(s['title']), s] as const))('%s: %s', (_id, _title, scenario) => {
  const { checks } = runScenario(turbineOf(scenario.type), scenario);
  expect(checks.filter((c) => c.ok !== true)).toEqual([]);
  expect(checks.length).toBeGreaterThan(0);
});

test('an unknown signal or input is named, not ignored', () => {
  const base = ofSkerry;
  expect(() => runScenario(skerryPlant, { ...base, events: [{ t: 0, set: { 'e1.throttle': 1 } }] })).toThrow(
    /e1\.throttle/,
  );
  expect(() => runScenario(skerryPlant, { ...base, outcomes: [{ fn: 'max', sig: 'e1.egt' }] })).toThrow(/e1\.egt/);
});

test('an outcome without an expected value is measured and not judged', () => {
  const { checks } = runScenario(skerryPlant, { ...ofSkerry, outcomes: [{ fn: 'max', sig: 'e1.tot' }] });
  expect(checks[0]!.ok).toBeNull();
  expect(checks[0]!.measured).toBeGreaterThan(600);
});

test('a test pilot holds the hover, and lets the rotor have its speed when asked', () => {
  const hover = scenarioSchema.parse({
    id: 'hover',
    type: 'S7',
    running: { coll: 0.5 },
    init: { height_m: 20 },
    duration_s: 60,
    events: [{ t: 0, set: { coll_mode: 'hover', flight: 1, rating: 'AUTO', 'load.base_bus': 1 } }],
    outcomes: [
      { fn: 'end', sig: 'h' },
      { fn: 'end', sig: 'nr' },
      { fn: 'end', sig: 'e1.tq' },
      { fn: 'final', sig: 'e1.mode' },
    ],
  });
  const [h, nr, tq, mode] = runScenario(skerryPlant, hover).checks.map((c) => c.measured);
  expect(h).toBeCloseTo(20, 0);
  expect(nr).toBeCloseTo(100, 0);
  expect(tq).toBeGreaterThan(50);
  expect(tq).toBeLessThan(100);
  expect(mode).toBe('RUN');
  const failing = {
    ...hover,
    events: [...hover.events, { t: 40, set: { 'fault.e1.fuel_cut': 1, coll_mode: 'hover_nr', nr_min: 0.9 } }],
  };
  const [low] = runScenario(skerryPlant, { ...failing, outcomes: [{ fn: 'at', sig: 'h', t: 44 }] }).checks;
  expect(low!.measured).toBeLessThan(19);
  expect(() => runScenario(skerryPlant, { ...hover, events: [{ t: 0, set: { coll_mode: 'loop' } }] })).toThrow(/loop/);
});
