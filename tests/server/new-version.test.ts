import type { RunDetail, Today } from '@rouse/core/contract';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { openPool } from '../../server/src/db/pool.ts';
import { DEMO } from '../../server/src/demo/identity.ts';
import { loadDemo } from '../../server/src/demo/load.ts';
import { Caller, goodBrief, Rouse, skerry, types, waitUntil } from '../rouse.ts';

let rouse: Rouse;
let call: Caller;
beforeAll(async () => {
  rouse = await Rouse.start();
  call = new Caller(rouse.base);
});
afterAll(() => rouse.stop());

/** The type with another item and one channel less, as its next version. */
const next: typeof skerry = {
  ...skerry,
  version: skerry.version + 1,
  name: `${skerry.name}, revised`,
  items: [{ ...skerry.items[0]!, id: 'read-the-revision', challenge: 'Revision' }, ...skerry.items],
  channels: [...skerry.channels.slice(1), skerry.channels[0]!],
};

async function release(): Promise<void> {
  await rouse.program.stop();
  const pool = openPool(rouse.database.serverUrl);
  const all = [...types, next];
  await loadDemo({
    pool,
    types: () => all,
    typesStamp: 'next',
    now: new Date(),
    demoStarts: 0,
    pastOf: null,
    flyWorker: null,
    reports: false,
    say: () => {},
  });
  await pool.end();
  await rouse.launch();
  call = new Caller(rouse.base);
  rouse.standIn.connect(rouse.program.devicePorts[DEMO.tail]!, DEMO.tail);
}

test('a new version of a type with a run open blocks nothing: the run keeps its own, the next one has the new', async () => {
  const run = await call.open();
  await call.work(run, 'battery-on');
  await release();

  const kept = await call.detail(run);
  expect(kept.type).toEqual({ id: skerry.id, version: skerry.version });
  expect(rouse.errors).toEqual([]);
  // its frames go on to be read by the channels of its own version
  await call.work(run, 'bus-volts');
  const done = (await call.detail(run)).entries.find((e) => e.kind === 'item-done' && e.item === 'battery-on');
  expect(done).toMatchObject({ how: 'sensed' });

  const today = await call.get<Today>('/today');
  const sky = today.aircraft.find((a) => a.tail === DEMO.tail)!;
  expect(sky.openRun).toBe(run);
  expect(sky.type.version).toBe(next.version);

  await call.settle();
  const after = await waitUntil(async () => {
    const opened = await call.post('/runs', { aircraft: DEMO.aircraftId, brief: goodBrief(DEMO.aircraftId) });
    return opened.status === 201 ? opened.body.run! : null;
  });
  const detail = await call.get<RunDetail>(`/runs/${after}`);
  expect(detail.type).toEqual({ id: next.id, version: next.version });
});
