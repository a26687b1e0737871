import { needNumber, needOption, Refused, roundStep } from '../quantity/index.ts';
import { chartLookup, type ChartTable } from './table.ts';

/** Continuous power made from take-off power where a type has no table of its own. */
export interface ContinuousOffset {
  mode: 'add' | 'factor';
  value: number;
  cap?: number;
}

export interface ChartLimit {
  limit: number;
  source: 'table' | 'offset';
  takeoff: number;
  warnings: 'CONTINUOUS_ABOVE_TAKEOFF'[];
  display: { limit: number };
}

/**
 * The power limit of today for take-off (TOP) or continuous power (MCP, never above take-off).
 * @throws Refused as chartLookup; BAD_TABLE without a source for MCP; OUT_OF_RANGE for an offset that adds power
 */
export function chartLimit(input: {
  rating: string;
  pa_ft: number;
  oat_C: number;
  tables: Partial<Record<'TOP' | 'MCP', ChartTable>>;
  mcp_offset?: ContinuousOffset | null | undefined;
}): ChartLimit {
  const rating = needOption(input.rating, ['TOP', 'MCP'], 'rating', 'UNKNOWN_RATING');
  const { pa_ft, oat_C, tables, mcp_offset } = input;
  const takeoff = chartLookup(tables.TOP, pa_ft, oat_C).value;
  const step = tables.TOP?.display_step ?? 0.1;
  const answer = (limit: number, source: 'table' | 'offset', warnings: ChartLimit['warnings']): ChartLimit => ({
    limit,
    source,
    takeoff,
    warnings,
    display: { limit: roundStep(limit, step, 'floor') },
  });
  if (rating === 'TOP') return answer(takeoff, 'table', []);
  if (mcp_offset) return answer(Math.min(offsetFrom(takeoff, mcp_offset), takeoff), 'offset', []);
  if (!tables.MCP) throw new Refused('BAD_TABLE', 'mcp_offset');
  const continuous = chartLookup(tables.MCP, pa_ft, oat_C).value;
  return continuous > takeoff
    ? answer(takeoff, 'table', ['CONTINUOUS_ABOVE_TAKEOFF'])
    : answer(continuous, 'table', []);
}

function offsetFrom(takeoff: number, offset: ContinuousOffset): number {
  const mode = needOption(offset.mode, ['add', 'factor'], 'mcp_offset');
  const value =
    mode === 'add'
      ? takeoff + needNumber(offset.value, 'mcp_offset', -Infinity, 0)
      : takeoff * needNumber(offset.value, 'mcp_offset', 0, 1);
  return Math.min(value, offset.cap ?? Infinity);
}
