import type { TypeFile } from '@rouse/core/aircraft';
import { canonicalJson, digestOf } from '@rouse/core/procedure';
import type pg from 'pg';
import { findTypeDigest, insertType } from '../db/aircraft.ts';
import { asOperator, type Tx } from '../db/pool.ts';
import { loadHistory } from './history.ts';
import { DEMO } from './identity.ts';

/**
 * Loads what the demo needs and is not there yet: operator, pilot, type, aircraft, device, and a year of earlier starts.
 * @param owner a connection that may write the operator itself
 * @param starts how many earlier starts the aircraft has
 * @throws Error when a type version that has flown was changed without a new version number
 */
export async function loadDemo(
  owner: pg.Pool,
  pool: pg.Pool,
  type: TypeFile,
  now: Date,
  starts: number,
  say: (message: string) => void,
): Promise<void> {
  await owner.query('INSERT INTO operator (operator_id, name, place) VALUES ($1, $2, $3) ON CONFLICT DO NOTHING', [
    DEMO.operatorId,
    DEMO.operator,
    DEMO.place,
  ]);
  await asOperator(pool, DEMO.operatorId, (tx) => loadFleet(tx, type));
  const loaded = await asOperator(pool, DEMO.operatorId, (tx) => isLoaded(tx, 'history'));
  if (loaded || starts === 0) return;
  say(`demo: flying ${starts} earlier starts of ${DEMO.tail} on the simulator, once; this takes some ten seconds`);
  const since = performance.now();
  await asOperator(pool, DEMO.operatorId, async (tx) => {
    await loadHistory(tx, type, now, starts);
    await tx.query('INSERT INTO demo_load (operator_id, name, loaded_at) VALUES ($1, $2, $3)', [
      DEMO.operatorId,
      'history',
      now,
    ]);
  });
  say(`demo: flown and stored in ${((performance.now() - since) / 1000).toFixed(1)} s`);
}

async function isLoaded(tx: Tx, name: string): Promise<boolean> {
  const { rowCount } = await tx.query('SELECT FROM demo_load WHERE operator_id = $1 AND name = $2', [
    tx.operatorId,
    name,
  ]);
  return rowCount === 1;
}

async function loadFleet(tx: Tx, type: TypeFile): Promise<void> {
  const digest = digestOf(canonicalJson(type));
  const stored = await findTypeDigest(tx, type.id, type.version);
  if (stored === null) await insertType(tx, type, digest);
  else if (stored !== digest) {
    throw new Error(
      `aircraft type ${type.id} version ${type.version} was changed after it was loaded. Give the file a new version number, or delete .local to begin again.`,
    );
  }
  await tx.query(
    'INSERT INTO person (operator_id, person_id, name, role) VALUES ($1, $2, $3, $4) ON CONFLICT DO NOTHING',
    [DEMO.operatorId, DEMO.personId, DEMO.person, DEMO.role],
  );
  await tx.query(
    `INSERT INTO aircraft (operator_id, aircraft_id, tail, type_id, type_version, pad) VALUES ($1, $2, $3, $4, $5, $6)
     ON CONFLICT (operator_id, aircraft_id) DO UPDATE SET type_version = excluded.type_version`,
    [DEMO.operatorId, DEMO.aircraftId, DEMO.tail, type.id, type.version, DEMO.pad],
  );
  await tx.query(
    'INSERT INTO device (operator_id, device_id, aircraft_id, kind, label) VALUES ($1, $2, $3, $4, $5) ON CONFLICT DO NOTHING',
    [DEMO.operatorId, DEMO.deviceId, DEMO.aircraftId, 'stand-in', 'Stand-in device (simulated)'],
  );
}
