import { createHash } from 'node:crypto';
import { isPiston, type WatchedType } from '@rouse/core/aircraft';
import { type BriefInput, briefOf, emptyBrief } from '@rouse/core/brief';
import { flyPractice, type PracticeRecord, type PracticeRun } from '@rouse/core/drill';
import { type BriefRecord, pastWaitsOf } from '@rouse/core/procedure';
import { type Conditions, NormalSource, type PistonConditions } from '@rouse/core/simulator';
import { v7 as uuidv7 } from 'uuid';
import { insertBooking } from '../db/bookings.ts';
import { insertEntries } from '../db/entries.ts';
import { putFeature } from '../db/features.ts';
import type { Tx } from '../db/pool.ts';
import { closeRun, insertRun, monthOf } from '../db/runs.ts';
import { insertChunk } from '../db/trace.ts';
import { insertWaits } from '../db/waits.ts';
import { storeConsequences } from '../outbox/consequences.ts';
import { DEMO, PADS } from './identity.ts';

const DAY_MS = 86_400_000;
const PAD_M = 19;
const SEED = 20_251_125;
const FT_M = 0.3048;
/** of the latest runs this share goes on over hover and shut-down */
const FLOWN_THROUGH = 0.28;
/** colder than this, the trainers are preheated */
const LEAST_PISTON_C = -2;

/** The tail whose past is flown. */
export interface PastOf {
  aircraftId: string;
  tail: string;
  pad: string;
}

/** The same day for a trainer: cold at the first flight, its damp by the season. */
function forPiston({ env, soc, residual_c }: Conditions): PistonConditions {
  const oat = Math.max(LEAST_PISTON_C, env?.oat_c ?? 10);
  const warm = (residual_c ?? oat) > oat ? { Th: oat + 40, To: oat + 25, Tc: oat + 20 } : {};
  return { env: { oat, dew: oat - 9, pa_ft: (env?.pa_m ?? 0) / FT_M }, init: { SOC: soc ?? 0.9, ...warm } };
}

/** One flying day of the made-up year: weather by season and chance, the battery a year older at its end. */
function conditionsOn(
  dayOfYear: number,
  yearsGone: number,
  chance: NormalSource,
): { conditions: Conditions; words: string } {
  const season = Math.sin((2 * Math.PI * (dayOfYear - 110)) / 365);
  const oat_c = Math.round((8.5 + 6.5 * season + 3 * chance.normal()) * 10) / 10;
  const headwind_kt = Math.round(14 * (chance.uniform() - 0.25));
  const qnhShift_m = Math.round(80 * chance.normal());
  const secondFlight = chance.uniform() < 0.3;
  const residual_c = secondFlight ? oat_c + 35 + 50 * chance.uniform() : oat_c;
  const warm_c = secondFlight ? oat_c + 25 + 15 * chance.uniform() : oat_c;
  return {
    conditions: {
      env: { oat_c, pa_m: PAD_M + qnhShift_m, headwind_kt },
      soc: 0.8 + 0.15 * chance.uniform(),
      batt_age: 1 + 0.35 * yearsGone,
      batt_temp_c: oat_c + 2 * chance.uniform(),
      residual_c,
      oil_temp_c: warm_c,
      mgb_temp_c: warm_c,
    },
    words: `${oat_c.toFixed(0)} °C, ${headwind_kt < 0 ? `tailwind ${-headwind_kt}` : `headwind ${headwind_kt}`} kt${secondFlight ? ', second flight of the day' : ''}`,
  };
}

/** tanks of the past were this full */
const FUEL_SHARE = 0.6;

/** What the pilot of that day would have entered: the weather that was flown in, the usual load. */
function briefFor(type: WatchedType, { tail, pad }: PastOf, { env }: Conditions, openedAt: Date): BriefRecord {
  const now = openedAt.toISOString();
  const headwind_kt = env?.headwind_kt ?? 0;
  const shift_ft = ((env?.pa_m ?? PAD_M) - PAD_M) / FT_M;
  const input: BriefInput = {
    ...emptyBrief(type),
    wind: {
      direction_deg: headwind_kt < 0 ? 210 : 30,
      from_deg: null,
      to_deg: null,
      speed_kt: Math.abs(headwind_kt),
      gust_kt: null,
    },
    oat_C: env?.oat_c ?? null,
    qnh_hPa: Math.round(1013.25 - shift_ft / 27.3),
    observedAt: now,
    heading_deg: 33,
    fuel_kg: Math.round(FUEL_SHARE * type.loading.fuel.max_L * type.loading.fuel_density_kgL),
  };
  return briefOf(input, {
    type,
    tail,
    pad,
    site: { name: PADS[0].site, elev_ft: PADS[0].elev_ft, variation_E_deg: PADS[0].variation_E_deg },
    now,
    operatorWays: {},
    openExceedances: [],
    starts: [],
    past: [],
    startsByEngine: [],
    lastRunEndedAt: null,
    neighbours: [],
  }).record;
}

