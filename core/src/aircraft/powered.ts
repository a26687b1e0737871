import type { PistonAircraft, PoweredAircraft } from '../power/index.ts';
import type { TypeFile } from './type-file.ts';

/** A turbine type as the power calculators take it; null for a piston type, and without a hover model. */
export function poweredOf({ performance, loading, engines }: TypeFile): PoweredAircraft | null {
  const { hover, engine } = performance;
  if (!hover || !engine) return null;
  const { mtow_kg, empty_kg } = loading;
  return { ...hover, engine, engines: engines.length, mtow_kg, empty_kg };
}

/** A piston type as the power calculators take it; null for a turbine type, and without a hover model. */
export function pistonOf({ performance, loading }: TypeFile): PistonAircraft | null {
  const { hover, piston, chart } = performance;
  if (!hover || !piston) return null;
  const { mtow_kg, empty_kg } = loading;
  return { ...hover, mtow_kg, empty_kg, piston, charts: { TOP: chart.TOP, MCP: chart.MCP } };
}
