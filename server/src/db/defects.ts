import { Refusal } from '../errors.ts';
import type { Tx } from './pool.ts';

export interface DefectRow {
  defectId: string;
  aircraftId: string;
  equipment: string;
  words: string;
  openedBy: string;
  openedAt: Date;
}

const COLUMNS =
  'defect_id AS "defectId", aircraft_id AS "aircraftId", equipment, words, opened_by AS "openedBy", opened_at AS "openedAt"';

/** What is missing or defective on an aircraft, until an engineer has closed it. */
export async function listOpenDefects(tx: Tx, aircraftId: string): Promise<DefectRow[]> {
  const { rows } = await tx.query<DefectRow>(
    `SELECT ${COLUMNS} FROM defect WHERE operator_id = $1 AND aircraft_id = $2 AND closed_at IS NULL ORDER BY opened_at`,
    [tx.operatorId, aircraftId],
  );
  return rows;
}

export async function insertDefect(tx: Tx, d: DefectRow): Promise<void> {
  await tx.query(
    `INSERT INTO defect (operator_id, defect_id, aircraft_id, equipment, words, opened_by, opened_at)
     VALUES ($1, $2, $3, $4, $5, $6, $7)`,
    [tx.operatorId, d.defectId, d.aircraftId, d.equipment, d.words, d.openedBy, d.openedAt],
  );
}

/** @throws Refusal not-found when it is closed already */
export async function closeDefect(tx: Tx, defectId: string, by: string, at: Date): Promise<DefectRow> {
  const { rows } = await tx.query<DefectRow>(
    `UPDATE defect SET closed_by = $3, closed_at = $4 WHERE operator_id = $1 AND defect_id = $2 AND closed_at IS NULL
     RETURNING ${COLUMNS}`,
    [tx.operatorId, defectId, by, at],
  );
  if (!rows[0]) throw new Refusal('not-found', 'This defect is not open; somebody may have closed it.');
  return rows[0];
}
