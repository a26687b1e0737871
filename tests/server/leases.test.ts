import dgram from 'node:dgram';
import { once } from 'node:events';
import { existsSync, readFileSync } from 'node:fs';
import net from 'node:net';
import path from 'node:path';
import { checkChain, type Entry, itemState, reduceRun } from '@rouse/core/procedure';
import type { DeviceMade, DeviceMessage, LiveMessage, Today } from '@rouse/core/contract';
import { writeDeviceLine } from '@rouse/core/format';
import pg from 'pg';
import { pino } from 'pino';
import { afterAll, afterEach, beforeAll, describe, expect, test } from 'vitest';
import { WebSocket } from 'ws';
import { holdFleet, listLeases } from '../../server/src/db/leases.ts';
import { DatabaseInUse, DatabaseLock } from '../../server/src/db/lock.ts';
import { asOperator, isDatabaseAway, openPool } from '../../server/src/db/pool.ts';
import { DEMO, FLEET } from '../../server/src/demo/identity.ts';
import { datagramHead, datagramKeyOf } from '../../server/src/device/lines.ts';
import { Leases } from '../../server/src/leases/leases.ts';
import { timesAsLong } from '../machine.ts';
import { Caller, freshDatabase, prepare, startStandIn, typeOfTail, waitUntil } from '../rouse.ts';
import { ServerProcess } from '../server-process.ts';

const PORT = 12_640 + (process.pid % 500) * 8;
/** a server that is gone is missed after 2.5 s, and its tails are watched again before this */
const TAKEN_OVER_WITHIN_MS = 5000;
const LINES_OF_B = PORT + 5;
let database: Awaited<ReturnType<typeof freshDatabase>>;
let pool: pg.Pool;

beforeAll(async () => {
  database = await freshDatabase();
  await prepare(database);
  pool = openPool(database.serverUrl);
});
afterAll(async () => {
  await pool.end();
  await database.drop();
});

