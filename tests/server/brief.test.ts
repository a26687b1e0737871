import type { BriefContextMessage, RunDetail, TypeVersion } from '@rouse/core/contract';
import { afterAll, afterEach, beforeAll, describe, expect, test } from 'vitest';
import { DEMO, FLEET, PADS, SITES } from '../../server/src/demo/identity.ts';
import { Caller, goodBrief, Rouse, types } from '../rouse.ts';

let rouse: Rouse;
let call: Caller;
beforeAll(async () => {
  rouse = await Rouse.start();
  call = new Caller(rouse.base);
});
afterEach(() => call.settle());
afterAll(async () => {
  await rouse.stop();
  expect(rouse.errors).toEqual([]);
});

const idOf = (tail: string): string => FLEET.find((a) => a.tail === tail)!.aircraftId;
const contextOf = (tail: string): Promise<BriefContextMessage> => call.get(`/aircraft/${idOf(tail)}/brief`);
const put = async (type: string, body: unknown): Promise<{ status: number; body: { error?: { path?: string } } }> => {
  const response = await call.as('administrator').fetch(`/types/${type}/ways`, {
    method: 'PUT',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
  });
  return { status: response.status, body: (await response.json()) as never };
};

describe('what record and place know', () => {
  test('each tail has its place, its neighbours with their distance, and its type', async () => {
    for (const { tail, typeId, pad } of FLEET) {
      const context = await contextOf(tail);
      expect(context).toMatchObject({ tail, pad, openRun: null, openExceedances: [], past: [] });
      expect(context.type.id).toBe(typeId);
      const place = SITES.find((s) => s.site === PADS.find((p) => p.pad === pad)!.site)!;
      expect(context.site).toMatchObject({ elev_ft: place.elev_ft, variation_E_deg: place.variation_E_deg });
      const others = FLEET.filter((a) => a.tail !== tail && PADS.find((p) => p.pad === a.pad)!.site === place.site);
      expect(context.neighbours.map((n) => n.tail).toSorted()).toEqual(others.map((a) => a.tail).toSorted());
    }
  });

  test('distance is between the pads', async () => {
    const { neighbours } = await contextOf('QV-SKY');
    expect(neighbours.find((n) => n.tail === 'QV-TRN')!.distance_m).toBeCloseTo(42, 6);
    expect(neighbours.find((n) => n.tail === 'QV-INJ')!.distance_m).toBeCloseTo(Math.hypot(22, 70), 6);
  });

  test('an aircraft that is not there is not found, and nonsense is named', async () => {
    const at = async (id: string): Promise<number> => (await call.fetch(`/aircraft/${id}/brief`)).status;
    expect(await at('0193a000-0000-7000-8000-0000000000ff')).toBe(404);
    expect(await at('nobody')).toBe(400);
  });
});

describe('types and the operator', () => {
  test('every version of every type is listed once', async () => {
    const listed = await call.get<TypeVersion[]>('/types');
    expect(listed.map((t) => `${t.id}.${t.version}`).toSorted()).toEqual(
      types.map((t) => `${t.id}.${t.version}`).toSorted(),
    );
  });

  test('a way of the operator is kept, and the next run works so', async () => {
    const { version } = types.find((t) => t.id === 'C5')!;
    expect((await put('C5', { version, choice: 'method', to: 'two-crew' })).status).toBe(200);
    expect(await call.get('/types/C5/ways')).toEqual({ method: 'two-crew' });
    expect((await contextOf('QV-COR')).operatorWays).toEqual({ method: 'two-crew' });
    const run = await call.open(idOf('QV-COR'));
    const briefed = (await call.detail(run)).entries.find((e) => e.kind === 'briefed')!;
    expect(briefed).toMatchObject({ brief: { ways: { method: 'two-crew' }, overrides: [] } });
  });

  test('an answer that is none, a question that is none, and a type that is none are refused', async () => {
    const { version } = types.find((t) => t.id === 'C5')!;
    expect(await put('C5', { version, choice: 'method', to: 'hope' })).toMatchObject({
      status: 400,
      body: { error: { path: 'to' } },
    });
    expect((await put('C5', { version, choice: 'music', to: 'loud' })).status).toBe(400);
    expect((await put('Q9', { version: 1, choice: 'method', to: 'two-crew' })).status).toBe(404);
    expect((await put('C5', { version, choice: 'method' })).body.error!.path).toBe('to');
  });
});