/** Some minute between 08:00 and 16:00 UTC of that day. */
function inDaylight(day: Date, chance: NormalSource): Date {
  return new Date(
    Date.UTC(day.getUTCFullYear(), day.getUTCMonth(), day.getUTCDate(), 8, Math.floor(480 * chance.uniform())),
  );
}

/** A year of earlier starts of one tail, every one flown on the simulator: journal, trace and figures as if they had been live. */
export async function loadHistory(tx: Tx, type: WatchedType, of: PastOf, now: Date, starts: number): Promise<void> {
  const chance = new NormalSource(SEED);
  for (let i = 0; i < starts; i++) {
    const daysAgo = 365 - (363 * i) / starts - chance.uniform();
    const openedAt = inDaylight(new Date(now.getTime() - daysAgo * DAY_MS), chance);
    const dayOfYear = (openedAt.getTime() - Date.UTC(openedAt.getUTCFullYear(), 0, 1)) / DAY_MS;
    const { conditions, words } = conditionsOn(dayOfYear, 1 - daysAgo / 365, chance);
    const brief = briefFor(type, of, conditions, openedAt);
    const flown = isPiston(type.simulator)
      ? forPiston(conditions)
      : { ...conditions, mass_kg: brief.expected.mass ?? type.loading.mtow_kg };
    // the last of them are flown to the end: a habit of hovers, assurance and run-downs begins with these
    const through = i >= (1 - FLOWN_THROUGH) * starts ? ('shut-down' as const) : undefined;
    const record = recordOf(of, openedAt, words);
    const run = flyPractice({ type, conditions: flown, faults: [], corridors: {}, seed: SEED + i, brief, through, limit_s: 2000, record }); // prettier-ignore
    await store(tx, type, of, openedAt, words, record.run, run);
  }
}

/** How a flown run is written as one that was live on that day. */
function recordOf({ tail, pad }: PastOf, openedAt: Date, conditions: string): PracticeRecord {
  return {
    run: uuidv7({ msecs: openedAt.getTime() }),
    tail,
    pad,
    conditions,
    by: DEMO.personId,
    stamp: (t_s) => {
      const at_ms = openedAt.getTime() + t_s * 1000;
      return { id: uuidv7({ msecs: at_ms }), at_ms };
    },
    digest: (bytes) => createHash('sha256').update(bytes).digest('hex'),
  };
}

async function store(
  tx: Tx,
  type: WatchedType,
  { aircraftId }: PastOf,
  openedAt: Date,
  conditions: string,
  runId: string,
  { entries, trace, starts, booking, outcome }: PracticeRun,
): Promise<void> {
  const run = { runId, aircraftId, runMonth: monthOf(openedAt) };
  await insertRun(tx, {
    runId,
    aircraftId,
    typeId: type.id,
    typeVersion: type.version,
    openedBy: DEMO.personId,
    openedAt,
    source: 'simulated',
    conditions,
  });
  await insertEntries(tx, run.runMonth, entries);
  await insertChunk(tx, run, trace, type.channels);
  await storeConsequences(tx, type, aircraftId, entries);
  const briefed = entries.find((e) => e.kind === 'briefed');
  await insertWaits(tx, run, openedAt, pastWaitsOf(type, entries, trace, briefed?.brief.oat_C ?? null));
  for (const { watch, attempt, good, features, profile } of starts)
    await putFeature(tx, { runId, aircraftId, watch, attempt, at: openedAt, good, features, profile });
  await insertBooking(tx, run, openedAt, booking);
  await closeRun(tx, runId, new Date(entries[entries.length - 1]!.at), outcome);
}
