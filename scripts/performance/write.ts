import { writeFileSync } from 'node:fs';
import path from 'node:path';
import { Document, isCollection, visit } from 'yaml';

interface Chart {
  pa_ft: readonly number[];
  oat_C: readonly number[];
  values: readonly (readonly (number | null)[])[];
  display_step: number;
}

/** What scripts/fit-performance.mjs computes for a type. */
export interface Performance {
  chart: { quantity: string; unit: string; edition: number; TOP: Chart; MCP: Chart };
  [part: string]: unknown;
}

const ABOUT = {
  top: 'Take-off power: outside air in °C across, pressure altitude in ft down. Empty: outside of the chart.',
  mcp: 'Maximum continuous power, as the take-off chart.',
};

/** Writes performance.yaml and the charts of a type's folder. */
export function writePerformance(dir: string, { chart, ...others }: Performance): void {
  const { TOP, MCP, ...about } = chart;
  const document = new Document({ chart: { ...about, display_step: TOP.display_step }, ...others });
  document.commentBefore = ' Hover model and engine, made by scripts/fit-performance.mjs; the charts stand in charts/.';
  // figures stand side by side, parts one below the other
  visit(document, {
    Collection: (_, node, way) => {
      if (way.length > 2 && node.items.every((i) => !isCollection((i as { value?: unknown }).value))) node.flow = true;
    },
  });
  writeFileSync(path.join(dir, 'performance.yaml'), document.toString({ lineWidth: 128 }));
  for (const [name, table] of [
    ['top', TOP],
    ['mcp', MCP],
  ] as const)
    // oxfmt-ignore
    writeFileSync(path.join(dir, 'charts', `${name}.csv`), tableOf(table, ABOUT[name]));
}

function tableOf({ pa_ft, oat_C, values }: Chart, about: string): string {
  const rows = pa_ft.map((altitude, i) => [altitude, ...values[i]!.map((v) => v ?? '')]);
  return [`# ${about}`, ['ft', ...oat_C], ...rows].map((row) => (typeof row === 'string' ? row : row.join(','))).join('\n') + '\n'; // oxfmt-ignore
}
