import type { Tx } from './pool.ts';

export interface TabletRow {
  tabletId: string;
  label: string;
  enrolledBy: string;
  enrolledAt: Date;
}

const COLUMNS = 'tablet_id AS "tabletId", label, enrolled_by AS "enrolledBy", enrolled_at AS "enrolledAt"';

export async function insertTablet(tx: Tx, t: TabletRow, tokenDigest: Buffer): Promise<void> {
  await tx.query(
    'INSERT INTO tablet (operator_id, tablet_id, label, token_digest, enrolled_by, enrolled_at) VALUES ($1, $2, $3, $4, $5, $6)',
    [tx.operatorId, t.tabletId, t.label, tokenDigest, t.enrolledBy, t.enrolledAt],
  );
}

export async function listTablets(tx: Tx): Promise<TabletRow[]> {
  const { rows } = await tx.query<TabletRow>(
    `SELECT ${COLUMNS} FROM tablet WHERE operator_id = $1 AND ended_at IS NULL ORDER BY label`,
    [tx.operatorId],
  );
  return rows;
}

/** The tablet that a browser says it is; null for none, and for one that was ended. */
export async function findTablet(tx: Tx, tokenDigest: Buffer): Promise<TabletRow | null> {
  const { rows } = await tx.query<TabletRow>(
    `SELECT ${COLUMNS} FROM tablet WHERE operator_id = $1 AND token_digest = $2 AND ended_at IS NULL`,
    [tx.operatorId, tokenDigest],
  );
  return rows[0] ?? null;
}

export async function endTablet(tx: Tx, tabletId: string, at: Date): Promise<boolean> {
  const { rowCount } = await tx.query(
    'UPDATE tablet SET ended_at = $3 WHERE operator_id = $1 AND tablet_id = $2 AND ended_at IS NULL',
    [tx.operatorId, tabletId, at],
  );
  return rowCount === 1;
}

/** Those who can take a tablet with a PIN. */
export async function listPinHolders(tx: Tx): Promise<{ personId: string; name: string }[]> {
  const { rows } = await tx.query<{ personId: string; name: string }>(
    `SELECT person_id AS "personId", name FROM person
     WHERE operator_id = $1 AND left_at IS NULL AND pin IS NOT NULL ORDER BY name`,
    [tx.operatorId],
  );
  return rows;
}
