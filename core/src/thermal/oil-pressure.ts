import { needNumber, numberOr, Refused } from '../quantity/index.ts';
import { oilViscosity } from './battery.ts';
import type { OilModel } from './model.ts';
import { solve } from '../statistics/index.ts';

/** ln p = a + b·ln ν + c·ln(Ng/100), with the scatter s of n rows. */
export interface OilPressureModel {
  a: number;
  b: number;
  c: number;
  s: number;
  n: number;
}

const BELOW_RELIEF = 0.97;
const FEWEST = 8;

/** Learns oil pressure against temperature and speed where the relief valve is shut. @throws INSUFFICIENT_DATA, NO_SPREAD */
export function oilPressureLearn(oil: OilModel, rows: [number, number, number][]): OilPressureModel {
  if (!Array.isArray(rows)) throw new Refused('MISSING', 'rows');
  const used = rows
    .map(([temp_C, ng_pct, p_bar]) => ({
      x: [1, Math.log(oilViscosity(oil, temp_C, 'rows').nu_cSt), Math.log(needNumber(ng_pct, 'rows', 1, 130) / 100)],
      p_bar: needNumber(p_bar, 'rows', 0.01, 100),
    }))
    .filter(({ p_bar }) => p_bar < BELOW_RELIEF * oil.relief_bar);
  if (used.length < FEWEST) throw new Refused('INSUFFICIENT_DATA', 'rows');
  const normal = [0, 1, 2].map((i) => [0, 1, 2].map((k) => used.reduce((sum, { x }) => sum + x[i]! * x[k]!, 0)));
  const right = [0, 1, 2].map((i) => used.reduce((sum, { x, p_bar }) => sum + x[i]! * Math.log(p_bar), 0));
  const solved = solve(normal, right);
  if (!solved) throw new Refused('NO_SPREAD', 'rows');
  const [a, b, c] = solved as [number, number, number];
  const sse = used.reduce((sum, { x, p_bar }) => sum + (Math.log(p_bar) - a - b * x[1]! - c * x[2]!) ** 2, 0);
  return { a, b, c, s: Math.sqrt(sse / (used.length - 3)), n: used.length };
}

const LEAST_SCATTER = 0.02;

/** The pressure to expect at a temperature and speed, with its band. */
export function oilPressureExpect(
  oil: OilModel,
  input: { model: OilPressureModel; temp_C: number; ng_pct: number; observed_bar?: number | null | undefined },
): {
  expected_bar: number;
  low_bar: number;
  high_bar: number;
  at_relief: boolean;
  verdict?: 'LOW' | 'AS_EXPECTED' | 'HIGH';
} {
  const { model } = input;
  const { nu_cSt } = oilViscosity(oil, input.temp_C);
  const ng = needNumber(input.ng_pct, 'ng_pct', 1, 130);
  const observed = numberOr(input.observed_bar, null, 'observed_bar', 0, 100);
  const free_bar = Math.exp(model.a + model.b * Math.log(nu_cSt) + model.c * Math.log(ng / 100));
  const expected_bar = Math.min(oil.relief_bar, free_bar);
  const spread = Math.exp(3 * Math.max(model.s, LEAST_SCATTER));
  const low_bar = Math.min(free_bar / spread, 0.95 * oil.relief_bar);
  const high_bar = Math.min(free_bar * spread, 1.05 * oil.relief_bar);
  return {
    expected_bar,
    low_bar,
    high_bar,
    at_relief: free_bar >= oil.relief_bar,
    ...(observed === null
      ? {}
      : { verdict: observed < low_bar ? 'LOW' : observed > high_bar ? 'HIGH' : 'AS_EXPECTED' }),
  };
}
