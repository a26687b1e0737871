import type { BookedRun, BookEntry, DueItem } from '@rouse/core/books';
import type { Booking } from '@rouse/core/shutdown';
import { Refusal } from '../errors.ts';
import type { Tx } from './pool.ts';

/** What the runs of an aircraft booked, oldest first. */
export async function listBookedRuns(tx: Tx, aircraftId: string): Promise<BookedRun[]> {
  const { rows } = await tx.query<{ run: string; at: Date; booking: Booking }>(
    'SELECT run_id AS run, at, booking FROM run_booking WHERE operator_id = $1 AND aircraft_id = $2 ORDER BY at',
    [tx.operatorId, aircraftId],
  );
  return rows.map((row) => ({ ...row, at: row.at.toISOString() }));
}

/** Opening values and corrections of an aircraft, oldest first. */
export async function listBookEntries(tx: Tx, aircraftId: string): Promise<BookEntry[]> {
  const { rows } = await tx.query<Omit<BookEntry, 'at'> & { at: Date }>(
    `SELECT entry_id AS id, kind, account, amount, reason, by, at FROM book_entry
     WHERE operator_id = $1 AND aircraft_id = $2 ORDER BY at`,
    [tx.operatorId, aircraftId],
  );
  return rows.map((row) => ({ ...row, at: row.at.toISOString() }));
}

/** @throws Refusal changed-meanwhile for a second opening value */
export async function insertBookEntry(tx: Tx, aircraftId: string, e: Omit<BookEntry, 'at'>, at: Date): Promise<void> {
  const { rowCount } = await tx.query(
    `INSERT INTO book_entry (operator_id, entry_id, aircraft_id, kind, account, amount, reason, by, at)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9) ON CONFLICT DO NOTHING`,
    [tx.operatorId, e.id, aircraftId, e.kind, e.account, e.amount, e.reason, e.by, at],
  );
  if (rowCount === 0)
    throw new Refusal('changed-meanwhile', 'This account has its opening value already; what is wrong in it is corrected.', { path: 'account' }); // oxfmt-ignore
}

/** What is set for an aircraft and not done yet. */
export async function listDue(tx: Tx, aircraftId: string): Promise<DueItem[]> {
  const { rows } = await tx.query<Omit<DueItem, 'setAt'> & { setAt: Date }>(
    `SELECT due_id AS id, title, account, amount, on_day AS "onDay", holds, set_by AS "setBy", set_at AS "setAt"
     FROM due_item WHERE operator_id = $1 AND aircraft_id = $2 AND done_at IS NULL ORDER BY set_at`,
    [tx.operatorId, aircraftId],
  );
  return rows.map((row) => ({ ...row, setAt: row.setAt.toISOString() }));
}

export async function insertDue(tx: Tx, aircraftId: string, d: Omit<DueItem, 'setAt'>, at: Date): Promise<void> {
  await tx.query(
    `INSERT INTO due_item (operator_id, due_id, aircraft_id, title, account, amount, on_day, holds, set_by, set_at)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10)`,
    [tx.operatorId, d.id, aircraftId, d.title, d.account, d.amount, d.onDay, d.holds, d.setBy, at],
  );
}

/** @throws Refusal not-found when it is done already */
export async function finishDue(
  tx: Tx,
  dueId: string,
  done: { by: string; words: string },
  at: Date,
): Promise<{ aircraftId: string; title: string }> {
  const { rows } = await tx.query<{ aircraftId: string; title: string }>(
    `UPDATE due_item SET done_by = $3, done_words = $4, done_at = $5 WHERE operator_id = $1 AND due_id = $2 AND done_at IS NULL
     RETURNING aircraft_id AS "aircraftId", title`,
    [tx.operatorId, dueId, done.by, done.words, at],
  );
  if (!rows[0]) throw new Refusal('not-found', 'This item is not open; somebody may have done it.');
  return rows[0];
}
