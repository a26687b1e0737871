import type { RunOutcome, Source } from '@rouse/core/procedure';
import { Refusal } from '../errors.ts';
import type { Tx } from './pool.ts';

export interface RunRow {
  runId: string;
  runMonth: string;
  aircraftId: string;
  tail: string;
  pad: string;
  typeId: string;
  typeVersion: number;
  openedBy: string;
  pilot: string;
  openedAt: Date;
  source: Source;
  conditions: string;
  closedAt: Date | null;
  outcome: RunOutcome | null;
}

const SELECT = `
  SELECT r.run_id AS "runId", r.run_month AS "runMonth", r.aircraft_id AS "aircraftId", a.tail, a.pad, r.type_id AS "typeId",
         r.type_version AS "typeVersion", r.opened_by AS "openedBy", p.name AS pilot, r.opened_at AS "openedAt", r.source,
         r.conditions, r.closed_at AS "closedAt", r.outcome
  FROM run r
  JOIN aircraft a USING (operator_id, aircraft_id)
  JOIN person p ON p.operator_id = r.operator_id AND p.person_id = r.opened_by
  WHERE r.operator_id = $1`;

export async function getRun(tx: Tx, runId: string): Promise<RunRow> {
  const run = await findRun(tx, runId);
  if (!run) throw new Refusal('not-found', `There is no run ${runId}.`);
  return run;
}

export async function findOpenRun(tx: Tx, aircraftId: string): Promise<RunRow | null> {
  const { rows } = await tx.query<RunRow>(`${SELECT} AND r.aircraft_id = $2 AND r.closed_at IS NULL`, [
    tx.operatorId,
    aircraftId,
  ]);
  return rows[0] ?? null;
}

/** Runs of one aircraft, newest first. */
export async function listRuns(tx: Tx, aircraftId: string, limit: number): Promise<RunRow[]> {
  const { rows } = await tx.query<RunRow>(`${SELECT} AND r.aircraft_id = $2 ORDER BY r.opened_at DESC LIMIT $3`, [
    tx.operatorId,
    aircraftId,
    limit,
  ]);
  return rows;
}

export interface NewRun {
  runId: string;
  aircraftId: string;
  typeId: string;
  typeVersion: number;
  openedBy: string;
  openedAt: Date;
  source: RunRow['source'];
  conditions: string;
  /** a run that is over when it is written; missing: it goes on */
  closed?: { at: Date; outcome: RunOutcome };
}

export function monthOf(at: Date): string {
  return `${at.toISOString().slice(0, 7)}-01`;
}

/** @throws Refusal run-is-open when the aircraft has an open run already */
export async function insertRun(tx: Tx, run: NewRun): Promise<void> {
  const month = monthOf(run.openedAt);
  await tx.query('SELECT ensure_month($1)', [month]);
  const { rowCount } = await tx.query(
    `INSERT INTO run (operator_id, run_id, run_month, aircraft_id, type_id, type_version, opened_by, opened_at, source, conditions, closed_at, outcome)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12)
     ON CONFLICT (operator_id, aircraft_id) WHERE closed_at IS NULL DO NOTHING`,
    [
      tx.operatorId,
      run.runId,
      month,
      run.aircraftId,
      run.typeId,
      run.typeVersion,
      run.openedBy,
      run.openedAt,
      run.source,
      run.conditions,
      run.closed?.at ?? null,
      run.closed?.outcome ?? null,
    ],
  );
  if (rowCount === 0) {
    const open = await findOpenRun(tx, run.aircraftId);
    throw new Refusal('run-is-open', `${open?.tail ?? 'The aircraft'} has an open run already.`, {
      run: open?.runId ?? null,
    });
  }
}

/** A run by its name, null where there is none. */
export async function findRun(tx: Tx, runId: string): Promise<RunRow | null> {
  const { rows } = await tx.query<RunRow>(`${SELECT} AND r.run_id = $2`, [tx.operatorId, runId]);
  return rows[0] ?? null;
}

export async function hasRun(tx: Tx, runId: string): Promise<boolean> {
  const { rowCount } = await tx.query('SELECT FROM run WHERE operator_id = $1 AND run_id = $2', [tx.operatorId, runId]);
  return rowCount === 1;
}

/** Lets one after the other work on a run: the next one waits for the end of this transaction. */
export async function lockRun(tx: Tx, runId: string): Promise<void> {
  await tx.query('SELECT FROM run WHERE operator_id = $1 AND run_id = $2 FOR UPDATE', [tx.operatorId, runId]);
}

export async function closeRun(tx: Tx, runId: string, closedAt: Date, outcome: string): Promise<void> {
  await tx.query('UPDATE run SET closed_at = $3, outcome = $4 WHERE operator_id = $1 AND run_id = $2', [
    tx.operatorId,
    runId,
    closedAt,
    outcome,
  ]);
}
