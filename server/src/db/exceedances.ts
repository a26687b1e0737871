import type { HeldEntry } from '@rouse/core/procedure';
import type { Tx } from './pool.ts';

/** Keeps an exceedance that used up its allowance, or a rating whose use costs an inspection, open until a named engineer releases it. */
export async function insertExceedance(tx: Tx, aircraftId: string, entry: HeldEntry): Promise<void> {
  await tx.query(
    'INSERT INTO exceedance (operator_id, run_id, seq, aircraft_id, at, record) VALUES ($1, $2, $3, $4, $5, $6) ON CONFLICT DO NOTHING',
    [tx.operatorId, entry.run, entry.seq, aircraftId, entry.at, JSON.stringify(entry)],
  );
}

export interface ExceedanceRow {
  aircraftId: string;
  tail: string;
  record: HeldEntry;
  release: { engineer: string; found: string; at: Date } | null;
  disputed: boolean;
}

const SELECT = `
  SELECT e.aircraft_id AS "aircraftId", a.tail, e.record,
         CASE WHEN r.at IS NULL THEN NULL ELSE jsonb_build_object('engineer', r.engineer, 'found', r.found, 'at', r.at) END AS release,
         EXISTS (SELECT FROM exceedance_note n WHERE n.operator_id = $1 AND n.run_id = e.run_id AND n.seq = e.seq AND n.kind = 'disputed') AS disputed
  FROM exceedance e
  JOIN aircraft a USING (operator_id, aircraft_id)
  LEFT JOIN release r ON r.operator_id = e.operator_id AND r.run_id = e.run_id AND r.seq = e.seq
  WHERE e.operator_id = $1`;

type Stored = Omit<ExceedanceRow, 'release'> & { release: { engineer: string; found: string; at: string } | null };
const rowOf = (row: Stored): ExceedanceRow => ({
  ...row,
  release: row.release && { ...row.release, at: new Date(row.release.at) },
});

/** Every exceedance of an aircraft, the newest first. */
export async function listExceedances(tx: Tx, aircraftId: string): Promise<ExceedanceRow[]> {
  const { rows } = await tx.query<Stored>(`${SELECT} AND e.aircraft_id = $2 ORDER BY e.at DESC, e.seq DESC`, [
    tx.operatorId,
    aircraftId,
  ]);
  return rows.map(rowOf);
}

/** One exceedance, null when there is none. */
export async function findExceedance(tx: Tx, runId: string, seq: number): Promise<ExceedanceRow | null> {
  const { rows } = await tx.query<Stored>(`${SELECT} AND e.run_id = $2 AND e.seq = $3`, [tx.operatorId, runId, seq]);
  return rows[0] ? rowOf(rows[0]) : null;
}

/** What still stops the next start of an aircraft, the oldest first. */
export async function listOpenExceedances(tx: Tx, aircraftId: string): Promise<HeldEntry[]> {
  return (await listAllOpen(tx, aircraftId)).map((r) => r.record);
}

/** What still stops the next start of any aircraft, the oldest first. @param aircraftId of this one only */
export async function listAllOpen(
  tx: Tx,
  aircraftId: string | null = null,
): Promise<{ aircraftId: string; record: HeldEntry }[]> {
  const { rows } = await tx.query<{ aircraftId: string; record: HeldEntry }>(
    `SELECT aircraft_id AS "aircraftId", record FROM exceedance e
      WHERE operator_id = $1 AND ($2::uuid IS NULL OR aircraft_id = $2)
        AND NOT EXISTS (SELECT FROM release r WHERE r.operator_id = e.operator_id AND r.run_id = e.run_id AND r.seq = e.seq)
      ORDER BY at, seq`,
    [tx.operatorId, aircraftId],
  );
  return rows;
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
