import { Refused } from '../quantity/index.ts';
import type { Input } from './aircraft.ts';

/**
 * What each calculator takes: a word for each input. Before the colon its name; after it `l` for a list, `n` for a list
 * that has something in it, `o` for an
 * object, `w` for a word, nothing for figures and answers, which the calculator checks itself; `?` where it may be left out.
 */
const INPUTS: Readonly<Record<string, string>> = {
  isa: 'h_m',
  isa_inverse: 'p_Pa',
  pressure_altitude: 'elev_ft qnh_hPa? qnh_inHg?',
  air_ratios: 'pa_ft oat_C',
  density_altitude: 'pa_ft oat_C dew_C?',
  convert: 'value from:w to:w',
  round_conservative: 'value step kind:w',
  parse_metar: 'text',
  metar_time: 'day hour minute now:w',
  wind_components: 'wind_ref? heading_ref? heading_deg wind_dir_deg speed_kt gust_kt? variation_E_deg?',
  wind_side: 'wind:o? wind_ref? heading_ref? heading_deg variation_E_deg?',
  rotor_wind_limit: 'aircraft phase:w wind:o? wind_ref? heading_deg heading_ref? variation_E_deg?',
  chart_lookup: 'table:o? aircraft? chart? pa_ft oat_C',
  chart_check: 'table:o? aircraft? chart?',
  chart_limit: 'aircraft? rating:w pa_ft oat_C tables:o? mcp_offset:o?',
  ge_factor: 'z_over_R model',
  hover_power: 'aircraft mass_kg headwind_kt? pa_ft oat_C nr_frac? skid_height_ft? ge_model?',
  power_available: 'aircraft rating:w bleed? pa_ft oat_C nr_frac?',
  hover_margin: 'aircraft mass_kg pa_ft oat_C nr_frac? skid_height_ft? ge_model? rating:w bleed?',
  max_hover_mass: 'aircraft margin_frac? pa_ft oat_C nr_frac? skid_height_ft? rating:w bleed? ge_model?',
  hover_ceiling: 'aircraft mass_kg isa_dev_C skid_height_ft? ge_model? nr_frac? rating:w bleed?',
  oei_masses: 'aircraft pa_ft oat_C nr_frac? bleed?',
  oei_required_rating: 'aircraft mass_kg pa_ft oat_C nr_frac? skid_height_ft? ge_model? bleed? margin_frac?',
  oei_verdict: 'aircraft obstacle_clear landing_ok mass_kg skid_height_ft pa_ft oat_C nr_frac? bleed? margin_frac?',
  hover_check:
    'aircraft mass_kg torque_pct:l skid_height_ft? headwind_kt? learned_offset_pct? min_margin_pct? bands:o? pa_ft oat_C nr_frac? bleed?',
  rating_definition: 'rating:w',
  rating_ledger: 'config:o? aircraft? ledger? samples:l',
  limit_monitor: 'aircraft? table? tables:o? phases:l? samples:l max_gap_s?',
  rate_monitor: 'aircraft? table window_s samples:l max_gap_s?',
  normal_quantile: 'p',
  t_quantile: 'p df',
  correct_engine: 'pa_ft oat_C ng_pct tot_C torque_pct n2_pct? tot_exp? ng_exp?',
  assurance_margin: 'aircraft pa_ft oat_C ng_pct tot_C torque_pct n2_pct? tot_exp? ng_exp?',
  robust_baseline: 'x:l sigma_floor?',
  theil_sen: 'x:l y:l',
  ols: 'x:l y:l',
  ewma: 'x:l mu sigma lambda? L?',
  cusum: 'x:l mu sigma k? h?',
  changepoint: 'x:l alpha?',
  forecast: 'y:l limit direction? conf?',
  battery_resistance: 'aircraft v_before i_before_A? v_crank i_crank_A temp_C v_min?',
  battery_resistance_series: 'i_A:l v_V:l',
  elec_steps: 't0 dt amps:n events:n learned:o',
  elec_scan: 't0 dt amps:l events:l?',
  point_in_polygon: 'polygon:l x y',
  weight_balance: 'aircraft items:l fuel_kg burn_kg?',
  fuel_plan: 'aircraft reserve? fuel_L? fuel_kg? density_kgL? flow_kgph? ground:l?',
  downwash: 'aircraft mass_kg pa_ft oat_C',
  outwash: 'aircraft mass_kg pa_ft oat_C skid_height_ft? peak_factor? r_m wind_kt?',
  safe_separation: 'aircraft neighbour mass_kg pa_ft oat_C skid_height_ft? peak_factor? neighbour_nr_frac? wind_kt?',
  rng_sequence: 'seed n',
  lognormal_fit: 'durations_s:l prior:o?',
  lognormal_remaining: 'mu sigma elapsed_s p:n',
  cpm: 'steps:n crew_order:l?',
  best_order: 'steps:n',
  cpm_monte_carlo: 'n seed steps:n crew_order:l?',
  oil_viscosity: 'aircraft temp_C',
  battery_cold: 'aircraft temp_C soc r_ratio? oil_temp_C?',
  warmup_predict: 'aircraft samples:l target_C?',
  oil_pressure_learn: 'aircraft rows:l',
  oil_pressure_expect: 'aircraft model:o? temp_C ng_pct observed_bar?',
};

interface InputSpec {
  key: string;
  kind: '' | 'l' | 'n' | 'o' | 'w';
  optional: boolean;
}

const SPECS: ReadonlyMap<string, readonly InputSpec[]> = new Map(
  Object.entries(INPUTS).map(([name, words]) => [
    name,
    words.split(' ').map((word): InputSpec => {
      const [, key, kind, optional] = /^(\w+)(?::([lnow]))?(\?)?$/.exec(word)!;
      return { key: key!, kind: (kind ?? '') as InputSpec['kind'], optional: optional === '?' };
    }),
  ]),
);

/**
 * Refuses a key that the calculator does not know, a list or object that is missing, and anything that is neither.
 * @throws Refused BAD_OPTION, MISSING, NOT_A_NUMBER
 */
export function checkInputs(name: string, input: Readonly<Input>): void {
  const specs = SPECS.get(name) ?? [];
  for (const key of Object.keys(input)) if (!specs.some((s) => s.key === key)) throw new Refused('BAD_OPTION', key);
  for (const { key, kind, optional } of specs) {
    if (kind === '') continue;
    const value = input[key];
    if (value === undefined || value === null) {
      if (!optional) throw new Refused('MISSING', key);
      continue;
    }
    const isObject = typeof value === 'object' && !Array.isArray(value);
    const isList = kind === 'l' || kind === 'n';
    if (isList ? !Array.isArray(value) : kind === 'o' && !isObject) throw new Refused('NOT_A_NUMBER', key);
    // an answer about nothing would look like all clear
    if (kind === 'n' && (value as unknown[]).length === 0) throw new Refused('INSUFFICIENT_DATA', key);
  }
}
