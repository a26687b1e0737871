import type { RunDetail } from '@rouse/core/contract';
import { checkChain, type Payload, presentItem, reduceRun } from '@rouse/core/procedure';
import pg from 'pg';
import { v7 as uuidv7 } from 'uuid';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { asOperator, openPool } from '../../server/src/db/pool.ts';
import { DEMO } from '../../server/src/demo/identity.ts';
import { Caller, goodBrief, Rouse, skerry } from '../rouse.ts';

let rouse: Rouse;
let call: Caller;
let run: string;
beforeAll(async () => {
  rouse = await Rouse.start();
  call = new Caller(rouse.base);
  run = await call.open();
});
afterAll(async () => {
  await rouse.stop();
  expect(rouse.errors).toEqual([]);
});

const done = (item: string): Payload => ({ kind: 'item-done', item, how: 'declared', value: null, words: '' });
const mark: Payload = { kind: 'mark', words: '' };

test('an entry is written once, whatever happens to the answer', async () => {
  const id = uuidv7();
  const seq = (await call.detail(run)).entries.length + 1;
  const first = await call.write(run, done('papers'), seq, id);
  const again = await call.write(run, done('papers'), seq, id);
  expect(first.status).toBe(201);
  expect(again).toEqual(first);
  expect((await call.detail(run)).entries.filter((e) => e.id === id)).toHaveLength(1);
});

test('an entry out of order is refused with the number that is expected', async () => {
  const { entries } = await call.detail(run);
  for (const seq of [entries.length, entries.length + 2]) {
    const { status, body } = await call.write(run, mark, seq);
    expect(status).toBe(409);
    expect(body.error).toMatchObject({ code: 'out-of-order', expected: entries.length + 1 });
  }
  expect((await call.detail(run)).entries).toHaveLength(entries.length);
});

test('twenty writers at once leave one whole chain', async () => {
  const before = (await call.detail(run)).entries.length;
  const answers = await Promise.all(Array.from({ length: 20 }, () => call.writeNext(run, mark)));
  expect(answers.every((a) => a.status === 201)).toBe(true);
  const { entries } = await call.detail(run);
  // the watch may say something of its own meanwhile; each writer wrote once
  expect(entries.slice(before).filter((e) => e.by !== 'watch')).toHaveLength(20);
  expect(entries.map((e) => e.seq)).toEqual(entries.map((_, i) => i + 1));
  expect(checkChain(entries)).toBeNull();
});

test('two people who answer the same item at once answer it once, and neither is refused; a differing answer is', async () => {
  const item = presentItem(skerry, reduceRun((await call.detail(run)).entries))!.id;
  const second = call.as('instructor');
  const [mine, theirs] = await Promise.all([call.writeNext(run, done(item)), second.writeNext(run, done(item))]);
  expect([mine.status, theirs.status]).toEqual([201, 201]);
  const { entries } = await call.detail(run);
  const answered = entries.filter((e) => e.kind === 'item-done' && e.item === item);
  expect(answered).toHaveLength(1);
  expect([mine, theirs].map((a) => a.body.id)).toEqual([answered[0]!.id, answered[0]!.id]);
  expect((await second.writeNext(run, { kind: 'item-fault', item, note: 'torn' })).status).toBe(422);
}); // oxfmt-ignore

test('what the sensors deny is refused with the reading and the remedy, and nothing is written', async () => {
  await call.work(run, 'battery-on');
  const before = (await call.detail(run)).entries.length;
  const { status, body } = await call.writeNext(run, done('battery-on'));
  expect(status).toBe(422);
  expect(body.error?.message).toMatch(/Battery: off; expected on/);
  expect(body.error?.remedy).toBeTruthy();
  expect((await call.detail(run)).entries).toHaveLength(before);
});

test('a switch moved on the stand-in is sensed and settles its item by itself', async () => {
  expect((await call.post('/stand-in/move', { run, item: 'battery-on' })).status).toBe(200);
  const entry = await call.waitFor(run, (e) => e.kind === 'item-done' && e.item === 'battery-on');
  expect(entry).toMatchObject({ by: 'watch', how: 'sensed', value: 1 });
});

test('undo takes back the last thing that a person entered, once', async () => {
  const { body } = await call.writeNext(run, mark);
  const wanted: Payload = { kind: 'undone', entry: body.id! };
  expect((await call.writeNext(run, wanted)).status).toBe(201);
  expect((await call.writeNext(run, wanted)).body.error?.code).toBe('nothing-to-undo');
});

test('one aircraft has one open run', async () => {
  const { status, body } = await call.post('/runs', { aircraft: DEMO.aircraftId, brief: goodBrief() });
  expect(status).toBe(409);
  expect(body.error).toMatchObject({ code: 'run-is-open', run });
});

test('the server cannot change or remove what is in the journal, and sees no other operator', async () => {
  const pool = openPool(rouse.database.serverUrl);
  await expect(asOperator(pool, DEMO.operatorId, (tx) => tx.query("UPDATE run_entry SET kind = 'x'"))).rejects.toThrow(
    /permission denied/,
  );
  await expect(asOperator(pool, DEMO.operatorId, (tx) => tx.query('DELETE FROM run_entry'))).rejects.toThrow(
    /permission denied/,
  );
  const seen = async (operatorId: string): Promise<number> =>
    asOperator(
      pool,
      operatorId,
      async (tx) => (await tx.query<{ n: number }>('SELECT count(*) AS n FROM run_entry')).rows[0]!.n,
    );
  expect(await seen(DEMO.operatorId)).toBeGreaterThan(20);
  expect(await seen(uuidv7())).toBe(0);
  const { rows } = await pool.query<{ n: number }>('SELECT count(*) AS n FROM run_entry');
  expect(rows[0]!.n).toBe(0);
  await pool.end();
});

test('entries and frames of a month lie in a partition of that month', async () => {
  const client = new pg.Client({ connectionString: rouse.database.url });
  await client.connect();
  const { rows } = await client.query<{ place: string }>(
    'SELECT DISTINCT tableoid::regclass::text AS place FROM run_entry',
  );
  expect(rows).toHaveLength(1);
  expect(rows[0]!.place).toMatch(/^run_entry_\d{6}$/);
  await client.end();
});

test('a run that is closed takes notes and nothing else', async () => {
  expect((await call.writeNext(run, { kind: 'closed', outcome: 'given-up' })).status).toBe(201);
  expect((await call.writeNext(run, mark)).body.error?.code).toBe('not-open');
  expect((await call.writeNext(run, { kind: 'note', text: 'Rain began.' })).status).toBe(201);
  const detail: RunDetail = await call.detail(run);
  expect(detail.outcome).toBe('given-up');
  expect(checkChain(detail.entries)).toBeNull();
});
