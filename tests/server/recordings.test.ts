import type { BroughtAlong, LoggedTail, RunsPage } from '@rouse/core/contract';
import { flyPractice } from '@rouse/core/drill';
import { writeCsv } from '@rouse/core/format';
import { guessMapping, headerKey, headOf } from '@rouse/core/replay';
import { conditionsOf } from '@rouse/core/simulator';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { DEMO } from '../../server/src/demo/identity.ts';
import { Caller, Rouse, skerry } from '../rouse.ts';

let rouse: Rouse;
let pilot: Caller;
let engineer: Caller;
beforeAll(async () => {
  rouse = await Rouse.start();
  pilot = new Caller(rouse.base);
  engineer = pilot.as('engineer');
  const head = headOf(recorded('mild'), 'utf-8');
  const kept = await pilot.put(`/mappings/${skerry.id}`, {
    header: headerKey(head),
    mapping: guessMapping(head, skerry.channels),
  });
  expect(kept.status).toBe(200);
});
afterAll(async () => {
  await rouse.stop();
  expect(rouse.errors).toEqual([]);
});

/** A start of one of the shipped conditions as a recorder would keep it. @param hotter_C added to what its gauge showed */
function recorded(preset: string, hotter_C = 0): string {
  const found = skerry.standIn.find((p) => p.id === preset)!;
  const { trace } = flyPractice({ type: skerry, conditions: conditionsOf(skerry, found), faults: found.faults, corridors: {}, seed: 5 }); // oxfmt-ignore
  const [watch] = skerry.startWatches;
  const gauge = watch.kind === 'turbine' ? skerry.channels.findIndex((c) => c.id === watch.channels.temperature) : -1;
  const columns = trace.columns.map((c, i) => (i === gauge ? c.map((v) => v + hotter_C) : c));
  return writeCsv({ ...trace, columns }, skerry.channels);
}

async function bring(name: string, text: string, by = engineer): Promise<{ status: number; body: BroughtAlong; why: string }> {
  const answer = await by.fetch(`/aircraft/${DEMO.aircraftId}/recordings?name=${encodeURIComponent(name)}`, {
    method: 'POST',
    headers: { 'content-type': 'application/octet-stream' },
    body: text,
  });
  const body = (await answer.json()) as BroughtAlong & { error?: { message: string } };
  return { status: answer.status, body, why: body.error?.message ?? '' };
} // oxfmt-ignore

test('a file becomes a run of its own source, with its start and frames; the same bytes once', async () => {
  const text = recorded('mild');
  const first = await bring('2024-05-06 0940.csv', text);
  expect(first).toMatchObject({ status: 201, body: { already: false, starts: 1, held: 0 } });
  const { run } = first.body;
  const { runs } = await pilot.get<RunsPage>(`/log/runs?source=recording`);
  expect(runs.map((r) => [r.run, r.outcome, r.openedAt, r.running_s])).toEqual([[run, 'recorded', '2024-05-06T09:40:00.000Z', null]]); // oxfmt-ignore
  const detail = await pilot.detail(run);
  expect(detail.entries.some((e) => e.kind === 'start-done' && e.verdict === 'good')).toBe(true);
  const told = (await pilot.get<LoggedTail[]>('/log/tails')).find((t) => t.aircraft === DEMO.aircraftId);
  expect(told).toMatchObject({ runs: 1 });
  expect(await bring('another name 2024-05-07.csv', text)).toMatchObject({ status: 200, body: { run, already: true } });
});

test('each refusal says why, and keeps nothing', async () => {
  const text = recorded('hung-start');
  const cases: [string, string, RegExp][] = [
    ['2024-05-06 0941.csv', text, /has a run of 2024-05-06 09:40 UTC within its time/],
    ['flight.csv', text, /tell the day/],
    ['2099-01-01.csv', text, /still to come/],
    ['2024-06-01.csv', text.replace('t_s', 'seconds'), /Its columns are named otherwise/],
    ['2024-06-01.csv', text.split('\n').map((l, i) => (i === 30 ? l.replace(/,[-\d.]+/, ',full') : l)).join('\n'), /row 31.*full/], // oxfmt-ignore
    ['2024-06-01.csv', 'no table', /no table/],
    ['2024-06-01.csv', '', /empty/],
  ];
  for (const [name, file, why] of cases) {
    const answer = await bring(name, file);
    expect([answer.status, answer.why], name).toEqual([400, expect.stringMatching(why)]);
  }
  expect(await bring('2024-06-01.csv', text, pilot)).toMatchObject({ status: 403 });
  const { runs } = await pilot.get<RunsPage>('/log/runs?source=recording');
  expect(runs).toHaveLength(1);
});

test('a limit passed in a recording holds the next start until it is released', async () => {
  const { status, body } = await bring('2024-07-01.csv', recorded('mild', 400));
  expect(status).toBe(201);
  expect(body.held).toBeGreaterThan(0);
  await expect(pilot.open()).rejects.toThrow(/exceedance/i);
  await engineer.settle();
  const run = await pilot.open();
  // while a run is open nothing is put beside it
  expect(await bring('2024-08-01.csv', recorded('no-light'))).toMatchObject({ status: 409, why: expect.stringContaining('open run') }); // oxfmt-ignore
  await pilot.writeNext(run, { kind: 'closed', outcome: 'given-up' });
});
