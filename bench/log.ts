import type { RunsPage, Today } from '@rouse/core/contract';
import type pg from 'pg';
import { DEMO, PADS, PEOPLE } from '../server/src/demo/identity.ts';
import { Caller, waitUntil } from '../tests/caller.ts';
import { type Line, many, share } from './measure.ts';
import { startPrograms } from './programs.ts';

const AIRCRAFT = 60;
const RUNS = many(100_000, 600);
const ASKED = many(200, 8);
const REPORTS = many(20, 2);

/** What a large operator waits for: Today, the log of years, the report of a run. */
export async function log(): Promise<Line[]> {
  const programs = await startPrograms({ standIn: false, filled: fill });
  try {
    const call = new Caller(programs.base);
    return [await today(call), await filters(call), ...(await reports(call))];
  } finally {
    await programs.stop();
  }
}

/** Sixty aircraft, each with the past of the demo's, and runs of years before it. */
async function fill(owner: pg.Client): Promise<void> {
  const own = [DEMO.operatorId];
  await owner.query(`CREATE TEMP TABLE copy_of AS SELECT gen_random_uuid() AS aircraft_id, i FROM generate_series(1, ${AIRCRAFT - 6}) i`); // prettier-ignore
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
     FROM (SELECT i, now() - interval '2 years' - i * interval '20 min' AS at FROM generate_series(1, ${RUNS}) i) g
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

/** Today as it stands after trends and day of every aircraft were reckoned once. */
async function today(call: Caller): Promise<Line> {
  const first = performance.now();
  await call.get<Today>('/today');
  const cold_ms = performance.now() - first;
  await waitUntil(
    async () =>
      (await call.get<Today>('/today')).aircraft.every((a) => a.findings !== null && a.allows !== null) ? true : null,
    120_000,
  );
  const whole_s = (performance.now() - first) / 1000;
  const taken = await timed(ASKED, () => call.get<Today>('/today'));
  return {
    name: `log: Today with ${AIRCRAFT} aircraft, p95`,
    value: share(taken, 0.95),
    unit: 'ms',
    wanted: 'at most',
    target: 100,
    remark: `median ${share(taken, 0.5).toFixed(0)} ms; the first after a start of the server ${cold_ms.toFixed(0)} ms, with trends and day of all after ${whole_s.toFixed(1)} s`,
  };
}

async function filters(call: Caller): Promise<Line> {
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
    const of = await timed(Math.ceil(ASKED / asked.length), () => call.get(`/log/runs${filter}`));
    taken.push(...of);
    each.push(`${filter || 'all'} ${share(of, 0.5).toFixed(0)}`);
  }
  return {
    name: `log: a page of a filter over ${RUNS} runs, p95`,
    value: share(taken, 0.95),
    unit: 'ms',
    wanted: 'at most',
    target: 100,
    remark: `medians: ${each.join(', ')} ms`,
  };
}

/** The report of the last run of a flown tail, as the page asks for it. */
async function reports(call: Caller): Promise<Line[]> {
  const { runs } = await call.get<RunsPage>(`/log/runs?tail=${DEMO.tail}`);
  const sizes_kB: number[] = [];
  const taken = await timed(REPORTS, async () => {
    const answer = await call.fetch(`/runs/${runs[0]!.run}/report.pdf`);
    if (!answer.ok) throw new Error(`the report: ${answer.status} ${await answer.text()}`);
    sizes_kB.push((await answer.arrayBuffer()).byteLength / 1000);
  });
  return [
    {
      name: 'log: the report of a run, p95',
      value: share(taken, 0.95),
      unit: 'ms',
      wanted: 'at most',
      target: 1500,
      remark: `the first ${taken[0]!.toFixed(0)} ms, median ${share(taken, 0.5).toFixed(0)} ms`,
    },
    {
      name: 'log: the report of a run',
      value: Math.max(...sizes_kB),
      unit: 'kB',
      wanted: 'at most',
      target: 400,
    },
  ];
}

/** @returns what each of so many requests in turn took, ms */
async function timed(times: number, ask: () => Promise<unknown>): Promise<number[]> {
  const taken: number[] = [];
  for (let i = 0; i < times; i++) {
    const since = performance.now();
    await ask();
    taken.push(performance.now() - since);
  }
  return taken;
}
