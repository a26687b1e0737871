import { needWatched, type TypeFile } from '@rouse/core/aircraft';
import type pg from 'pg';
import { insertAccount } from '../db/accounts.ts';
import { moveTail } from '../db/aircraft.ts';
import { insertDevice } from '../db/devices.ts';
import { asOperator, type Tx } from '../db/pool.ts';
import { insertSiteReport, listSiteReports } from '../db/site-reports.ts';
import { putStandardMass } from '../db/standard-masses.ts';
import { foundOperator } from '../found.ts';
import { loadHistory } from './history.ts';
import { DEMO, FLEET, PADS, PEOPLE, SITES, STANDARD_MASSES } from './identity.ts';
import { STORIES } from './stories.ts';

export interface DemoOptions {
  pool: pg.Pool;
  /** every version of every type; the newest version of each is the one that flies */
  types: () => readonly TypeFile[];
  typesStamp: string;
  now: Date;
  /** the weather of the heliport is reported anew when its last report is old */
  reports: boolean;
  /** how many earlier starts the aircraft has */
  demoStarts: number;
  /** tails whose past is flown; null for every one that has a story */
  pastOf: readonly string[] | null;
  /** the built program that flies the past on every core; null flies it here */
  flyWorker: string | null;
  say: (message: string) => void;
}

/**
 * Loads what the demo needs and is not there yet, through the same doors as a person: operator, people, places, types,
 * aircraft, lines, and a year of earlier starts.
 * @throws Error when a type version that has flown was changed without a new version number
 */
export async function loadDemo({
  pool,
  types,
  typesStamp,
  now,
  demoStarts,
  pastOf,
  flyWorker,
  reports,
  say,
}: DemoOptions): Promise<void> {
  const inDemo = <T>(work: (tx: Tx) => Promise<T>): Promise<T> => asOperator(pool, DEMO.operatorId, work);
  const fleetLoad = `fleet ${typesStamp}`;
  if (!(await inDemo((tx) => isLoaded(tx, fleetLoad)))) {
    await inDemo((tx) => loadFleet(tx, types(), now));
    await inDemo((tx) => markLoaded(tx, fleetLoad, now));
  }
  if (reports) await inDemo((tx) => reportWeather(tx, now));
  if (demoStarts === 0 || (await inDemo((tx) => isLoaded(tx, 'history')))) return;
  say(
    `demo: flying ${demoStarts} earlier starts of ${DEMO.tail}, and some of others, on the simulator, once; this takes under a minute`,
  );
  const since = performance.now();
  await inDemo(async (tx) => {
    const stories = STORIES.filter((s) => pastOf === null || pastOf.includes(s.tail));
    const flown = new Set(stories.map(({ tail }) => FLEET.find((a) => a.tail === tail)!.typeId));
    const flying = Object.fromEntries([...flown].map((id) => [id, needWatched(newestOf(types(), id)!)]));
    await loadHistory(tx, { types: flying, stories, now, starts: demoStarts, worker: flyWorker });
    await markLoaded(tx, 'history', now);
  });
  say(`demo: flown and stored in ${((performance.now() - since) / 1000).toFixed(1)} s`);
}

const REPORT_GOOD_FOR_MS = 3_600_000;

/** A report of the heliport as of this hour, unless somebody has read a newer one. */
async function reportWeather(tx: Tx, now: Date): Promise<void> {
  const [{ site }] = SITES;
  const last = (await listSiteReports(tx)).find((r) => r.site === site);
  if (last && now.getTime() - last.at.getTime() < REPORT_GOOD_FOR_MS) return;
  const two = (n: number): string => String(n).padStart(2, '0');
  const time = `${two(now.getUTCDate())}${two(now.getUTCHours())}${two(now.getUTCMinutes())}Z`;
  await insertSiteReport(tx, { site, report: `METAR QXVA ${time} 24012G21KT 9999 FEW030 12/06 Q1013`, by: 'the demo', at: now });
} // oxfmt-ignore

async function markLoaded(tx: Tx, name: string, now: Date): Promise<void> {
  await tx.query('INSERT INTO demo_load (operator_id, name, loaded_at) VALUES ($1, $2, $3) ON CONFLICT DO NOTHING', [
    tx.operatorId,
    name,
    now,
  ]);
}

/** The version of a type that flies. */
function newestOf(types: readonly TypeFile[], id: string): TypeFile | undefined {
  return types.filter((t) => t.id === id).toSorted((a, b) => b.version - a.version)[0];
}

async function isLoaded(tx: Tx, name: string): Promise<boolean> {
  const { rowCount } = await tx.query('SELECT FROM demo_load WHERE operator_id = $1 AND name = $2', [
    tx.operatorId,
    name,
  ]);
  return rowCount === 1;
}

async function loadFleet(tx: Tx, types: readonly TypeFile[], now: Date): Promise<void> {
  for (const { personId } of PEOPLE) await insertAccount(tx, { accountId: personId, login: null, password: null }, now);
  const flying = FLEET.flatMap((a) => {
    const type = newestOf(types, a.typeId);
    return type ? [{ ...a, typeVersion: type.version, basic: null }] : [];
  });
  const { operator: name, place } = DEMO;
  await foundOperator(
    tx,
    { operator: { name, place, demo: true }, types, sites: SITES, pads: PADS, people: PEOPLE, aircraft: flying },
    now,
  );
  for (const a of flying) await moveTail(tx, a.aircraftId, a.typeId, a.typeVersion);
  for (const mass of STANDARD_MASSES) await putStandardMass(tx, mass);
  await insertDevice(tx, {
    deviceId: DEMO.deviceId,
    aircraftId: DEMO.aircraftId,
    kind: 'stand-in',
    label: 'Stand-in device (simulated)',
    tokenDigest: null,
    datagramKey: null,
    madeBy: 'the demo',
    madeAt: now,
  });
}
