import type { WatchedType } from '@rouse/core/aircraft';
import { FT_m } from '@rouse/core/atmosphere';
import type { PracticeRun } from '@rouse/core/drill';
import { pastWaitsOf } from '@rouse/core/procedure';
import { NormalSource } from '@rouse/core/simulator';
import { v7 as uuidv7 } from 'uuid';
import { insertBooking } from '../db/bookings.ts';
import { insertEntries } from '../db/entries.ts';
import { putFeature } from '../db/features.ts';
import { insertMaintenance } from '../db/maintenance.ts';
import type { Tx } from '../db/pool.ts';
import { insertRun, monthOf } from '../db/runs.ts';
import { insertTrace } from '../db/trace.ts';
import { insertWaits } from '../db/waits.ts';
import { storeConsequences } from '../outbox/consequences.ts';
import { FLIGHT_LIMIT_S, flyAll, type PlannedFlight } from './flights.ts';
import { DEMO, FLEET, PADS, PEOPLE, SITES } from './identity.ts';
import type { Story } from './stories.ts';
import { flyingDays } from './year.ts';

const DAY_MS = 86_400_000;
const YEAR_MS = 365 * DAY_MS;
const SEED = 20_251_125;
const ENGINEER = PEOPLE.find((p) => p.roles.some((r) => r === 'engineer'))!;

/** Whose past is flown, and how much of it. */
interface Past {
  types: Readonly<Record<string, WatchedType>>;
  stories: readonly Story[];
  now: Date;
  /** of the tail that flies most */
  starts: number;
  /** see flyAll */
  worker: string | null;
}

/** A year of earlier flights of each tail, each flown on the simulator and stored as if it had been live. */
export async function loadHistory(
  tx: Tx,
  { types, stories, now, starts, worker }: Past,
): Promise<void> {
  const flights = stories.flatMap((story) => planOf(story, now, starts));
  for await (const { flight, flown } of flyAll(types, flights, worker)) await store(tx, types[flight.type]!, flight, flown);
  for (const { tail, maintenance } of stories)
    for (const { gone, kind, words } of maintenance)
      await insertMaintenance(tx, {
        eventId: uuidv7(),
        aircraftId: aircraftOf(tail).aircraftId,
        at: new Date(now.getTime() - (1 - gone) * YEAR_MS),
        kind,
        words,
        by: ENGINEER.name,
      });
} // oxfmt-ignore

const aircraftOf = (tail: string): (typeof FLEET)[number] => FLEET.find((a) => a.tail === tail)!;

/** What one tail flew that year. */
function planOf({ tail, share, through, aged, lastFlight }: Story, now: Date, starts: number): PlannedFlight[] {
  const { typeId: type, pad, nose_deg } = aircraftOf(tail);
  const { site } = PADS.find((p) => p.pad === pad)!;
  const elevation_m = SITES.find((s) => s.site === site)!.elev_ft * FT_m;
  const days = flyingDays(now, Math.floor(share * starts), new NormalSource(SEED), elevation_m);
  const last = days.at(-1);
  // what went wrong, went wrong yesterday
  if (last && lastFlight) last.openedAt = new Date(now.getTime() - DAY_MS);
  return days.map(({ openedAt, gone, conditions, words }, i): PlannedFlight => {
    const age = aged(gone);
    const wrong = i === days.length - 1 ? lastFlight : undefined;
    return {
      type,
      tail,
      pad,
      site,
      nose_deg,
      run: uuidv7({ msecs: openedAt.getTime() }),
      openedAt_ms: openedAt.getTime(),
      words: wrong ? `${words}; ${wrong.words}` : words,
      conditions: { ...conditions, ...age.conditions },
      faults: [...age.faults, ...(wrong?.faults ?? [])],
      seed: SEED + i,
      through: !wrong && i >= (1 - through) * days.length,
      limit_s: wrong?.endsAt_s ?? FLIGHT_LIMIT_S,
    };
  });
}

async function store(tx: Tx, type: WatchedType, flight: PlannedFlight, flown: PracticeRun): Promise<void> {
  const { entries, trace, starts, booking, outcome } = flown;
  const { aircraftId } = aircraftOf(flight.tail);
  const openedAt = new Date(flight.openedAt_ms);
  const { run: runId } = flight;
  const run = { runId, aircraftId, runMonth: monthOf(openedAt) };
  await insertRun(tx, {
    runId,
    aircraftId,
    typeId: type.id,
    typeVersion: type.version,
    openedBy: DEMO.personId,
    openedAt,
    source: 'simulated',
    conditions: flight.words,
    // an aircraft that flies now may still be given its past
    closed: { at: new Date(entries[entries.length - 1]!.at), outcome },
  });
  await insertEntries(tx, run.runMonth, entries);
  await insertTrace(tx, run, trace, type.channels);
  await storeConsequences(tx, type, aircraftId, entries);
  const briefed = entries.find((e) => e.kind === 'briefed');
  await insertWaits(tx, run, openedAt, pastWaitsOf(type, entries, trace, briefed?.brief.oat_C ?? null));
  for (const { watch, attempt, good, features, profile } of starts)
    await putFeature(tx, { runId, aircraftId, watch, attempt, at: openedAt, good, features, profile });
  await insertBooking(tx, run, openedAt, booking);
}
