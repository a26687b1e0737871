import { airRatios, densityAltitude, isa, isaInverse, pressureAltitude } from '../atmosphere/index.ts';
import { chartCheck, chartLimit, chartLookup, type ChartTable } from '../chart/index.ts';
import {
  batteryResistance,
  batteryResistanceSeries,
  changePoint,
  checkedNormalQuantile,
  checkedStudentQuantile,
  cusum,
  ewma,
  forecast,
  leastSquares,
  robustBaseline,
  theilSen,
} from '../health/index.ts';
import { fuelPlan, pointInPolygon, weightBalance } from '../loading/index.ts';
import {
  assuranceMargin,
  correctEngine,
  groundEffect,
  hoverCeiling,
  hoverCheck,
  hoverMargin,
  hoverPower,
  maxHoverMass,
  oeiMasses,
  type OeiMargin,
  oeiRequiredRating,
  oeiVerdict,
  powerAvailable,
} from '../power/index.ts';
import { convert, needNumber, numberOr, Refused, roundConservative } from '../quantity/index.ts';
import { type LedgerConfig, ratingDefinition, ratingLedger } from '../ratings/index.ts';
import { downwash, outwash, safeSeparation } from '../rotorwash/index.ts';
import {
  bestOrder,
  criticalPath,
  generatorSequence,
  lognormalFit,
  lognormalRemaining,
  uncertainPlan,
} from '../schedule/index.ts';
import { batteryCold, oilPressureExpect, oilPressureLearn, oilViscosity, warmupPredict } from '../thermal/index.ts';
import { loadSteps, unexplainedSteps } from '../electrical/index.ts';
import { type BandTable, limitMonitor, rateMonitor } from '../watch/index.ts';
import { parseReport, reportTime, rotorWindLimit, windComponents, windSide } from '../weather/index.ts';
import type { AircraftOf, Input } from './aircraft.ts';

type Calculator = (input: Input, aircraftOf: AircraftOf) => unknown;

/**
 * The input of a calculator comes from outside and is checked by the calculator itself, field by field, with the codes
 * of docs/calculations.md; this only gives it the type of its checked form.
 */
// eslint-disable-next-line @typescript-eslint/no-unnecessary-type-parameters
const as = <T>(input: Input): T => input as T;

/** A table given in the input, or one of the aircraft's charts by name. */
function tableOf(input: Input, aircraftOf: AircraftOf): ChartTable | undefined {
  return input['table'] === undefined || input['table'] === null
    ? aircraftOf(input).charts[input['chart'] as string]
    : (input['table'] as ChartTable);
}

/** A limit table given in the input, or one of the aircraft's by name. */
function bandsOf(input: Input, aircraftOf: AircraftOf, table: unknown): BandTable {
  if (typeof table !== 'string') return table as BandTable;
  const found = aircraftOf(input).limits[table];
  if (!found) throw new Refused('BAD_TABLE', 'table');
  return found;
}

/** A ledger given in the input, or the aircraft's by name, the one-engine ledger when none is named. */
function ledgerOf(input: Input, aircraftOf: AircraftOf): LedgerConfig {
  if (input['config'] !== undefined && input['config'] !== null) return input['config'] as LedgerConfig;
  const found = aircraftOf(input).rating_ledger[(input['ledger'] ?? 'oei') as string];
  if (!found) throw new Refused('BAD_OPTION', 'ledger');
  return found;
}

/** The margin that an input asks for over what the hover takes; the calculators' own where it asks for none. */
function marginOf(input: Input): OeiMargin | undefined {
  const margin_frac = numberOr(input['margin_frac'], null, 'margin_frac', 0, 0.5);
  return margin_frac === null ? undefined : () => margin_frac;
}

