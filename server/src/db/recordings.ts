import type { Tx } from './pool.ts';

/** A file of a tail's past, and the run as which it is kept. */
export interface Recording {
  runId: string;
  aircraftId: string;
  name: string;
  /** SHA-256 of its bytes, hex */
  digest: string;
  by: string;
  at: Date;
}

export async function insertRecording(tx: Tx, { runId, aircraftId, name, digest, by, at }: Recording): Promise<void> {
  await tx.query(
    'INSERT INTO recording (operator_id, run_id, aircraft_id, name, digest, by, at) VALUES ($1, $2, $3, $4, $5, $6, $7)',
    [tx.operatorId, runId, aircraftId, name, digest, by, at],
  );
}

/** The run as which a file of these bytes is kept already, null for none. */
export async function findRecording(tx: Tx, aircraftId: string, digest: string): Promise<string | null> {
  const { rows } = await tx.query<{ run: string }>(
    'SELECT run_id AS run FROM recording WHERE operator_id = $1 AND aircraft_id = $2 AND digest = $3',
    [tx.operatorId, aircraftId, digest],
  );
  return rows[0]?.run ?? null;
}

/** When a run of an aircraft was opened that went on within a time, null for none. */
export async function runWithin(tx: Tx, aircraftId: string, from: Date, to: Date): Promise<Date | null> {
  const { rows } = await tx.query<{ openedAt: Date }>(
    `SELECT opened_at AS "openedAt" FROM run
     WHERE operator_id = $1 AND aircraft_id = $2 AND opened_at < $4 AND coalesce(closed_at, 'infinity') > $3
     ORDER BY opened_at DESC LIMIT 1`,
    [tx.operatorId, aircraftId, from, to],
  );
  return rows[0]?.openedAt ?? null;
}
