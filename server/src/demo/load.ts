import { needWatched, type TypeFile } from '@rouse/core/aircraft';
import { canonicalJson, digestOf } from '@rouse/core/procedure';
import type pg from 'pg';
import { findTypeDigest, insertType } from '../db/aircraft.ts';
import { putPad } from '../db/pads.ts';
import { asOperator, type Tx } from '../db/pool.ts';
import { loadHistory } from './history.ts';
import { DEMO, FLEET, PADS, PASTS } from './identity.ts';

export interface DemoOptions {
  /** a connection that may write the operator itself */
  owner: pg.Pool;
  pool: pg.Pool;
  /** every version of every type; the newest version of each is the one that flies */
  types: () => readonly TypeFile[];
  typesStamp: string;
  now: Date;
  /** how many earlier starts the aircraft has */
  demoStarts: number;
  say: (message: string) => void;
}

/**
 * Loads what the demo needs and is not there yet: operator, pilot, places, types, aircraft, device, and a year of earlier
 * starts.
 * @throws Error when a type version that has flown was changed without a new version number
 */
export async function loadDemo({ owner, pool, types, typesStamp, now, demoStarts, say }: DemoOptions): Promise<void> {
  await owner.query('INSERT INTO operator (operator_id, name, place) VALUES ($1, $2, $3) ON CONFLICT DO NOTHING', [
    DEMO.operatorId,
    DEMO.operator,
    DEMO.place,
  ]);
  const inDemo = <T>(work: (tx: Tx) => Promise<T>): Promise<T> => asOperator(pool, DEMO.operatorId, work);
  const fleetLoad = `fleet ${typesStamp}`;
  if (!(await inDemo((tx) => isLoaded(tx, fleetLoad)))) {
    await reshapeTypes(owner, types());
    await inDemo((tx) => loadFleet(tx, types()));
    await inDemo((tx) => markLoaded(tx, fleetLoad, now));
  }
  if (demoStarts === 0 || (await inDemo((tx) => isLoaded(tx, 'history')))) return;
  say(
    `demo: flying ${demoStarts} earlier starts of ${DEMO.tail}, and some of others, on the simulator, once; this takes under a minute`,
  );
  const since = performance.now();
  await inDemo(async (tx) => {
    for (const { tail, share } of PASTS) {
      const aircraft = FLEET.find((a) => a.tail === tail)!;
      const type = needWatched(newestOf(types(), aircraft.typeId)!);
      await loadHistory(tx, type, aircraft, now, Math.floor(share * demoStarts));
    }
    await markLoaded(tx, 'history', now);
  });
  say(`demo: flown and stored in ${((performance.now() - since) / 1000).toFixed(1)} s`);
}

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

/** Writes types anew that a migration has marked as of an earlier shape: the same versions, as their files say them now. */
async function reshapeTypes(owner: pg.Pool, types: readonly TypeFile[]): Promise<void> {
  for (const type of types)
    await owner.query(
      'UPDATE aircraft_type SET digest = $4, file = $5 WHERE operator_id = $1 AND type_id = $2 AND version = $3 AND digest IS NULL',
      [DEMO.operatorId, type.id, type.version, digestOf(canonicalJson(type)), JSON.stringify(type)],
    );
}

async function loadType(tx: Tx, type: TypeFile): Promise<void> {
  const digest = digestOf(canonicalJson(type));
  const stored = await findTypeDigest(tx, type.id, type.version);
  if (stored === null) await insertType(tx, type, digest);
  else if (stored !== digest)
    throw new Error(
      `aircraft type ${type.id} version ${type.version} was changed after it was loaded. Give the file a new version number, or delete .local to begin again.`,
    );
}

async function loadFleet(tx: Tx, types: readonly TypeFile[]): Promise<void> {
  for (const type of types) await loadType(tx, type);
  for (const pad of PADS) await putPad(tx, pad);
  await tx.query(
    'INSERT INTO person (operator_id, person_id, name, role) VALUES ($1, $2, $3, $4) ON CONFLICT DO NOTHING',
    [DEMO.operatorId, DEMO.personId, DEMO.person, DEMO.role],
  );
  for (const a of FLEET) {
    const type = newestOf(types, a.typeId);
    if (!type) continue;
    await tx.query(
      `INSERT INTO aircraft (operator_id, aircraft_id, tail, type_id, type_version, pad) VALUES ($1, $2, $3, $4, $5, $6)
       ON CONFLICT (operator_id, aircraft_id) DO UPDATE SET type_version = excluded.type_version`,
      [DEMO.operatorId, a.aircraftId, a.tail, type.id, type.version, a.pad],
    );
  }
  await tx.query(
    'INSERT INTO device (operator_id, device_id, aircraft_id, kind, label) VALUES ($1, $2, $3, $4, $5) ON CONFLICT DO NOTHING',
    [DEMO.operatorId, DEMO.deviceId, DEMO.aircraftId, 'stand-in', 'Stand-in device (simulated)'],
  );
}
