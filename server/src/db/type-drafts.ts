import type { DraftEdit, TypeDraftRow } from '@rouse/core/contract';
import { Refusal } from '../errors.ts';
import type { Tx } from './pool.ts';

const COLUMNS = `draft_id AS draft, type_id AS "typeId", version, name, based_on AS "basedOn", status,
  begun_by AS "begunBy", begun_at AS "begunAt", sent_by AS "sentBy"`;

/** Drafts that are not released, newest first. */
export async function listDrafts(tx: Tx): Promise<TypeDraftRow[]> {
  const { rows } = await tx.query<TypeDraftRow>(
    `SELECT ${COLUMNS} FROM type_draft WHERE operator_id = $1 AND status <> 'released' ORDER BY begun_at DESC`,
    [tx.operatorId],
  );
  return rows;
}

/** One draft, held against others that change it where `lock` says so. @throws Refusal not-found */
export async function getDraft(tx: Tx, draft: string, lock = false): Promise<TypeDraftRow> {
  const { rows } = await tx.query<TypeDraftRow>(
    `SELECT ${COLUMNS} FROM type_draft WHERE operator_id = $1 AND draft_id = $2 ${lock ? 'FOR UPDATE' : ''}`,
    [tx.operatorId, draft],
  );
  if (!rows[0]) throw new Refusal('not-found', 'There is no such draft.');
  return rows[0];
}

/** A draft that is still written, held against others. @throws Refusal for one that is read by a second person, or released */
export async function getOpenDraft(tx: Tx, draft: string): Promise<TypeDraftRow> {
  const row = await getDraft(tx, draft, true);
  if (row.status === 'open') return row;
  const where = row.status === 'released' ? 'released' : 'in review';
  throw new Refusal('not-so', `This draft is ${where}; it is not changed any more.`);
}

export async function insertDraft(tx: Tx, d: TypeDraftRow, folder: Readonly<Record<string, string>>): Promise<void> {
  await tx.query(
    `INSERT INTO type_draft (operator_id, draft_id, type_id, version, name, based_on, status, begun_by, begun_at)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9)`,
    [tx.operatorId, d.draft, d.typeId, d.version, d.name, d.basedOn, d.status, d.begunBy, d.begunAt],
  );
  await tx.query(
    `INSERT INTO type_draft_edit (operator_id, draft_id, revision, file, text, by, at)
     SELECT $1, $2, 0, file, text, $5, $6 FROM unnest($3::text[], $4::text[]) AS f (file, text)`,
    [tx.operatorId, d.draft, Object.keys(folder), Object.values(folder), d.begunBy, d.begunAt],
  );
}

/** The files that changed after a revision, each as it is now. */
export async function listChanges(tx: Tx, draft: string, since: number): Promise<DraftEdit[]> {
  const { rows } = await tx.query<DraftEdit>(
    `SELECT DISTINCT ON (file) revision, file, text, by, at FROM type_draft_edit
     WHERE operator_id = $1 AND draft_id = $2 AND revision > $3 ORDER BY file, revision DESC`,
    [tx.operatorId, draft, since],
  );
  return rows;
}

/** The folder of the version of a type that was released here last, null where none was. */
export async function findReleasedText(tx: Tx, typeId: string): Promise<Record<string, string> | null> {
  const { rows } = await tx.query<{ draft: string }>(
    `SELECT draft_id AS draft FROM type_draft WHERE operator_id = $1 AND type_id = $2 AND status = 'released'
     ORDER BY version DESC LIMIT 1`,
    [tx.operatorId, typeId],
  );
  if (!rows[0]) return null;
  const edits = await listChanges(tx, rows[0].draft, -1);
  return Object.fromEntries(edits.flatMap((e) => (e.text === null ? [] : [[e.file, e.text]])));
}

export async function revisionOf(tx: Tx, draft: string): Promise<number> {
  const { rows } = await tx.query<{ revision: number }>(
    'SELECT max(revision) AS revision FROM type_draft_edit WHERE operator_id = $1 AND draft_id = $2',
    [tx.operatorId, draft],
  );
  return rows[0]!.revision;
}

/** The last edit of a file up to a revision, null where there was none. */
export async function findEdit(tx: Tx, draft: string, file: string, upTo: number): Promise<DraftEdit | null> {
  const { rows } = await tx.query<DraftEdit>(
    `SELECT revision, file, text, by, at FROM type_draft_edit
     WHERE operator_id = $1 AND draft_id = $2 AND file = $3 AND revision <= $4 ORDER BY revision DESC LIMIT 1`,
    [tx.operatorId, draft, file, upTo],
  );
  return rows[0] ?? null;
}

/** The last edit that was not taken back and takes none back itself; null where everything is. */
export async function findUndoable(tx: Tx, draft: string): Promise<DraftEdit | null> {
  const { rows } = await tx.query<DraftEdit>(
    `SELECT revision, file, text, by, at FROM type_draft_edit e
     WHERE operator_id = $1 AND draft_id = $2 AND revision > 0 AND undoes IS NULL
       AND NOT EXISTS (SELECT FROM type_draft_edit u WHERE u.operator_id = e.operator_id AND u.draft_id = e.draft_id AND u.undoes = e.revision)
     ORDER BY revision DESC LIMIT 1`,
    [tx.operatorId, draft],
  );
  return rows[0] ?? null;
}

export async function insertEdit(tx: Tx, draft: string, edit: DraftEdit, undoes: number | null): Promise<void> {
  await tx.query(
    `INSERT INTO type_draft_edit (operator_id, draft_id, revision, file, text, by, at, undoes)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8)`,
    [tx.operatorId, draft, edit.revision, edit.file, edit.text, edit.by, edit.at, undoes],
  );
}

/** Sent to review, by somebody who will not be the one that releases it; or taken back from it. */
export async function setReview(tx: Tx, draft: string, by: { name: string; personId: string } | null): Promise<void> {
  await tx.query(
    'UPDATE type_draft SET status = $3, sent_by = $4, sent_by_person = $5 WHERE operator_id = $1 AND draft_id = $2',
    [tx.operatorId, draft, by === null ? 'open' : 'in-review', by?.name ?? null, by?.personId ?? null],
  );
}

/** Released by a second person. @returns false when it is the one who sent it */
export async function setReleased(
  tx: Tx,
  draft: string,
  by: { name: string; personId: string },
  at: Date,
): Promise<boolean> {
  const { rowCount } = await tx.query(
    `UPDATE type_draft SET status = 'released', released_by = $3, released_at = $4
     WHERE operator_id = $1 AND draft_id = $2 AND sent_by_person IS DISTINCT FROM $5`,
    [tx.operatorId, draft, by.name, at, by.personId],
  );
  return rowCount === 1;
}
