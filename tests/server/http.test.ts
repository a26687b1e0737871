import { CLEAN_LINE } from '@rouse/core/contract';
import { readFileSync } from 'node:fs';
import http from 'node:http';
import path from 'node:path';
import type { AircraftToday, StandInState, Today } from '@rouse/core/contract';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { DEMO } from '../../server/src/demo/identity.ts';
import { ERRORS } from '../../server/src/errors.ts';
import { Caller, goodBrief, ROOT, Rouse } from '../rouse.ts';

const wired = (today: Today): AircraftToday => today.aircraft.find((a) => a.wired)!;

let rouse: Rouse;
let call: Caller;
beforeAll(async () => {
  rouse = await Rouse.start({ demoStarts: 3 });
  call = new Caller(rouse.base);
});
afterAll(async () => {
  await rouse.stop();
  expect(rouse.errors).toEqual([]);
});

/** A request with headers that fetch would not let through. */
function raw(headers: Record<string, string>): Promise<number> {
  return new Promise((resolve, reject) => {
    http
      .get(`${rouse.base}/api/today`, { headers }, (res) => resolve(res.resume().statusCode ?? 0))
      .on('error', reject);
  });
}

test('today tells the fleet, its history and what is connected', async () => {
  const today = await call.get<Today>('/today');
  expect(today.operator.name).toBe('Varra Air Rescue and Training');
  expect(today.aircraft.map((a) => a.tail)).toEqual(['QV-COR', 'QV-ERN', 'QV-INJ', 'QV-SKY', 'QV-STR', 'QV-TRN']);
  const sky = wired(today);
  expect(today.aircraft.filter((a) => a.wired)).toEqual([sky]);
  expect(sky).toMatchObject({ tail: 'QV-SKY', openRun: null, goodStarts: 3 });
  for (const run of sky.recent)
    expect(run).toMatchObject({ source: 'simulated', outcome: expect.stringMatching(/^(ready|shut-down)$/) });
  expect(sky.standIn!.presets.map((p) => p.id)).toEqual(
    expect.arrayContaining(['hot-start', 'hung-start', 'no-light', 'weak-battery']),
  );
});

test('the history is loaded once', async () => {
  const before = wired(await call.get<Today>('/today')).recent.map((r) => r.run);
  const { loadDemo } = await import('../../server/src/demo/load.ts');
  const { openPool } = await import('../../server/src/db/pool.ts');
  const { types } = await import('../rouse.ts');
  const pool = openPool(rouse.database.serverUrl);
  const load = (stamp: string, of: typeof types, say: () => void) =>
    loadDemo({
      pool,
      types: () => of,
      typesStamp: stamp,
      now: new Date(),
      demoStarts: 3,
      pastOf: ['QV-SKY'],
      flyWorker: null,
      reports: false,
      say,
    });
  await load('tests', types, () => expect.fail('loaded again'));
  await expect(load('others', [{ ...types[0]!, name: 'Another' }], () => undefined)).rejects.toThrow(
    /new version number/,
  );
  await pool.end();
  expect(wired(await call.get<Today>('/today')).recent.map((r) => r.run)).toEqual(before);
});

test('wrong input names its field and keeps the server going', async () => {
  const cases: [string, unknown, number, RegExp][] = [
    ['/runs', {}, 400, /aircraft/],
    ['/runs', { aircraft: '0193a000-0000-7000-8000-00000000dead', brief: goodBrief() }, 404, /no aircraft/],
    ['/runs', { aircraft: DEMO.aircraftId, brief: { ...goodBrief(), fuel_kg: 'full' } }, 400, /fuel_kg/],
    ['/runs', { aircraft: DEMO.aircraftId, brief: { ...goodBrief(), missing: ['extinguisher'] } }, 422, /extinguisher/],
    ['/runs/nonsense/entries', {}, 400, /id|seq|payload/],
    ['/stand-in/conditions', { aircraft: DEMO.aircraftId, preset: 'volcano' }, 400, /volcano/],
    ['/stand-in/line', { aircraft: DEMO.aircraftId, line: { ...CLEAN_LINE, drop: 2 } }, 400, /drop/],
    ['/stand-in/move', { run: '0193a000-0000-7000-8000-00000000dead', item: 'papers' }, 404, /not open/],
    ['/no/such/place', {}, 404, /nothing at/],
  ];
  for (const [place, body, status, message] of cases) {
    const answer = await call.post(place, body);
    expect(answer.status, place).toBe(status);
    expect(answer.body.error?.message, place).toMatch(message);
    expect(answer.body.error?.remedy, place).toBeTruthy();
  }
  const broken = await call.fetch('/runs', {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: '{"aircraft":',
  });
  expect(broken.status).toBe(400);
  expect((await call.fetch('/runs/not-an-id')).status).toBe(400);
  expect((await call.fetch('/runs/0193a000-0000-7000-8000-00000000dead')).status).toBe(404);
});

test('another site on this machine, or another name for it, is not let in', async () => {
  expect(await raw({ host: 'evil.example' })).toBe(403);
  expect(await raw({ host: `127.0.0.1:${rouse.program.port}`, origin: 'http://evil.example' })).toBe(403);
  // nobody is signed in, and that is all that is wrong
  expect(await raw({ host: `localhost:${rouse.program.port}` })).toBe(401);
});

test('without the stand-in a run can still be flown by declaration', async () => {
  rouse.standIn.disconnect();
  rouse.standIn.stop();
  expect(wired(await call.get<Today>('/today')).standIn!.preset).toBeNull();
  expect((await call.choose('mild')).body.error?.code).toBe('no-stand-in');
  const { status, body } = await call.post('/runs', { aircraft: DEMO.aircraftId, brief: goodBrief() });
  expect(status).toBe(201);
  const detail = await call.detail(body.run!);
  expect(detail.source).toBe('by-hand');
  const state: StandInState = wired(await call.get<Today>('/today')).standIn!;
  expect(state.connected).toBe(false);
});

test('every error is in the documented table with its status', () => {
  const docs = readFileSync(path.join(ROOT, 'docs/formats.md'), 'utf8');
  for (const [code, { status }] of Object.entries(ERRORS))
    expect(docs).toMatch(new RegExp(`\\| \`${code}\` +\\| ${status} +\\|`));
});

test('a connection outlives the minute that a proxy keeps it unused: who reuses it is never cut off', async () => {
  const { headers } = await fetch(`${rouse.base}/api/session`);
  expect(Number(/timeout=(\d+)/.exec(headers.get('keep-alive') ?? '')?.[1])).toBeGreaterThan(60);
});
