import type { AttachmentType, ExceedanceNoteKind } from '@rouse/core/contract';
import type { Tx } from './pool.ts';

export interface NoteRow {
  noteId: string;
  kind: ExceedanceNoteKind;
  words: string;
  by: string;
  at: Date;
}

/** Of which exceedance. */
export interface ExceedanceKey {
  run: string;
  seq: number;
}

/** What was said and done about an exceedance, oldest first. */
export async function listNotes(tx: Tx, { run, seq }: ExceedanceKey): Promise<NoteRow[]> {
  const { rows } = await tx.query<NoteRow>(
    `SELECT note_id AS "noteId", kind, words, by, at FROM exceedance_note
     WHERE operator_id = $1 AND run_id = $2 AND seq = $3 ORDER BY at`,
    [tx.operatorId, run, seq],
  );
  return rows;
}

export async function insertNote(tx: Tx, { run, seq }: ExceedanceKey, n: NoteRow): Promise<void> {
  await tx.query(
    `INSERT INTO exceedance_note (operator_id, note_id, run_id, seq, kind, words, by, at) VALUES ($1, $2, $3, $4, $5, $6, $7, $8)`,
    [tx.operatorId, n.noteId, run, seq, n.kind, n.words, n.by, n.at],
  );
}

export interface AttachmentRow {
  attachmentId: string;
  name: string;
  mediaType: AttachmentType;
  size: number;
  digest: string;
  by: string;
  at: Date;
}

const COLUMNS = 'attachment_id AS "attachmentId", name, media_type AS "mediaType", size, digest, by, at';

/** Photos and papers of an exceedance, without what is in them. */
export async function listAttachments(tx: Tx, { run, seq }: ExceedanceKey): Promise<AttachmentRow[]> {
  const { rows } = await tx.query<AttachmentRow>(
    `SELECT ${COLUMNS} FROM attachment WHERE operator_id = $1 AND run_id = $2 AND seq = $3 ORDER BY at`,
    [tx.operatorId, run, seq],
  );
  return rows;
}

export async function insertAttachment(
  tx: Tx,
  { run, seq }: ExceedanceKey,
  a: AttachmentRow,
  data: Uint8Array,
): Promise<void> {
  await tx.query(
    `INSERT INTO attachment (operator_id, attachment_id, run_id, seq, name, media_type, size, digest, data, by, at)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11)`,
    [tx.operatorId, a.attachmentId, run, seq, a.name, a.mediaType, a.size, a.digest, data, a.by, a.at],
  );
}

/** One attachment with what is in it, null when there is none. */
export async function findAttachment(tx: Tx, id: string): Promise<(AttachmentRow & { data: Buffer }) | null> {
  const { rows } = await tx.query<AttachmentRow & { data: Buffer }>(
    `SELECT ${COLUMNS}, data FROM attachment WHERE operator_id = $1 AND attachment_id = $2`,
    [tx.operatorId, id],
  );
  return rows[0] ?? null;
}
