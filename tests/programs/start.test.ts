import { type ChildProcess, spawn } from 'node:child_process';
import { once } from 'node:events';
import { createServer } from 'node:net';
import { readFileSync, statSync } from 'node:fs';
import path from 'node:path';
import pg from 'pg';
import { afterAll, expect, test } from 'vitest';
import { startPostgres } from '../../scripts/lib/pg.mjs';
import { Checkout } from '../checkout.ts';
import type { Today } from '@rouse/core/contract';
import { Caller, ROOT, waitUntil } from '../rouse.ts';

const checkout = new Checkout(ROOT, { bare: true });
const port = 28_640 + (process.pid % 900) * 3;
const base = `http://127.0.0.1:${port}`;
const running: ChildProcess[] = [];
const started: Started[] = [];

afterAll(async () => {
  for (const child of running) {
    if (child.exitCode !== null || child.signalCode !== null) continue;
    child.kill('SIGTERM');
    await once(child, 'exit');
  }
  checkout.remove();
});

interface Started {
  child: ChildProcess;
  said: () => string;
}

function start(more: Record<string, string> = {}): Started {
  let said = '';
  const child = spawn(process.execPath, ['scripts/start.mjs'], {
    cwd: checkout.dir,
    env: { ...process.env, PORT: String(port), ROUSE_DEMO_STARTS: '2', ROUSE_DEMO_TAILS: 'QV-SKY', ...more },
  });
  running.push(child);
  child.stdout.on('data', (data: Buffer) => (said += data.toString()));
  child.stderr.on('data', (data: Buffer) => (said += data.toString()));
  const it = { child, said: () => said };
  started.push(it);
  return it;
}

const ready = ({ said, child }: Started): Promise<boolean> =>
  waitUntil(() => {
    if (child.exitCode !== null) throw new Error(said());
    return said().includes(`open http://localhost:${port}`);
  }, 120_000);

const answers = async (): Promise<boolean> =>
  fetch(`${base}/api/session`).then(
    (r) => r.ok,
    () => false,
  );

test('from a bare checkout to a served page, then stopped with nothing left', async () => {
  const first = start();
  await ready(first);
  expect(await answers()).toBe(true);
  expect(first.said()).toMatch(/initdb \d+ ms/);
  expect(first.said()).toContain('database migrated: 0001_first-run');
  expect(first.said()).toMatch(/demo: flown and stored/);
  expect((await fetch(base)).headers.get('content-security-policy')).toContain("default-src 'none'");
  const secret = path.join(checkout.dir, '.local/pg-password');
  expect(statSync(secret).mode & 0o777).toBe(0o600);
  expect(readFileSync(secret, 'utf8').length).toBeGreaterThan(30);

  first.child.kill('SIGINT');
  const [code] = (await once(first.child, 'exit')) as [number];
  expect(code).toBe(0);
  expect(first.said()).toContain('[rouse] stopped');
  expect(await answers()).toBe(false);
  expect(checkout.alive('postgres')).toEqual([]);
});

test('the second start has nothing to set up and keeps what there was', async () => {
  const second = start();
  await ready(second);
  expect(second.said()).not.toMatch(/npm ci|initdb|migrated|demo:/);
  const today = await new Caller(base).get<Today>('/today');
  expect(today.aircraft.find((a) => a.tail === 'QV-SKY')!.recent).toHaveLength(2);
});

const SERVER = 'server/dist/main.js';
const pidOf = (word: string): number => checkout.alive(word)[0] ?? NaN;

test(
  'what is killed, or answers nothing, is started again by itself: server, database, and a server that hangs',
  { timeout: 150_000 },
  async () => {
    const { said } = started[started.length - 1]!;
    // four deaths within a minute end nothing
    for (let i = 0; i < 4; i++) {
      const before = pidOf(SERVER);
      process.kill(before, 'SIGKILL');
      await waitUntil(() => pidOf(SERVER) > 0 && pidOf(SERVER) !== before);
      await waitUntil(answers);
    }
    const database = checkout.postmaster();
    process.kill(database, 'SIGKILL');
    await waitUntil(() => said().includes('the database is not there; starting it again'));
    await waitUntil(answers, 60_000);
    expect(checkout.postmaster()).not.toBe(database);

    const hangs = pidOf(SERVER);
    process.kill(hangs, 'SIGSTOP');
    await waitUntil(() => said().includes('has answered nothing'), 60_000);
    await waitUntil(() => pidOf(SERVER) > 0 && pidOf(SERVER) !== hangs);
    await waitUntil(answers);
  },
);

test('the command that is killed leaves a database that the next one takes over', { timeout: 90_000 }, async () => {
  const second = running[running.length - 1]!;
  second.kill('SIGKILL');
  await once(second, 'exit');
  await waitUntil(() => checkout.alive('dist/main.js').length === 0);
  const third = start();
  await ready(third);
  expect(third.said()).toContain('reused running postgres');
  third.child.kill('SIGTERM');
  await once(third.child, 'exit');
  expect(checkout.alive('postgres')).toEqual([]);
});

test('a second command on the same checkout is refused in words, and its end takes nothing from the first', async () => {
  const first = start();
  await ready(first);
  const run = (more: Record<string, string>): Promise<{ code: number; said: string }> =>
    new Promise((resolve) => {
      let said = '';
      const other = spawn(process.execPath, ['scripts/start.mjs'], {
        cwd: checkout.dir,
        env: { ...process.env, ...more },
      });
      running.push(other);
      other.stdout.on('data', (data: Buffer) => (said += data.toString()));
      other.stderr.on('data', (data: Buffer) => (said += data.toString()));
      other.on('exit', (code) => resolve({ code: code ?? -1, said }));
    });
  const elsewhere = await run({ PORT: String(port + 40) });
  expect(elsewhere.code).toBe(1);
  expect(elsewhere.said).toMatch(/another Rouse server works with this database/);
  expect(elsewhere.said).not.toMatch(/\n\s+at /); // no stack: a sentence
  expect(await answers()).toBe(true);
  first.child.kill('SIGTERM');
  await once(first.child, 'exit');
  expect(checkout.alive('postgres')).toEqual([]);
});

test('with a database that somebody else looks after it starts none of its own', { timeout: 90_000 }, async () => {
  const elsewhere = await startPostgres({ name: '-test' });
  const owner = new pg.Client({ connectionString: elsewhere.url('postgres') });
  await owner.connect();
  await owner.query('DROP DATABASE IF EXISTS rouse WITH (FORCE)');
  const it = start({ ROUSE_DATABASE: elsewhere.url(''), ROUSE_DEMO: 'none' });
  await ready(it);
  expect(it.said()).toContain('database migrated');
  expect(checkout.alive('postgres')).toEqual([]);
  expect(await answers()).toBe(true);
  it.child.kill('SIGTERM');
  await once(it.child, 'exit');
  await owner.query('DROP DATABASE rouse');
  await owner.end();
  elsewhere.stop();
});

test('a port that is taken is said plainly, with the way out', async () => {
  const holder = createServer().listen(port, '127.0.0.1');
  await once(holder, 'listening');
  const other = start();
  const [code] = (await once(other.child, 'exit')) as [number];
  expect(code).toBe(1);
  expect(other.said()).toMatch(/in use/);
  expect(other.said()).not.toMatch(/\n\s+at /);
  holder.close();
});
