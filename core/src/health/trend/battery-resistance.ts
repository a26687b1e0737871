import { K0 } from '../../atmosphere/index.ts';
import { needNumber, numberOr, Refused } from '../../quantity/index.ts';
import type { CrankedAircraft } from '../../thermal/index.ts';
import { needSeries } from './baseline.ts';
import { theilSen } from './regression.ts';

/** A resistance needs a step in the current to be seen. */
const LEAST_STEP_A = 50;
const REPLACE_RATIO = 2;
const WATCH_RATIO = 1.5;

export interface BatteryResistance {
  r_total_mohm: number;
  r_battery_mohm: number;
  temp_factor: number;
  r_battery_ref_mohm: number;
  ratio_to_new: number;
  vmin_margin_V: number;
  vmin_ref_V: number;
  vmin_ref_margin_V: number;
  verdict: 'GOOD' | 'WATCH' | 'REPLACE';
}

/** What the dip of one start says of the battery, referred to its reference temperature (calculator `battery_resistance`). */
export function batteryResistance(
  { battery }: Pick<CrankedAircraft, 'battery'>,
  input: {
    v_before: number;
    i_before_A?: number | undefined;
    v_crank: number;
    i_crank_A: number;
    temp_C: number;
    /** lowest volts of the crank; those while it cranks where it is not given */
    v_min?: number | null | undefined;
  },
): BatteryResistance {
  const before_V = needNumber(input.v_before, 'v_before', 0, 60);
  const before_A = numberOr(input.i_before_A, 0, 'i_before_A', -100, 5000);
  const crank_V = needNumber(input.v_crank, 'v_crank', 0, 60);
  const crank_A = needNumber(input.i_crank_A, 'i_crank_A', 0, 5000);
  const temp_C = needNumber(input.temp_C, 'temp_C', battery.t_domain_C[0], battery.t_domain_C[1], 'OUT_OF_DOMAIN');
  if (crank_A - before_A < LEAST_STEP_A) throw new Refused('INSUFFICIENT_DATA', 'i_crank_A');
  if (crank_V >= before_V) throw new Refused('INCONSISTENT', 'v_crank');
  const lowest_V = numberOr(input.v_min, crank_V, 'v_min', 0, 60);
  if (lowest_V > crank_V) throw new Refused('INCONSISTENT', 'v_min');
  const r_total_mohm = (1000 * (before_V - crank_V)) / (crank_A - before_A);
  const r_battery_mohm = r_total_mohm - battery.r_cable_mohm;
  if (r_battery_mohm < 0) throw new Refused('NO_SOLUTION', 'v_crank');
  const temp_factor = Math.exp(battery.r_b_K * (1 / (temp_C + K0) - 1 / (battery.t_ref_C + K0)));
  const r_battery_ref_mohm = r_battery_mohm / temp_factor;
  const ratio_to_new = r_battery_ref_mohm / battery.r_ref_mohm;
  const vmin_ref_V =
    lowest_V +
    (crank_A * (r_battery_mohm - r_battery_ref_mohm)) / 1000 +
    battery.voc_coef_V_per_C * (battery.t_ref_C - temp_C);
  return {
    r_total_mohm,
    r_battery_mohm,
    temp_factor,
    r_battery_ref_mohm,
    ratio_to_new,
    vmin_margin_V: lowest_V - battery.vmin_limit_V,
    vmin_ref_V,
    vmin_ref_margin_V: vmin_ref_V - battery.vmin_limit_V,
    verdict:
      ratio_to_new > REPLACE_RATIO || lowest_V < battery.vmin_limit_V
        ? 'REPLACE'
        : ratio_to_new > WATCH_RATIO
          ? 'WATCH'
          : 'GOOD',
  };
}

/** The resistance behind several readings of volts and amps; one bad sample does not move it. */
export function batteryResistanceSeries(input: { i_A: number[]; v_V: number[] }): {
  r_total_mohm: number;
  voc_V: number;
} {
  const i_A = needSeries(input.i_A, 'i_A', 3);
  const v_V = needSeries(input.v_V, 'v_V', 3);
  if (i_A.length !== v_V.length) throw new Refused('INCONSISTENT', 'v_V');
  if (Math.max(...i_A) - Math.min(...i_A) < LEAST_STEP_A) throw new Refused('INSUFFICIENT_DATA', 'i_A');
  const { slope, intercept } = theilSen({ x: i_A, y: v_V });
  // volts that rise with the current are no resistance
  if (!(slope < 0)) throw new Refused('NO_SOLUTION', 'v_V');
  return { r_total_mohm: -1000 * slope, voc_V: intercept };
}
