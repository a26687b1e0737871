import { canonicalJson, digestOf } from '@rouse/core/procedure';
import type { Tx } from './pool.ts';

export interface AuditRow {
  seq: number;
  at: Date;
  by: string;
  act: string;
  words: string;
  hash: string;
}

const FIRST = '0'.repeat(64);

/** What an entry of the audit is sealed by: the one before, and its own words. */
const auditHash = (before: string | null, e: Omit<AuditRow, 'hash'>): string =>
  digestOf(canonicalJson({ before: before ?? FIRST, seq: e.seq, at: e.at.toISOString(), by: e.by, act: e.act, words: e.words })); // oxfmt-ignore

/** Writes an act down, chained to the one before. */
export async function audit(tx: Tx, at: Date, by: string, act: string, words: string): Promise<void> {
  // one after the other: a chain has no two ends
  await tx.query('SELECT pg_advisory_xact_lock(hashtext($1))', [`audit ${tx.operatorId}`]);
  const { rows } = await tx.query<{ seq: number; hash: string }>(
    'SELECT seq, hash FROM audit WHERE operator_id = $1 ORDER BY seq DESC LIMIT 1',
    [tx.operatorId],
  );
  const entry = { seq: (rows[0]?.seq ?? 0) + 1, at, by, act, words };
  await tx.query('INSERT INTO audit (operator_id, seq, at, by, act, words, hash) VALUES ($1, $2, $3, $4, $5, $6, $7)', [
    tx.operatorId,
    entry.seq,
    at,
    by,
    act,
    words,
    auditHash(rows[0]?.hash ?? null, entry),
  ]);
}

/** The whole audit in its order. */
export async function listAudit(tx: Tx): Promise<AuditRow[]> {
  const { rows } = await tx.query<AuditRow>(
    'SELECT seq, at, by, act, words, hash FROM audit WHERE operator_id = $1 ORDER BY seq',
    [tx.operatorId],
  );
  return rows;
}

/** The number of the first entry that does not follow from the one before, null for a whole chain. */
export function brokenAudit(entries: readonly AuditRow[]): number | null {
  let before: string | null = null;
  for (const [i, entry] of entries.entries()) {
    if (entry.seq !== i + 1 || entry.hash !== auditHash(before, entry)) return entry.seq;
    before = entry.hash;
  }
  return null;
}
