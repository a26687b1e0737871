import type { Role } from '@rouse/core/people';
import type { Tx } from './pool.ts';

export interface InvitationRow {
  invitationId: string;
  kind: 'join' | 'reset';
  name: string;
  roles: Role[];
  personId: string | null;
  madeBy: string;
  madeAt: Date;
  until: Date;
  usedAt: Date | null;
}

const COLUMNS =
  'invitation_id AS "invitationId", kind, name, roles, person_id AS "personId", made_by AS "madeBy", made_at AS "madeAt", until, used_at AS "usedAt"';

export async function insertInvitation(tx: Tx, i: Omit<InvitationRow, 'usedAt'>, tokenDigest: Buffer): Promise<void> {
  await tx.query(
    `INSERT INTO invitation (operator_id, invitation_id, token_digest, kind, name, roles, person_id, made_by, made_at, until)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10)`,
    [tx.operatorId, i.invitationId, tokenDigest, i.kind, i.name, i.roles, i.personId, i.madeBy, i.madeAt, i.until],
  );
}

/** Those that can still be used, newest first. */
export async function listInvitations(tx: Tx, now: Date): Promise<InvitationRow[]> {
  const { rows } = await tx.query<InvitationRow>(
    `SELECT ${COLUMNS} FROM invitation WHERE operator_id = $1 AND used_at IS NULL AND until > $2 ORDER BY made_at DESC`,
    [tx.operatorId, now],
  );
  return rows;
}

/** The invitation of a link that can still be used; null for none. Held against a second use until the transaction ends. */
export async function findInvitation(tx: Tx, tokenDigest: Buffer, now: Date): Promise<InvitationRow | null> {
  const { rows } = await tx.query<InvitationRow>(
    `SELECT ${COLUMNS} FROM invitation
     WHERE operator_id = $1 AND token_digest = $2 AND used_at IS NULL AND until > $3 FOR UPDATE`,
    [tx.operatorId, tokenDigest, now],
  );
  return rows[0] ?? null;
}

/** It is used, or taken back. @returns false when it was before */
export async function endInvitation(tx: Tx, invitationId: string, at: Date): Promise<boolean> {
  const { rowCount } = await tx.query(
    'UPDATE invitation SET used_at = $3 WHERE operator_id = $1 AND invitation_id = $2 AND used_at IS NULL',
    [tx.operatorId, invitationId, at],
  );
  return rowCount === 1;
}