describe('two servers that want one fleet', () => {
  let now_ms = 0;
  const log = pino({ level: 'silent' });
  const events: string[] = [];
  const doors = { host: '127.0.0.1', port: 1, lines: 2, devices: {} };
  const server = (name: string, serverId: string): Leases =>
    new Leases({
      pool,
      clock: { now: () => now_ms, monotonic: () => now_ms },
      log,
      serverId,
      alone: false,
      gained: (_operator, fence) => Promise.resolve(void events.push(`${name} gained ${fence}`)),
      lost: () => events.push(`${name} lost`),
    });
  const ids = ['0190b000-0000-7000-8000-00000000000a', '0190b000-0000-7000-8000-00000000000b'] as const;
  const fenceNow = async (): Promise<number> => (await listLeases(pool))[0]!.fence;
  const holds = (fence: number): Promise<boolean> =>
    asOperator(pool, DEMO.operatorId, (tx) => holdFleet(tx, fence)).then(
      () => true,
      () => false,
    );
  afterEach(async () => {
    await pool.query('DELETE FROM server');
    events.length = 0;
  });

  test('one of them has it, the other knows where; it moves only when its owner is silent while the database is there', async () => {
    const [a, b] = [server('a', ids[0]), server('b', ids[1])];
    await a.begin(doors);
    await a.end();
    await b.begin({ ...doors, port: 9 });
    await b.end();
    const first = await fenceNow();
    expect([a.ownerOf(DEMO.operatorId), b.ownerOf(DEMO.operatorId)]).toEqual(['here', doors]);
    // both live: nothing moves however long it takes
    for (let i = 0; i < 20; i++) {
      now_ms += 500;
      await a.look();
      await b.look();
    }
    expect(await fenceNow()).toBe(first);
    // nobody looked for a minute, as when the database was away: silence of that time counts for nothing
    now_ms += 60_000;
    await b.look();
    expect(await fenceNow()).toBe(first);
    for (let i = 0; i < 8; i++) {
      now_ms += 500;
      await b.look();
    }
    expect(await fenceNow()).toBe(first + 1);
    expect(b.ownerOf(DEMO.operatorId)).toBe('here');
    expect([await holds(first), await holds(first + 1)]).toEqual([false, true]);
    // the first was paused and wakes up: it learns at its next look, and can write nothing meanwhile
    await a.look();
    expect(a.ownerOf(DEMO.operatorId)).toMatchObject({ port: 9 });
    expect(events).toEqual([`a gained ${first}`, `b gained ${first + 1}`, 'a lost']);
  });

  test('given up in order it is taken at once; a server that comes back in time keeps its tenure', async () => {
    const [a, b] = [server('a', ids[0]), server('b', ids[1])];
    await a.begin(doors);
    await b.begin(doors);
    await Promise.all([a.end(), b.end()]);
    const again = server('a again', ids[0]);
    await again.begin(doors);
    await again.end();
    const fence = await fenceNow();
    expect(events).toEqual([`a gained ${fence}`, `a again gained ${fence}`]);
    await again.giveUp();
    await b.look();
    expect(b.ownerOf(DEMO.operatorId)).toBe('here');
  });

  test('a write that is under way holds the fleet until it is done', async () => {
    const a = server('a', ids[0]);
    await a.begin(doors);
    await a.end();
    const fence = await fenceNow();
    let takenOver: Promise<unknown> = Promise.resolve();
    const order: string[] = [];
    await asOperator(pool, DEMO.operatorId, async (tx) => {
      await holdFleet(tx, fence);
      takenOver = a.giveUp().then(() => order.push('taken'));
      await tx.query('SELECT pg_sleep(0.2)');
      order.push('written');
    });
    await takenOver;
    expect(order).toEqual(['written', 'taken']);
  });

  test('a server that stands still in the middle of a write loses the write, and the fleet with it', async () => {
    const [a, b] = [server('a', ids[0]), server('b', ids[1])];
    const poolOfA = openPool(database.serverUrl, ids[0]);
    await a.begin(doors);
    await a.end();
    const fence = await fenceNow();
    let wakeUp: () => void = () => undefined;
    let stands: () => void = () => undefined;
    const standing = new Promise<void>((resolve) => (stands = resolve));
    const written = asOperator(poolOfA, DEMO.operatorId, async (tx) => {
      await holdFleet(tx, fence);
      stands();
      await new Promise<void>((resolve) => (wakeUp = resolve));
      await tx.query("SELECT set_config('rouse.operator', 'too late', true)");
    }).catch((error: unknown) => error);
    await standing;
    await b.begin(doors);
    await b.end();
    for (let i = 0; i < 8; i++) {
      now_ms += 500;
      await b.look();
    }
    expect(b.ownerOf(DEMO.operatorId)).toBe('here');
    wakeUp();
    // as when the database was away: it is written again, and refused for the tenure that is over
    expect(await written).toSatisfy(isDatabaseAway);
    expect(await holds(fence)).toBe(false);
    await poolOfA.end();
  });

  test('a server that is alone keeps others away, and others keep it away', async () => {
    const lock = (shared: boolean): DatabaseLock =>
      new DatabaseLock(database.serverUrl, ids[0], shared, log, () => undefined);
    const [one, two, alone] = [lock(true), lock(true), lock(false)];
    await one.client();
    await two.client();
    await expect(alone.client()).rejects.toThrow(DatabaseInUse);
    await Promise.all([one.close(), two.close(), alone.close()]);
  });
});

