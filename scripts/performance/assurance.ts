import type { SimulatorParameters } from '@rouse/core/aircraft';
import { airRatios, K0 } from '@rouse/core/atmosphere';
import { type AssuranceBaseline, correctEngine } from '@rouse/core/power';
import { coldControls, Simulator, TICK_S } from '@rouse/core/simulator';
import { solve } from '@rouse/core/statistics';

/** An engine that just meets its specification: this much worse than new in compressor, its flow, and turbines. */
const WORN = { comp_eff: 0.985, comp_flow: 0.975, turb_eff: 0.985 };
const SETTLE_S = 60;
const MASSES = 11;
const STANDARD_C = 15;
/** Air at which the exponents of the temperature ratio are fitted. */
const OTHER_AIR_C = [-30, -15, 0, 30, 42];

/**
 * Referred gas temperature and speed of an engine at the edge of its specification, against referred power: the plant
 * with worn parts in steady hovers from light to heavy on a standard day, fitted by quadratics; and the exponents by which
 * a hover in other air falls onto them.
 */
export function assuranceOf(parameters: SimulatorParameters, empty_kg: number, mtow_kg: number): AssuranceBaseline {
  const masses = Array.from(
    { length: MASSES },
    (_, i) => 0.9 * empty_kg + ((1.12 * mtow_kg - 0.9 * empty_kg) * i) / (MASSES - 1),
  );
  const points = masses.map((mass_kg) => hover(parameters, mass_kg));
  const x = points.map((p) => p.power_ref_pct);
  const round = (list: number[], digits: number[]): number[] => list.map((v, i) => Number(v.toFixed(digits[i])));
  const tot_poly = round(quadratic(x, points.map((p) => p.tot_ref_C)), [2, 4, 6]); // oxfmt-ignore
  const ng_poly = round(quadratic(x, points.map((p) => p.ng_ref_pct)), [3, 5, 7]); // oxfmt-ignore
  const others = OTHER_AIR_C.flatMap((oat_C) =>
    [0.75, 0.9].map((share) => ({ oat_C, ...hover(parameters, share * mtow_kg, oat_C) })),
  );
  const at = (poly: readonly number[], power: number): number => poly.reduceRight((sum, c) => sum * power + c, 0);
  const exponent = (ratio: (p: (typeof others)[number]) => number): number => {
    const logs = others.map((p) => ({
      x: Math.log(airRatios({ pa_ft: 0, oat_C: p.oat_C }).theta),
      y: Math.log(ratio(p)),
    }));
    return Number((logs.reduce((s, l) => s + l.x * l.y, 0) / logs.reduce((s, l) => s + l.x * l.x, 0)).toFixed(3));
  };
  const domain: [number, number] = [Math.ceil(Math.min(...x)), Math.floor(Math.max(...x))];
  const fresh = points.map((_, i) => hover(parameters, masses[i]!, STANDARD_C, {}));
  const most = (of: (p: (typeof fresh)[number]) => number): number => Math.max(...fresh.map(of));
  return {
    tot_poly,
    ng_poly,
    pwr_domain: domain,
    tot_exp: exponent((p) => (p.tot_C + K0) / (at(tot_poly, p.power_ref_pct) + K0)),
    ng_exp: exponent((p) => p.ng_pct / at(ng_poly, p.power_ref_pct)),
    fresh: {
      tot_margin_C: Number(most((p) => at(tot_poly, p.power_ref_pct) - p.tot_ref_C).toFixed(1)),
      ng_margin_pct: Number(most((p) => at(ng_poly, p.power_ref_pct) - p.ng_ref_pct).toFixed(2)),
    },
  };
}

function hover(
  parameters: SimulatorParameters,
  mass_kg: number,
  oat_C = STANDARD_C,
  faults: Partial<typeof WORN> = WORN,
): ReturnType<typeof correctEngine> & { tot_C: number; ng_pct: number } {
  const height_m = 1.5;
  const simulator = new Simulator(parameters, { mass_kg, height_m, running: { coll: 0.5 }, env: { oat_c: oat_C } }, 1);
  for (const engine of simulator.engines) Object.assign(engine.faults, faults);
  const controls = coldControls(parameters);
  Object.assign(controls, { battery: 1, boost: 1, flight: 1, coll: 0.5, coll_mode: 'hover', h_ref: height_m });
  for (const lever of controls.engines) Object.assign(lever, { mode: 'FLY', gen: 1, grip: 1 });
  for (let i = 0; i < SETTLE_S / TICK_S; i++) simulator.tick(controls);
  const { ngA_pct, tot_C, tq_pct, np_pct } = simulator.sensors[0]!;
  const referred = correctEngine({ pa_ft: 0, oat_C, ng_pct: ngA_pct, tot_C, torque_pct: tq_pct, n2_pct: np_pct });
  return { ...referred, tot_C, ng_pct: ngA_pct };
}

/** Least-squares quadratic, coefficients ascending. */
function quadratic(x: readonly number[], y: readonly number[]): number[] {
  const power = (k: number): number => x.reduce((sum, v) => sum + v ** k, 0);
  const matrix = [0, 1, 2].map((r) => [0, 1, 2].map((c) => power(r + c)));
  const right = [0, 1, 2].map((r) => x.reduce((sum, v, i) => sum + y[i]! * v ** r, 0));
  return solve(matrix, right)!;
}
