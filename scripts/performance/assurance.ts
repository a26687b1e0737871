import type { SimulatorParameters } from '@rouse/core/aircraft';
import { type AssuranceBaseline, correctEngine } from '@rouse/core/power';
import { coldControls, Simulator, TICK_S } from '@rouse/core/simulator';
import { solve } from '@rouse/core/statistics';

/** An engine that just meets its specification: this much worse than new in compressor, its flow, and turbines. */
const WORN = { comp_eff: 0.985, comp_flow: 0.975, turb_eff: 0.985 };
const SETTLE_S = 60;
const MASSES = 9;

/**
 * Referred gas temperature and speed of an engine at the edge of its specification, against referred power: the plant
 * with worn parts in steady hovers from light to heavy on a standard day, fitted by quadratics.
 */
export function assuranceOf(parameters: SimulatorParameters, empty_kg: number, mtow_kg: number): AssuranceBaseline {
  const points = Array.from({ length: MASSES }, (_, i) =>
    hover(parameters, 0.9 * empty_kg + ((1.02 * mtow_kg - 0.9 * empty_kg) * i) / (MASSES - 1)),
  );
  const x = points.map((p) => p.power_ref_pct);
  const round = (list: number[], digits: number[]): number[] => list.map((v, i) => Number(v.toFixed(digits[i])));
  return {
    tot_poly: round(quadratic(x, points.map((p) => p.tot_ref_C)), [2, 4, 6]), // prettier-ignore
    ng_poly: round(quadratic(x, points.map((p) => p.ng_ref_pct)), [3, 5, 7]), // prettier-ignore
    pwr_domain: [Math.ceil(Math.min(...x)), Math.floor(Math.max(...x))],
    tot_exp: 1,
  };
}

function hover(parameters: SimulatorParameters, mass_kg: number): ReturnType<typeof correctEngine> {
  const height_m = 1.5;
  const simulator = new Simulator(parameters, { mass_kg, height_m, running: { coll: 0.5 } }, 1);
  for (const engine of simulator.engines) Object.assign(engine.faults, WORN);
  const controls = coldControls(parameters);
  Object.assign(controls, { battery: 1, boost: 1, flight: 1, coll: 0.5, coll_mode: 'hover', h_ref: height_m });
  for (const lever of controls.engines) Object.assign(lever, { mode: 'FLY', gen: 1, grip: 1 });
  for (let i = 0; i < SETTLE_S / TICK_S; i++) simulator.tick(controls);
  const { ngA_pct, tot_C, tq_pct, np_pct } = simulator.sensors[0]!;
  return correctEngine({ pa_ft: 0, oat_C: 15, ng_pct: ngA_pct, tot_C, torque_pct: tq_pct, n2_pct: np_pct });
}

/** Least-squares quadratic, coefficients ascending. */
function quadratic(x: readonly number[], y: readonly number[]): number[] {
  const power = (k: number): number => x.reduce((sum, v) => sum + v ** k, 0);
  const matrix = [0, 1, 2].map((r) => [0, 1, 2].map((c) => power(r + c)));
  const right = [0, 1, 2].map((r) => x.reduce((sum, v, i) => sum + y[i]! * v ** r, 0));
  return solve(matrix, right)!;
}
