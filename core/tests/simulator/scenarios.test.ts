import { expect, test } from 'vitest';
import { runScenario, scenarioSchema } from '@rouse/core/simulator';
import file from '../fixtures/skerry-scenarios.json' with { type: 'json' };
import { skerry } from '../skerry.ts';

const scenarios = file.scenarios.map((s) => scenarioSchema.parse(s));

test.each(scenarios.map((s) => [s.id, String(s['title']), s] as const))('%s: %s', (_id, _title, scenario) => {
  const { checks } = runScenario(skerry.simulator, scenario);
  expect(checks.filter((c) => c.ok !== true)).toEqual([]);
  expect(checks.length).toBeGreaterThan(0);
});

test('an unknown signal or input is named, not ignored', () => {
  const base = scenarios[0]!;
  expect(() => runScenario(skerry.simulator, { ...base, events: [{ t: 0, set: { 'e1.throttle': 1 } }] })).toThrow(
    /e1\.throttle/,
  );
  expect(() => runScenario(skerry.simulator, { ...base, outcomes: [{ fn: 'max', sig: 'e1.egt' }] })).toThrow(/e1\.egt/);
});

test('an outcome without an expected value is measured and not judged', () => {
  const { checks } = runScenario(skerry.simulator, { ...scenarios[0]!, outcomes: [{ fn: 'max', sig: 'e1.tot' }] });
  expect(checks[0]!.ok).toBeNull();
  expect(checks[0]!.measured).toBeGreaterThan(600);
});
