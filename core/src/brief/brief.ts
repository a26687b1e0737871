import { type EngineFirst, poweredOf } from '../aircraft/index.ts';
import { altimeterReading_ft, densityAltitude, pressureAltitude } from '../atmosphere/index.ts';
import { chartLimit } from '../chart/index.ts';
import { fuelPlan, type LoadItem, weightBalance } from '../loading/index.ts';
import { LOW_HOVER_ft, AFTER_FAILURE, oeiMasses, oeiRequiredRating } from '../power/index.ts';
import {
  type BriefRecord,
  chartAir,
  hoverAgainstLimit,
  type HoverFigure,
  reduceRun,
  scheduleOf,
} from '../procedure/index.ts';
import { needNumber, Refused, roundStep } from '../quantity/index.ts';
import { safeSeparation } from '../rotorwash/index.ts';
import { batteryCold } from '../thermal/index.ts';
import { type RotorWind, rotorWindLimit, type Wind, windComponents, windSide } from '../weather/index.ts';
import { expectedStart } from './expected-start.ts';
import { type Figure, figure, known, need } from './figure.ts';
import { holdsOf } from './holds.ts';
import { type BriefContext, type BriefInput, operatorWay, type Neighbour } from './input.ts';
import type { Brief, BriefFigures, Hold, NeighbourWash } from './result.ts';
import { startOrder } from './start-order.ts';

const DRAWS = 500;
/** A light: what a neighbour's slow rotor turns at. */
const SLOW_NR = 0.2;

export function windOf(input: BriefInput): Wind | null {
  const { direction_deg: dir_deg, from_deg, to_deg, speed_kt, gust_kt } = input.wind;
  if (speed_kt === null) return null;
  const kind = speed_kt === 0 ? 'calm' : dir_deg === null ? 'variable' : 'steady';
  return { kind, dir_deg, from_deg, to_deg, speed_kt, gust_kt, at_least: false, unit: 'KT' };
}

