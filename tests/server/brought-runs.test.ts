import { once } from 'node:events';
import net from 'node:net';
import { typeOfTail } from '../rouse.ts';
import type { RunDetail, RunsPage, RunTaken } from '@rouse/core/contract';
import { checkChain, type Entry, type Payload, presentItem, rightAnswer } from '@rouse/core/procedure';
import { createSession, NO_PAST } from '@rouse/core/session';
import { v7 as uuidv7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { DEMO, FLEET } from '../../server/src/demo/identity.ts';
import { PERSON } from '../caller.ts';
import { timesAsLong } from '../machine.ts';
import { Caller, Rouse } from '../rouse.ts';

let rouse: Rouse;
let call: Caller;
beforeAll(async () => {
  rouse = await Rouse.start();
  call = new Caller(rouse.base);
});
afterAll(async () => {
  await rouse.stop();
  expect(rouse.errors).toEqual([]);
});

const MIN_MS = 60_000;
const sky = FLEET.find((a) => a.aircraftId === DEMO.aircraftId)!;
const type = typeOfTail(sky.tail);

interface Written {
  /** how long ago it was opened */
  ago_ms?: number;
  by?: string;
  marks?: number;
  close?: boolean;
}

/** A run as a tablet writes it: opened by hand, some items seen, marks made, closed. */
function written({ ago_ms = 30 * MIN_MS, by = PERSON.pilot.personId, marks = 3, close = true }: Written = {}) {
  const openedAt_ms = Date.now() - ago_ms;
  const run = uuidv7({ msecs: openedAt_ms });
  const stamp = (t_s: number) => ({ id: uuidv7({ msecs: openedAt_ms + 1000 * t_s }), at_ms: openedAt_ms + 1000 * t_s });
  const session = createSession(type, { run, past: NO_PAST, stamp });
  session.open(by, { tail: sky.tail, type: type.id, typeVersion: type.version, source: 'by-hand', pad: sky.pad, conditions: 'By hand' }, null); // oxfmt-ignore
  let t_s = 0;
  const say = (payload: Payload): void => {
    const answered = session.answer({ by, t_s: (t_s += 0.5), payload });
    expect(answered.ok, JSON.stringify(payload)).toBe(true);
  };
  for (let i = 0; i < 4; i++) say(rightAnswer(presentItem(type, session.state)!, { type, state: session.state }));
  for (let i = 0; i < marks; i++) say({ kind: 'mark', words: `mark ${i}` });
  if (close) say({ kind: 'closed', outcome: 'given-up' });
  return {
    run,
    aircraft: sky.aircraftId,
    type: { id: type.id, version: type.version },
    openedAt: new Date(openedAt_ms).toISOString(),
    tabletNow: new Date().toISOString(),
    entries: session.entries as Entry[],
  };
}

const bring = async (
  sent: object,
  as: Caller = call,
): Promise<[number, RunTaken & { error?: { message: string } }]> => {
  const { status, body } = await as.post('/runs/brought', sent);
  return [status, body as never];
};

describe('a run that was written without a server', () => {
  test('is taken as it is, once, with its chain; it is booked, and says where it was written', async () => {
    const sent = written();
    expect(await bring(sent)).toEqual([201, { run: sent.run, already: false, overlaps: null }]);
    expect(await bring(sent)).toEqual([200, { run: sent.run, already: true, overlaps: null }]);
    const kept = await call.get<RunDetail>(`/runs/${sent.run}`);
    expect(kept.entries).toEqual(sent.entries);
    expect(checkChain(kept.entries)).toBeNull();
    expect(kept).toMatchObject({ source: 'by-hand', outcome: 'given-up', pilot: PERSON.pilot.name });
    const { runs } = await call.get<RunsPage>('/log/runs');
    expect(runs.find((r) => r.run === sent.run)!.conditions).toBe('By hand; written on a tablet without a server');
  });

  test('two tablets that wrote the same tail at the same time end as two runs, and the later one says so', async () => {
    const [one, other] = [written({ ago_ms: 200 * MIN_MS }), written({ ago_ms: 200 * MIN_MS })];
    expect((await bring(one))[0]).toBe(201);
    const [status, taken] = await bring(other);
    expect([status, taken.overlaps]).toEqual([201, one.openedAt]);
    expect((await call.get<RunDetail>(`/runs/${other.run}`)).conditions).toContain(
      'goes over the same time as the run of',
    );
    expect((await call.get<RunDetail>(`/runs/${one.run}`)).entries).toEqual(one.entries);
  });

  test('also while a run of that aircraft is open here', async () => {
    const open = await call.open();
    const sent = written({ ago_ms: 400 * MIN_MS });
    expect((await bring(sent))[0]).toBe(201);
    expect((await call.get<RunDetail>(`/runs/${open}`)).closedAt).toBeNull();
    await call.settle();
  });

  test('two thousand entries arrive within five seconds', async () => {
    const sent = written({ marks: 2000, ago_ms: 600 * MIN_MS });
    const since = performance.now();
    expect((await bring(sent))[0]).toBe(201);
    expect(performance.now() - since).toBeLessThan(5000 * timesAsLong());
    expect((await call.get<RunDetail>(`/runs/${sent.run}`)).entries).toHaveLength(sent.entries.length);
  });

  test('two thousand entries arrive once, whole, however often the line is cut on the way or before the answer', async () => {
    const sent = written({ marks: 2000, ago_ms: 700 * MIN_MS });
    const CUTS = 20;
    const port = Number(new URL(rouse.base).port);
    let tries = 0;
    const line = net.createServer((tablet) => {
      const cut = tries++;
      const server = net.connect(port, '127.0.0.1');
      const end = (): void => void (tablet.destroy(), server.destroy());
      let sent_B = 0;
      tablet.on('data', (part: Buffer) => {
        sent_B += part.length;
        // half of the cuts come while it is sent, a bit later each time, half when the server has it
        if (cut < CUTS && cut % 2 === 0 && sent_B > 4000 * (1 + cut)) end();
        else server.write(part);
      });
      server.on('data', (part: Buffer) => (cut < CUTS && cut % 2 === 1 ? end() : tablet.write(part)));
      for (const socket of [tablet, server]) socket.on('error', end).on('close', end);
    });
    await once(line.listen(0, '127.0.0.1'), 'listening');
    const through = `http://127.0.0.1:${(line.address() as net.AddressInfo).port}/api/runs/brought`;
    const headers = { 'content-type': 'application/json', cookie: await call.cookie(), connection: 'close' };
    const answers: number[] = [];
    const since = performance.now();
    while (answers.length === 0) {
      const answer = await fetch(through, { method: 'POST', headers, body: JSON.stringify(sent) }).catch(() => null);
      if (answer) answers.push(answer.status);
    }
    expect(performance.now() - since).toBeLessThan(30_000 * timesAsLong());
    line.close();
    expect([tries, answers]).toEqual([CUTS + 1, [200]]);
    const { entries } = await call.get<RunDetail>(`/runs/${sent.run}`);
    expect(entries).toEqual(sent.entries);
    expect(checkChain(entries)).toBeNull();
  });

  test('a tablet whose clock is a day ahead is put right; its entries stay as they were written', async () => {
    const day_ms = 24 * 60 * MIN_MS;
    const right = written({ ago_ms: 800 * MIN_MS - day_ms });
    const sent = { ...right, tabletNow: new Date(Date.now() + day_ms).toISOString() };
    expect((await bring(sent))[0]).toBe(201);
    const kept = await call.get<RunDetail>(`/runs/${sent.run}`);
    expect(Math.abs(Date.parse(kept.openedAt) - (Date.now() - 800 * MIN_MS))).toBeLessThan(MIN_MS);
    expect(kept.conditions).toContain('its clock was 1440 min ahead');
    expect(kept.entries).toEqual(sent.entries);
  });
});

describe('what cannot be taken is refused with its reason, and nothing of it is kept', () => {
  const refused = async (sent: Record<string, unknown> & { run: string }, as?: Caller): Promise<string> => {
    const [status, body] = await bring(sent, as);
    expect([400, 404, 409]).toContain(status);
    expect((await call.fetch(`/runs/${sent.run}`)).status).toBe(404);
    return body.error!.message;
  };
  const changed = (entry: number, to: object) => {
    const sent = written();
    return { ...sent, entries: sent.entries.map((e, i) => (i === entry ? { ...e, ...to } : e)) };
  };

  test('a journal that was changed, cut, mixed, or is none', async () => {
    expect(await refused(changed(2, { at: new Date().toISOString() }))).toMatch(/chain is broken: entry 4 does not follow/);
    const whole = written();
    expect(await refused({ ...whole, entries: whole.entries.toSpliced(3, 1) })).toMatch(/chain is broken/);
    expect(await refused({ ...whole, run: uuidv7() })).toMatch(/another run/);
    expect(await refused({ ...whole, entries: [{}, {}] })).toMatch(/entries 1: This is no entry/);
    expect(await refused(written({ close: false }))).toMatch(/It is not closed/);
  });

  test('of somebody else, of another aircraft, of a type that is not here, of a time to come', async () => {
    expect(await refused(written(), call.as('instructor'))).toMatch(/written by somebody else: whoever wrote it signs in/);
    const other = FLEET.find((a) => a.typeId !== sky.typeId)!;
    expect(await refused({ ...written(), aircraft: other.aircraftId })).toMatch(/handed over as/);
    expect(await refused({ ...written(), type: { id: type.id, version: 99 } })).toMatch(/no type S7 version 99/);
    expect(await refused(written({ ago_ms: -30 * MIN_MS }))).toMatch(/still to come; set the clock/);
  });

  test('a name that is taken by another run', async () => {
    const sent = written({ ago_ms: 1000 * MIN_MS });
    expect((await bring(sent))[0]).toBe(201);
    const [status, body] = await bring({ ...sent, entries: sent.entries.slice(0, -1) });
    expect([status, body.error!.message]).toEqual([409, 'A run of this name is here already, with other entries.']);
  });
}); // oxfmt-ignore
