import { airRatios, K0 } from '../atmosphere/index.ts';
import { needNumber, numberOr, Refused, roundStep } from '../quantity/index.ts';
import type { AssuranceBaseline } from './model.ts';

/** One engine's readings at a steady power point, and the air. */
export interface PowerPoint {
  pa_ft: number;
  oat_C: number;
  ng_pct: number;
  tot_C: number;
  torque_pct: number;
  /** speed of the power turbine, 100 when absent */
  n2_pct?: number | undefined;
  /** exponent of the temperature ratio that refers the gas temperature */
  tot_exp?: number | undefined;
  /** exponent of the temperature ratio that refers the gas-producer speed, 0.5 where the type's trend shows no slope with the air */
  ng_exp?: number | undefined;
}

export interface ReferredPoint {
  delta: number;
  theta: number;
  ng_ref_pct: number;
  tot_ref_C: number;
  power_pct: number;
  power_ref_pct: number;
}

/** Readings referred to the standard day at sea level (calculator `correct_engine`). @source docs/calculations.md, power assurance */
export function correctEngine(input: PowerPoint): ReferredPoint {
  const pa_ft = needNumber(input.pa_ft, 'pa_ft', -2000, 20_000, 'OUT_OF_DOMAIN');
  const oat_C = needNumber(input.oat_C, 'oat_C', -50, 55, 'OUT_OF_DOMAIN');
  const ng_pct = needNumber(input.ng_pct, 'ng_pct', 0, 120);
  const tot_C = needNumber(input.tot_C, 'tot_C', -60, 1200);
  const torque_pct = needNumber(input.torque_pct, 'torque_pct', 0, 200);
  const n2_pct = numberOr(input.n2_pct, 100, 'n2_pct', 50, 120);
  const exponent = numberOr(input.tot_exp, 1, 'tot_exp', 0.5, 1.5);
  const speedExponent = numberOr(input.ng_exp, 0.5, 'ng_exp', 0.4, 0.6);
  const { delta, theta } = airRatios({ pa_ft, oat_C });
  const power_pct = (torque_pct * n2_pct) / 100;
  return {
    delta,
    theta,
    ng_ref_pct: ng_pct / theta ** speedExponent,
    tot_ref_C: (tot_C + K0) / theta ** exponent - K0,
    power_pct,
    power_ref_pct: power_pct / (delta * Math.sqrt(theta)),
  };
}

const WATCH_TOT_C = 10;
const WATCH_NG_pct = 0.5;

export interface AssuranceMargin extends ReferredPoint {
  tot_baseline_C: number;
  ng_baseline_pct: number;
  /** baseline less observed: positive is good */
  tot_margin_C: number;
  ng_margin_pct: number;
  /** the margin as degrees on today's gauge */
  tot_margin_day_C: number;
  verdict: 'PASS' | 'WATCH' | 'FAIL';
  display: { tot_margin_C: number; ng_margin_pct: number };
}

/**
 * Power assurance: the readings at a steady point against those of an engine that just meets its specification.
 * @throws Refused OUT_OF_DOMAIN where the baseline says nothing of this power: the check is repeated at more power
 */
export function assuranceMargin(baseline: AssuranceBaseline | undefined, input: PowerPoint): AssuranceMargin {
  if (!baseline) throw new Refused('BAD_TABLE', 'aircraft');
  const referred = correctEngine({
    ...input,
    tot_exp: input.tot_exp ?? baseline.tot_exp,
    ng_exp: input.ng_exp ?? baseline.ng_exp,
  });
  const [low, high] = baseline.pwr_domain;
  if (referred.power_ref_pct < low || referred.power_ref_pct > high) throw new Refused('OUT_OF_DOMAIN', 'torque_pct');
  const at = (poly: readonly number[]): number => poly.reduceRight((sum, c) => sum * referred.power_ref_pct + c, 0);
  const tot_baseline_C = at(baseline.tot_poly);
  const ng_baseline_pct = at(baseline.ng_poly);
  const tot_margin_C = tot_baseline_C - referred.tot_ref_C;
  const ng_margin_pct = ng_baseline_pct - referred.ng_ref_pct;
  return {
    ...referred,
    tot_baseline_C,
    ng_baseline_pct,
    tot_margin_C,
    ng_margin_pct,
    tot_margin_day_C: tot_margin_C * referred.theta,
    verdict:
      tot_margin_C < 0 || ng_margin_pct < 0
        ? 'FAIL'
        : tot_margin_C < WATCH_TOT_C || ng_margin_pct < WATCH_NG_pct
          ? 'WATCH'
          : 'PASS',
    display: {
      tot_margin_C: roundStep(tot_margin_C, 1, 'floor'),
      ng_margin_pct: roundStep(ng_margin_pct, 0.1, 'floor'),
    },
  };
}
