import { once } from 'node:events';
import type { ApiError, LiveMessage, Today } from '@rouse/core/contract';
import { verifyBundle } from '@rouse/core/format';
import { checkChain, type Payload } from '@rouse/core/procedure';
import pg from 'pg';
import { afterAll, afterEach, beforeAll, describe, expect, test } from 'vitest';
import { WebSocket } from 'ws';
import { DatabaseInUse } from '../../server/src/db/lock.ts';
import { MACHINE_CLOCK } from '../../server/src/clock.ts';
import { Caller, freshFolder, KEY, ROOT, Rouse, waitUntil } from '../rouse.ts';

let rouse: Rouse;
let call: Caller;
let wall_ms = 0;
beforeAll(async () => {
  rouse = await Rouse.start({ clock: { ...MACHINE_CLOCK, now: () => Date.now() + wall_ms } });
  call = new Caller(rouse.base);
});
afterAll(async () => {
  await rouse.stop();
});

/** Takes the database away from everybody, as far as one database of a shared cluster can be, or gives it back. */
async function database(there: boolean): Promise<void> {
  const admin = new pg.Client({ connectionString: rouse.database.adminUrl });
  await admin.connect();
  const name = new URL(rouse.database.url).pathname.slice(1);
  await admin.query(`ALTER DATABASE ${name} ALLOW_CONNECTIONS ${there}`);
  if (!there) await admin.query('SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = $1', [name]);
  await admin.end();
}

const mark = (words: string): Payload => ({ kind: 'mark', words });

describe('while the database is away', () => {
  // whatever a test found, the next one has a database
  afterEach(() => database(true));

  test('the watch, the list and the abort go on, all of it is kept, and nothing has to be mended by hand', async () => {
    await call.choose('mild');
    const run = await call.open();
    await call.post('/stand-in/pace', { run, times: 8 });
    await call.work(run, 'engine-start');
    await call.post('/stand-in/pace', { run, times: 1 });
    const socket = new WebSocket(`${rouse.base.replace('http', 'ws')}/live?run=${run}`, {
      headers: { cookie: await call.cookie() },
    });
    const messages: LiveMessage[] = [];
    let frames = 0;
    socket.on('message', (data: Buffer, binary) => {
      if (binary) frames++;
      else messages.push(JSON.parse(data.toString()) as LiveMessage);
    });
    await once(socket, 'open');

    await database(false);
    const since = Date.now();
    const acknowledged: string[] = [];
    const took_ms: number[] = [];
    for (let i = 0; i < 5; i++) {
      const asked = performance.now();
      const { status, body } = await call.writeNext(run, mark(`away ${i}`));
      expect(status).toBe(201);
      took_ms.push(performance.now() - asked);
      acknowledged.push(body.id!);
    }
    // the machine of the tests may stand still for a moment; no answer waits for the database
    expect(took_ms.toSorted((a, b) => a - b)[2]).toBeLessThan(2000);
    await waitUntil(() => messages.some((m) => m.kind === 'status' && m.outbox.away_s > 1 && m.outbox.waiting >= 5));
    const seen = frames;
    await waitUntil(() => frames > seen + 50);
    const today = await call.fetch('/today');
    expect(today.status).toBe(503);
    expect(((await today.json()) as ApiError).error).toMatchObject({
      code: 'database-away',
      remedy: expect.stringContaining('everything is kept') as string,
    });
    // a page that opens now gets the run, its type and its last minutes
    expect((await call.detail(run)).entries.map((e) => e.id)).toEqual(expect.arrayContaining(acknowledged));
    expect((await call.fetch(`/runs/${run}/corridors`)).status).toBe(200);
    await call.waitFor(run, (e) => e.kind === 'start-state' && e.state === 'accelerating');
    const abort = await call.writeNext(run, {
      kind: 'abort',
      watch: 'engine-1-start',
      reason: 'pilot',
      text: 'Stopped by the pilot',
      say: 'Stop.',
      figure: 'own call',
    });
    expect(abort).toMatchObject({ status: 201, body: { kind: 'abort', reason: 'pilot' } });
    acknowledged.push(abort.body.id!);
    await waitUntil(() => messages.some((m) => m.kind === 'kept' && m.seq >= abort.body.seq!));
    await waitUntil(() => Date.now() - since > 3000);

    await database(true);
    await waitUntil(() => messages.findLast((m) => m.kind === 'status')?.outbox.waiting === 0);
    socket.close();
    await call.writeNext(run, { kind: 'closed', outcome: 'aborted' });
    const { entries } = await call.detail(run);
    expect(checkChain(entries)).toBeNull();
    expect(entries.map((e) => e.id)).toEqual(expect.arrayContaining(acknowledged));
    const bundle = await waitUntil(async () => {
      const text = await (await call.fetch(`/runs/${run}/bundle.json`)).text();
      return verifyBundle(text).ok ? text : null;
    });
    expect(verifyBundle(bundle)).toMatchObject({ ok: true, outcome: 'aborted' });
    await call.settle();
  });

  test('what was acknowledged is there when server and database come back', async () => {
    const run = await call.open();
    await database(false);
    const { body } = await call.writeNext(run, mark('before the server went'));
    await rouse.program.stop();
    await database(true);
    await rouse.launch();
    call = new Caller(rouse.base);
    rouse.standIn.disconnect();
    rouse.standIn.connect(rouse.program.devicePorts['QV-SKY']!);
    const { entries, closedAt } = await call.detail(run);
    expect(closedAt).toBeNull();
    expect(entries.find((e) => e.id === body.id)).toMatchObject({ kind: 'mark', words: 'before the server went' });
    expect(checkChain(entries)).toBeNull();
    await call.writeNext(run, { kind: 'closed', outcome: 'given-up' });
  });
});

