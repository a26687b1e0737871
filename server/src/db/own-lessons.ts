import type { OwnLesson } from '@rouse/core/contract';
import type { Tx } from './pool.ts';

export type OwnLessonRow = Omit<OwnLesson, 'problems'>;

/** Lessons that were written here for a type, by their name. */
export async function listOwnLessons(tx: Tx, typeId: string): Promise<OwnLessonRow[]> {
  const { rows } = await tx.query<Omit<OwnLessonRow, 'at'> & { at: Date }>(
    'SELECT lesson_id AS id, text, by_name AS by, at FROM own_lesson WHERE operator_id = $1 AND type_id = $2 ORDER BY lesson_id',
    [tx.operatorId, typeId],
  );
  return rows.map((r) => ({ ...r, at: r.at.toISOString() }));
}

export async function putOwnLesson(tx: Tx, typeId: string, { id, text, by, at }: Omit<OwnLessonRow, 'at'> & { at: Date }): Promise<void> {
  await tx.query(
    `INSERT INTO own_lesson (operator_id, type_id, lesson_id, text, by_name, at) VALUES ($1, $2, $3, $4, $5, $6)
     ON CONFLICT (operator_id, type_id, lesson_id) DO UPDATE SET text = excluded.text, by_name = excluded.by_name, at = excluded.at`,
    [tx.operatorId, typeId, id, text, by, at],
  );
} // oxfmt-ignore

/** @returns false when there was none */
export async function deleteOwnLesson(tx: Tx, typeId: string, id: string): Promise<boolean> {
  const { rowCount } = await tx.query(
    'DELETE FROM own_lesson WHERE operator_id = $1 AND type_id = $2 AND lesson_id = $3',
    [tx.operatorId, typeId, id],
  );
  return rowCount === 1;
}
