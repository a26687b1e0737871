import type { TypeFile } from '../aircraft/index.ts';

/**
 * The air that the power charts are read at. Below their lowest pressure altitude their lowest line stands: denser air
 * gives more power and a hover takes less of it. Every other edge is left for the chart to refuse.
 */
export function chartAir<Air extends { pa_ft: number }>(type: TypeFile, air: Air): Air {
  const { TOP, MCP } = type.performance.chart;
  return { ...air, pa_ft: Math.max(air.pa_ft, TOP.pa_ft[0]!, MCP.pa_ft[0]!) };
}
