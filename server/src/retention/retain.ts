import type { TypeFile } from '@rouse/core/aircraft';
import { chainEntries, type Entry, isHeld } from '@rouse/core/procedure';
import { traceDigest } from '@rouse/core/session';
import { thin } from '@rouse/core/trace';
import type pg from 'pg';
import { v7 as uuidv7 } from 'uuid';
import { getType } from '../db/aircraft.ts';
import { insertEntries, listEntries } from '../db/entries.ts';
import { inTransaction, type Tx } from '../db/pool.ts';
import { lockRun } from '../db/runs.ts';
import { deleteTrace, getTrace, insertTrace } from '../db/trace.ts';

const DAY_MS = 86_400_000;
/** How long readings are kept, and how dense: an older run has so many rows a second. */
const POLICY = [
  { olderThan_days: 365, perSecond: 0 },
  { olderThan_days: 90, perSecond: 5 },
] as const;
/** before and after what held a start the readings stay as they were, s */
const AROUND_S = 60;
/** months that are there before they begin */
const MONTHS_AHEAD = 2;
/** a month of readings may be dropped when all of its runs are older than the policy keeps any */
const DROPPED_AFTER_MONTHS = 13;
/** any number that nothing else in the database locks */
const LOCK = 7_268_312;

/** What one go of the job has done. */
export interface Retained {
  /** runs of which fewer readings are kept now */
  thinned: number;
  /** runs of which no readings are kept now, but for the minutes around what held a start */
  emptied: number;
  /** partitions of months that had nothing left */
  dropped: string[];
}

interface Due {
  runId: string;
  runMonth: string;
  typeId: string;
  typeVersion: number;
  perSecond: number;
}

/**
 * Keeps readings as long as the policy says: figures and journal stay for ever. Each run is done in a transaction of its own,
 * so that the job may be killed at any moment and run again.
 * @param client the owner of the tables @throws Error when another one works on it
 */
export async function retain(client: pg.ClientBase, now: Date): Promise<Retained> {
  const { rows } = await client.query<{ taken: boolean }>('SELECT pg_try_advisory_lock($1) AS taken', [LOCK]);
  if (!rows[0]!.taken) throw new Error('another npm run retain works on this database; let it end first');
  try {
    await makeMonths(client, now);
    const found: Retained = { thinned: 0, emptied: 0, dropped: [] };
    const { rows: operators } = await client.query<{ id: string }>('SELECT operator_id AS id FROM operator ORDER BY 1');
    for (const { id } of operators)
      for (const due of await inTransaction(client, id, (tx) => listDue(tx, now))) {
        await inTransaction(client, id, (tx) => thinRun(tx, due, now));
        if (due.perSecond > 0) found.thinned++;
        else found.emptied++;
      }
    found.dropped = await dropEmptyMonths(client, now);
    return found;
  } finally {
    await client.query('SELECT pg_advisory_unlock($1)', [LOCK]);
  }
}

/** Runs that have more readings than their age allows, the oldest first. */
async function listDue(tx: Tx, now: Date): Promise<Due[]> {
  const due = new Map<string, Due>();
  for (const { olderThan_days, perSecond } of POLICY) {
    const { rows } = await tx.query<Omit<Due, 'perSecond'>>(
      `SELECT run_id AS "runId", run_month AS "runMonth", type_id AS "typeId", type_version AS "typeVersion" FROM run r
       WHERE operator_id = $1 AND closed_at < $2
         AND EXISTS (SELECT FROM trace_chunk c WHERE c.operator_id = $1 AND c.run_id = r.run_id AND c.run_month = r.run_month)
         AND NOT EXISTS (SELECT FROM run_entry e WHERE e.operator_id = $1 AND e.run_id = r.run_id AND e.run_month = r.run_month
                         AND e.kind = 'trace-thinned' AND (e.entry->>'perSecond')::float8 <= $3)
       ORDER BY opened_at`,
      [tx.operatorId, new Date(now.getTime() - olderThan_days * DAY_MS), perSecond],
    );
    for (const row of rows) if (!due.has(row.runId)) due.set(row.runId, { ...row, perSecond });
  }
  return [...due.values()];
}

/** What held the next start in a run, from its beginning to its end, with the minutes around it; those that meet are one. */
function stretchesAround(type: TypeFile, entries: readonly Entry[]): [from_s: number, to_s: number][] {
  const found: [number, number][] = [];
  for (const entry of entries) {
    if (!isHeld(type, entry)) continue;
    const [begun_s, over_s] = entry.kind === 'exceedance' ? [entry.start_s, entry.end_s] : [entry.t, entry.t];
    const last = found[found.length - 1];
    if (last && begun_s - AROUND_S <= last[1]) {
      last[0] = Math.min(last[0], begun_s - AROUND_S);
      last[1] = Math.max(last[1], over_s + AROUND_S);
    } else found.push([begun_s - AROUND_S, over_s + AROUND_S]);
  }
  return found;
}

async function thinRun(tx: Tx, run: Due, now: Date): Promise<void> {
  await lockRun(tx, run.runId);
  const type = await getType(tx, run.typeId, run.typeVersion);
  const { channels } = type;
  const entries = await listEntries(tx, run);
  const whole = stretchesAround(type, entries);
  const kept = thin(await getTrace(tx, run, channels), run.perSecond, whole);
  await deleteTrace(tx, run);
  await insertTrace(tx, run, kept, channels);
  // what is digested is what can be read back
  const stored = await getTrace(tx, run, channels);
  const digest = traceDigest(
    stored,
    channels.map((c) => c.resolution),
  );
  const last = entries[entries.length - 1];
  const added = chainEntries(run.runId, last, [
    {
      id: uuidv7(),
      at_ms: now.getTime(),
      t_s: last?.t ?? 0,
      by: 'watch',
      payload: { kind: 'trace-thinned', perSecond: run.perSecond, whole, frames: stored.t_s.length, digest }, // oxfmt-ignore
    },
  ]);
  await insertEntries(tx, run.runMonth, added);
}

const firstOf = (now: Date, months: number): Date =>
  new Date(Date.UTC(now.getUTCFullYear(), now.getUTCMonth() + months, 1));
const monthName = (month: Date): string => month.toISOString().slice(0, 10);

async function makeMonths(client: pg.ClientBase, now: Date): Promise<void> {
  for (let ahead = 0; ahead <= MONTHS_AHEAD; ahead++)
    await client.query('SELECT ensure_month($1)', [monthName(firstOf(now, ahead))]);
}

/** Takes away, by their names, partitions of readings that are older than the policy keeps any and have none. */
async function dropEmptyMonths(client: pg.ClientBase, now: Date): Promise<string[]> {
  const { rows } = await client.query<{ name: string }>(
    `SELECT relname AS name FROM pg_class WHERE relnamespace = 'public'::regnamespace AND relispartition AND relname ~ '^trace_chunk_[0-9]{6}$' ORDER BY 1`,
  );
  const oldest = monthName(firstOf(now, -DROPPED_AFTER_MONTHS)).replaceAll('-', '').slice(0, 6);
  const dropped: string[] = [];
  for (const { name } of rows.filter((r) => r.name.slice(-6) < oldest)) {
    await client.query('BEGIN');
    // nobody writes into it between the look and the drop
    await client.query(`LOCK TABLE ${name} IN ACCESS EXCLUSIVE MODE`);
    const { rowCount } = await client.query(`SELECT FROM ${name} LIMIT 1`);
    if (rowCount === 0) {
      await client.query(`DROP TABLE ${name}`);
      dropped.push(name);
    }
    await client.query('COMMIT');
  }
  return dropped;
}
