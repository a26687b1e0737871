import { type ChildProcess, spawn } from 'node:child_process';
import { once } from 'node:events';
import { chmodSync, mkdtempSync, readdirSync, readlinkSync, renameSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { setTimeout as pace } from 'node:timers/promises';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { DEMO } from '../../server/src/demo/identity.ts';
import { Checkout } from '../checkout.ts';
import { Caller, goodBrief, ROOT, waitUntil } from '../rouse.ts';

const checkout = new Checkout(ROOT);
const port = 24_640 + (process.pid % 900) * 3;
const base = `http://127.0.0.1:${port}`;
const kept = path.join(mkdtempSync(path.join(tmpdir(), 'rouse-backup-')), 'rouse');
/** a busy operator writes so often */
const WRITES_EVERY_MS = 25;
/** what an operator may lose, s */
const RECOVERY_POINT_S = 60;

interface Ended {
  code: number;
  said: string;
}

function program(name: string, ...args: string[]): { child: ChildProcess; said: () => string; ended: Promise<Ended> } {
  let said = '';
  const env = { ...process.env, PORT: String(port), ROUSE_DEMO_STARTS: '1', ROUSE_DEMO_TAILS: DEMO.tail, ROUSE_STAND_INS: 'none' }; // oxfmt-ignore
  const child = spawn(process.execPath, [`scripts/${name}.mjs`, ...args], { cwd: checkout.dir, env });
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (data: Buffer) => (said += data.toString()));
  const ended = once(child, 'exit').then(([code]) => ({ code: code as number, said }));
  return { child, said: () => said, ended };
}

let rouse: ReturnType<typeof program>;

async function start(): Promise<void> {
  rouse = program('start');
  await waitUntil(() => {
    if (rouse.child.exitCode !== null) throw new Error(rouse.said());
    return rouse.said().includes('ready in');
  }, 240_000);
}

async function archiveFailing_s(): Promise<number> {
  const text = await (await fetch(`${base}/metrics`)).text();
  return Number(/^rouse_archive_failing_seconds (.+)$/m.exec(text)?.[1]);
}

/** The machine is lost: nothing may end well, and the disk with the database is gone. */
async function destroy(): Promise<void> {
  const data = readlinkSync(`/proc/${checkout.postmaster()}/cwd`);
  rouse.child.kill('SIGKILL');
  for (const word of ['server/dist', 'postgres']) for (const pid of checkout.alive(word)) process.kill(pid, 'SIGKILL');
  try {
    process.kill(checkout.postmaster(), 'SIGKILL');
  } catch {
    // it had gone with the others
  }
  await rouse.ended;
  await waitUntil(() => checkout.alive('server/dist').length === 0 && checkout.alive('postgres').length === 0);
  rmSync(data, { recursive: true, force: true, maxRetries: 10 });
  rmSync(path.join(checkout.dir, '.local/outbox'), { recursive: true, force: true });
}

beforeAll(async () => {
  // as root the database has a user of its own, who has to reach the folder
  chmodSync(path.dirname(kept), 0o755);
  await start();
}, 300_000);

afterAll(async () => {
  rouse.child.kill('SIGTERM');
  await rouse.ended;
  checkout.remove();
  rmSync(path.dirname(kept), { recursive: true, force: true });
});

test('what cannot be backed up or restored is said, with the remedy', async () => {
  const [bare, blank, running] = await Promise.all([
    program('backup').ended,
    program('backup', '/mnt/other disk').ended,
    program('restore', kept).ended,
  ]);
  expect(bare).toMatchObject({ code: 1, said: expect.stringContaining('name a folder on another disk') });
  expect(blank).toMatchObject({ code: 1, said: expect.stringContaining('without blanks') });
  expect(running).toMatchObject({ code: 1, said: expect.stringContaining('stop Rouse') });
});

test('backed up under load, destroyed, restored: every chain is whole, and less than a minute is gone', async () => {
  const call = new Caller(base);
  const run = await call.open(DEMO.aircraftId, goodBrief(DEMO.aircraftId), true);
  const acknowledged: { seq: number; at_ms: number }[] = [];
  let writes = true;
  const writing = (async () => {
    while (writes) {
      const { status, body } = await call.writeNext(run, { kind: 'mark', words: '' });
      if (status === 201) acknowledged.push({ seq: body.seq!, at_ms: Date.now() });
      await pace(WRITES_EVERY_MS);
    }
  })();

  expect(await program('backup', kept).ended).toMatchObject({ code: 0 });
  const atBackup = acknowledged.length;
  const log = (): number => readdirSync(path.join(kept, 'wal')).filter((f) => /^[0-9A-F]{24}\.gz$/.test(f)).length;
  const logAtBackup = log();
  await waitUntil(() => log() > logAtBackup && acknowledged.length > atBackup + 20, 120_000);
  // a folder that goes away is told to whoever watches, until it is there again
  expect(await archiveFailing_s()).toBe(0);
  renameSync(path.join(kept, 'wal'), path.join(kept, 'gone'));
  await waitUntil(async () => (await archiveFailing_s()) > 0, 120_000);
  renameSync(path.join(kept, 'gone'), path.join(kept, 'wal'));
  await waitUntil(async () => (await archiveFailing_s()) === 0, 120_000);
  writes = false;
  await writing;
  const destroyed_ms = Date.now();
  await destroy();

  const restored = await program('restore', kept).ended;
  expect(restored.said).toContain('every chain is whole');
  expect(restored.code).toBe(0);
  await start();
  const there = new Set((await call.detail(run)).entries.map((e) => e.seq));
  const lost = acknowledged.filter((a) => !there.has(a.seq));
  expect(acknowledged.slice(0, atBackup + 1).filter((a) => !there.has(a.seq))).toEqual([]);
  for (const { at_ms } of lost) expect((destroyed_ms - at_ms) / 1000).toBeLessThan(RECOVERY_POINT_S);
  // and it goes on from there
  expect((await call.writeNext(run, { kind: 'closed', outcome: 'given-up' })).status).toBe(201);
});
