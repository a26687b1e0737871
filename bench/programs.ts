import { type ChildProcess, spawn } from 'node:child_process';
import { once } from 'node:events';
import fs from 'node:fs';
import net from 'node:net';
import os from 'node:os';
import path from 'node:path';
import pg from 'pg';
import { folderNames } from '@rouse/aircraft';
import { PROGRAMS } from '../scripts/lib/build.mjs';
import { DEMO, FLEET } from '../server/src/demo/identity.ts';
import { startPostgres } from '../scripts/lib/pg.mjs';
import { untilReady } from '../tests/ready.ts';
import { many, ROOT } from './measure.ts';

export interface Programs {
  base: string;
  devicePort: number;
  /** where units with a token speak */
  linesPort: number;
  controlPort: number;
  /** what the control port wants to hear */
  controlToken: string;
  /** by the role that the server signs in with, and by the owner */
  databaseUrl: string;
  ownerUrl: string;
  serverPid: number;
  stop(): Promise<void>;
}

/** What the server tells of itself every ten seconds. */
export interface Probe {
  /** of the event loop, in these ten seconds and ever since */
  p99_ms: number;
  whole_p99_ms: number;
  /** heap and buffers, and what the system has given */
  used_MB: number;
  rss_MB: number;
}

interface Wanted {
  standIn: boolean;
  /** with a line of their own; the first one's port is the one that is told */
  tails?: readonly string[];
  /** the server tells of its event loop and its memory */
  probed?: (probe: Probe) => void;
  /** puts more into the prepared database, before the server looks */
  filled?: (owner: pg.Client) => Promise<void>;
}

/** The server with a database of its own, and a stand-in where one is wanted, as the start command runs them. */
export async function startPrograms({ standIn, tails = [DEMO.tail], probed, filled }: Wanted): Promise<Programs> {
  const postgres = (await startPostgres({ name: '-test' })) as {
    url(db: string): string;
    serverUrl(db: string): string;
    stop(): void;
  };
  const kept = fs.mkdtempSync(path.join(os.tmpdir(), 'rouse-bench-'));
  const controlToken = 'between-benches';
  const name = `bench_${process.pid}`;
  const [port, controlPort, linesPort, ...devicePorts] = (await freePorts(3 + tails.length)) as [
    number,
    number,
    number,
    number,
  ];
  const devicePort = devicePorts[0];
  const env = {
    ...process.env,
    APP_ROOT: ROOT,
    ADMIN_URL: postgres.url('postgres'),
    DATABASE_URL: postgres.serverUrl(name),
    MIGRATIONS_DIR: path.join(ROOT, 'server/migrations'),
    ROUSE_OUTBOX: kept,
    ROUSE_KEY_FILE: path.join(kept, 'key'),
    ROUSE_LINES_PORT: String(linesPort),
    ROUSE_CONTROL_TOKEN: controlToken,
    PORT: String(port),
    LOG_LEVEL: 'warn',
    ROUSE_DEVICES: tails.map((tail, i) => `${tail}=${devicePorts[i]}`).join(','),
    ROUSE_CONTROL_PORT: String(controlPort),
    ROUSE_DEMO_STARTS: String(many(10, 0)),
    ROUSE_DEMO_TAILS: DEMO.tail,
  };
  const start = async (program: string, args: string[], node: string[] = []): Promise<ChildProcess> => {
    const child = spawn(process.execPath, [...node, program, ...args], {
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
      env,
    });
    await untilReady(child);
    return child;
  };
  const [prepared] = await once(
    spawn(process.execPath, [PROGRAMS.prepare], {
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
      env,
    }),
    'exit',
  );
  if (prepared !== 0) throw new Error('the database of the bench cannot be prepared');
  if (filled) {
    const owner = new pg.Client({ connectionString: postgres.url(name) });
    await owner.connect();
    await filled(owner);
    await owner.end();
  }
  const probe = probed ? ['--import', path.join(ROOT, 'bench/loop-probe.mjs')] : [];
  const server = await start(PROGRAMS.server, [], probe);
  server.on('message', (said: { probe?: Parameters<NonNullable<typeof probed>>[0] }) => {
    if (said.probe) probed?.(said.probe);
  });
  const unit = standIn
    ? await start(PROGRAMS.standin, [
        ...tails.flatMap((tail, i) => ['--unit', `${folderOf(tail)}=127.0.0.1:${devicePorts[i]}`]),
        '--control',
        String(controlPort),
      ])
    : null;
  return {
    base: `http://127.0.0.1:${port}`,
    devicePort,
    linesPort,
    controlPort,
    controlToken,
    databaseUrl: postgres.serverUrl(name),
    ownerUrl: postgres.url(name),
    serverPid: server.pid!,
    async stop() {
      unit?.kill('SIGTERM');
      server.kill('SIGTERM');
      await once(server, 'exit');
      const client = new pg.Client({ connectionString: postgres.url('postgres') });
      await client.connect();
      await client.query(`DROP DATABASE IF EXISTS ${name} WITH (FORCE)`);
      await client.end();
      postgres.stop();
      fs.rmSync(kept, { recursive: true, force: true });
    },
  };
}

/** The folder of the type that a tail of the demo is. */
function folderOf(tail: string): string {
  const { typeId } = FLEET.find((a) => a.tail === tail)!;
  return folderNames(path.join(ROOT, 'aircraft')).find((name) => name.endsWith(`-${typeId.toLowerCase()}`))!;
}

async function freePorts(count: number): Promise<number[]> {
  const servers = await Promise.all(
    Array.from(
      { length: count },
      () =>
        new Promise<net.Server>((resolve) => {
          const s = net.createServer().listen(0, '127.0.0.1', () => resolve(s));
        }),
    ),
  );
  const ports = servers.map((s) => (s.address() as net.AddressInfo).port);
  await Promise.all(servers.map((s) => new Promise((resolve) => s.close(resolve))));
  return ports;
}