/** Computes a brief. Pure and quick: it is run at every keystroke. */
export function briefOf(input: BriefInput, context: BriefContext): Brief {
  const { type, site } = context;
  const { loading, performance } = type;
  const wind = windOf(input);
  const facing = {
    heading_deg: input.heading_deg!,
    heading_ref: 'mag' as const,
    wind_ref: 'true' as const,
    variation_E_deg: site.variation_E_deg,
  };
  const twin = type.engines.length > 1;

  const pa = pressureAltitudeOf(input, site);
  const air = { pa_ft: known(pa)!, oat_C: input.oat_C!, bleed: input.bleed };
  const charted = chartAir(type, air);
  const inAir = <T>(calculate: () => T): Figure<T> =>
    figure(() => {
      need(pa, 'pa_ft');
      need(input.oat_C, 'oat_C');
      return calculate();
    });

  const ways = waysOf(input, context);
  const side = known(
    figure(() => {
      need(wind, 'wind');
      need(input.heading_deg, 'heading_deg');
      return windSide({ wind, ...facing });
    }),
  );
  const order = twin
    ? startOrder(ways['engine-first'] as EngineFirst, side, new Date(context.now).getUTCDate(), context.startsByEngine)
    : null;
  if (order) ways['first-engine'] = String(order.first);

  const fuel = figure(() =>
    fuelPlan(
      { engines: type.engines.length, fuel: loading.fuel },
      { fuel_kg: need(input.fuel_kg, 'fuel'), ground: loading.ground },
    ),
  );
  const loaded = { engines: type.engines.length, ...loading };
  const loadItems = (): LoadItem[] =>
    loading.stations.map((s) => ({
      name: s.label,
      mass_kg: need(input.load[s.id] ?? null, s.label.toLowerCase()),
      arm_long_m: s.arm_long_m,
      arm_lat_m: s.arm_lat_m,
    }));
  const balance = figure(() =>
    weightBalance(loaded, {
      items: loadItems(),
      fuel_kg: need(input.fuel_kg, 'fuel_kg'),
      burn_kg: need(fuel, 'fuel').burn_kg,
    }),
  );
  const landingFuel_kg = figure(() => {
    const plan = need(fuel, 'fuel');
    const minutes = needNumber(input.flight_min, 'flight_min', 0, 1000);
    const left = plan.takeoff_fuel_kg - (loading.fuel.flow_kgph.cruise * minutes) / 60;
    if (left < 0) throw new Refused('OUT_OF_RANGE', 'minutes of flight');
    return left;
  });
  const landing = figure(() =>
    weightBalance(loaded, { items: loadItems(), fuel_kg: need(landingFuel_kg, 'flight_min') }),
  );
  const liftMass_kg = figure(() => need(balance, 'mass_kg').takeoff.mass_kg);

  const charts = { TOP: performance.chart.TOP, MCP: performance.chart.MCP };
  const limit = (rating: 'TOP' | 'MCP'): Figure<number> =>
    inAir(() => chartLimit({ rating, pa_ft: charted.pa_ft, oat_C: air.oat_C, tables: charts }).display.limit);
  const hover = (skid_height_ft: number | null): Figure<HoverFigure> =>
    inAir(() => hoverAgainstLimit(type, need(liftMass_kg, 'mass_kg'), charted, skid_height_ft));
  const powered = poweredOf(context.type);

  const brief: BriefFigures = {
    pressureAltitude_ft: figure(() => roundStep(need(pa, 'qnh'), 10, 'ceil')),
    densityAltitude_ft: inAir(() => roundStep(densityAltitude({ ...air, dew_C: input.dew_C }).da_ft, 10, 'ceil')),
    components: figure(() => {
      const w = need(wind, 'wind');
      need(input.heading_deg, 'heading_deg');
      if (w.dir_deg === null) throw new Refused('OUT_OF_DOMAIN', 'a variable wind has no components');
      return windComponents({ wind_dir_deg: w.dir_deg, speed_kt: w.speed_kt!, gust_kt: w.gust_kt, ...facing });
    }),
    rotorStart: rotor('start'),
    rotorStop: rotor('stop'),
    age_min: input.observedAt === null ? null : (Date.parse(context.now) - Date.parse(input.observedAt)) / 60_000,
    topLimit: limit('TOP'),
    mcpLimit: limit('MCP'),
    fuel,
    landingFuel_kg,
    balance,
    landing,
    liftMass_kg,
    hoverIge: hover(LOW_HOVER_ft),
    hoverOge: hover(null),
    oei: twin && powered ? inAir(() => oeiMasses(powered, charted, AFTER_FAILURE)) : null,
    oeiAtLift:
      twin && powered
        ? inAir(() =>
            oeiRequiredRating(
              powered,
              { ...charted, mass_kg: need(liftMass_kg, 'mass_kg'), skid_height_ft: null },
              AFTER_FAILURE,
            ),
          )
        : null,
    wash: context.neighbours.map((neighbour) => washOn(neighbour)),
    battery: inAir(() => batteryCold(type.thermal, { temp_C: air.oat_C, soc: 0.9 })),
    start: figure(() => expectedStart(context.starts, need(input.oat_C, 'oat_C'))),
    order,
    ways,
    schedule: scheduleOf(
      type,
      { ...reduceRun([]), ways, brief: { ...EMPTY_RECORD, oat_C: input.oat_C } },
      { past: context.past, draws: DRAWS },
    ),
  };

  function rotor(phase: 'start' | 'stop'): Figure<RotorWind> {
    return figure(() => {
      if (wind) need(input.heading_deg, 'heading_deg');
      return rotorWindLimit({
        wind,
        phase,
        limits: type.wind.rotor_kt,
        ...facing,
        heading_deg: input.heading_deg ?? 0,
      });
    });
  }

  function washOn(neighbour: Neighbour): NeighbourWash {
    const slow = input.slowNeighbours.includes(neighbour.name);
    const separation = inAir(() => {
      const blowing = need(wind, 'wind');
      return safeSeparation(
        washing(context),
        { ...washing(context), main: neighbour.rotor, blade_sail: neighbour.blade_sail },
        {
          mass_kg: need(liftMass_kg, 'mass_kg'),
          pa_ft: air.pa_ft,
          oat_C: air.oat_C,
          neighbour_nr_frac: slow ? SLOW_NR : 1,
          wind_kt: Math.max(blowing.speed_kt!, blowing.gust_kt ?? 0),
        },
      );
    });
    const value = known(separation);
    return {
      neighbour,
      slow,
      separation,
      clear: value ? value.distance_m !== null && neighbour.distance_m >= value.distance_m : null,
    };
  }

  const holds = holdsOf(input, context, brief);
  return {
    ...brief,
    holds,
    clear: holds.every((h) => h.severity === 'caution' && (input.accepted[h.id] ?? '').trim() !== ''),
    record: recordOf(input, context, brief, holds),
  };
}

