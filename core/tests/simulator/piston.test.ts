import { expect, test } from 'vitest';
import { isPiston, type PistonParameters } from '@rouse/core/aircraft';
import { pistonScenarioSchema, runPistonScenario } from '@rouse/core/simulator';
import file from '../fixtures/piston-scenarios.json' with { type: 'json' };
import { typeOf } from '../fleet.ts';

const scenarios = (file.scenarios as unknown[]).map((s) => pistonScenarioSchema.parse(s));

function parametersOf(id: string): PistonParameters {
  const { simulator } = typeOf(id);
  if (!simulator || !isPiston(simulator)) throw new Error(`${id} is no piston`);
  return simulator;
}

test.each(scenarios.map((s) => [s.id, String(s['title']), s] as const))('%s: %s', (_id, _title, scenario) => {
  const { checks } = runPistonScenario(parametersOf(scenario.variant), scenario);
  expect(checks.filter((c) => c.ok !== true)).toEqual([]);
  expect(checks.length).toBeGreaterThan(0);
});