test('a wall clock that is set back an hour, five seconds, or an hour forward changes nothing of a start', async () => {
  await call.settle();
  await call.choose('mild');
  const run = await call.open();
  await call.post('/stand-in/pace', { run, times: 8 });
  await call.work(run, 'engine-start');
  await call.post('/stand-in/pace', { run, times: 1 });
  await call.post('/stand-in/move', { run, item: 'start-engine' }).catch(() => undefined);
  for (const step of [-3_600_000, -5000, 3_600_000]) {
    const { entries } = await call.detail(run);
    wall_ms += step;
    await waitUntil(async () => ((await call.detail(run)).entries.length > entries.length ? true : null)).catch(
      () => null,
    );
  }
  await call.waitFor(run, (e) => e.kind === 'start-done');
  const { entries } = await call.detail(run);
  wall_ms = 0;
  expect(entries.filter((e) => e.kind === 'abort' || (e.kind === 'cue' && e.severity !== 'call'))).toEqual([]);
  expect(entries.find((e) => e.kind === 'start-done')).toMatchObject({ verdict: 'good' });
  expect(entries.every((e, i) => i === 0 || e.t >= entries[i - 1]!.t - 0.2)).toBe(true);
  await call.writeNext(run, { kind: 'closed', outcome: 'given-up' });
});

test('a second server on the same database is refused in words, and the first goes on', async () => {
  const { startProgram } = await import('../../server/src/program.ts');
  const folder = freshFolder();
  const logged: unknown[] = [];
  await expect(
    startProgram({
      databaseUrl: rouse.database.serverUrl,
      outboxDir: folder.dir,
      webDir: null,
      root: ROOT,
      port: 0,
      listen: '127.0.0.1',
      origin: null,
      key: KEY,
      requestsIn10s: 3000,
      several: false,
      host: '127.0.0.1',
      lines: { listen: '127.0.0.1', port: 0 },
      devices: {},
      control: { port: 1, token: '' },
      clock: MACHINE_CLOCK,
      say: () => undefined,
      giveUp: (error) => logged.push(error),
      log: (await import('pino')).pino({ level: 'silent' }),
    }),
  ).rejects.toThrow(DatabaseInUse);
  folder.remove();
  const { aircraft } = await call.get<Today>('/today');
  expect(aircraft).toHaveLength(6);
});

test('a run that cannot be taken up is set aside with its reason, and holds its own aircraft only', async () => {
  await call.settle();
  const run = await call.open();
  await rouse.program.stop();
  const owner = new pg.Client({ connectionString: rouse.database.url });
  await owner.connect();
  await owner.query(`UPDATE run_entry SET entry = jsonb_set(entry, '{kind}', '"from-tomorrow"') WHERE run_id = $1 AND seq = 2`, [run]); // oxfmt-ignore
  await owner.end();
  await rouse.launch();
  call = new Caller(rouse.base);
  const { aircraft } = await call.get<Today>('/today');
  const sky = aircraft.find((a) => a.tail === 'QV-SKY')!;
  expect(sky.setAside).toMatchObject({ run, reason: expect.stringMatching(/\S/) as string });
  const held = await call.post('/runs', { aircraft: sky.aircraft, brief: (await import('../rouse.ts')).goodBrief() });
  expect(held.body.error).toMatchObject({ code: 'run-is-open' });
  const other = aircraft.find((a) => a.tail === 'QV-COR')!;
  const flies = await call.open(other.aircraft);
  await call.writeNext(flies, { kind: 'closed', outcome: 'given-up' });
});
