import { verifyBundle } from '@rouse/core/format';
import type { Debrief, RunsPage, StartActs } from '@rouse/core/contract';
import type { Entry } from '@rouse/core/procedure';
import { decodeChunk, rowAt, type Trace } from '@rouse/core/trace';
import pg from 'pg';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { retain } from '../../server/src/retention/retain.ts';
import { Caller, Rouse, skerry, waitUntil } from '../rouse.ts';

const DAY_MS = 86_400_000;
let rouse: Rouse;
let call: Caller;
/** a run in which a limit was passed */
let passed: string;
const inDays = (days: number): Date => new Date(Date.now() + days * DAY_MS);

beforeAll(async () => {
  rouse = await Rouse.start({ demoStarts: 3 });
  call = new Caller(rouse.base);
  await call.choose('weak-battery');
  passed = await call.open();
  await call.post('/stand-in/pace', { run: passed, times: 16 });
  await call.work(passed, 'engine-start');
  await call.waitFor(passed, (e) => e.kind === 'exceedance');
  await call.post('/stand-in/move', { run: passed, item: 'low-volts-selector-off' });
  await call.waitFor(passed, (e) => e.kind === 'item-done' && e.item === 'low-volts-selector-off');
  expect((await call.writeNext(passed, { kind: 'closed', outcome: 'aborted' })).status).toBe(201);
  await waitUntil(async () => (await call.get<Debrief>(`/runs/${passed}/debrief`)).starts.length > 0 || null);
});
afterAll(async () => {
  await rouse.stop();
  expect(rouse.errors).toEqual([]);
});

async function asOwner<T>(work: (client: pg.Client) => Promise<T>): Promise<T> {
  const client = new pg.Client({ connectionString: rouse.database.url });
  client.on('error', () => undefined);
  await client.connect();
  try {
    return await work(client);
  } finally {
    await client.end().catch(() => undefined);
  }
}

async function everyRun(): Promise<string[]> {
  const { runs } = await call.get<RunsPage>('/log/runs');
  return runs.map((r) => r.run);
}

/** Frames of every run as its bundle has them, checked from its bytes up. */
async function framesOf(runs: readonly string[]): Promise<Record<string, number>> {
  const found: Record<string, number> = {};
  for (const run of runs) {
    const checked = verifyBundle(await (await call.fetch(`/runs/${run}/bundle.json`)).text());
    expect(checked).toMatchObject({ ok: true });
    found[run] = (checked as { frames: number }).frames;
  }
  return found;
}

async function traceOf(run: string): Promise<Trace> {
  const bytes = new Uint8Array(await (await call.fetch(`/runs/${run}/trace`)).arrayBuffer());
  return decodeChunk(bytes, skerry.channels.map((c) => c.id)); // oxfmt-ignore
}

const around = (trace: Trace, t_s: number): number[] => [...trace.t_s.subarray(rowAt(trace, t_s - 30), rowAt(trace, t_s + 30))]; // oxfmt-ignore

/** A connection that dies at its n-th question. */
function dying(client: pg.Client, questions: number): pg.Client {
  let left = questions;
  return new Proxy(client, {
    get(target, name) {
      const value = Reflect.get(target, name) as unknown;
      if (name !== 'query') return typeof value === 'function' ? (value as () => unknown).bind(target) : value;
      return (...asked: [string, unknown[]]) => {
        if (left-- === 0) (target as unknown as { connection: { stream: { destroy(): void } } }).connection.stream.destroy(); // oxfmt-ignore
        return target.query(...asked);
      };
    },
  });
}

