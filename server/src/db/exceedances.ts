import type { Entry } from '@rouse/core/procedure';
import type { Tx } from './pool.ts';

/** Keeps an exceedance that used up its allowance, open until a named engineer releases it. */
export async function insertExceedance(
  tx: Tx,
  aircraftId: string,
  entry: Extract<Entry, { kind: 'exceedance' }>,
): Promise<void> {
  await tx.query(
    'INSERT INTO exceedance (operator_id, run_id, seq, aircraft_id, at, record) VALUES ($1, $2, $3, $4, $5, $6)',
    [tx.operatorId, entry.run, entry.seq, aircraftId, entry.at, JSON.stringify(entry)],
  );
}

export async function countOpenExceedances(tx: Tx, aircraftId: string): Promise<number> {
  const { rows } = await tx.query<{ n: number }>(
    'SELECT count(*) AS n FROM exceedance WHERE operator_id = $1 AND aircraft_id = $2 AND released_at IS NULL',
    [tx.operatorId, aircraftId],
  );
  return rows[0]!.n;
}
