import type { RunRow } from './runs.ts';
import type { Tx } from './pool.ts';

/** What Today says of an aircraft that a few sums tell. */
export interface FleetSums {
  booked: { starts: number; running_s: number; flight_s: number };
  defects: number;
  /** items that are set and not done */
  due: number;
  goodStarts: number;
}

/** Sums of every aircraft of the operator at once. @param most how many good starts are counted */
export async function fleetSums(tx: Tx, most: number): Promise<Map<string, FleetSums>> {
  const { rows } = await tx.query<
    { aircraftId: string; starts: number; running_s: number; flight_s: number; defects: number; due: number; goodStarts: number }
  >(
    `SELECT a.aircraft_id AS "aircraftId", coalesce(b.starts, 0)::int AS starts, coalesce(b.running_s, 0) AS running_s,
            coalesce(b.flight_s, 0) AS flight_s, coalesce(d.n, 0)::int AS defects, coalesce(i.n, 0)::int AS due, g.n::int AS "goodStarts"
     FROM aircraft a
     LEFT JOIN (SELECT aircraft_id, starts, running_s, flight_s FROM booked_total WHERE operator_id = $1) b USING (aircraft_id)
     LEFT JOIN (SELECT aircraft_id, count(*) AS n FROM defect WHERE operator_id = $1 AND closed_at IS NULL GROUP BY aircraft_id) d
       USING (aircraft_id)
     LEFT JOIN (SELECT aircraft_id, count(*) AS n FROM due_item WHERE operator_id = $1 AND done_at IS NULL GROUP BY aircraft_id) i
       USING (aircraft_id)
     CROSS JOIN LATERAL (SELECT count(*) AS n FROM (SELECT FROM run_feature
       WHERE operator_id = $1 AND aircraft_id = a.aircraft_id AND good LIMIT $2) f) g
     WHERE a.operator_id = $1`,
    [tx.operatorId, most],
  );
  return new Map(
    rows.map(({ aircraftId, defects, due, goodStarts, ...booked }) => [aircraftId, { booked, defects, due, goodStarts }]),
  );
} // oxfmt-ignore

/** The last runs of every aircraft that are closed, newest first. */
export async function lastRuns(tx: Tx, each: number): Promise<Map<string, RunRow[]>> {
  const { rows } = await tx.query<RunRow>(
    `SELECT r.run_id AS "runId", r.run_month AS "runMonth", a.aircraft_id AS "aircraftId", a.tail, a.pad, r.type_id AS "typeId",
            r.type_version AS "typeVersion", r.opened_by AS "openedBy", p.name AS pilot, r.opened_at AS "openedAt", r.source,
            r.conditions, r.closed_at AS "closedAt", r.outcome
     FROM aircraft a
     CROSS JOIN LATERAL (SELECT * FROM run WHERE operator_id = $1 AND aircraft_id = a.aircraft_id AND closed_at IS NOT NULL
       ORDER BY opened_at DESC LIMIT $2) r
     JOIN person p ON p.operator_id = $1 AND p.person_id = r.opened_by
     WHERE a.operator_id = $1 ORDER BY r.opened_at DESC`,
    [tx.operatorId, each],
  );
  const byAircraft = new Map<string, RunRow[]>();
  for (const row of rows) {
    const list = byAircraft.get(row.aircraftId) ?? [];
    list.push(row);
    byAircraft.set(row.aircraftId, list);
  }
  return byAircraft;
}
