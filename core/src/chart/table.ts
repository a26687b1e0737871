import { z } from 'zod';
import { needNumber, Refused, roundStep } from '../quantity/index.ts';

/** A limit by pressure altitude (rows) and outside air temperature (columns); null is not permitted. */
export const chartTableSchema = z.object({
  pa_ft: z.array(z.number()),
  oat_C: z.array(z.number()),
  values: z.array(z.array(z.number().nullable())),
  /** what one step on the page is worth; the figure is floored to it */
  display_step: z.number().positive().optional(),
});
export type ChartTable = z.infer<typeof chartTableSchema>;

export interface ChartValue {
  value: number;
  /** the smallest corner used: a bound when the table falls in both directions */
  lower_bound: number;
  cell: [number, number];
  frac: [number, number];
  display: { value: number };
}

/** @throws Refused BAD_TABLE when the axes do not rise or a row is short */
function refuseBadTable(table: ChartTable | undefined): asserts table is ChartTable {
  const axis = (values: unknown): boolean =>
    Array.isArray(values) &&
    values.length >= 2 &&
    values.every((v, i) => typeof v === 'number' && (i === 0 || v > values[i - 1]));
  if (!table || !axis(table.pa_ft)) throw new Refused('BAD_TABLE', 'pa_ft');
  if (!axis(table.oat_C)) throw new Refused('BAD_TABLE', 'oat_C');
  const rows = table.values;
  if (rows?.length !== table.pa_ft.length || rows.some((row) => row.length !== table.oat_C.length))
    throw new Refused('BAD_TABLE', 'values');
}

function cellOf(axis: readonly number[], x: number, field: string): [number, number] {
  const last = axis.length - 1;
  if (x < axis[0]! || x > axis[last]!) throw new Refused('OUT_OF_CHART', field);
  let i = 0;
  while (i < last - 1 && x >= axis[i + 1]!) i++;
  return [i, (x - axis[i]!) / (axis[i + 1]! - axis[i]!)];
}

/** Steps of a figure from a chart when the table names none. */
const DISPLAY_STEP = 0.1;

/**
 * Bilinear, never outside the table.
 * @throws Refused OUT_OF_CHART with the axis, CHART_BLANK when a corner with weight is not permitted, BAD_TABLE
 */
export function chartLookup(table: ChartTable | undefined, pa_ft: number, oat_C: number): ChartValue {
  refuseBadTable(table);
  const [i, u] = cellOf(table.pa_ft, needNumber(pa_ft, 'pa_ft'), 'pa_ft');
  const [j, w] = cellOf(table.oat_C, needNumber(oat_C, 'oat_C'), 'oat_C');
  let value = 0;
  let lower_bound = Infinity;
  for (const [di, dj, weight] of [
    [0, 0, (1 - u) * (1 - w)],
    [0, 1, (1 - u) * w],
    [1, 0, u * (1 - w)],
    [1, 1, u * w],
  ] as const) {
    if (weight === 0) continue;
    const corner = table.values[i + di]![j + dj];
    if (corner === null || corner === undefined) throw new Refused('CHART_BLANK', 'values');
    value += weight * corner;
    lower_bound = Math.min(lower_bound, corner);
  }
  const step = table.display_step ?? DISPLAY_STEP;
  return { value, lower_bound, cell: [i, j], frac: [u, w], display: { value: roundStep(value, step, 'floor') } };
}

export type ChartIssueCode = 'NOT_POSITIVE' | 'RISES_WITH_ALTITUDE' | 'RISES_WITH_OAT' | 'HOLE' | 'BLANK_BELOW_VALUE';

export interface ChartIssue {
  code: ChartIssueCode;
  i: number;
  j: number;
}

/**
 * The audit of a power table at load: it may only fall with height and heat, and a blank stays blank beyond.
 * @param options.manifoldPressure such a limit rises with temperature, and high up a little with altitude, by nature
 * @throws Refused BAD_TABLE
 */
export function chartCheck(
  table: ChartTable | undefined,
  options: { manifoldPressure?: boolean } = {},
): { ok: boolean; issues: ChartIssue[] } {
  refuseBadTable(table);
  const issues: ChartIssue[] = [];
  const at = (i: number, j: number): number | null => table.values[i]?.[j] ?? null;
  for (let i = 0; i < table.pa_ft.length; i++)
    for (let j = 0; j < table.oat_C.length; j++) {
      const value = at(i, j);
      if (value === null) continue;
      const below = i > 0 ? at(i - 1, j) : value;
      const cooler = j > 0 ? at(i, j - 1) : value;
      const add = (code: ChartIssueCode): number => issues.push({ code, i, j });
      if (value <= 0) add('NOT_POSITIVE');
      if (below !== null && value > below && !options.manifoldPressure) add('RISES_WITH_ALTITUDE');
      if (cooler !== null && value > cooler && !options.manifoldPressure) add('RISES_WITH_OAT');
      if (table.values[i]!.slice(0, j).includes(null)) add('HOLE');
      if (below === null) add('BLANK_BELOW_VALUE');
    }
  return { ok: issues.length === 0, issues };
}
