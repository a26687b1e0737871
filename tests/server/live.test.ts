import net from 'node:net';
import { monitorEventLoopDelay } from 'node:perf_hooks';
import type { BriefContextMessage, Debrief, LiveMessage } from '@rouse/core/contract';
import { verifyBundle } from '@rouse/core/format';
import { DEMO } from '../../server/src/demo/identity.ts';
import { columnOf, decodeChunk, type Trace } from '@rouse/core/trace';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { WebSocket } from 'ws';
import { Caller, goodBrief, Rouse, skerry, waitUntil } from '../rouse.ts';

let rouse: Rouse;
let call: Caller;
let run: string;
beforeAll(async () => {
  rouse = await Rouse.start({ demoStarts: 10 });
  call = new Caller(rouse.base);
  await call.choose('weak-battery');
  run = await call.open();
});
afterAll(async () => {
  await rouse.stop();
  expect(rouse.errors).toEqual([]);
});

/** how often it is looked whether this process is held up */
const LOOKS_MS = 10;
const ids = skerry.channels.map((c) => c.id);
async function storedTrace(): Promise<Trace> {
  const response = await call.fetch(`/runs/${run}/trace`);
  return decodeChunk(new Uint8Array(await response.arrayBuffer()), ids);
}

async function follow(): Promise<{ messages: LiveMessage[]; frames: Float64Array[]; socket: WebSocket }> {
  const socket = new WebSocket(`${rouse.base.replace('http', 'ws')}/live?run=${run}`, {
    headers: { cookie: await call.cookie() },
  });
  const messages: LiveMessage[] = [];
  const frames: Float64Array[] = [];
  socket.on('message', (data: Buffer, binary) => {
    if (!binary) return void messages.push(JSON.parse(data.toString()) as LiveMessage);
    const several = new Float64Array(data.buffer.slice(data.byteOffset, data.byteOffset + data.byteLength));
    const width = 2 + ids.length;
    expect(several.length % width).toBe(0);
    for (let at = 0; at < several.length; at += width) frames.push(several.subarray(at, at + width));
  });
  return { messages, frames, socket };
}

test('a page that follows gets the journal first, then every frame in order', async () => {
  const { messages, frames, socket } = await follow();
  await waitUntil(() => (frames.length > 100 ? true : null));
  socket.close();
  expect(messages[0]).toMatchObject({ kind: 'hello', run });
  const steps = frames.slice(1).map((f, i) => Math.round((f[0]! - frames[i]![0]!) * 1000));
  expect(steps.every((ms) => ms === 20)).toBe(true);
  expect(frames[0]).toHaveLength(2 + ids.length);
  expect(messages.some((m) => m.kind === 'status' && m.source === 'live')).toBe(true);
});

test('what was sent is stored, without a hole, also across the making of longer chunks', async () => {
  const trace = await waitUntil(async () => {
    const t = await storedTrace();
    return (t.t_s.at(-1) ?? 0) - (t.t_s[0] ?? 0) > 12 ? t : null;
  });
  const steps = [...trace.t_s].slice(1).map((t, i) => Math.round((t - trace.t_s[i]!) * 1000));
  expect(new Set(steps)).toEqual(new Set([20]));
  expect(columnOf(trace, 'outside.air').every((v) => v === 5)).toBe(true);
});

test('lines that cannot be read change nothing and do not end the connection', async () => {
  const before = (await storedTrace()).t_s.length;
  const intruder = net.connect(rouse.program.devicePorts['QV-SKY']!, '127.0.0.1');
  await new Promise((resolve) => intruder.once('connect', resolve));
  intruder.write('nonsense\n{"t":"later"}\n[]\n\n');
  intruder.end();
  // the stand-in lost its place to the newer connection and takes it back
  const after = await waitUntil(async () => ((await storedTrace()).t_s.length > before + 20 ? storedTrace() : null));
  expect(after.t_s.length).toBeGreaterThan(before);
});

test('a weak battery is caught in the start: reason, figure, actions, record', async () => {
  await call.work(run, 'engine-start');
  const abort = await call.waitFor(run, (e) => e.kind === 'abort');
  expect(abort).toMatchObject({ by: 'watch', reason: 'low-volts' });
  expect(abort.kind === 'abort' && abort.text).toMatch(/Bus \d+\.\d V: below 13\.2 V for more than 1 s/);
  await call.post('/stand-in/move', { run, item: 'low-volts-selector-off' });
  await call.waitFor(run, (e) => e.kind === 'item-done' && e.item === 'low-volts-selector-off');
  expect((await call.writeNext(run, { kind: 'closed', outcome: 'aborted' })).status).toBe(201);
  const debrief = await waitUntil(async () => {
    const d = await call.get<Debrief>(`/runs/${run}/debrief`);
    return d.starts.length ? d : null;
  });
  expect(debrief.verdict).toMatch(/^Volts too low/);
  const dip = debrief.starts[0]!.compared.find((c) => c.spec.id === 'voltsDip_V')!;
  expect(dip.verdict).toBe('low');
  expect(dip.value).toBeLessThan(13.2);
  expect(debrief.chain.intact).toBe(true);
});

test('the exports of the run are whole', async () => {
  const bundle = await (await call.fetch(`/runs/${run}/bundle.json`)).text();
  expect(verifyBundle(bundle)).toMatchObject({ ok: true, outcome: 'aborted' });
  const at = bundle.indexOf('low-volts');
  expect(verifyBundle(`${bundle.slice(0, at)}L${bundle.slice(at + 1)}`).ok).toBe(false);
  const csv = await (await call.fetch(`/runs/${run}/trace.csv`)).text();
  expect(csv.split('\r\n')[0]).toMatch(/^t_s,ng\.1_pct,tot\.1_C,/);
  expect(csv.split('\r\n').length - 2).toBe((await storedTrace()).t_s.length);
});

