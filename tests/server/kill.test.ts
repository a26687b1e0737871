import net from 'node:net';
import type { TypeFile } from '@rouse/core/aircraft';
import type { Debrief } from '@rouse/core/contract';
import { writeDeviceLine } from '@rouse/core/format';
import { checkChain, type Entry, itemState, presentItem, reduceRun } from '@rouse/core/procedure';
import { decodeChunk } from '@rouse/core/trace';
import pg from 'pg';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { tries } from '../../core/tests/whole.ts';
import { FLEET } from '../../server/src/demo/identity.ts';
import { Caller, freshDatabase, prepare, skerry, startStandIn, typeOfTail, waitUntil } from '../rouse.ts';
import { ServerProcess } from '../server-process.ts';

const PORT = 18_640 + (process.pid % 500) * 3;
let standIn: Awaited<ReturnType<typeof startStandIn>>;
let database: Awaited<ReturnType<typeof freshDatabase>>;
let server: ServerProcess;
const call = new Caller(`http://127.0.0.1:${PORT}`);

beforeAll(async () => {
  database = await freshDatabase();
  await prepare(database);
  standIn = await startStandIn();
  server = new ServerProcess(PORT, database.serverUrl, standIn.controlPort, ['QV-SKY', 'QV-ERN']);
  await server.launch();
  standIn.connect(PORT + 1);
  await call.choose('warm-turn-round');
});
afterAll(async () => {
  await server.remove();
  standIn.stop();
  await database.drop();
});

async function trace(run: string, { channels }: TypeFile = skerry) {
  const response = await call.fetch(`/runs/${run}/trace`);
  return decodeChunk(
    new Uint8Array(await response.arrayBuffer()),
    channels.map((c) => c.id),
  );
}

test('killed in mid-start and started again, nothing that was acknowledged is gone and the run goes on', async () => {
  const run = await call.open();
  await call.post('/stand-in/pace', { run, times: 8 });
  await call.work(run, 'engine-start');
  await call.post('/stand-in/pace', { run, times: 1 });
  await call.waitFor(run, (e) => e.kind === 'start-state' && e.state === 'accelerating');
  const stored = await trace(run);
  // what is acknowledged is on the disk, and so are the frames before it
  await call.writeNext(run, { kind: 'mark', words: '' });
  const acknowledged = (await call.detail(run)).entries;

  await server.end('SIGKILL');
  await server.launch();

  const after = await call.detail(run);
  expect(after.entries.slice(0, acknowledged.length)).toEqual(acknowledged);
  expect(after.closedAt).toBeNull();
  const kept = await trace(run);
  expect(kept.t_s.slice(0, stored.t_s.length)).toEqual(stored.t_s);
  kept.columns.forEach((column, c) => expect(column.slice(0, stored.t_s.length)).toEqual(stored.columns[c]));
  expect(presentItem(skerry, reduceRun(after.entries))?.id).toBe('engine-start');

  // the watch was rebuilt from the frames: it ends the start that it saw beginning
  await call.waitFor(run, (e) => e.kind === 'item-done' && e.item === 'engine-start');
  const { entries } = await call.detail(run);
  expect(checkChain(entries)).toBeNull();
  expect(entries.filter((e) => e.kind === 'start-state' && e.state === 'accelerating')).toHaveLength(1);
  expect(itemState(reduceRun(entries), 'engine-start').how).toBe('watched');
  const end = await waitUntil(async () => {
    const t = await trace(run);
    return t.t_s.length > kept.t_s.length + 50 ? t : null;
  });
  expect(end.t_s.every((t, i) => i === 0 || t > end.t_s[i - 1]!)).toBe(true);
});

test('killed while thirty-second power is in use, it is one use still, and the hole counts as used', async () => {
  const haugh = typeOfTail('QV-ERN');
  const { channels } = haugh;
  const frame = new Float64Array(channels.length).fill(NaN);
  for (const [id, value] of Object.entries({ 'tq.1': 0, 'tq.2': 135, nr: 100 }))
    frame[channels.findIndex((c) => c.id === id)] = value;
  const from_ms = Date.now();
  let unit: net.Socket | null = null;
  const feeding = setInterval(() => {
    unit ??= net
      .connect(PORT + 2, '127.0.0.1')
      .on('error', () => {})
      .on('close', () => (unit = null));
    if (unit.writable) unit.write(writeDeviceLine((Date.now() - from_ms) / 1000 + 5000, frame, channels));
  }, 40);
  // its frames count once its unit is heard
  const run = await waitUntil(async () => {
    const opened = await call.open(FLEET.find((a) => a.tail === 'QV-ERN')!.aircraftId);
    if ((await call.detail(opened)).source === 'device') return opened;
    await call.writeNext(opened, { kind: 'closed', outcome: 'given-up' });
    return null;
  });
  const isUse = (e: Entry): boolean => e.kind === 'rating' && e.event === 'PERIOD_START' && e.rating === '30s';
  const begun = await call.waitFor(run, isUse);
  const framesOf = async (): Promise<number> => (await trace(run, haugh)).t_s.length;
  await waitUntil(async () => (await framesOf()) > 50);

  await server.end('SIGKILL');
  await server.launch();
  const kept = await framesOf();
  await waitUntil(async () => (await framesOf()) > kept + 50);
  clearInterval(feeding);
  (unit as net.Socket | null)?.destroy();

  const { entries } = await call.detail(run);
  expect(entries.filter(isUse)).toHaveLength(1);
  const { t_s } = await trace(run, haugh);
  await call.writeNext(run, { kind: 'closed', outcome: 'given-up' });
  const { booking } = await call.get<Debrief>(`/runs/${run}/debrief`);
  const used = booking!.ratings.find((r) => r.rating === '30s')!;
  expect(used.uses).toBe(1);
  expect(used.booked_s).toBeGreaterThan(t_s[t_s.length - 1]! - begun.t - 0.5);
});

test('killed right after a run was closed, its books and waits are there every time', async () => {
  await call.settle();
  const aircraft = FLEET.find((a) => a.tail === 'QV-SKY')!.aircraftId;
  for (let i = 0; i < tries(6); i++) {
    const run = await call.open(aircraft);
    await call.work(run, 'oil-level');
    const { status } = await call.writeNext(run, { kind: 'closed', outcome: 'given-up' });
    expect(status).toBe(201);
    await server.end('SIGKILL');
    await server.launch();
    const { run: detail, booking, chain } = await call.get<Debrief>(`/runs/${run}/debrief`);
    expect(detail.outcome).toBe('given-up');
    expect(booking).not.toBeNull();
    expect(chain.intact).toBe(true);
    const client = new pg.Client({ connectionString: database.url });
    await client.connect();
    const { rows } = await client.query<{ n: string }>('SELECT count(*) AS n FROM run_booking WHERE run_id = $1', [
      run,
    ]);
    expect(Number(rows[0]!.n)).toBe(1);
    await client.end();
  }
});

test('stopped politely it leaves the run open for next time', async () => {
  await call.open();
  const { aircraft } = await call.get<{ aircraft: { openRun: string | null }[] }>('/today');
  const code = await server.end('SIGTERM');
  expect(code).toBe(0);
  await server.launch();
  const again = await call.get<{ aircraft: { openRun: string | null }[] }>('/today');
  const open = aircraft.map((a) => a.openRun);
  expect(open.some((run) => run !== null)).toBe(true);
  expect(again.aircraft.map((a) => a.openRun)).toEqual(open);
});
