import { type ChildProcess, execFileSync, spawn } from 'node:child_process';
import { once } from 'node:events';
import { cpSync, mkdirSync, mkdtempSync, readFileSync, rmSync, statSync, symlinkSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { ROOT, waitUntil } from '../rouse.ts';

/** The start command in a checkout of its own: a copy of the tracked files beside the packages that are installed already. */
const checkout = mkdtempSync(path.join(tmpdir(), 'rouse-start-'));
const port = 28_640 + (process.pid % 900) * 3;
const base = `http://127.0.0.1:${port}`;
const running: ChildProcess[] = [];

beforeAll(() => {
  const tracked = execFileSync('git', ['ls-files', '-co', '--exclude-standard'], { cwd: ROOT, encoding: 'utf8' })
    .split('\n')
    .filter(Boolean);
  for (const file of tracked) {
    mkdirSync(path.join(checkout, path.dirname(file)), { recursive: true });
    cpSync(path.join(ROOT, file), path.join(checkout, file));
  }
  symlinkSync(path.join(ROOT, 'node_modules'), path.join(checkout, 'node_modules'));
  execFileSync('chmod', ['755', checkout]); // the database's own user must reach its folder
});
afterAll(async () => {
  for (const child of running) {
    if (child.exitCode !== null || child.signalCode !== null) continue;
    child.kill('SIGTERM');
    await once(child, 'exit');
  }
  rmSync(checkout, { recursive: true, force: true, maxRetries: 5 });
});

interface Started {
  child: ChildProcess;
  said: () => string;
}

function start(): Started {
  let said = '';
  const child = spawn(process.execPath, ['scripts/start.mjs'], {
    cwd: checkout,
    env: { ...process.env, PORT: String(port), ROUSE_DEMO_STARTS: '2' },
  });
  running.push(child);
  child.stdout.on('data', (data: Buffer) => (said += data.toString()));
  child.stderr.on('data', (data: Buffer) => (said += data.toString()));
  return { child, said: () => said };
}

const ready = ({ said, child }: Started): Promise<boolean> =>
  waitUntil(() => {
    if (child.exitCode !== null) throw new Error(said());
    return said().includes(`open ${base}`);
  }, 120_000);

const answers = async (): Promise<boolean> =>
  fetch(`${base}/api/today`).then(
    (r) => r.ok,
    () => false,
  );

/** Programs of this checkout that are alive, databases included. */
function alive(word: string): string[] {
  return execFileSync(
    'sh',
    ['-c', `ps -eo pid,args | grep -F '${checkout}' | grep -F '${word}' | grep -v grep || true`],
    { encoding: 'utf8' },
  )
    .split('\n')
    .filter(Boolean);
}

test('from a bare checkout to a served page, then stopped with nothing left', async () => {
  const first = start();
  await ready(first);
  expect(await answers()).toBe(true);
  expect(first.said()).toMatch(/initdb \d+ ms/);
  expect(first.said()).toContain('database migrated: 0001_first-run');
  expect(first.said()).toMatch(/demo: flown and stored/);
  expect((await fetch(base)).headers.get('content-security-policy')).toContain("default-src 'none'");
  const secret = path.join(checkout, '.local/pg-password');
  expect(statSync(secret).mode & 0o777).toBe(0o600);
  expect(readFileSync(secret, 'utf8').length).toBeGreaterThan(30);

  first.child.kill('SIGINT');
  const [code] = (await once(first.child, 'exit')) as [number];
  expect(code).toBe(0);
  expect(first.said()).toContain('[rouse] stopped');
  expect(await answers()).toBe(false);
  expect(alive('postgres')).toEqual([]);
});

test('the second start has nothing to set up and keeps what there was', async () => {
  const second = start();
  await ready(second);
  expect(second.said()).not.toMatch(/npm ci|initdb|migrated|demo:/);
  const today = (await (await fetch(`${base}/api/today`)).json()) as {
    aircraft: { tail: string; recent: unknown[] }[];
  };
  expect(today.aircraft.find((a) => a.tail === 'QV-SKY')!.recent).toHaveLength(2);
});

test(
  'a server that is killed is started again by itself; the command that is killed leaves a database that the next one takes over',
  { timeout: 90_000 },
  async () => {
    const second = running[running.length - 1]!;
    const server = (): number => Number(alive('server/dist/main.js')[0]?.trim().split(' ')[0] ?? NaN);
    const before = server();
    process.kill(before, 'SIGKILL');
    await waitUntil(() => server() > 0 && server() !== before);
    await waitUntil(answers);

    second.kill('SIGKILL');
    await once(second, 'exit');
    await waitUntil(() => alive('dist/main.js').length === 0);
    const third = start();
    await ready(third);
    expect(third.said()).toContain('reused running postgres');
    third.child.kill('SIGTERM');
    await once(third.child, 'exit');
    expect(alive('postgres')).toEqual([]);
  },
);

test('a port that is taken is said plainly, with the way out', async () => {
  const first = start();
  await ready(first);
  let said = '';
  const other = spawn(process.execPath, ['scripts/start.mjs'], {
    cwd: checkout,
    env: { ...process.env, PORT: String(port) },
  });
  other.stdout.on('data', (data: Buffer) => (said += data.toString()));
  other.stderr.on('data', (data: Buffer) => (said += data.toString()));
  const [code] = (await once(other, 'exit')) as [number];
  expect(code).toBe(1);
  expect(said).toMatch(/in use/);
  expect(said).not.toMatch(/\n\s+at /); // no stack: a sentence
  expect(await answers()).toBe(true);
  first.child.kill('SIGTERM');
  await once(first.child, 'exit');
});
