import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { chartCheck, chartLimit, chartLookup, type ChartTable } from '@rouse/core/chart';
import { attempt } from '@rouse/core/quantity';
import { fleet } from '../fleet.ts';

const table: ChartTable = {
  pa_ft: [0, 2000, 6000],
  oat_C: [-20, 0, 30],
  values: [
    [100, 100, 96],
    [100, 98, 90],
    [94, 90, null],
  ],
  display_step: 0.1,
};
const lookup = (pa_ft: number, oat_C: number) => chartLookup(table, pa_ft, oat_C);

describe('a chart', () => {
  test('at its own figures it says them, the last edge too', () => {
    table.pa_ft.forEach((pa, i) =>
      table.oat_C.forEach((t, j) => {
        const value = table.values[i]![j] ?? null;
        const said = attempt(() => lookup(pa, t).value);
        expect(value === null ? said : Number(said) - value).toEqual(
          value === null ? { error: 'CHART_BLANK', field: 'values' } : 0,
        );
      }),
    );
  });

  test('between them it stays between the corners, and its lower bound under it', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 2000, noNaN: true }),
        fc.double({ min: -20, max: 30, noNaN: true }),
        (pa, t) => {
          const { value, lower_bound } = lookup(pa, t);
          expect(value).toBeGreaterThanOrEqual(lower_bound - 1e-9);
          expect(value).toBeLessThanOrEqual(100 + 1e-9);
          expect(lower_bound).toBeGreaterThanOrEqual(90);
        },
      ),
    );
  });

  test('higher or warmer never gives more', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 1900, noNaN: true }),
        fc.double({ min: -20, max: 29, noNaN: true }),
        fc.double({ min: 0, max: 100, noNaN: true }),
        (pa, t, more) => {
          expect(lookup(pa + more, t).value).toBeLessThanOrEqual(lookup(pa, t).value + 1e-9);
          expect(lookup(pa, t + more / 100).value).toBeLessThanOrEqual(lookup(pa, t).value + 1e-9);
        },
      ),
    );
  });

  test('outside it nothing is said, and the axis is named', () => {
    expect(attempt(() => lookup(6001, 0))).toEqual({ error: 'OUT_OF_CHART', field: 'pa_ft' });
    expect(attempt(() => lookup(-1, 0))).toEqual({ error: 'OUT_OF_CHART', field: 'pa_ft' });
    expect(attempt(() => lookup(0, 30.01))).toEqual({ error: 'OUT_OF_CHART', field: 'oat_C' });
    expect(attempt(() => lookup(0, -21))).toEqual({ error: 'OUT_OF_CHART', field: 'oat_C' });
    expect(attempt(() => lookup(5000, 20))).toMatchObject({ error: 'CHART_BLANK' });
  });

  test('a blank corner without weight does not matter', () => {
    expect(lookup(6000, 0).value).toBeCloseTo(90, 9);
    expect(lookup(2000, 30).value).toBeCloseTo(90, 9);
  });
});

describe('the audit', () => {
  const issues = (values: (number | null)[][], rest: Partial<ChartTable> = {}): string[] =>
    chartCheck({ ...table, values, ...rest }).issues.map((i) => i.code);

  test('a sound table has no issue', () => {
    expect(chartCheck(table)).toEqual({ ok: true, issues: [] });
  });

  test.each([
    [
      'NOT_POSITIVE',
      [
        [100, 100, 0],
        [100, 98, null],
        [94, 90, null],
      ],
    ],
    [
      'RISES_WITH_ALTITUDE',
      [
        [100, 100, 96],
        [100, 98, 97],
        [94, 90, null],
      ],
    ],
    [
      'RISES_WITH_OAT',
      [
        [100, 101, 96],
        [100, 98, 90],
        [94, 90, null],
      ],
    ],
    [
      'HOLE',
      [
        [100, 100, 96],
        [100, null, 90],
        [94, null, null],
      ],
    ],
  ] as [string, (number | null)[][]][])('%s is found', (code, values) => {
    expect(issues(values)).toContain(code);
  });

  test('a torn table is refused whole', () => {
    const torn = [{ oat_C: [-20, 0] }, { pa_ft: [0, 0, 6000] }, { pa_ft: [0] }, { oat_C: [30, 0, -20] }];
    for (const rest of torn)
      expect(attempt(() => chartCheck({ ...table, ...rest }))).toMatchObject({ error: 'BAD_TABLE' });
    expect(attempt(() => chartCheck(undefined))).toMatchObject({ error: 'BAD_TABLE' });
  });

  test('every shipped chart passes', () => {
    for (const { performance } of fleet)
      for (const rating of ['TOP', 'MCP'] as const) {
        const options = { manifoldPressure: performance.piston !== undefined };
        expect(chartCheck(performance.chart[rating], options).issues).toEqual([]);
      }
  });
});

describe('the limit of a rating', () => {
  const at = { pa_ft: 1000, oat_C: 10 };

  test('continuous is never above take-off', () => {
    const tables = { TOP: table, MCP: { ...table, values: table.values.map((r) => r.map((v) => v && v + 4)) } };
    const top = chartLimit({ rating: 'TOP', ...at, tables });
    const continuous = chartLimit({ rating: 'MCP', ...at, tables });
    expect(continuous.limit).toBe(top.limit);
    expect(continuous.warnings).toContain('CONTINUOUS_ABOVE_TAKEOFF');
  });

  test('an offset from take-off may lower it and not raise it', () => {
    const tables = { TOP: table };
    const lower = chartLimit({ rating: 'MCP', ...at, tables, mcp_offset: { mode: 'add', value: -10 } });
    expect(lower.limit).toBeCloseTo(chartLimit({ rating: 'TOP', ...at, tables }).limit - 10, 9);
    expect(
      attempt(() => chartLimit({ rating: 'MCP', ...at, tables, mcp_offset: { mode: 'add', value: 5 } })),
    ).toMatchObject({
      error: 'OUT_OF_RANGE',
    });
    expect(attempt(() => chartLimit({ rating: 'MCP', ...at, tables }))).toMatchObject({ error: 'BAD_TABLE' });
  });

  test('what is shown is rounded down', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 2000, noNaN: true }),
        fc.double({ min: -20, max: 30, noNaN: true }),
        (pa_ft, oat_C) => {
          const { limit, display } = chartLimit({ rating: 'TOP', pa_ft, oat_C, tables: { TOP: table } });
          expect(display.limit).toBeLessThanOrEqual(limit + 1e-9);
          expect(limit - display.limit).toBeLessThan(0.1001);
        },
      ),
    );
  });
});
