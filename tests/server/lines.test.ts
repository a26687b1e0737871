import dgram from 'node:dgram';
import { once } from 'node:events';
import net from 'node:net';
import type { DeviceMade, DeviceMessage, RunDetail, Today } from '@rouse/core/contract';
import { writeDeviceLine } from '@rouse/core/format';
import { canonicalJson, digestOf } from '@rouse/core/procedure';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { datagramHead, datagramKeyOf } from '../../server/src/device/lines.ts';
import { foundOwn, type Guest } from '../guest.ts';
import { insertType } from '../../server/src/db/aircraft.ts';
import { asOperator, openPool } from '../../server/src/db/pool.ts';
import { DEMO } from '../../server/src/demo/identity.ts';
import { Caller, goodBrief, Rouse, skerry, waitUntil } from '../rouse.ts';

let rouse: Rouse;
let founder: Guest;
let aircraft: string;
beforeAll(async () => {
  rouse = await Rouse.start();
  founder = await foundOwn(rouse.base);
  aircraft = (await founder.get<Today>('/today')).aircraft[0]!.aircraft;
});
afterAll(async () => {
  await new Caller(rouse.base).settle();
  await rouse.stop();
  expect(rouse.errors).toEqual([]);
});

const values = new Float64Array(skerry.channels.length).fill(1);
let t_s = 0;
const frame = (): string => writeDeviceLine((t_s += 0.02), values, skerry.channels);
const made = async (label: string): Promise<DeviceMade> =>
  (await founder.send('POST', '/devices', { aircraft, label })).body as DeviceMade;
const stateOf = async (id: string): Promise<DeviceMessage> =>
  (await founder.get<DeviceMessage[]>('/devices')).find((d) => d.id === id)!;

/** A connection to the port of lines, with all that it was told. */
async function connect(): Promise<{ socket: net.Socket; told: () => string; ended: Promise<unknown> }> {
  const socket = net.connect(rouse.program.linesPort, '127.0.0.1');
  let told = '';
  socket.on('data', (data: Buffer) => (told += data.toString()));
  socket.on('error', () => undefined);
  const ended = new Promise((resolve) => socket.once('close', resolve));
  await once(socket, 'connect');
  return { socket, told: () => told, ended };
}

test('a unit that says its token is heard by its own aircraft, and the run takes its frames', async () => {
  const { token, id } = await made('Unit one');
  const { socket } = await connect();
  socket.write(`${token}\n`);
  const feeding = setInterval(() => socket.write(frame()), 20);
  await waitUntil(async () => ((await stateOf(id)).connected ? true : null));
  const opened = await founder.send('POST', '/runs', { aircraft, brief: goodBrief() });
  const { run } = opened.body as { run: string };
  expect((await founder.get<RunDetail>(`/runs/${run}`)).source).toBe('device');
  await waitUntil(async () => {
    const { text } = await founder.send('GET', `/runs/${run}/trace.csv`);
    return text.split('\n').length > 50 ? true : null;
  });
  // the same tail of another unit: refused, in words, and counted
  const second = await made('Unit two');
  const other = await connect();
  other.socket.write(`{"token":"${second.token}"}\n${frame()}`);
  await other.ended;
  expect(other.told()).toContain('another unit speaks');
  expect(await stateOf(second.id)).toMatchObject({ refused: 1, connected: false });

  // the token is ended: the line is cut, and taken no more
  expect((await founder.send('DELETE', `/devices/${id}`)).status).toBe(200);
  await once(socket, 'close');
  clearInterval(feeding);
  const again = await connect();
  again.socket.write(`${token}\n`);
  await again.ended;
  expect(again.told()).toContain('is not known here');
  const { entries } = await founder.get<RunDetail>(`/runs/${run}`);
  const closed = { id: crypto.randomUUID(), seq: entries.length + 1, payload: { kind: 'closed', outcome: 'given-up' } };
  await waitUntil(async () => {
    const answer = await founder.send('POST', `/runs/${run}/entries`, closed);
    closed.seq = (answer.body as { error?: { expected?: number } }).error?.expected ?? closed.seq;
    return answer.status === 201 ? true : null;
  });
});

test('whoever says no token, or a wrong one, or too much, is let go', async () => {
  const wrong = await connect();
  wrong.socket.write(`${'a'.repeat(43)}\n${frame()}`);
  await wrong.ended;
  expect(wrong.told()).toContain('is not known here');
  const page = await connect();
  page.socket.write('POST / HTTP/1.1\r\nHost: x\r\n\r\n');
  await page.ended;
  expect(page.told()).toBe('');
  const { token, id } = await made('Loud unit');
  const loud = await connect();
  loud.socket.write(`${token}\n`);
  loud.socket.write(frame().repeat(3000));
  await loud.ended;
  expect(loud.told()).toContain('lines a second');
  expect((await stateOf(id)).refused).toBeGreaterThan(0);
  const silent = await connect();
  await silent.ended;
  expect(silent.told()).toContain('no token came');
});