describe('opening a run', () => {
  const open = (tail: string, change: object) =>
    call.post('/runs', { aircraft: idOf(tail), brief: { ...goodBrief(idOf(tail)), ...change } });

  test('the server computes the brief itself and refuses what holds it', async () => {
    const wind = { direction_deg: 120, from_deg: null, to_deg: null, speed_kt: 60, gust_kt: null };
    const { status, body } = await open('QV-ERN', { wind });
    expect(status).toBe(422);
    expect(body.error).toMatchObject({ code: 'brief-held' });
    expect((await contextOf('QV-ERN')).openRun).toBeNull();
  });

  test('a caution is passed with its reason, which stays in the journal', async () => {
    const observedAt = new Date(Date.now() - 5 * 3_600_000).toISOString();
    expect((await open('QV-ERN', { observedAt })).body.error).toMatchObject({ code: 'brief-held' });
    const { status, body } = await open('QV-ERN', { observedAt, accepted: { expired: 'the station is down' } });
    expect(status).toBe(201);
    const { entries } = await call.detail(body.run!);
    expect(entries.map((e) => e.kind)).toEqual(['run-opened', 'briefed']);
    expect(entries[1]).toMatchObject({
      brief: { accepted: [{ objection: 'expired', reason: 'the station is down' }] },
    });
  });

  test('a no-go is not passed with any reason', async () => {
    const { equipment } = types.find((t) => t.id === 'H9')!;
    const noGo = equipment.find((e) => e.failure === 'no-go')!;
    const accepted = { [`missing-${noGo.id}`]: 'it will be fine' };
    expect((await open('QV-ERN', { missing: [noGo.id], accepted })).status).toBe(422);
  });

  test('a brief that is torn is a bad request that names its field', async () => {
    const { status, body } = await open('QV-ERN', { oat_C: 'mild' });
    expect(status).toBe(400);
    expect(body.error!.path).toBe('brief.oat_C');
  });

  test('a tail without a device is worked by hand, stages and all, and its waits are kept', async () => {
    const run = await call.open(idOf('QV-INJ'));
    await call.work(run, 'nothing');
    expect((await call.writeNext(run, { kind: 'closed', outcome: 'ready' })).status).toBe(201);
    const detail = await call.get<RunDetail>(`/runs/${run}`);
    expect(detail).toMatchObject({ source: 'by-hand', outcome: 'ready', tail: 'QV-INJ' });
    const { items, legs } = types.find((t) => t.id === 'T2i')!;
    const flown = new Set(legs.flatMap((leg) => (leg.begins ? [] : [leg.id])));
    const waits = items.filter((i) => flown.has(i.leg) && (i.kind === 'wait' || i.kind === 'watch') && !i.when);
    const past = (await contextOf('QV-INJ')).past.map((w) => w.item);
    expect(past).toEqual(expect.arrayContaining(waits.map((w) => w.id)));
    // and how long its checks took, of the ways in which they were flown
    const others = past.filter((id) => !waits.some((w) => w.id === id));
    expect(others.length).toBeGreaterThan(0);
    expect(others.every((id) => items.some((i) => i.id === id && i.kind === 'measure'))).toBe(true);
  });

  test('six tails can be open at once, each in its own run', async () => {
    const runs = await Promise.all(FLEET.map((a) => call.open(a.aircraftId)));
    expect(new Set(runs).size).toBe(6);
    for (const [i, { tail }] of FLEET.entries()) expect((await call.detail(runs[i]!)).tail).toBe(tail);
    const { body } = await call.post('/runs', { aircraft: DEMO.aircraftId, brief: goodBrief() });
    expect(body.error).toMatchObject({ code: 'run-is-open' });
  });
});
