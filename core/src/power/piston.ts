import { z } from 'zod';
import { type ChartTable, chartLookup } from '../chart/index.ts';
import { needNumber, Refused, roundStep } from '../quantity/index.ts';
import { greatestMass } from './capability.ts';
import { type GroundEffectModel, type Height, hoverCondition, needMass, requiredPower } from './hover-power.ts';
import type { Air, HoverModel } from './model.ts';

/** Powers that the two manifold pressure charts stand for, and what the throttle wide open gives. */
export const pistonPowerSchema = z.object({
  TOP_kW: z.number().positive(),
  MCP_kW: z.number().positive(),
  /** [pressure altitude ft, manifold pressure inHg] with the throttle wide open, rising altitudes */
  full_throttle: z.array(z.tuple([z.number(), z.number()])).min(2),
});
export type PistonPower = z.infer<typeof pistonPowerSchema>;

export interface PistonAircraft extends HoverModel {
  mtow_kg: number;
  empty_kg: number;
  piston: PistonPower;
  charts: { TOP: ChartTable; MCP: ChartTable };
}

/** Manifold pressure with the throttle wide open. @throws Refused OUT_OF_CHART */
export function fullThrottle_inHg(power: PistonPower, pa_ft: number): number {
  const table = power.full_throttle;
  const last = table[table.length - 1]!;
  needNumber(pa_ft, 'pa_ft');
  if (pa_ft < table[0]![0] || pa_ft > last[0]) throw new Refused('OUT_OF_CHART', 'pa_ft');
  const i = Math.max(
    1,
    table.findIndex(([pa]) => pa >= pa_ft),
  );
  const [a, b] = [table[i - 1]!, table[i]!];
  return a[1] + ((pa_ft - a[0]) / (b[0] - a[0])) * (b[1] - a[1]);
}

/** Manifold pressure that a shaft power takes at 100 % speed: the straight line through the two charts. */
function manifoldPressureFor(aircraft: PistonAircraft, air: Air, shaft_kW: number): number {
  const { TOP_kW, MCP_kW } = aircraft.piston;
  const top = chartLookup(aircraft.charts.TOP, air.pa_ft, air.oat_C).value;
  const continuous = chartLookup(aircraft.charts.MCP, air.pa_ft, air.oat_C).value;
  return continuous + ((shaft_kW - MCP_kW) * (top - continuous)) / (TOP_kW - MCP_kW);
}

export interface PistonHover {
  required_inHg: number;
  available_inHg: number;
  limiter: 'CHART' | 'FULL_THROTTLE';
  margin_inHg: number;
  can_hover: boolean;
  display: { required_inHg: number; margin_inHg: number };
}

/** Manifold pressure of a hover against the take-off limit and the wide open throttle. Conservative ground effect. */
export function pistonHover(
  aircraft: PistonAircraft,
  input: Air & Height & { mass_kg: number; ge_model?: GroundEffectModel | undefined },
): PistonHover {
  const mass = needMass(aircraft, input.mass_kg);
  const at = hoverCondition(aircraft, input, input, 'conservative');
  const required_inHg = manifoldPressureFor(aircraft, input, requiredPower(aircraft, mass, at).P_shaft_kW);
  const chart = chartLookup(aircraft.charts.TOP, input.pa_ft, input.oat_C).value;
  const open = fullThrottle_inHg(aircraft.piston, input.pa_ft);
  const available_inHg = Math.min(chart, open);
  const margin_inHg = available_inHg - required_inHg;
  return {
    required_inHg,
    available_inHg,
    limiter: chart <= open ? 'CHART' : 'FULL_THROTTLE',
    margin_inHg,
    can_hover: margin_inHg >= 0,
    display: {
      required_inHg: roundStep(required_inHg, 0.1, 'ceil'),
      margin_inHg: roundStep(margin_inHg, 0.1, 'floor'),
    },
  };
}

/** The greatest mass that the limit holds in the hover; what it takes rises with mass. @throws Refused NO_SOLUTION, OUT_OF_CHART */
export function pistonMass(aircraft: PistonAircraft, input: Air & Height): number {
  const at = hoverCondition(aircraft, input, input, 'conservative');
  const chart = chartLookup(aircraft.charts.TOP, input.pa_ft, input.oat_C).value;
  const available_inHg = Math.min(chart, fullThrottle_inHg(aircraft.piston, input.pa_ft));
  return greatestMass(
    aircraft.mtow_kg,
    (mass) => manifoldPressureFor(aircraft, input, requiredPower(aircraft, mass, at).P_shaft_kW) <= available_inHg,
  );
}
