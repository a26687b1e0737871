import path from 'node:path';
import { chainEntries } from '@rouse/core/procedure';
import { columnOf, TraceBuilder } from '@rouse/core/trace';
import pg from 'pg';
import { TABLES } from '../../server/src/operator-copy/tables.ts';
import { v7 as uuidv7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { getAircraft, getType, listAircraft } from '../../server/src/db/aircraft.ts';
import { insertEntries, listEntries } from '../../server/src/db/entries.ts';
import { insertExceedance, listOpenExceedances, releaseExceedance } from '../../server/src/db/exceedances.ts';
import { listFeaturesOfRun, listGoodStarts, putFeature } from '../../server/src/db/features.ts';
import { ensureDatabase, migrate } from '../../server/src/db/migrate.ts';
import { asOperator, openPool, type Tx } from '../../server/src/db/pool.ts';
import { closeRun, findOpenRun, getRun, insertRun, listRuns, monthOf } from '../../server/src/db/runs.ts';
import { getTrace, insertTrace, lastStored_s } from '../../server/src/db/trace.ts';
import { DEMO, FLEET } from '../../server/src/demo/identity.ts';
import { freshDatabase, makeDemo, prepare, ROOT, skerry } from '../rouse.ts';

let database: Awaited<ReturnType<typeof freshDatabase>>;
let pool: pg.Pool;
const migrations = path.join(ROOT, 'server/migrations');

beforeAll(async () => {
  database = await freshDatabase();
  await prepare(database);
  pool = openPool(database.serverUrl);
});
afterAll(async () => {
  await pool.end();
  await database.drop();
});

const inTx = <T>(work: (tx: Tx) => Promise<T>): Promise<T> => asOperator(pool, DEMO.operatorId, work);

async function newRun(openedAt = new Date(), close = true): Promise<{ runId: string; runMonth: string }> {
  const runId = uuidv7();
  await inTx(async (tx) => {
    await insertRun(tx, {
      runId,
      aircraftId: DEMO.aircraftId,
      typeId: 'S7',
      typeVersion: skerry.version,
      openedBy: DEMO.personId,
      openedAt,
      source: 'device',
      conditions: '',
    });
    if (close) await closeRun(tx, runId, openedAt, 'ready');
  });
  return { runId, runMonth: monthOf(openedAt) };
}

function stretch(from_s: number, rows: number): ReturnType<TraceBuilder['toTrace']> {
  const builder = new TraceBuilder(
    skerry.channels.map((c) => c.id),
    8,
  );
  const values = new Float64Array(skerry.channels.length);
  for (let i = 0; i < rows; i++) {
    values.fill(i);
    values[0] = i % 7 === 0 ? NaN : i;
    builder.push(Math.round((from_s + i / 50) * 1000) / 1000, values);
  }
  return builder.toTrace();
}

/** What belongs to people, browsers and servers, whatever operator they are of; everything else has an operator. */
const OF_NO_OPERATOR = [
  'account',
  'passkey',
  'outside_identity',
  'session',
  'flow',
  'rate_limit',
  'migration',
  'server',
  'fleet_lease',
];

test('an aircraft that flies now may be given the past of the demo', async () => {
  const own = await freshDatabase();
  await makeDemo(own.adminUrl, own.serverUrl, 0);
  const it = openPool(own.serverUrl);
  const opened = { runId: uuidv7(), aircraftId: DEMO.aircraftId, typeId: 'S7', typeVersion: skerry.version, openedBy: DEMO.personId, openedAt: new Date(), source: 'device', conditions: '' } as const; // oxfmt-ignore
  await asOperator(it, DEMO.operatorId, (tx) => insertRun(tx, opened));
  await makeDemo(own.adminUrl, own.serverUrl, 1);
  const runs = await asOperator(it, DEMO.operatorId, (tx) => listRuns(tx, DEMO.aircraftId, 5));
  expect(runs.map((r) => r.closedAt !== null)).toEqual([false, true]);
  await it.end();
  await own.drop();
});

describe('the schema', () => {
  test('migrations run once, and again is nothing', async () => {
    expect(await migrate(database.url, migrations)).toEqual([]);
    await ensureDatabase(database.adminUrl, new URL(database.url).pathname.slice(1));
  });

  test('every table of an operator has operator_id first in its key and in its indexes, and is fenced', async () => {
    const client = new pg.Client({ connectionString: database.url });
    await client.connect();
    const { rows: indexes } = await client.query<{ name: string; first: string }>(
      `SELECT i.indexrelid::regclass::text AS name, a.attname AS first
       FROM pg_index i JOIN pg_class c ON c.oid = i.indrelid JOIN pg_attribute a ON a.attrelid = c.oid AND a.attnum = i.indkey[0]
       WHERE c.relnamespace = 'public'::regnamespace AND NOT c.relname = ANY ($1)`,
      [OF_NO_OPERATOR],
    );
    expect(indexes.length).toBeGreaterThan(12);
    // the only other way into such a table: which operators somebody works for, before one is chosen
    expect(indexes.filter((i) => i.first !== 'operator_id').map((i) => i.name)).toEqual(['person_by_account']);
    const { rows: open } = await client.query<{ name: string }>(
      `SELECT relname AS name FROM pg_class WHERE relnamespace = 'public'::regnamespace AND relkind IN ('r', 'p') AND NOT relispartition
       AND NOT relrowsecurity AND NOT relname = ANY ($1)`,
      [OF_NO_OPERATOR],
    );
    expect(open).toEqual([]);
    await client.end();
  });

  test('every table of an operator is taken along by its export, or stays for a reason', async () => {
    const stays = {
      operator: 'made anew where it comes',
      run_entry: 'in the bundle of its run',
      trace_chunk: 'in the bundle of its run',
      audit: 'a file of its own: a chain is not continued elsewhere',
      session: 'belongs to a browser',
      device: 'a token is worth nothing elsewhere',
      tablet: 'a token is worth nothing elsewhere',
      invitation: 'a link is worth nothing elsewhere',
      identity_provider: 'its secret is sealed by this server',
      demo_load: 'of the demo',
      fleet_lease: 'says which server has it',
      booked_total: 'added up anew as bookings come',
    };
    const client = new pg.Client({ connectionString: database.url });
    await client.connect();
    const { rows } = await client.query<{ name: string }>(
      `SELECT c.relname AS name FROM pg_class c JOIN pg_attribute a ON a.attrelid = c.oid AND a.attname = 'operator_id'
       WHERE c.relnamespace = 'public'::regnamespace AND c.relkind IN ('r', 'p') AND NOT c.relispartition`,
    );
    await client.end();
    const known = [...Object.keys(stays), ...TABLES.map((t) => t.name)].toSorted((a, b) => a.localeCompare(b));
    expect(rows.map((r) => r.name).toSorted((a, b) => a.localeCompare(b))).toEqual(known);
  });

  test('a transaction that throws leaves nothing behind', async () => {
    const before = await inTx((tx) => listRuns(tx, DEMO.aircraftId, 100));
    const failing = inTx(async (tx) => {
      await insertRun(tx, {
        runId: uuidv7(),
        aircraftId: DEMO.aircraftId,
        typeId: 'S7',
        typeVersion: skerry.version,
        openedBy: DEMO.personId,
        openedAt: new Date(),
        source: 'device',
        conditions: '',
      });
      throw new Error('on purpose');
    });
    await expect(failing).rejects.toThrow('on purpose');
    expect(await inTx((tx) => listRuns(tx, DEMO.aircraftId, 100))).toEqual(before);
  });

  test('a row of another operator cannot be written', async () => {
    const stranger = asOperator(pool, uuidv7(), (tx) =>
      tx.query('INSERT INTO demo_load (operator_id, name, loaded_at) VALUES ($1, $2, now())', [
        DEMO.operatorId,
        'theft',
      ]),
    );
    await expect(stranger).rejects.toThrow(/row-level security/);
  });
});

describe('runs and entries', () => {
  test('what is not there is not found, in words', async () => {
    await expect(inTx((tx) => getRun(tx, uuidv7()))).rejects.toMatchObject({ code: 'not-found' });
    await expect(inTx((tx) => getAircraft(tx, uuidv7()))).rejects.toMatchObject({ code: 'not-found' });
    await expect(inTx((tx) => getType(tx, 'Q9', 1))).rejects.toMatchObject({ code: 'not-found' });
    expect(await inTx((tx) => findOpenRun(tx, DEMO.aircraftId))).toBeNull();
    expect((await inTx((tx) => listAircraft(tx))).map((a) => a.tail)).toEqual(FLEET.map((a) => a.tail).toSorted());
  });

  test('entries come back as they were, and a number is given once', async () => {
    const run = await newRun(new Date('2026-03-31T23:59:00Z'));
    const entries = chainEntries(
      run.runId,
      undefined,
      [1, 2, 3].map((n) => ({
        id: uuidv7(),
        at_ms: 1e12 + n,
        t_s: n / 3,
        by: 'pilot',
        payload: { kind: 'note', text: `ä “${n}”` } as const,
      })),
    );
    await inTx((tx) => insertEntries(tx, run.runMonth, entries));
    expect(await inTx((tx) => listEntries(tx, run))).toEqual(entries);
    const [again] = chainEntries(run.runId, undefined, [
      { id: uuidv7(), at_ms: 1e12, t_s: 0, by: 'pilot', payload: { kind: 'mark', words: '' } },
    ]);
    await expect(inTx((tx) => insertEntries(tx, run.runMonth, [again!]))).rejects.toThrow(/duplicate key/);
  });

  test('runs of different months lie in partitions of their own and are listed newest first', async () => {
    for (const at of ['2025-12-01T00:00:00Z', '2026-01-15T12:00:00Z']) await newRun(new Date(at));
    const listed = await inTx((tx) => listRuns(tx, DEMO.aircraftId, 100));
    const times = listed.map((r) => r.openedAt.getTime());
    expect(times).toEqual(times.toSorted((a, b) => b - a));
    expect(new Set(listed.map((r) => r.runMonth)).size).toBeGreaterThanOrEqual(3);
  });

  test('a warning that was used up stays open until it is released', async () => {
    const run = await newRun();
    const open = () => inTx((tx) => listOpenExceedances(tx, DEMO.aircraftId));
    const before = await open();
    const [entry] = chainEntries(run.runId, undefined, [
      {
        id: uuidv7(),
        at_ms: Date.now(),
        t_s: 3,
        by: 'watch',
        payload: {
          kind: 'exceedance',
          limit: 'tot-start',
          channel: 'tot.1',
          band: 'never',
          edge: 900,
          severity: 'warning',
          start_s: 1,
          end_s: 2,
          duration_s: 1,
          peak: 910,
          peakAt_s: 1.5,
          area: 5,
          allowed_s: 0,
          expired: true,
        },
      },
    ]);
    await inTx((tx) => insertExceedance(tx, DEMO.aircraftId, entry as Parameters<typeof insertExceedance>[2]));
    expect(await open()).toEqual([...before, entry]);
    const release = { engineer: 'R. Vale', found: 'Blades looked at, no finding' };
    const put = (seq: number) => inTx((tx) => releaseExceedance(tx, run.runId, seq, release, new Date()));
    expect(await put(entry!.seq + 1)).toBe(false);
    expect(await put(entry!.seq)).toBe(true);
    expect(await open()).toEqual(before);
  });
});

describe('figures of starts', () => {
  const figures = (runId: string, peak_C: number, good: boolean, at = new Date()) => ({
    runId,
    aircraftId: DEMO.aircraftId,
    watch: 'w',
    attempt: 1,
    at,
    good,
    features: { peak_C, outsideAir_C: 10, voltsBefore_V: 25 },
    profile: { totMax_C: [NaN, 100], totMin_C: [NaN, 90], paceMin_pct_s: [] },
  });

  test('are kept once per attempt, the last word wins, and only good earlier ones are learned from', async () => {
    const run = await newRun();
    const bad = await newRun();
    await inTx((tx) => putFeature(tx, figures(run.runId, 650, true, new Date(1000))));
    await inTx((tx) => putFeature(tx, figures(run.runId, 660, true, new Date(1000))));
    await inTx((tx) => putFeature(tx, figures(bad.runId, 880, false, new Date(2000))));
    expect((await inTx((tx) => listFeaturesOfRun(tx, run.runId))).map((f) => f.features['peak_C'])).toEqual([660]);
    const learned = await inTx((tx) => listGoodStarts(tx, DEMO.aircraftId, 'w', new Date(3000), 10));
    expect(learned.map((l) => l.features['peak_C'])).toEqual([660]);
    expect(learned[0]!.learned.profile.totMax_C).toEqual([NaN, 100]);
    expect(await inTx((tx) => listGoodStarts(tx, DEMO.aircraftId, 'w', new Date(1000), 10))).toEqual([]);
  });
});

describe('the trace', () => {
  test('a window is cut to the frame, across chunks', async () => {
    const run = await newRun();
    await inTx(async (tx) => {
      await insertTrace(tx, run, stretch(0, 100), skerry.channels);
      await insertTrace(tx, run, stretch(2, 100), skerry.channels);
    });
    const part = await inTx((tx) => getTrace(tx, run, skerry.channels, 1.5, 2.5));
    expect(part.t_s[0]).toBe(1.5);
    expect(part.t_s[part.t_s.length - 1]).toBe(2.5);
    expect(part.t_s).toHaveLength(51);
    expect((await inTx((tx) => getTrace(tx, run, skerry.channels, 9))).t_s).toHaveLength(0);
  });

  test('says up to where it is stored', async () => {
    const run = await newRun();
    expect(await inTx((tx) => lastStored_s(tx, run))).toBe(-Infinity);
    await inTx((tx) => insertTrace(tx, run, stretch(3, 51), skerry.channels));
    expect(await inTx((tx) => lastStored_s(tx, run))).toBe(4);
    expect(columnOf(await inTx((tx) => getTrace(tx, run, skerry.channels)), skerry.channels[0]!.id)[0]).toBeNaN();
  });
});

describe('the role that the server signs in with', () => {
  test('is no superuser, owns nothing, and cannot change or delete what a run left', async () => {
    const run = await newRun();
    await inTx((tx) => insertTrace(tx, run, stretch(0, 50), skerry.channels));
    const refused = (sql: string) =>
      expect(
        inTx((tx) => tx.query(sql)),
        sql,
      ).rejects.toThrow(/permission denied|must be owner/);
    for (const table of ['run_entry', 'trace_chunk', 'exceedance', 'release', 'run_check', 'run_booking']) {
      await refused(`DELETE FROM ${table}`);
      await refused(`UPDATE ${table} SET operator_id = operator_id`);
      await refused(`ALTER TABLE ${table} DISABLE ROW LEVEL SECURITY`);
    }
    await refused('UPDATE run SET opened_at = now()');
    const { rows } = await inTx((tx) =>
      tx.query<{ su: boolean; bypass: boolean; owned: number }>(
        `SELECT rolsuper AS su, rolbypassrls AS bypass, (SELECT count(*) FROM pg_class WHERE relowner = r.oid) AS owned
         FROM pg_roles r WHERE rolname = session_user`,
      ),
    );
    expect(rows[0]).toEqual({ su: false, bypass: false, owned: 0 });
  });
});
