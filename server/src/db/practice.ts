import type { Practice, PracticeRow } from '@rouse/core/contract';
import type { Tx } from './pool.ts';

/** Keeps one practice flight, apart from every aircraft's record. */
export async function insertPractice(
  tx: Tx,
  id: string,
  personId: string,
  at: Date,
  { type, exercise, result }: Practice,
): Promise<void> {
  await tx.query(
    `INSERT INTO practice_flight (operator_id, practice_id, person_id, at, type_id, exercise, result)
     VALUES ($1, $2, $3, $4, $5, $6, $7)`,
    [tx.operatorId, id, personId, at, type, exercise, JSON.stringify(result)],
  );
}

/** The last practice flights of a person, newest first. */
export async function listPractice(tx: Tx, personId: string, limit: number): Promise<PracticeRow[]> {
  const { rows } = await tx.query<Omit<PracticeRow, 'at'> & { at: Date }>(
    `SELECT practice_id AS id, at, type_id AS type, exercise, result FROM practice_flight
      WHERE operator_id = $1 AND person_id = $2 ORDER BY at DESC LIMIT $3`,
    [tx.operatorId, personId, limit],
  );
  return rows.map((r) => ({ ...r, at: r.at.toISOString() }));
}
