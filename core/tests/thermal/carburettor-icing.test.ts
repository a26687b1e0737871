import { needWatched } from '@rouse/core/aircraft';
import { SimulatedCockpit } from '@rouse/core/simulator';
import { carburettorIcing } from '@rouse/core/thermal';
import { expect, test } from 'vitest';
import { RUNNING, warm } from '../checks/fly-check.ts';
import { typeOf } from '../fleet.ts';

const COOLING_K = 22;
/** ice that is felt, g in five minutes */
const FELT_G = 1;

/** Ice that grows in five minutes at the warm-up speed, by the equations. */
function grown_g(oat: number, dew: number): number {
  const cockpit = new SimulatedCockpit(needWatched(typeOf('T2')), { env: { oat, dew }, init: warm(0.62) }, [], 1);
  for (const move of [...RUNNING, { control: 'pilotN', to: 0.62 }]) cockpit.move(move);
  for (let k = 0; k < 300 * 50; k++) cockpit.tick();
  return Number(cockpit.simulation.signal('ice'));
}

test.each([
  [8, 6],
  [12, 10],
  [20, 18],
  [28, 24],
  [15, 0],
  [15, -10],
  [-5, -7],
])('at %i °C and a dew point of %i the rule says what the equations grow', (oat, dew) => {
  expect(carburettorIcing(oat, dew, COOLING_K).expected).toBe(grown_g(oat, dew) > FELT_G);
});

test('air that is not known counts as icing', () => {
  expect(carburettorIcing(null, 5, COOLING_K).expected).toBe(true);
  expect(carburettorIcing(10, null, COOLING_K).words).toMatch(/not known/);
});