test('datagrams are signed and count upwards: a changed, a foreign and a repeated one are not heard', async () => {
  const { token, id } = await made('Unit by datagrams');
  const key = datagramKeyOf(token);
  const socket = dgram.createSocket('udp4');
  const send = (message: string): Promise<void> =>
    new Promise((sent) => socket.send(message, rouse.program.linesPort, '127.0.0.1', () => sent()));
  const signed = (count: number, lines = frame()): string => datagramHead(id, key, count, lines) + lines;
  const refused = async (n: number): Promise<void> => {
    await waitUntil(async () => ((await stateOf(id)).refused === n ? true : null));
  };
  await send(signed(5).replace('"ng.1":1', '"ng.1":2'));
  await refused(1);
  await send(datagramHead(id, datagramKeyOf('another'), 6, frame()) + frame());
  await refused(2);
  expect((await stateOf(id)).connected).toBe(false);
  let count = 6;
  let last = '';
  await waitUntil(async () => {
    await send((last = signed(++count)));
    return (await stateOf(id)).connected;
  });
  await send(last);
  await refused(3);
  await send(frame());
  await send(signed(6));
  await refused(4);
  // a unit that has fallen silent is not said to speak
  await waitUntil(async () => !(await stateOf(id)).connected);
  socket.close();
});

test('two operators that call different types the same keep each their own readings', async () => {
  const theirs = { ...skerry, id: 'S8', version: 1 };
  // ours reads the air to the hundredth, theirs does not
  const channels = theirs.channels.map((c) => (c.id === 'outside.air' ? { ...c, resolution: 0.01, decimals: 2 } : c));
  const ours = { ...theirs, channels };
  await rouse.release(theirs);
  const { operatorId } = (await founder.session()).person!.member!;
  const pool = openPool(rouse.database.serverUrl);
  await asOperator(pool, operatorId, (tx) => insertType(tx, ours, digestOf(canonicalJson(ours))));
  await pool.end();
  const demo = new Caller(rouse.base);
  await demo.as('administrator').put('/types/S8/tails', { aircraft: DEMO.aircraftId, version: 1 });
  await founder.send('PUT', '/types/S8/tails', { aircraft, version: 1 });
  // frames of theirs are stored first
  const first = (await demo.post('/runs', { aircraft: DEMO.aircraftId, brief: goodBrief() })).body.run!;
  await demo.waitFor(first, (e) => e.kind === 'briefed');
  await waitUntil(async () => (await (await demo.fetch(`/runs/${first}/trace.csv`)).text()).split('\n').length > 30);
  await demo.writeNext(first, { kind: 'closed', outcome: 'given-up' });

  const { token, id } = await made('Unit of an S8');
  const { socket } = await connect();
  socket.write(`${token}\n`);
  let at_s = 0;
  const feeding = setInterval(() => socket.write(`{"t":${(at_s += 0.02).toFixed(2)},"outside.air":20.37}\n`), 20);
  await waitUntil(async () => (await stateOf(id)).connected);
  const { run } = (await founder.send('POST', '/runs', { aircraft, brief: goodBrief() })).body as { run: string };
  await waitUntil(async () => (await founder.send('GET', `/runs/${run}/trace.csv`)).text.split('\n').length > 30);
  const closed = { id: crypto.randomUUID(), seq: 3, payload: { kind: 'closed', outcome: 'given-up' } };
  await waitUntil(async () => {
    const answer = await founder.send('POST', `/runs/${run}/entries`, closed);
    closed.seq = (answer.body as { error?: { expected?: number } }).error?.expected ?? closed.seq;
    return answer.status === 201;
  });
  clearInterval(feeding);
  socket.destroy();
  const { text } = await founder.send('GET', `/runs/${run}/trace.csv`);
  const [head, row] = text.split('\n').map((l) => l.split(','));
  const air = head!.findIndex((h) => h.startsWith('outside.air'));
  expect(Number(row![air])).toBe(20.37);
});

test('on the port of a tail of this machine no token is asked, and it is not reached from elsewhere', async () => {
  const port = rouse.program.devicePorts['QV-SKY']!;
  const others = Object.values((await import('node:os')).networkInterfaces())
    .flatMap((list) => list ?? [])
    .filter((a) => a.family === 'IPv4' && !a.internal);
  const reached = (host: string): Promise<boolean> =>
    new Promise((told) => {
      const socket = net.connect({ port, host, timeout: 3000 });
      socket.on('connect', () => (socket.destroy(), told(true)));
      socket.on('timeout', () => (socket.destroy(), told(false)));
      socket.on('error', () => told(false));
    });
  expect(await reached('127.0.0.1')).toBe(true);
  for (const { address } of others) expect(await reached(address)).toBe(false);
});