/** Every calculator by the name that docs/calculations.md gives it. */
export const CALCULATORS: Readonly<Record<string, Calculator>> = {
  isa: (i) => isa(i['h_m'] as number),
  isa_inverse: (i) => isaInverse(i['p_Pa'] as number),
  pressure_altitude: (i) => pressureAltitude(as(i)),
  air_ratios: (i) => airRatios(as(i)),
  density_altitude: (i) => densityAltitude(as(i)),
  convert: (i) => ({ value: convert(i['value'] as number, i['from'] as string, i['to'] as string) }),
  round_conservative: (i) => roundConservative(i['value'] as number, i['step'] as number, i['kind'] as string),

  parse_metar: (i) => {
    if (i['text'] === undefined || i['text'] === null) throw new Refused('MISSING', 'text');
    if (typeof i['text'] !== 'string') throw new Refused('BAD_OPTION', 'text');
    return parseReport(i['text']);
  },
  metar_time: (i) => reportTime(as(i)),
  wind_components: (i) => windComponents(as(i)),
  wind_side: (i) => windSide(as(i)),
  rotor_wind_limit: (i, of) => rotorWindLimit({ ...as<object>(i), limits: of(i).rotor_wind_limits_kt } as never),

  chart_lookup: (i, of) => chartLookup(tableOf(i, of), i['pa_ft'] as number, i['oat_C'] as number),
  chart_check: (i, of) => chartCheck(tableOf(i, of)),
  chart_limit: (i, of) => chartLimit({ ...as<object>(i), tables: i['tables'] ?? of(i).charts } as never),

  ge_factor: (i) => groundEffect(i['z_over_R'] as number, i['model'] as string),
  hover_power: (i, of) => hoverPower(of(i), as(i)),
  power_available: (i, of) => powerAvailable(of(i), as(i)),
  hover_margin: (i, of) => hoverMargin(of(i), as(i)),
  max_hover_mass: (i, of) => maxHoverMass(of(i), as(i)),
  hover_ceiling: (i, of) => hoverCeiling(of(i), as(i)),
  oei_masses: (i, of) => oeiMasses(of(i), as(i)),
  oei_required_rating: (i, of) => oeiRequiredRating(of(i), as(i), marginOf(i)),
  oei_verdict: (i, of) => oeiVerdict(of(i), as(i), marginOf(i)),
  hover_check: (i, of) => hoverCheck(of(i), as(i)),

  rating_definition: (i) => ratingDefinition(i['rating'] as string),
  rating_ledger: (i, of) => ratingLedger(ledgerOf(i, of), as<never>(i['samples'] as Input)),

  limit_monitor: (i, of) =>
    limitMonitor({
      ...as<object>(i),
      ...(i['table'] == null ? { table: undefined } : { table: bandsOf(i, of, i['table']) }),
      ...(i['tables'] == null
        ? { tables: undefined }
        : {
            tables: Object.fromEntries(
              Object.entries(i['tables'] as object).map(([name, table]) => [name, bandsOf(i, of, table)]),
            ),
          }),
    } as never),
  rate_monitor: (i, of) => rateMonitor({ ...as<object>(i), table: bandsOf(i, of, i['table']) } as never),

  normal_quantile: (i) => checkedNormalQuantile(as(i)),
  t_quantile: (i) => checkedStudentQuantile(as(i)),
  correct_engine: (i) => correctEngine(as(i)),
  assurance_margin: (i, of) => assuranceMargin(of(i).engine.assurance, as(i)),
  robust_baseline: (i) => robustBaseline(as(i)),
  theil_sen: (i) => theilSen(as(i)),
  ols: (i) => leastSquares(as(i)),
  ewma: (i) => ewma(as(i)),
  cusum: (i) => cusum(as(i)),
  changepoint: (i) => changePoint(as(i)),
  forecast: (i) => forecast(as(i)),
  battery_resistance: (i, of) => batteryResistance(of(i), as(i)),
  battery_resistance_series: (i) => batteryResistanceSeries(as(i)),

  elec_steps: (i) => ({ steps: loadSteps(as(i)) }),
  elec_scan: (i) => unexplainedSteps(as(i)),

  point_in_polygon: (i) => pointInPolygon(i['polygon'] as [number, number][], i['x'] as number, i['y'] as number),
  weight_balance: (i, of) => weightBalance(of(i), as(i)),
  fuel_plan: (i, of) => fuelPlan(of(i), as(i)),

  downwash: (i, of) => downwash(of(i), as(i)),
  outwash: (i, of) => outwash(of(i), as(i)),
  safe_separation: (i, of) => safeSeparation(of(i), of(i, 'neighbour'), as(i)),

  rng_sequence: (i) =>
    generatorSequence(needNumber(i['seed'], 'seed', 0, 2 ** 32 - 1), needNumber(i['n'], 'n', 0, 1e6)),
  lognormal_fit: (i) => lognormalFit(as(i)),
  lognormal_remaining: (i) => lognormalRemaining(as(i)),
  cpm: (i) => criticalPath(as(i)),
  best_order: (i) => bestOrder(as(i)),
  cpm_monte_carlo: (i) => uncertainPlan(as(i)),

  oil_viscosity: (i, of) => oilViscosity(of(i).oil, i['temp_C'] as number),
  battery_cold: (i, of) => batteryCold(of(i), as(i)),
  warmup_predict: (i, of) => warmupPredict(of(i).warmup, as(i)),
  oil_pressure_learn: (i, of) => oilPressureLearn(of(i).oil, i['rows'] as [number, number, number][]),
  oil_pressure_expect: (i, of) => oilPressureExpect(of(i).oil, as(i)),
};
