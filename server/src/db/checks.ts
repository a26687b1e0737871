import type { PastCheck } from '@rouse/core/health';
import type { MeasuredEntry } from '@rouse/core/procedure';
import type { Tx } from './pool.ts';

/** passed checks that a habit is made of: some forty runs */
export const PAST_CHECKS = 400;

/** Keeps what one check found. */
export async function insertCheck(tx: Tx, aircraftId: string, at: Date, entry: MeasuredEntry): Promise<void> {
  await tx.query(
    `INSERT INTO run_check (operator_id, run_id, seq, aircraft_id, at, item, check_id, verdict, cause, words, figures, from_s, to_s)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13) ON CONFLICT DO NOTHING`,
    [
      tx.operatorId,
      entry.run,
      entry.seq,
      aircraftId,
      at,
      entry.item,
      entry.check,
      entry.verdict,
      entry.cause,
      entry.words,
      JSON.stringify(entry.figures),
      entry.from_s,
      entry.to_s,
    ],
  );
}

/** The last checks of an aircraft that could be read, good or not, newest first. */
export async function listReadChecks(
  tx: Tx,
  aircraftId: string,
  before: Date,
  limit: number,
): Promise<(PastCheck & { at: string })[]> {
  const { rows } = await tx.query<PastCheck & { at: Date }>(
    `SELECT check_id AS "check", figures, at FROM run_check
     WHERE operator_id = $1 AND aircraft_id = $2 AND at < $3 AND verdict <> 'unknown' ORDER BY at DESC LIMIT $4`,
    [tx.operatorId, aircraftId, before, limit],
  );
  return rows.map((row) => ({ ...row, at: row.at.toISOString() }));
}

/** The last checks that passed of an aircraft before a moment, newest first. */
export async function listPassedChecks(tx: Tx, aircraftId: string, before: Date, limit: number): Promise<PastCheck[]> {
  const { rows } = await tx.query<PastCheck>(
    `SELECT check_id AS "check", figures FROM run_check
     WHERE operator_id = $1 AND aircraft_id = $2 AND at < $3 AND verdict IN ('good', 'unusual') ORDER BY at DESC LIMIT $4`,
    [tx.operatorId, aircraftId, before, limit],
  );
  return rows;
}
