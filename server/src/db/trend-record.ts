import type { TrendCheck, TrendStart } from '@rouse/core/trends';
import type { Tx } from './pool.ts';

/** starts and checks that trends are made of: several years of a busy aircraft */
const MOST = 1000;

/** The last good starts of an aircraft with their figures, newest first. */
export async function listTrendStarts(tx: Tx, aircraftId: string): Promise<TrendStart[]> {
  const { rows } = await tx.query<Omit<TrendStart, 'at'> & { at: Date }>(
    `SELECT run_id AS run, at, watch, attempt, good, features FROM run_feature
     WHERE operator_id = $1 AND aircraft_id = $2 AND good ORDER BY at DESC LIMIT $3`,
    [tx.operatorId, aircraftId, MOST],
  );
  return rows.map((row) => ({ ...row, at: row.at.toISOString() }));
}

/** The last readings of some checks of an aircraft, newest first. */
export async function listTrendChecks(tx: Tx, aircraftId: string, checks: readonly string[]): Promise<TrendCheck[]> {
  const { rows } = await tx.query<Omit<TrendCheck, 'at'> & { at: Date }>(
    `SELECT run_id AS run, at, check_id AS "check", figures FROM run_check
     WHERE operator_id = $1 AND aircraft_id = $2 AND check_id = ANY ($3) AND verdict <> 'unknown'
     ORDER BY at DESC LIMIT $4`,
    [tx.operatorId, aircraftId, checks, MOST],
  );
  return rows.map((row) => ({ ...row, at: row.at.toISOString() }));
}

export interface TrendChoice {
  run: string;
  leftOut: boolean;
  reason: string;
  by: string;
  at: string;
}

/** The last word on each run of an aircraft of which somebody said whether trends count it. */
export async function listTrendChoices(tx: Tx, aircraftId: string): Promise<TrendChoice[]> {
  const { rows } = await tx.query<Omit<TrendChoice, 'at'> & { at: Date }>(
    `SELECT DISTINCT ON (c.run_id) c.run_id AS run, c.left_out AS "leftOut", c.reason, c.by, c.at
     FROM trend_choice c JOIN run r USING (operator_id, run_id)
     WHERE c.operator_id = $1 AND r.aircraft_id = $2 ORDER BY c.run_id, c.at DESC`,
    [tx.operatorId, aircraftId],
  );
  return rows.map((row) => ({ ...row, at: row.at.toISOString() }));
}

export async function insertTrendChoice(
  tx: Tx,
  runId: string,
  choice: { leftOut: boolean; reason: string; by: string },
  at: Date,
): Promise<void> {
  await tx.query(
    'INSERT INTO trend_choice (operator_id, run_id, at, left_out, reason, by) VALUES ($1, $2, $3, $4, $5, $6)',
    [tx.operatorId, runId, at, choice.leftOut, choice.reason, choice.by],
  );
}

/** What changes whenever the trends of an aircraft may, for every aircraft of the operator. */
export async function trendStamps(tx: Tx): Promise<Map<string, string>> {
  const { rows } = await tx.query<{ aircraftId: string; stamp: string }>(
    `SELECT a.aircraft_id AS "aircraftId",
            concat_ws('/', a.type_id, a.type_version, f.n, f.last, c.n, m.n, m.last, t.n) AS stamp
     FROM aircraft a
     LEFT JOIN LATERAL (SELECT count(*) AS n, max(at) AS last FROM run_feature
       WHERE operator_id = $1 AND aircraft_id = a.aircraft_id) f ON true
     LEFT JOIN LATERAL (SELECT count(*) AS n FROM run_check
       WHERE operator_id = $1 AND aircraft_id = a.aircraft_id) c ON true
     LEFT JOIN LATERAL (SELECT count(*) AS n, max(at) AS last FROM maintenance
       WHERE operator_id = $1 AND aircraft_id = a.aircraft_id) m ON true
     LEFT JOIN (SELECT (SELECT r.aircraft_id FROM run r WHERE r.operator_id = $1 AND r.run_id = c.run_id) AS aircraft_id, count(*) AS n
       FROM trend_choice c WHERE c.operator_id = $1 GROUP BY 1) t ON t.aircraft_id = a.aircraft_id
     WHERE a.operator_id = $1`,
    [tx.operatorId],
  );
  return new Map(rows.map((r) => [r.aircraftId, r.stamp]));
}
