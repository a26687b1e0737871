import type { LoggedRun, LoggedTail, PersonLog, RunFilter } from '@rouse/core/contract';
import type { Tx } from './pool.ts';

/** so many runs stand on a page */
export const RUNS_ON_A_PAGE = 50;

/** words that stand in more runs than this are soon met when the runs are read from the newest on */
const RARE_RUNS = 200;

const DAY_MS = 86_400_000;

/**
 * Runs that a filter leaves, newest first, one more than a page has where there are more. The list goes on after a run by
 * its place in the order, so that a page is as quick deep in the years as at their end.
 */
export async function listLoggedRuns(tx: Tx, filter: RunFilter): Promise<LoggedRun[]> {
  const values: unknown[] = [tx.operatorId];
  const where: string[] = [];
  const put = (value: unknown): string => `$${values.push(value)}`;
  if (filter.tail !== undefined) where.push(`r.aircraft_id = (SELECT aircraft_id FROM aircraft WHERE operator_id = $1 AND tail = ${put(filter.tail)})`); // oxfmt-ignore
  if (filter.pilot !== undefined) where.push(`r.opened_by = ${put(filter.pilot)}`);
  if (filter.outcome === 'open') where.push('r.closed_at IS NULL');
  else if (filter.outcome !== undefined) where.push(`r.outcome = ${put(filter.outcome)}`);
  if (filter.source !== undefined) where.push(`r.source = ${put(filter.source)}`);
  if (filter.from !== undefined) where.push(`r.opened_at >= ${put(new Date(`${filter.from}T00:00:00Z`))}`);
  if (filter.to !== undefined)
    where.push(`r.opened_at < ${put(new Date(Date.parse(`${filter.to}T00:00:00Z`) + DAY_MS))}`);
  if (filter.words) {
    const pattern = `%${filter.words.replace(/[\\%_]/g, String.raw`\$&`)}%`;
    const said = await tx.query<{ run: string }>('SELECT runs_that_say($1, $2) AS run', [pattern, RARE_RUNS + 1]);
    // a comparison that the planner takes for common, so that it reads from the newest on instead of all
    if (said.rows.length > RARE_RUNS)
      where.push(`strpos(lower(r.conditions COLLATE "C"), lower(${put(filter.words)} COLLATE "C")) > 0`);
    else where.push(`r.run_id = ANY(${put(said.rows.map((r) => r.run))}::uuid[])`);
  }
  if (filter.after !== undefined)
    where.push(
      `(r.opened_at, r.run_id) < (SELECT opened_at, run_id FROM run WHERE operator_id = $1 AND run_id = ${put(filter.after)})`,
    );
  const { rows } = await tx.query<Omit<LoggedRun, 'openedAt' | 'closedAt'> & { openedAt: Date; closedAt: Date | null }>(
    `SELECT r.run_id AS run, a.tail, r.type_id AS type, r.opened_at AS "openedAt", r.closed_at AS "closedAt", p.name AS pilot,
            r.outcome, r.source, r.conditions, b.running_s, b.flight_s
     FROM (SELECT * FROM run r WHERE r.operator_id = $1 ${where.map((w) => `AND ${w}`).join(' ')}
           ORDER BY r.opened_at DESC, r.run_id DESC LIMIT ${RUNS_ON_A_PAGE + 1}) r
     JOIN aircraft a USING (operator_id, aircraft_id)
     JOIN person p ON p.operator_id = r.operator_id AND p.person_id = r.opened_by
     LEFT JOIN run_booking b ON b.operator_id = r.operator_id AND b.run_id = r.run_id
     ORDER BY r.opened_at DESC, r.run_id DESC`,
    values,
  );
  return rows.map(({ openedAt, closedAt, ...run }) => ({
    ...run,
    openedAt: openedAt.toISOString(),
    closedAt: closedAt?.toISOString() ?? null,
  }));
}

/** Every tail with how much there is of it; what its trends found is left to others. */
export async function listLoggedTails(tx: Tx): Promise<Omit<LoggedTail, 'findings'>[]> {
  const { rows } = await tx.query<Omit<LoggedTail, 'findings' | 'lastRunAt'> & { lastRunAt: Date | null }>(
    `SELECT a.aircraft_id AS aircraft, a.tail, a.pad,
            jsonb_build_object('id', a.type_id, 'version', a.type_version, 'name', t.file->>'name') AS type,
            r.n::int AS runs, r.last AS "lastRunAt",
            (SELECT count(*)::int FROM exceedance e WHERE e.operator_id = $1 AND e.aircraft_id = a.aircraft_id
               AND NOT EXISTS (SELECT FROM release x WHERE x.operator_id = $1 AND x.run_id = e.run_id AND x.seq = e.seq)) AS "openExceedances"
     FROM aircraft a
     JOIN aircraft_type t ON t.operator_id = a.operator_id AND t.type_id = a.type_id AND t.version = a.type_version
     LEFT JOIN LATERAL (SELECT count(*) AS n, max(opened_at) AS last FROM run
       WHERE operator_id = $1 AND aircraft_id = a.aircraft_id) r ON true
     WHERE a.operator_id = $1 ORDER BY a.tail`,
    [tx.operatorId],
  );
  return rows.map((row) => ({ ...row, lastRunAt: row.lastRunAt?.toISOString() ?? null }));
}

/** What one person flew, by tail, the last one first. */
export async function listTailsOf(tx: Tx, personId: string): Promise<PersonLog['tails']> {
  const { rows } = await tx.query<Omit<PersonLog['tails'][number], 'lastAt'> & { lastAt: Date }>(
    `SELECT a.tail, a.type_id AS type, count(*)::int AS runs, coalesce(sum(b.flight_s), 0) AS flight_s, max(r.opened_at) AS "lastAt"
     FROM run r JOIN aircraft a USING (operator_id, aircraft_id)
     LEFT JOIN run_booking b ON b.operator_id = r.operator_id AND b.run_id = r.run_id
     WHERE r.operator_id = $1 AND r.opened_by = $2 AND r.source <> 'recording'
     GROUP BY a.tail, a.type_id ORDER BY max(r.opened_at) DESC`,
    [tx.operatorId, personId],
  );
  return rows.map((row) => ({ ...row, lastAt: row.lastAt.toISOString() }));
}

/** What one person did since a day. */
export async function recencyOf(tx: Tx, personId: string, since: Date): Promise<PersonLog['recency']> {
  const { rows } = await tx.query<Omit<PersonLog['recency'], 'lastAt'> & { lastAt: Date | null }>(
    `SELECT count(*) FILTER (WHERE r.opened_at >= $3)::int AS "runs90d",
            coalesce(sum(b.starts) FILTER (WHERE r.opened_at >= $3), 0)::int AS "starts90d",
            coalesce(sum(b.flight_s) FILTER (WHERE r.opened_at >= $3), 0) AS "flight90d_s", max(r.opened_at) AS "lastAt"
     FROM run r LEFT JOIN run_booking b ON b.operator_id = r.operator_id AND b.run_id = r.run_id
     WHERE r.operator_id = $1 AND r.opened_by = $2 AND r.source <> 'recording'`,
    [tx.operatorId, personId, since],
  );
  const { lastAt, ...rest } = rows[0]!;
  return { ...rest, lastAt: lastAt?.toISOString() ?? null };
}