describe('two servers and one database', () => {
  let standIn: Awaited<ReturnType<typeof startStandIn>>;
  let a: ServerProcess;
  let b: ServerProcess;
  let atA: Caller;
  let atB: Caller;
  beforeAll(async () => {
    standIn = await startStandIn();
    const on = (port: number, lines: number): ServerProcess =>
      new ServerProcess(port, database.serverUrl, standIn.controlPort, ['QV-SKY'], {
        ROUSE_SERVERS: 'several',
        ROUSE_LINES_PORT: String(lines),
      });
    a = on(PORT, PORT + 4);
    b = on(PORT + 2, LINES_OF_B);
    await a.launch();
    await b.launch();
    // the unit speaks at the door of the server that does not have its fleet
    standIn.connect(b.port + 1);
    [atA, atB] = [new Caller(a.base), new Caller(b.base)];
    await atB.choose('warm-turn-round');
  });
  afterAll(async () => {
    await Promise.all([a.remove(), b.remove()]);
    standIn.stop();
  });

  /** A page that follows a run. */
  async function follow(
    base: string,
    run: string,
    call = atB,
  ): Promise<{ frames: () => number; said: LiveMessage[]; ended: Promise<number> }> {
    const page = new WebSocket(`${base.replace('http', 'ws')}/live?run=${run}`, {
      headers: { cookie: await call.cookie(), origin: base },
    });
    let frames = 0;
    const said: LiveMessage[] = [];
    page.on('message', (data: Buffer, binary) => {
      if (binary) frames++;
      else said.push(JSON.parse(data.toString()) as LiveMessage);
    });
    page.on('error', () => undefined);
    return { frames: () => frames, said, ended: new Promise((resolve) => page.once('close', resolve)) };
  }
  const ownFrames = async (run: string, call: Caller): Promise<number> =>
    (await (await call.fetch(`/runs/${run}/trace.csv`)).text()).split('\n').length;
  let run = '';
  let acknowledged: Entry[] = [];

  test('whichever is asked, the one that has the fleet answers: readings, entries, the list', async () => {
    run = await atB.open();
    await atB.post('/stand-in/pace', { run, times: 8 });
    const page = await follow(b.base, run);
    await waitUntil(() => page.frames() > 20);
    expect((await atB.get<Today>('/today')).aircraft.find((t) => t.tail === 'QV-SKY')!.openRun).toBe(run);
    await atB.work(run, 'engine-start');
    await atB.post('/stand-in/pace', { run, times: 1 });
    await atA.waitFor(run, (e) => e.kind === 'start-state' && e.state === 'accelerating');
    expect((await atA.writeNext(run, { kind: 'mark', words: 'by the other door' })).status).toBe(201);
    await waitUntil(() => page.said.some((m) => m.kind === 'entries' && m.entries.some((e) => e.kind === 'mark')));
    // what is acknowledged is in the database, where another server finds it
    acknowledged = (await atB.detail(run)).entries.filter((e) => e.kind === 'mark');
    const { rows } = await pool.query<{ id: string }>(
      "SELECT entry_id AS id FROM set_config('rouse.operator', $1, false), run_entry WHERE kind = 'mark'",
      [DEMO.operatorId],
    );
    expect(rows.map((r) => r.id)).toEqual(acknowledged.map((e) => e.id));
  });

  test('a unit with a token may speak at any door, over either transport; one with another token is told so', async () => {
    const boss = atB.as('administrator');
    const aircraft = FLEET.find((t) => t.tail === 'QV-ERN')!.aircraftId;
    const made = await boss.post('/devices', { aircraft, label: 'Unit one' });
    const { id, token } = made.body as unknown as DeviceMade;
    const line = writeDeviceLine(1, new Float64Array(typeOfTail('QV-ERN').channels.length), typeOfTail('QV-ERN').channels); // oxfmt-ignore
    const heard = (is: boolean): Promise<unknown> =>
      waitUntil(async () =>
        (await boss.get<DeviceMessage[]>('/devices')).find((d) => d.id === id)!.connected === is ? true : null,
      );
    const unit = net.connect(LINES_OF_B, '127.0.0.1');
    unit.write(`${token}\n${line}`);
    await heard(true);
    unit.destroy();
    await heard(false);
    const datagrams = dgram.createSocket('udp4');
    datagrams.send(datagramHead(id, datagramKeyOf(token), 1, line) + line, LINES_OF_B, '127.0.0.1');
    await heard(true);
    datagrams.close();
    const stranger = net.connect(LINES_OF_B, '127.0.0.1');
    let told = '';
    stranger.on('data', (data: Buffer) => (told += data.toString()));
    stranger.write('no token of anybody\n');
    await once(stranger, 'end');
    expect(told).toMatch(/not known here/);
  });

  test('who was signed out by the other server follows no run any longer', async () => {
    const other = new Caller(b.base);
    await other.get<Today>('/today');
    const page = await follow(b.base, run, other);
    await waitUntil(() => page.frames() > 5);
    const { rows } = await pool.query<{ id: string }>(
      'SELECT session_id AS id FROM session ORDER BY made_at DESC LIMIT 1',
    );
    await pool.query('DELETE FROM session WHERE session_id = $1', [rows[0]!.id]);
    expect(await page.ended).toBe(4401);
  });

  test('its owner is killed in mid-start: the other takes the tail over, and the start is seen to its end', async () => {
    const corridors = await atB.get<unknown>(`/runs/${run}/corridors`);
    const before = (await atB.detail(run)).entries;
    await a.end('SIGKILL');
    const since = performance.now();
    const { entries } = await waitUntil(() => atB.detail(run).catch(() => null), 10_000);
    const kept = await ownFrames(run, atB);
    await waitUntil(async () => ((await ownFrames(run, atB)) > kept + 10 ? true : null));
    expect(performance.now() - since).toBeLessThan(TAKEN_OVER_WITHIN_MS * timesAsLong());
    expect(entries.map((e) => e.id)).toEqual(expect.arrayContaining(acknowledged.map((e) => e.id)));
    expect(await atB.get<unknown>(`/runs/${run}/corridors`)).toEqual(corridors);
    await atB.waitFor(run, (e) => e.kind === 'item-done' && e.item === 'engine-start');
    const after = (await atB.detail(run)).entries;
    expect(checkChain(after)).toBeNull();
    expect(after.filter((e) => e.kind === 'start-state' && e.state === 'accelerating')).toHaveLength(1);
    expect(itemState(reduceRun(after), 'engine-start').how).toBe('watched');
    expect(after.every((e, i) => i === 0 || e.t >= after[i - 1]!.t - 0.2)).toBe(true);
    expect(after.length).toBeGreaterThanOrEqual(before.length);
  });

  test('a server that was paused wakes up with nothing to say: the tail is another’s, and what it writes is refused', async () => {
    await a.launch();
    const page = await follow(b.base, run);
    await waitUntil(() => page.frames() > 5);
    const throughA = await follow(a.base, run);
    await waitUntil(() => throughA.frames() > 5);
    const { fence } = (await listLeases(pool)).find((l) => l.operatorId === DEMO.operatorId)!;
    b.signal('SIGSTOP');
    // asked of the one that stands still, for as long as it stands
    const asked = atB.writeNext(run, { kind: 'mark', words: 'into the silence' }).catch(() => null);
    await waitUntil(
      async () => ((await listLeases(pool)).find((l) => l.operatorId === DEMO.operatorId)!.fence > fence ? true : null),
      10_000,
    );
    await waitUntil(
      async () => ((await atA.writeNext(run, { kind: 'mark', words: 'the new owner' })).status === 201 ? true : null),
      10_000,
    );
    // what led through the other door to the one that stands still has ended, so that the page can find the new owner
    expect(await throughA.ended).toBeGreaterThan(1000);
    b.signal('SIGCONT');
    expect(await page.ended).toBeGreaterThan(1000);
    const answer = await asked;
    const { entries } = await waitUntil(() => atB.detail(run).catch(() => null), 10_000);
    expect(checkChain(entries)).toBeNull();
    expect(entries.some((e) => e.kind === 'mark' && e.words === 'into the silence')).toBe(answer?.status === 201);
    expect(entries.some((e) => e.kind === 'mark' && e.words === 'the new owner')).toBe(true);
    expect((await atA.detail(run)).entries).toEqual(entries);
    // what it saw in its sleep is kept apart, for whoever wants to know
    const apart = path.join(b.folder.dir, 'refused.log');
    await waitUntil(() => existsSync(apart));
    expect(readFileSync(apart, 'utf8')).toContain(run);
    expect((await atB.writeNext(run, { kind: 'closed', outcome: 'given-up' })).status).toBe(201);
  });
});
