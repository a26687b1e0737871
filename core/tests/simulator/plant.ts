import { isPiston, type PistonParameters, type SimulatorParameters } from '@rouse/core/aircraft';
import { pistonScenarioSchema, runPistonScenario, runScenario, scenarioSchema } from '@rouse/core/simulator';
import { typeOf } from '../fleet.ts';

export function turbineOf(id: string): SimulatorParameters {
  const { simulator } = typeOf(id);
  if (!simulator || isPiston(simulator)) throw new Error(`${id} is no turbine`);
  return simulator;
}

export function pistonOf(id: string): PistonParameters {
  const { simulator } = typeOf(id);
  if (!simulator || !isPiston(simulator)) throw new Error(`${id} is no piston`);
  return simulator;
}

/** Measures outcomes of a turbine that is worked by a scenario. */
export function measureTurbine(
  id: string,
  scenario: { events: object[]; outcomes: object[]; duration_s: number; env?: object; init?: object; running?: object },
): (number | string | null)[] {
  const whole = scenarioSchema.parse({ id: 'test', type: id, ...scenario });
  return runScenario(turbineOf(id), whole).checks.map((c) => c.measured);
}

/** Measures checks of a piston trainer that is worked by a timeline. */
export function measurePiston(
  id: string,
  scenario: {
    timeline: [number, object][];
    checks: object[];
    t_end: number;
    env?: object;
    init?: object;
    faults?: object;
  },
): (number | null)[] {
  const whole = pistonScenarioSchema.parse({ id: 'test', variant: id, ...scenario });
  return runPistonScenario(pistonOf(id), whole).checks.map((c) => c.measured);
}

/** the plant that most single-engine tests run on */
export const skerryPlant = turbineOf('S7');
