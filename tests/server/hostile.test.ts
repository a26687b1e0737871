import { once } from 'node:events';
import net from 'node:net';
import type { ApiError } from '@rouse/core/contract';
import { writeDeviceLine } from '@rouse/core/format';
import { checkChain, type Payload } from '@rouse/core/procedure';
import { decodeChunk } from '@rouse/core/trace';
import { v7 as uuidv7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { FLEET } from '../../server/src/demo/identity.ts';
import { Caller, Rouse, skerry, waitUntil } from '../rouse.ts';

let rouse: Rouse;
let call: Caller;
const mark: Payload = { kind: 'mark', words: '' };
beforeAll(async () => {
  rouse = await Rouse.start({ tails: ['QV-SKY', 'QV-COR'] });
  call = new Caller(rouse.base);
});
afterAll(async () => {
  await rouse.stop();
  expect(rouse.errors).toEqual([]);
});

/** Sends bytes to the page port and lets the other side decide how it ends. */
async function raw(text: string, end: 'wait' | 'reset' = 'wait'): Promise<string> {
  const socket = net.connect(rouse.program.port, '127.0.0.1');
  let answer = '';
  socket.on('error', () => undefined);
  socket.on('data', (data: Buffer) => (answer += data.toString()));
  await once(socket, 'connect');
  socket.write(text);
  if (end === 'reset') socket.resetAndDestroy();
  else await new Promise((resolve) => socket.once('close', resolve));
  return answer;
}

describe('an upgrade request', () => {
  const upgrade = (address: string): string =>
    `GET ${address} HTTP/1.1\r\nHost: 127.0.0.1:${rouse.program.port}\r\nConnection: Upgrade\r\nUpgrade: websocket\r\nSec-WebSocket-Version: 13\r\nSec-WebSocket-Key: dGhlIHNhbXBsZSBub25jZQ==\r\n\r\n`;

  test.each(['//', '//[', 'http://[::1', '/live?run=%', '/live', '/live?run=nobody', '/elsewhere'])(
    'for %s is refused, and the server goes on',
    async (address) => {
      expect(await raw(upgrade(address))).toMatch(/^HTTP\/1\.1 40[04]/);
      await call.get('/today');
    },
  );

  test('that is gone before it is refused changes nothing', async () => {
    await Promise.all(Array.from({ length: 40 }, () => raw(upgrade('//'), 'reset')));
    expect((await call.fetch('/today')).status).toBe(200);
  });
});

describe('a device line', () => {
  const port = (): number => rouse.program.devicePorts['QV-COR']!;
  const corrie = FLEET.find((a) => a.tail === 'QV-COR')!.aircraftId;

  test('with readings and times that cannot be is survived: the readings are unknown, the rest is kept', async () => {
    rouse.standIn.disconnect();
    const run = await waitUntil(async () => {
      const { body } = await call.post('/runs', { aircraft: corrie, brief: (await import('../rouse.ts')).goodBrief(corrie) }); // oxfmt-ignore
      return body.run ?? null;
    });
    const unit = net.connect(port(), '127.0.0.1');
    await once(unit, 'connect');
    const { type } = await call.detail(run);
    const { channels } = await call.get<typeof skerry>(`/types/${type.id}/${type.version}`);
    const values = new Float64Array(channels.length).fill(1);
    const from = performance.now();
    const send = (text?: string): void =>
      void unit.write(text ?? writeDeviceLine((performance.now() - from) / 1000, values, channels));
    for (const odd of ['1e308', '-1e308', '1e12', '"hot"', 'null'])
      send(`{"t":${(performance.now() - from) / 1000},"ng.1":${odd}}\n`);
    for (const odd of ['1e308', '-1e308', 'null', '"now"']) send(`{"t":${odd},"ng.1":1}\n`);
    const timer = setInterval(() => send(), 20);
    const ids = channels.map((c) => c.id);
    const trace = await waitUntil(async () => {
      const bytes = await (await call.fetch(`/runs/${run}/trace`)).arrayBuffer();
      const t = decodeChunk(new Uint8Array(bytes), ids);
      return t.t_s.length > 50 ? t : null;
    });
    clearInterval(timer);
    unit.destroy();
    expect(trace.t_s.every((t, i) => t >= 0 && (i === 0 || t > trace.t_s[i - 1]!))).toBe(true);
    const ng = trace.columns[ids.indexOf('ng.1')]!;
    expect(ng.every((v) => Number.isNaN(v) || v === 1)).toBe(true);
    await call.writeNext(run, { kind: 'closed', outcome: 'given-up' });
  });

  test('without an end is cut off, however long it goes on', async () => {
    const unit = net.connect(port(), '127.0.0.1');
    unit.on('error', () => undefined);
    await once(unit, 'connect');
    const block = Buffer.alloc(1024 * 1024, 'x');
    const before = process.memoryUsage().rss;
    const closed = new Promise((resolve) => unit.once('close', resolve));
    for (let i = 0; i < 200 && !unit.destroyed; i++) if (!unit.write(block)) await Promise.race([once(unit, 'drain').catch(() => undefined), closed]); // oxfmt-ignore
    await closed;
    expect(process.memoryUsage().rss - before).toBeLessThan(100 * 1024 * 1024);
    await call.get('/today');
  });
});

describe('an answer', () => {
  let run: string;
  beforeAll(async () => {
    run = await call.open();
  });

  const refusals: [string, () => unknown, number, RegExp][] = [
    [
      'a zero in a text',
      () => ({ id: uuidv7(), seq: 1, payload: { kind: 'note', text: 'a\0b' } }),
      400,
      /payload\.text/,
    ],
    ['half a character', () => JSON.parse('{"id":"0193a000-0000-7000-8000-000000000001","seq":1,"payload":{"kind":"note","text":"\\ud800"}}') as unknown, 400, /payload\.text/], // oxfmt-ignore
    ['a number past what a journal can hold', () => ({ id: uuidv7(), seq: 2 ** 31 + 1, payload: mark }), 400, /seq/],
    ['a number that is none', () => ({ id: uuidv7(), seq: 1.5, payload: mark }), 400, /seq/],
    ['an id that is none', () => ({ id: 'mine', seq: 1, payload: mark }), 400, /id/],
    ['a stage past all stages', () => ({ id: uuidv7(), seq: 3, payload: { kind: 'stage-done', item: 'papers', stage: 2 ** 40, value: null, words: '', last: false } }), 422, /next/], // oxfmt-ignore
  ];
  test.each(refusals)('with %s is refused by its field', async (_, body, status, words) => {
    const text = JSON.stringify(body()).replace('\ud800', '\\ud800');
    const response = await call.fetch(`/runs/${run}/entries`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: text,
    });
    const { error } = (await response.json()) as ApiError;
    expect(response.status, JSON.stringify(error)).toBe(status);
    expect(`${error.path ?? ''} ${error.message}`).toMatch(words);
    expect(error.remedy).toBeTruthy();
  });

  test('an id is given once: again it means the same entry, otherwise it is refused, in this run and in the next', async () => {
    const id = uuidv7();
    const seq = (await call.detail(run)).entries.length + 1;
    const first = await call.write(run, { kind: 'mark', words: 'one' }, seq, id);
    expect(first.status).toBe(201);
    const again = await call.write(run, { kind: 'mark', words: 'one' }, seq, id);
    expect(again.body.seq).toBe(first.body.seq);
    expect((await call.write(run, { kind: 'mark', words: 'two' }, seq, id)).body.error?.code).toBe('id-used');
    await call.writeNext(run, { kind: 'closed', outcome: 'given-up' });
    const next = await call.open();
    const stolen = await call.write(next, { kind: 'mark', words: 'one' }, 3, id);
    expect(stolen).toMatchObject({ status: 409, body: { error: { code: 'id-used' } } });
    await call.writeNext(next, { kind: 'closed', outcome: 'given-up' });
  });

  test('twenty notes at once on a closed run are all written, one after the other', async () => {
    const write = async (text: string): Promise<unknown> => {
      const id = uuidv7();
      // a database that is slow to take it is asked again, as the page does
      return waitUntil(async () => {
        const { status } = await call.writeNext(run, { kind: 'note', text }, id);
        return status === 503 ? null : status;
      });
    };
    const notes = await Promise.all(Array.from({ length: 20 }, (_, i) => write(`note ${i}`)));
    expect(notes).toEqual(Array.from({ length: 20 }, () => 201));
    const { entries } = await call.detail(run);
    expect(entries.filter((e) => e.kind === 'note')).toHaveLength(20);
    expect(checkChain(entries)).toBeNull();
  });

  test.each([
    '/types/S7/99999999999',
    '/types/%00/1',
    '/runs/%00',
    `/runs/${'a'.repeat(3000)}`,
    '/mappings/S7?header=%00',
  ])('an address such as %s is refused, not a fault of ours', async (place) => {
    const response = await call.fetch(place);
    expect(response.status).toBeGreaterThanOrEqual(400);
    expect(response.status).toBeLessThan(500);
    expect(response.headers.get('x-content-type-options')).toBe('nosniff');
    expect(response.headers.get('cache-control')).toBe('no-store');
  });
});
