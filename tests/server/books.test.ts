import net from 'node:net';
import type { Debrief, PracticeRow, RunsPage, Today } from '@rouse/core/contract';
import { writeDeviceLine } from '@rouse/core/format';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { FLEET } from '../../server/src/demo/identity.ts';
import { Caller, goodBrief, Rouse, typeOfTail } from '../rouse.ts';

const TAIL = 'QV-ERN';
const aircraft = FLEET.find((a) => a.tail === TAIL)!.aircraftId;
const type = typeOfTail(TAIL);
let rouse: Rouse;
let call: Caller;

beforeAll(async () => {
  rouse = await Rouse.start({ tails: [TAIL] });
  call = new Caller(rouse.base);
});
afterAll(async () => {
  await rouse.stop();
  expect(rouse.errors).toEqual([]);
});

describe('one-engine power', () => {
  test('is written as it is used, said, and holds the next start until an engineer has looked', async () => {
    const run = await call.open(aircraft);
    rouse.standIn.disconnect();
    const unit = net.connect(rouse.program.devicePorts[TAIL]!, '127.0.0.1');
    const frame = new Float64Array(type.channels.length).fill(NaN);
    const set = (id: string, v: number): number => (frame[type.channels.findIndex((c) => c.id === id)] = v);
    set('tq.1', 0);
    set('tq.2', 135);
    set('nr', 100);
    const from_ms = Date.now();
    const timer = setInterval(
      () => unit.write(writeDeviceLine((Date.now() - from_ms) / 1000 + 5000, frame, type.channels)),
      40,
    );
    const begun = await call.waitFor(
      run,
      (e) => e.kind === 'rating' && e.event === 'PERIOD_START' && e.rating === '30s',
    );
    expect(begun).toMatchObject({ ledger: 'one-engine', engine: 2 });
    await call.waitFor(run, (e) => e.kind === 'cue' && e.text === 'Thirty-second power, engine 2');
    set('tq.2', 100);
    await call.waitFor(run, (e) => e.kind === 'rating' && e.event === 'PERIOD_END' && e.rating === '30s');
    clearInterval(timer);
    unit.destroy();
    await call.writeNext(run, { kind: 'closed', outcome: 'given-up' });

    const { aircraft: fleet } = await call.get<Today>('/today');
    expect(fleet.find((a) => a.tail === TAIL)!.openExceedances).toBeGreaterThan(0);
    const refused = await call.post('/runs', { aircraft, brief: goodBrief(aircraft) });
    expect(refused.body.error?.message).toMatch(/power, engine 2/);
    const { booking } = await call.get<Debrief>(`/runs/${run}/debrief`);
    const used = booking!.ratings.find((r) => r.rating === '30s');
    expect(used).toMatchObject({ engine: 2, uses: 1 });
    expect(used!.inspection).toMatch(/before the next flight/);
    await call.settle();
    const again = await call.open(aircraft);
    await call.writeNext(again, { kind: 'closed', outcome: 'given-up' });
  });
});

describe('the books', () => {
  test('a run that started nothing books nothing, and the sums of the tail say so', async () => {
    const run = await call.open(aircraft);
    expect((await call.get<Debrief>(`/runs/${run}/debrief`)).booking).toBeNull();
    await call.writeNext(run, { kind: 'closed', outcome: 'given-up' });
    const { booking } = await call.get<Debrief>(`/runs/${run}/debrief`);
    expect(booking!.engines.map((e) => [e.starts, e.running_s])).toEqual([
      [0, 0],
      [0, 0],
    ]);
    const { aircraft: fleet } = await call.get<Today>('/today');
    expect(fleet.find((a) => a.tail === TAIL)!.booked).toEqual({ starts: 0, running_s: 0, flight_s: 0 });
  });

  test('the stand-in lifts only where its type says how, and only in an open run', async () => {
    const run = await call.open(aircraft);
    expect((await call.post('/stand-in/begin', { run, leg: 'hover' })).status).toBe(200);
    expect((await call.post('/stand-in/begin', { run, leg: 'shut-down' })).body.error?.message).toMatch(
      /Nothing is moved/,
    );
    await call.writeNext(run, { kind: 'closed', outcome: 'given-up' });
    expect((await call.post('/stand-in/begin', { run, leg: 'hover' })).body.error?.message).toMatch(/not open/);
  });
});

describe('practice', () => {
  const flown = {
    type: 'H9',
    exercise: 'failure',
    result: {
      lasted_s: 31,
      height_lost_m: 12,
      nr_least_pct: 94.2,
      mass_kg: 2700,
      oat_C: 15,
      failed_at_s: 4,
      ratings: [{ label: 'Thirty-second power, engine 2', booked_s: 20, uses: 1 }],
      ended: 'landed',
    },
  };

  test('is kept for the person, newest first, and never in an aircraft’s record', async () => {
    const runs = await call.get<RunsPage>('/log/runs');
    expect((await call.post('/practice', flown)).status).toBe(201);
    expect((await call.post('/practice', { ...flown, exercise: 'training' })).status).toBe(201);
    const kept = await call.get<PracticeRow[]>('/practice');
    expect(kept.map((p) => p.exercise)).toEqual(['training', 'failure']);
    expect(kept[1]).toMatchObject(flown);
    expect(await call.get('/log/runs')).toEqual(runs);
  });

  test('what cannot be is refused by the name of its field', async () => {
    const wrong = await call.post('/practice', { ...flown, result: { ...flown.result, mass_kg: -5 } });
    expect(wrong.status).toBe(400);
    expect(JSON.stringify(wrong.body)).toMatch(/mass_kg/);
  });
});