function pressureAltitudeOf(input: BriefInput, site: BriefContext['site']): Figure<number> {
  return figure(() => pressureAltitude({ elev_ft: site.elev_ft, qnh_hPa: input.qnh_hPa }).pa_ft);
}

/** The answers of this run: the day's where it has some, else the operator's. */
function waysOf(input: BriefInput, { type, operatorWays }: BriefContext): Record<string, string> {
  return Object.fromEntries(type.choices.map((c) => [c.id, input.ways[c.id]?.to ?? operatorWay(c, operatorWays)]));
}

function washing({ type }: BriefContext): Parameters<typeof safeSeparation>[0] {
  const { hover } = type.performance;
  return { ...type.loading, download: hover.download, main: hover.main, blade_sail: type.wind.blade_sail };
}

const EMPTY_RECORD: BriefRecord = {
  ways: {},
  overrides: [],
  accepted: [],
  expected: { altimeter: null, 'pressure-setting': null, fuel: null, mass: null },
  oat_C: null,
  words: '',
  input: {},
};

function recordOf(input: BriefInput, context: BriefContext, brief: BriefFigures, holds: readonly Hold[]): BriefRecord {
  const { type, operatorWays, site } = context;
  const { qnh_hPa } = input;
  const altimeter = figure(() =>
    altimeterReading_ft({ elev_ft: site.elev_ft, qnh_hPa: need(qnh_hPa, 'qnh'), setting_hPa: need(qnh_hPa, 'qnh') }),
  );
  return {
    ways: brief.ways,
    overrides: type.choices.flatMap((c) => {
      const day = input.ways[c.id];
      const from = operatorWay(c, operatorWays);
      return day && day.to !== from ? [{ choice: c.id, from, to: day.to, reason: day.reason.trim() }] : [];
    }),
    accepted: holds.flatMap((h) => {
      const reason = (input.accepted[h.id] ?? '').trim();
      return h.severity === 'caution' && reason !== '' ? [{ hold: h.id, words: h.words, reason }] : [];
    }),
    expected: {
      altimeter: known(altimeter),
      'pressure-setting': qnh_hPa,
      fuel: input.fuel_kg,
      mass: known(brief.balance)?.ramp.mass_kg ?? null,
    },
    oat_C: input.oat_C,
    pa_ft: known(pressureAltitudeOf(input, site)),
    bleed: input.bleed,
    variation_E_deg: site.variation_E_deg,
    words: sayConditions(input, brief),
    input: { ...input },
  };
}

function sayConditions(input: BriefInput, brief: BriefFigures): string {
  const parts: string[] = [];
  const { wind } = input;
  if (wind.speed_kt !== null) {
    const where = wind.direction_deg === null ? 'variable' : String(wind.direction_deg).padStart(3, '0');
    const gust = wind.gust_kt === null ? '' : ` gusting ${Math.round(wind.gust_kt)}`;
    parts.push(wind.speed_kt === 0 ? 'calm' : `wind ${where} ${Math.round(wind.speed_kt)} kt${gust}`);
  }
  if (input.oat_C !== null) parts.push(`${Math.round(input.oat_C)} °C`);
  if (input.qnh_hPa !== null) parts.push(`${Math.round(input.qnh_hPa)} hPa`);
  const mass = known(brief.liftMass_kg);
  if (mass !== null) parts.push(`lift ${Math.round(mass)} kg`);
  return parts.join(', ');
}
