import type { EngineFirst } from '../aircraft/index.ts';
import { altimeterReading_ft, densityAltitude } from '../atmosphere/index.ts';
import { type BriefRecord, reduceRun, scheduleOf } from '../procedure/index.ts';
import { roundStep } from '../quantity/index.ts';
import { batteryCold } from '../thermal/index.ts';
import { windSide } from '../weather/index.ts';
import { type Day, dayOf } from './day.ts';
import { expectedStart } from './expected-start.ts';
import { figure, known, need } from './figure.ts';
import { objectionsOf } from './objections.ts';
import type { BriefInput } from './input-schema.ts';
import { type BriefContext, operatorWay } from './input.ts';
import { loadFigures } from './load-figures.ts';
import { powerFigures } from './power-figures.ts';
import type { Brief, BriefFigures, Objection } from './result.ts';
import { type StartOrder, startOrder } from './start-order.ts';
import { washOn } from './wash.ts';
import { windFigures } from './wind-figures.ts';

const DRAWS = 500;

/**
 * Computes a brief. Pure and quick: it is run at every keystroke.
 * @param draws how often the passage is drawn to tell by when it is ready four times in five; 0 leaves that out
 */
export function briefOf(input: BriefInput, asked: BriefContext, draws = DRAWS): Brief {
  const { basic } = asked;
  const type = basic ? { ...asked.type, loading: { ...asked.type.loading, basic } } : asked.type;
  const context = { ...asked, type };
  const day = dayOf(input, context);
  const { air, inAir } = day;
  const ways = waysOf(input, context);
  const order = orderOf(day, ways['engine-first'] as EngineFirst);
  if (order) ways['first-engine'] = String(order.first);
  const load = loadFigures(input, type);
  const { liftMass_kg } = load;
  const brief: BriefFigures = {
    ...load,
    ...windFigures(day),
    ...powerFigures(day, liftMass_kg),
    pressureAltitude_ft: figure(() => roundStep(need(day.pa_ft, 'qnh'), 10, 'ceil')),
    densityAltitude_ft: inAir(() => roundStep(densityAltitude({ ...air, dew_C: input.dew_C }).da_ft, 10, 'ceil')),
    wash: context.neighbours.map((neighbour) => washOn(day, neighbour, liftMass_kg)),
    battery: inAir(() => batteryCold(need(type.thermal ?? null, 'battery'), { temp_C: air.oat_C, soc: 0.9 })),
    start: figure(() => expectedStart(context.starts, need(input.oat_C, 'oat_C'))),
    order,
    ways,
    schedule: scheduleOf(
      type,
      { ...reduceRun([]), ways, brief: { ...EMPTY_RECORD, oat_C: input.oat_C } },
      { past: context.past, draws },
    ),
  };
  const objections = objectionsOf(input, context, brief);
  return {
    ...brief,
    objections,
    clear: objections.every((h) => h.severity === 'caution' && (input.accepted[h.id] ?? '').trim() !== ''),
    record: recordOf(day, brief, objections),
  };
}

/** Which engine of a twin is first, by the rule and the day; null for a single. */
function orderOf({ input, context, wind, facing }: Day, rule: EngineFirst): StartOrder | null {
  if (context.type.engines.length < 2) return null;
  const side = figure(() => {
    need(input.heading_deg, 'heading_deg');
    return windSide({ wind: need(wind, 'wind'), ...facing });
  });
  return startOrder(rule, known(side), new Date(context.now).getUTCDate(), context.startsByEngine);
}

/** The answers of this run: the day's where it has some, else the operator's. */
function waysOf(input: BriefInput, { type, operatorWays }: BriefContext): Record<string, string> {
  const ways = Object.fromEntries(
    type.choices.map((c) => [c.id, input.ways[c.id]?.to ?? operatorWay(c, operatorWays)]),
  );
  // who is said to stand near with a slow rotor is not asked about again
  if ('neighbour' in ways && input.slowNeighbours.length > 0) ways['neighbour'] = 'slow';
  return ways;
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

function recordOf(day: Day, brief: BriefFigures, objections: readonly Objection[]): BriefRecord {
  const { input, context } = day;
  const { type, operatorWays, site } = context;
  const { qnh_hPa } = input;
  const altimeter = figure(() =>
    altimeterReading_ft({ elev_ft: site.elev_ft, qnh_hPa: need(qnh_hPa, 'qnh'), setting_hPa: need(qnh_hPa, 'qnh') }),
  );
  return {
    ways: brief.ways,
    overrides: type.choices.flatMap((c) => {
      const differs = input.ways[c.id];
      const from = operatorWay(c, operatorWays);
      return differs && differs.to !== from
        ? [{ choice: c.id, from, to: differs.to, reason: differs.reason.trim() }]
        : [];
    }),
    accepted: objections.flatMap((h) => {
      const reason = (input.accepted[h.id] ?? '').trim();
      return h.severity === 'caution' && reason !== '' ? [{ objection: h.id, words: h.words, reason }] : [];
    }),
    expected: {
      altimeter: known(altimeter),
      'pressure-setting': qnh_hPa,
      fuel: input.fuel_kg,
      mass: known(brief.balance)?.ramp.mass_kg ?? null,
    },
    oat_C: input.oat_C,
    pa_ft: known(day.pa_ft),
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
