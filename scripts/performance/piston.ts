// Charts of docs/physics.md, piston power, and a hover model fitted to the measured manifold pressures.
import type { PistonAircraft } from '../../core/src/power/index.ts';
import { pistonHover } from '../../core/src/power/index.ts';
import { fit } from './fit.ts';

const OAT_C = [-20, -10, 0, 10, 20, 30, 40];
const PA_FT = [0, 2000, 4000, 6000, 8000, 10_000];
const TOP = [
  [24.4, 25.1, 25.8, 26.5, 27.2, 27.9, 28.6],
  [24.1, 24.8, 25.5, 26.2, 26.9, 27.7, 28.4],
  [23.8, 24.5, 25.3, 26.0, 26.8, 27.6, 28.4],
  [23.6, 24.3, 25.1, 25.9, 26.7, 27.5, 28.4],
  [23.5, 24.3, 25.1, 25.9, 26.7, 27.6, 28.4],
  [23.5, 24.3, 25.1, 25.9, 26.8, 27.6, 28.5],
];
const MCP = [
  [22.9, 23.6, 24.2, 24.9, 25.6, 26.2, 26.9],
  [22.6, 23.3, 24.0, 24.6, 25.3, 25.9, 26.6],
  [22.4, 23.0, 23.7, 24.4, 25.0, 25.7, 26.4],
  [22.1, 22.8, 23.5, 24.2, 24.9, 25.7, 26.4],
  [21.9, 22.6, 23.4, 24.1, 24.9, 25.7, 26.4],
  [21.9, 22.6, 23.4, 24.1, 24.9, 25.7, 26.5],
];
const FULL_THROTTLE: [number, number][] = [
  [0, 29.0],
  [2000, 26.9],
  [4000, 25.0],
  [6000, 23.2],
  [8000, 21.5],
  [10_000, 19.9],
];
/** Measured hovers: mass kg, density altitude ft, manifold pressure on the skids and out of ground effect, inHg. */
export const HOVERS: [number, number, number, number][] = [
  [500, 0, 20.2, 21.3],
  [500, 2000, 19.7, 20.8],
  [500, 4000, 19.3, 20.4],
  [500, 6000, 18.9, 20.0],
  [500, 8000, 18.6, 19.8],
  [560, 0, 21.6, 22.9],
  [560, 2000, 21.2, 22.5],
  [560, 4000, 20.8, 22.1],
  [560, 6000, 20.5, 21.8],
  [560, 8000, 20.2, 21.6],
  [620, 0, 23.2, 24.6],
  [620, 2000, 22.8, 24.2],
  [620, 4000, 22.4, 23.9],
  [620, 6000, 22.1, 23.7],
  [620, 8000, 21.9, 23.6],
  [660, 0, 24.2, 25.8],
  [660, 2000, 23.8, 25.5],
  [660, 4000, 23.5, 25.2],
  [660, 6000, 23.3, 25.1],
  [660, 8000, 23.2, 25.0],
];

export function pistonPerformance(mtow_kg: number, empty_kg: number, say: (line: string) => void): object {
  const table = (values: number[][]): PistonAircraft['charts']['TOP'] => ({
    pa_ft: PA_FT,
    oat_C: OAT_C,
    values,
    display_step: 0.1,
  });
  const piston = { TOP_kW: 102, MCP_kW: 93, full_throttle: FULL_THROTTLE };
  const short = (v: number): number => Number(v.toPrecision(5));
  const model = (p: readonly number[]): PistonAircraft => ({
    main: {
      R_m: 3.9,
      nb: 2,
      chord_m: 0.19,
      vtip_mps: 202.26,
      cd0: p[1]!,
      kappa: p[0]!,
      ct_sigma_max: 0.125,
      hub_above_skid_m: 2.4,
    },
    tail: { R_m: 0.54, nb: 2, chord_m: 0.1, vtip_mps: 190, cd0: 0.012, kappa: p[2]!, arm_m: 4.6, blockage: 0.05 },
    download: 0,
    eta: 0.97,
    accessory_kW: p[3]!,
    flatplate_m2: 0.55,
    vy_kt: 53,
    vtoss_kt: 40,
    mtow_kg,
    empty_kg,
    piston,
    charts: { TOP: table(TOP), MCP: table(MCP) },
  });
  const off = (aircraft: PistonAircraft, [m, da]: [number, number, number, number], oge: number): number =>
    pistonHover(aircraft, { mass_kg: m, pa_ft: da, oat_C: 15 - 0.0019812 * da }).required_inHg - oge;
  const fitted = HOVERS.filter((_, i) => i % 2 === 0);
  const p = fit([1.15, 0.0105, 1.25, 2], (q) => {
    const aircraft = model(q);
    return [...fitted.map((h) => off(aircraft, h, h[3])), 0.1 * (q[2]! - 1.25), 0.05 * (q[3]! - 2)];
  });
  const aircraft = model(p.map(short));
  const worst = Math.max(...HOVERS.map((h) => Math.abs(off(aircraft, h, h[3]))));
  say(`  hover: within ${worst.toFixed(2)} inHg of ${HOVERS.length} measured hovers out of ground effect`);
  const { main, tail, download, eta, accessory_kW, flatplate_m2, vy_kt, vtoss_kt, charts } = aircraft;
  return {
    chart: { quantity: 'Manifold pressure', unit: 'inHg', edition: 1, ...charts },
    hover: { main, tail, download, eta, accessory_kW, flatplate_m2, vy_kt, vtoss_kt },
    piston,
  };
}
