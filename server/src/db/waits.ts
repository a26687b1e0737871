import type { PastWait } from '@rouse/core/procedure';
import type { Tx } from './pool.ts';

/** Keeps how long the waits of one run took. */
export async function insertWaits(
  tx: Tx,
  run: { runId: string; aircraftId: string },
  at: Date,
  waits: readonly PastWait[],
): Promise<void> {
  for (const { item, took_s, oat_C, curves } of waits)
    await tx.query(
      `INSERT INTO wait_duration (operator_id, run_id, item, aircraft_id, at, took_s, oat_c, curves)
       VALUES ($1, $2, $3, $4, $5, $6, $7, $8) ON CONFLICT DO NOTHING`,
      [tx.operatorId, run.runId, item, run.aircraftId, at, took_s, oat_C, curves ? JSON.stringify(curves) : null],
    );
}

/** Waits of one aircraft, newest first. */
export async function listWaits(tx: Tx, aircraftId: string, limit: number): Promise<PastWait[]> {
  const { rows } = await tx.query<PastWait & { curves: PastWait['curves'] | null }>(
    `SELECT item, took_s, oat_c AS "oat_C", curves FROM wait_duration
     WHERE operator_id = $1 AND aircraft_id = $2 ORDER BY at DESC LIMIT $3`,
    [tx.operatorId, aircraftId, limit],
  );
  return rows.map(({ curves, ...wait }) => ({ ...wait, ...(curves && { curves }) }));
}
