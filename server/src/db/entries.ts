import { type Entry, hashOf, parseEntry } from '@rouse/core/procedure';
import type { Tx } from './pool.ts';

export interface RunKey {
  runId: string;
  runMonth: string;
}

/** The journal of a run, in order. */
export async function listEntries(tx: Tx, run: RunKey): Promise<Entry[]> {
  const { rows } = await tx.query<{ entry: unknown }>(
    'SELECT entry FROM run_entry WHERE operator_id = $1 AND run_id = $2 AND run_month = $3 ORDER BY seq',
    [tx.operatorId, run.runId, run.runMonth],
  );
  return rows.map((r) => parseEntry(r.entry));
}

/** Number of the last entry of a run that is stored, 0 for none. */
export async function lastSeq(tx: Tx, run: RunKey): Promise<number> {
  const { rows } = await tx.query<{ seq: number | null }>(
    'SELECT max(seq) AS seq FROM run_entry WHERE operator_id = $1 AND run_id = $2 AND run_month = $3',
    [tx.operatorId, run.runId, run.runMonth],
  );
  return rows[0]!.seq ?? 0;
}

/** Whether the journal of a run has all of these entries. */
export async function hasEntries(tx: Tx, run: RunKey, ids: readonly string[]): Promise<boolean> {
  const { rows } = await tx.query<{ known: number }>(
    'SELECT count(*) AS known FROM run_entry WHERE operator_id = $1 AND run_id = $2 AND run_month = $3 AND entry_id = ANY ($4)',
    [tx.operatorId, run.runId, run.runMonth, ids],
  );
  return rows[0]!.known === ids.length;
}

/** Adds entries that were chained already; the caller holds the order. */
export async function insertEntries(tx: Tx, runMonth: string, entries: readonly Entry[]): Promise<void> {
  await tx.query(
    `INSERT INTO run_entry (operator_id, run_id, run_month, seq, entry_id, kind, entry, hash)
     SELECT $1, $2, $3, * FROM unnest($4::int[], $5::uuid[], $6::text[], $7::jsonb[], $8::text[])`,
    [
      tx.operatorId,
      entries[0]!.run,
      runMonth,
      entries.map((e) => e.seq),
      entries.map((e) => e.id),
      entries.map((e) => e.kind),
      entries.map((e) => JSON.stringify(e)),
      entries.map(hashOf),
    ],
  );
}
