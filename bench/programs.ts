import { type ChildProcess, spawn } from 'node:child_process';
import { once } from 'node:events';
import net from 'node:net';
import path from 'node:path';
import pg from 'pg';
import { startPostgres } from '../scripts/lib/pg.mjs';
import { untilReady } from '../tests/ready.ts';
import { ROOT } from './measure.ts';

export interface Programs {
  base: string;
  devicePort: number;
  controlPort: number;
  stop(): Promise<void>;
}

/** The server with a database of its own, and a stand-in where one is wanted, as the start command runs them. */
export async function startPrograms({ standIn }: { standIn: boolean }): Promise<Programs> {
  const postgres = (await startPostgres({ name: '-test' })) as { url(db: string): string; stop(): void };
  const name = `bench_${process.pid}`;
  const [port, devicePort, controlPort] = (await freePorts(3)) as [number, number, number];
  const env = {
    ...process.env,
    APP_ROOT: ROOT,
    ADMIN_URL: postgres.url('postgres'),
    DATABASE_URL: postgres.url(name),
    PORT: String(port),
    LOG_LEVEL: 'warn',
    ROUSE_DEVICES: `QV-SKY=${devicePort}`,
    ROUSE_CONTROL_PORT: String(controlPort),
    ROUSE_DEMO_STARTS: '10',
  };
  const start = async (program: string, args: string[]): Promise<ChildProcess> => {
    const child = spawn(process.execPath, [path.join(ROOT, program), ...args], {
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
      env,
    });
    await untilReady(child);
    return child;
  };
  const server = await start('server/dist/main.js', []);
  const unit = standIn
    ? await start('standin/dist/main.js', [
        '--unit',
        `${path.join(ROOT, 'aircraft/skerry-s7.json')}=127.0.0.1:${devicePort}`,
        '--control',
        String(controlPort),
      ])
    : null;
  return {
    base: `http://127.0.0.1:${port}`,
    devicePort,
    controlPort,
    async stop() {
      unit?.kill('SIGTERM');
      server.kill('SIGTERM');
      await once(server, 'exit');
      const client = new pg.Client({ connectionString: postgres.url('postgres') });
      await client.connect();
      await client.query(`DROP DATABASE IF EXISTS ${name} WITH (FORCE)`);
      await client.end();
      postgres.stop();
    },
  };
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