test('readings of an old run are thinned, the minutes around what was passed stay, and every bundle can still be checked', async () => {
  const runs = await everyRun();
  const before = await framesOf(runs);
  const whole = await traceOf(passed);
  expect(await asOwner((client) => retain(client, inDays(-1)))).toMatchObject({ emptied: 0 });
  const { at } = (await call.detail(passed)).entries.at(-1)!;
  expect(new Date(at).getTime()).toBeLessThan(Date.now());
  expect((await framesOf([passed]))[passed]).toBe(before[passed]);

  // killed at many points, and run again: each run is done whole, or not at all
  let killed = 0;
  for (const questions of [3, 8, 12, 13, 14, 15, 16, 17, 18, 19, 20, 21, 22])
    await asOwner((client) => retain(dying(client, questions), inDays(100))).catch(() => void killed++);
  expect(killed).toBeGreaterThan(5);
  await asOwner((client) => retain(client, inDays(100)));
  const after = await framesOf(runs);
  const others = runs.filter((run) => run !== passed && before[run]! > 0);
  expect(others.length).toBeGreaterThan(1);
  for (const run of others) expect(after[run], run).toBeLessThan(0.3 * before[run]!);

  const { entries } = await call.detail(passed);
  const exceedance = entries.find((e) => e.kind === 'exceedance')!;
  expect(around(await traceOf(passed), exceedance.t)).toEqual(around(whole, exceedance.t));
  expect(entries.filter((e) => e.kind === 'trace-thinned')).toHaveLength(1);
  expect(await asOwner((client) => retain(client, inDays(100)))).toMatchObject({ thinned: 0, emptied: 0 });
}); // oxfmt-ignore

test('what was read from every frame says that it cannot any more; figures stay', async () => {
  const [run] = (await everyRun()).filter((r) => r !== passed);
  const debrief = await call.get<{ starts: unknown[]; chain: { intact: boolean } }>(`/runs/${run}/debrief`);
  expect(debrief).toMatchObject({ chain: { intact: true }, starts: [expect.anything()] });
  const acts = await call.fetch(`/runs/${run}/starts/engine-1-start/1/acts`);
  expect(acts.status).toBe(422);
  expect(((await acts.json()) as StartActs & { error: { message: string } }).error.message).toMatch(/kept no more/);
});

test('after a year only the minutes around what was passed are left, and months that have nothing are dropped by name', async () => {
  const runs = await everyRun();
  const done = await asOwner((client) => retain(client, inDays(800)));
  expect(done.emptied).toBeGreaterThan(1);
  const after = await framesOf(runs);
  for (const run of runs) expect(after[run]! > 0, run).toBe(run === passed);
  const exceedance = (await call.detail(passed)).entries.find((e): e is Extract<Entry, { kind: 'exceedance' }> => e.kind === 'exceedance')!; // oxfmt-ignore
  const left = await traceOf(passed);
  expect(left.t_s[0]).toBeGreaterThanOrEqual(exceedance.start_s - 60);
  expect(left.t_s.at(-1)).toBeLessThanOrEqual(exceedance.end_s + 60);

  expect(done.dropped.length).toBeGreaterThan(0);
  const months = await asOwner(async (client) => (await client.query<{ name: string }>(`SELECT relname AS name FROM pg_class WHERE relispartition AND relname ~ '^trace_chunk_' ORDER BY 1`)).rows.map((r) => r.name)); // oxfmt-ignore
  expect(months.filter((name) => done.dropped.includes(name))).toEqual([]);
  const ahead = inDays(800);
  const next = new Date(Date.UTC(ahead.getUTCFullYear(), ahead.getUTCMonth() + 2, 1)).toISOString();
  expect(months).toContain(`trace_chunk_${next.slice(0, 4)}${next.slice(5, 7)}`);
  // a month that was dropped comes back with the next run that is brought into it
  await asOwner((client) => client.query("SELECT ensure_month('2024-01-01')"));
}); // oxfmt-ignore

test('two at once: the second is told to wait', async () => {
  await asOwner(async (first) => {
    await first.query('SELECT pg_advisory_lock(7268312)');
    await asOwner(async (second) => {
      await expect(retain(second, new Date())).rejects.toThrow(/another npm run retain/);
    });
  });
});
