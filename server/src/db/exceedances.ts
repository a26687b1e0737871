import type { HeldEntry } from '@rouse/core/procedure';
import type { Tx } from './pool.ts';

/** Keeps an exceedance that used up its allowance, or a rating whose use costs an inspection, open until a named engineer releases it. */
export async function insertExceedance(tx: Tx, aircraftId: string, entry: HeldEntry): Promise<void> {
  await tx.query(
    'INSERT INTO exceedance (operator_id, run_id, seq, aircraft_id, at, record) VALUES ($1, $2, $3, $4, $5, $6) ON CONFLICT DO NOTHING',
    [tx.operatorId, entry.run, entry.seq, aircraftId, entry.at, JSON.stringify(entry)],
  );
}

/** What still stops the next start of an aircraft, the oldest first. */
export async function listOpenExceedances(tx: Tx, aircraftId: string): Promise<HeldEntry[]> {
  const { rows } = await tx.query<{ record: HeldEntry }>(
    `SELECT record FROM exceedance e
      WHERE operator_id = $1 AND aircraft_id = $2
        AND NOT EXISTS (SELECT FROM release r WHERE r.operator_id = e.operator_id AND r.run_id = e.run_id AND r.seq = e.seq)
      ORDER BY at, seq`,
    [tx.operatorId, aircraftId],
  );
  return rows.map((r) => r.record);
}

/** Writes down who released an exceedance and what was found. @returns false when none was open there */
export async function releaseExceedance(
  tx: Tx,
  run: string,
  seq: number,
  release: { engineer: string; found: string },
  at: Date,
): Promise<boolean> {
  const { rowCount } = await tx.query(
    `INSERT INTO release (operator_id, run_id, seq, engineer, found, at)
     SELECT $1, $2, $3, $4, $5, $6 WHERE EXISTS (SELECT FROM exceedance WHERE operator_id = $1 AND run_id = $2 AND seq = $3)
     ON CONFLICT DO NOTHING`,
    [tx.operatorId, run, seq, release.engineer, release.found, at],
  );
  return rowCount === 1;
}