test('an exceedance holds the next start until an engineer releases it, by name and in words', async () => {
  await call.choose('mild');
  const held = await call.post('/runs', { aircraft: DEMO.aircraftId, brief: goodBrief() });
  expect(held.body.error).toMatchObject({ code: 'brief-held', message: expect.stringContaining('An engineer') });
  const { openExceedances } = await call.get<BriefContextMessage>(`/aircraft/${DEMO.aircraftId}/brief`);
  expect(openExceedances.length).toBeGreaterThan(0);
  for (const { run: its, seq } of openExceedances) {
    const place = `/exceedances/${its}/${seq}/release`;
    const release = { found: 'Battery changed, start system looked over' };
    expect((await call.post(place, release)).body.error?.code).toBe('no-right');
    const engineer = call.as('engineer');
    expect((await engineer.post(place, { found: ' ' })).body.error).toMatchObject({
      code: 'bad-request',
      path: 'found',
    });
    expect((await engineer.post(place, release)).status).toBe(200);
    expect((await engineer.post(place, release)).body.error?.code).toBe('not-found');
  }
  run = await call.open();
});

test('a server that was itself held up reads what came meanwhile before it says that nothing came', async () => {
  const { frames, socket } = await follow();
  await waitUntil(() => (frames.length > 20 ? true : null));
  for (const until = performance.now() + 1500; performance.now() < until;);
  const then = frames.length;
  await waitUntil(() => (frames.length > then + 50 ? true : null));
  const { entries } = await call.detail(run);
  expect(entries.filter((e) => e.kind === 'cue' && e.code === 'source-lost')).toEqual([]);
  socket.close();
});

test('a device that falls silent makes everything unknown within a second, and says so', async () => {
  const { messages, frames, socket } = await follow();
  await waitUntil(() => (frames.length > 20 ? true : null));
  const last_s = () => frames[frames.length - 1]![0]!;
  // stand-in, server and test share one thread, and a busy machine may hold it up
  const held = monitorEventLoopDelay({ resolution: LOOKS_MS });
  held.enable();
  rouse.standIn.unit.obey({ cmd: 'stream', on: false });
  const cue = await call.waitFor(run, (e) => e.kind === 'cue' && e.code === 'source-lost', 30_000);
  held.disable();
  const heldUp_s = (held.mean / 1e9 - LOOKS_MS / 1000) * held.count;
  expect(cue.t - last_s()).toBeLessThan(1 + heldUp_s);
  await waitUntil(() =>
    messages.some((m) => m.kind === 'status' && m.source === 'lost' && m.watch!.sourceLost) ? true : null,
  );
  const blind = await call.writeNext(run, {
    kind: 'item-done',
    item: 'papers',
    how: 'declared',
    value: null,
    words: '',
  });
  expect(blind.status).toBe(201);
  rouse.standIn.unit.obey({ cmd: 'stream', on: true });
  await call.waitFor(run, (e) => e.kind === 'cue' && e.code === 'source-back', 30_000);
  socket.close();
});

test('a server that stands still again and again says all the same that nothing comes', async () => {
  const { length } = (await call.detail(run)).entries;
  const said = (code: string) =>
    call.waitFor(run, (e) => e.seq > length && e.kind === 'cue' && e.code === code, 100_000);
  rouse.standIn.unit.obey({ cmd: 'stream', on: false });
  const stalls = setInterval(() => {
    for (const until = performance.now() + 500; performance.now() < until;);
  }, 20);
  const lost = await said('source-lost').finally(() => clearInterval(stalls));
  expect(lost).toMatchObject({ by: 'watch', severity: 'warning' });
  rouse.standIn.unit.obey({ cmd: 'stream', on: true });
  await said('source-back');
});

test('a simulated aircraft can be hurried: its run clock goes ahead, frames come without a hole, the wall does not', async () => {
  await call.settle();
  await call.choose('mild');
  const hurried = await call.open();
  const opened_ms = Date.now();
  expect((await call.post('/stand-in/pace', { run: hurried, times: 3 })).status).toBe(400);
  expect((await call.post('/stand-in/pace', { run: hurried, times: 8 })).status).toBe(200);
  const entry = await waitUntil(async () => {
    const { body } = await call.writeNext(hurried, { kind: 'mark', words: '' });
    return (body.t ?? 0) > 20 ? body : null;
  });
  expect(entry.t! - (Date.now() - opened_ms) / 1000).toBeGreaterThan(10);
  expect((await call.post('/stand-in/pace', { run: hurried, times: 1 })).status).toBe(200);
  const paceNow = () => rouse.standIn.unit.obey({ cmd: 'state' });
  expect(paceNow()).toMatchObject({ pace: 1 });
  const bytes = await (await call.fetch(`/runs/${hurried}/trace`)).arrayBuffer();
  const { t_s } = decodeChunk(
    new Uint8Array(bytes),
    skerry.channels.map((c) => c.id),
  );
  const steps = [...t_s].slice(1).map((t, i) => Math.round((t - t_s[i]!) * 1000));
  expect(steps.filter((s) => s !== 20)).toEqual([]);
  const byHand = await call.post('/stand-in/pace', { run: '0193a000-0000-7000-8000-00000000dead', times: 2 });
  expect(byHand.status).toBe(404);
  // nobody waits for an aircraft whose run is closed
  await call.post('/stand-in/pace', { run: hurried, times: 4 });
  expect(paceNow()).toMatchObject({ pace: 4 });
  await call.writeNext(hurried, { kind: 'closed', outcome: 'given-up' });
  await waitUntil(() => {
    const now = paceNow();
    return now.ok && now.pace === 1 ? now : null;
  });
});
