import { isPiston, type TypeFile } from '../aircraft/index.ts';

/** What the residual temperature will do, and when a start is permitted again. */
export interface ResidualForecast {
  /** °C that the probe will read, by minutes from now */
  curve: { min: number; tot_C: number }[];
  /** the gate of the next start, °C */
  limit_C: number;
  /** minutes until the gate holds, rounded up; 0 when it holds already, null when not within the time looked at */
  startIn_min: number | null;
}

const STEP_S = 10;
const LOOKED_min = 60;
const CURVE_EVERY_min = 5;

/**
 * The residual temperature of a turbine that stands still: hot metal cools to the air and the oil, and the probe sees it.
 * The same two equations as the plant has without flow; the metal is read back from the probe of this moment.
 * @param limit_C what the start gate of the type asks for
 * @returns null for an engine without such a temperature, or while the reading is lost
 * @source docs/physics.md 9
 */
export function forecastResidual(
  type: TypeFile,
  limit_C: number,
  now: { tot_C: number; oat_C: number; oil_C: number },
): ResidualForecast | null {
  const { simulator } = type;
  if (!simulator || isPiston(simulator) || Number.isNaN(now.tot_C) || Number.isNaN(now.oat_C)) return null;
  const { engine: p } = simulator;
  const oil_C = Number.isNaN(now.oil_C) ? now.oat_C : now.oil_C;
  // without flow the probe sees soak_view of what the metal is above the air
  let metal_C = now.oat_C + (now.tot_C - now.oat_C) / p.soak_view;
  const curve: ResidualForecast['curve'] = [];
  let startIn_min: number | null = now.tot_C <= limit_C ? 0 : null;
  for (let t_s = 0; t_s <= LOOKED_min * 60; t_s += STEP_S) {
    const tot_C = now.oat_C + p.soak_view * (metal_C - now.oat_C);
    if (t_s % (CURVE_EVERY_min * 60) === 0) curve.push({ min: t_s / 60, tot_C });
    if (startIn_min === null && tot_C <= limit_C) startIn_min = Math.ceil(t_s / 60);
    const flow_W = p.hot_ua_amb_w_k * (metal_C - now.oat_C) + p.hot_ua_oil_w_k * (metal_C - oil_C);
    metal_C -= (STEP_S * flow_W) / p.hot_cap_j_k;
  }
  return { curve, limit_C, startIn_min };
}
