import type { LoggedTail } from '@rouse/core/contract';
import type pg from 'pg';
import { DEMO } from '../server/src/demo/identity.ts';
import { Caller } from '../tests/caller.ts';
import { AIRCRAFT, askLog, askToday, fillOperator, timed } from './large-operator.ts';
import { type Line, many, share } from './measure.ts';
import { startPrograms } from './programs.ts';

/** runs of the operator that is looked at, and of all the others beside it */
const YOUNG = { own: many(10_000, 300), others: 0 };
const OLD = { own: many(100_000, 600), others: Number(process.env['GROWTH_OTHERS'] ?? many(9_900_000, 3000)) };
/** of each of the others */
const OPERATOR_RUNS = many(100_000, 1000);
const ASKED = many(200, 8);

type Size = typeof YOUNG;
interface Taken {
  today: number[];
  log: number[];
  trends: number[];
}

/** What years and other operators cost: the same questions of a young and of an old database. */
export async function growth(): Promise<Line[]> {
  const [young, old] = [await asked(YOUNG), await asked(OLD)];
  return (['today', 'log', 'trends'] as const).map((what): Line => {
    const [before_ms, after_ms] = [share(young[what], 0.95), share(old[what], 0.95)];
    return {
      name: `growth: ${what}, p95 with ${OLD.own + OLD.others} runs against ${YOUNG.own}`,
      value: after_ms / before_ms,
      unit: 'times',
      wanted: 'at most',
      target: 2,
      remark: `${after_ms.toFixed(0)} ms against ${before_ms.toFixed(0)} ms; ${OLD.own} of them of the operator that asks`,
    };
  });
}

async function asked(size: Size): Promise<Taken> {
  const programs = await startPrograms({ standIn: false, filled: (owner) => fill(owner, size) });
  try {
    const call = new Caller(programs.base);
    const { taken: today } = await askToday(call, ASKED);
    const { taken: log } = await askLog(call, ASKED);
    const tails = await call.get<LoggedTail[]>('/log/tails');
    const trends: number[] = [];
    for (let i = 0; i < Math.ceil(ASKED / tails.length); i++)
      for (const { aircraft } of tails)
        trends.push(...(await timed(1, () => call.get(`/aircraft/${aircraft}/trends`))));
    return { today, log, trends };
  } finally {
    await programs.stop();
  }
}

/** The operator that asks, and others with runs, figures of starts and bookings; their aircraft are none that anybody watches. */
async function fill(owner: pg.Client, { own, others }: Size): Promise<void> {
  await fillOperator(owner, own);
  // rows that are right by the way they are made: neither keys of others nor sums are looked at for each of them
  await owner.query("SET session_replication_role = 'replica'");
  const words = await owner.query<{ index: string }>("SELECT pg_get_indexdef('run_by_words'::regclass) AS index");
  await owner.query('DROP INDEX run_by_words');
  await owner.query(
    'CREATE TEMP TABLE other AS SELECT gen_random_uuid() AS operator_id, i FROM generate_series(1, $1::int) i',
    [others / OPERATOR_RUNS],
  );
  await owner.query(
    "INSERT INTO operator (operator_id, name, place, demo) SELECT operator_id, 'Operator ' || i, 'elsewhere', false FROM other",
  );
  await owner.query(
    `CREATE TEMP TABLE theirs AS SELECT o.operator_id, gen_random_uuid() AS aircraft_id, place
     FROM other o CROSS JOIN generate_series(0, ${AIRCRAFT - 1}) place`,
  );
  await owner.query(
    `INSERT INTO run (operator_id, run_id, run_month, aircraft_id, type_id, type_version, opened_by, opened_at, source, conditions, closed_at, outcome)
     SELECT t.operator_id, gen_random_uuid(), date_trunc('month', g.at)::date, t.aircraft_id, 'S7', 1, $1,
            g.at, 'device', 'OAT ' || g.i % 35 || ' °C', g.at + interval '50 min', 'ready'
     FROM other o
     CROSS JOIN (SELECT i, now() - i * interval '50 min' AS at FROM generate_series(1, $2::int) i) g
     JOIN theirs t ON t.operator_id = o.operator_id AND t.place = g.i % ${AIRCRAFT}`,
    [DEMO.personId, OPERATOR_RUNS],
  );
  await owner.query(
    `INSERT INTO run_booking (operator_id, run_id, aircraft_id, at, starts, running_s, flight_s, booking)
     SELECT r.operator_id, r.run_id, r.aircraft_id, r.closed_at, 1, 3000, 2400, '{}' FROM run r JOIN other USING (operator_id)`,
  );
  await owner.query(
    `INSERT INTO run_feature (operator_id, run_id, attempt, aircraft_id, watch, at, good, features, profile)
     SELECT r.operator_id, r.run_id, 1, r.aircraft_id, 'engine-1', r.opened_at, true, '{"peak_C": 700}', '{}'
     FROM run r JOIN other USING (operator_id)`,
  );
  await owner.query(words.rows[0]!.index);
  await owner.query("SET session_replication_role = 'origin'");
  await owner.query('ANALYZE');
}
