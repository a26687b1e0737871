import type { Today } from '@rouse/core/contract';
import type pg from 'pg';
import { DEMO, PADS, PEOPLE } from '../server/src/demo/identity.ts';
import { type Caller, waitUntil } from '../tests/caller.ts';
import { share } from './measure.ts';

/** aircraft of a large operator */
export const AIRCRAFT = 60;

/** Sixty aircraft, each with the past of the demo's, and runs of years before it. */
export async function fillOperator(owner: pg.Client, runs: number): Promise<void> {
  const own = [DEMO.operatorId];
  await owner.query(`CREATE TEMP TABLE copy_of AS SELECT gen_random_uuid() AS aircraft_id, i FROM generate_series(1, ${AIRCRAFT - 6}) i`); // oxfmt-ignore
  await owner.query(
    `INSERT INTO aircraft (operator_id, aircraft_id, tail, type_id, type_version, pad)
     SELECT a.operator_id, c.aircraft_id, 'AL-' || lpad(c.i::text, 3, '0'), a.type_id, a.type_version, $2
     FROM copy_of c JOIN aircraft a ON a.operator_id = $1 AND a.tail = $3`,
    [...own, PADS[4].pad, DEMO.tail],
  );
  await owner.query(
    `CREATE TEMP TABLE copied AS SELECT r.run_id, gen_random_uuid() AS copy_id, c.aircraft_id
     FROM run r CROSS JOIN copy_of c WHERE r.operator_id = $1 AND r.aircraft_id = $2 AND r.closed_at IS NOT NULL`,
    [...own, DEMO.aircraftId],
  );
  for (const [table, more] of [
    ['run', "'aircraft_id', c.aircraft_id"],
    ['run_entry', "'entry_id', gen_random_uuid()"],
    ['run_booking', "'aircraft_id', c.aircraft_id"],
    ['run_feature', "'aircraft_id', c.aircraft_id"],
    ['run_check', "'aircraft_id', c.aircraft_id"],
  ])
    await owner.query(
      `INSERT INTO ${table} SELECT (jsonb_populate_record(t, jsonb_build_object('run_id', c.copy_id, ${more}))).*
       FROM ${table} t JOIN copied c USING (run_id) WHERE t.operator_id = $1`,
      own,
    );
  await owner.query(
    `INSERT INTO run (operator_id, run_id, run_month, aircraft_id, type_id, type_version, opened_by, opened_at, source, conditions, closed_at, outcome)
     SELECT $1, gen_random_uuid(), date_trunc('month', at)::date, a.aircraft_id, a.type_id, a.type_version,
            ($2::uuid[])[1 + i % ${PEOPLE.length}], at, 'device', 'OAT ' || i % 35 || ' °C', at + interval '50 min',
            CASE WHEN i % 97 = 0 THEN 'aborted' ELSE 'ready' END
     FROM (SELECT i, now() - interval '2 years' - i * interval '20 min' AS at FROM generate_series(1, ${runs}) i) g
     JOIN (SELECT *, row_number() OVER (ORDER BY tail) - 1 AS place FROM aircraft WHERE operator_id = $1) a ON a.place = i % ${AIRCRAFT}`,
    [...own, PEOPLE.map((p) => p.personId)],
  );
  await owner.query(
    `INSERT INTO run_booking (operator_id, run_id, aircraft_id, at, starts, running_s, flight_s, booking)
     SELECT operator_id, run_id, aircraft_id, closed_at, 1, 3000, 2400, '{}' FROM run
     WHERE operator_id = $1 AND opened_at < now() - interval '2 years'`,
    own,
  );
  await owner.query('ANALYZE');
}

/** What Today takes, ms each time, after trends and day of every aircraft were reckoned once; and what the first times took. */
export async function askToday(
  call: Caller,
  times: number,
): Promise<{ taken: number[]; cold_ms: number; whole_s: number }> {
  const first = performance.now();
  await call.get<Today>('/today');
  const cold_ms = performance.now() - first;
  await waitUntil(
    async () =>
      (await call.get<Today>('/today')).aircraft.every((a) => a.findings !== null && a.allows !== null) ? true : null,
    120_000,
  );
  const whole_s = (performance.now() - first) / 1000;
  return { taken: await timed(times, () => call.get<Today>('/today')), cold_ms, whole_s };
}

/** What a page of each filter of the log takes, ms, and the median of each. */
export async function askLog(call: Caller, times: number): Promise<{ taken: number[]; each: string[] }> {
  const asked = [
    '',
    '?tail=AL-017',
    `?pilot=${PEOPLE[1].personId}`,
    '?outcome=aborted',
    '?source=device&from=2022-01-01&to=2022-03-01',
    '?words=OAT%2031',
    '?tail=AL-017&outcome=aborted',
    '?words=no%20run%20says%20this',
  ];
  const taken: number[] = [];
  const each: string[] = [];
  for (const filter of asked) {
    const of = await timed(Math.ceil(times / asked.length), () => call.get(`/log/runs${filter}`));
    taken.push(...of);
    each.push(`${filter || 'all'} ${share(of, 0.5).toFixed(0)}`);
  }
  return { taken, each };
}

/** @returns what each of so many requests in turn took, ms */
export async function timed(times: number, ask: () => Promise<unknown>): Promise<number[]> {
  const taken: number[] = [];
  for (let i = 0; i < times; i++) {
    const since = performance.now();
    await ask();
    taken.push(performance.now() - since);
  }
  return taken;
}
