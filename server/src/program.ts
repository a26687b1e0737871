import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { TypeFile } from '@rouse/core/aircraft';
import pg from 'pg';
import type { Logger } from 'pino';
import { createApp } from './app.ts';
import { getType, listAircraft } from './db/aircraft.ts';
import { ensureDatabase, migrate } from './db/migrate.ts';
import { asOperator, openPool } from './db/pool.ts';
import { DEMO } from './demo/identity.ts';
import { loadDemo } from './demo/load.ts';
import { listenForUnit } from './device/listener.ts';
import { StandInClient } from './device/stand-in-client.ts';
import type { Clock } from './live/journal.ts';
import { Fleet } from './live/fleet.ts';
import { LiveAircraft } from './live/live-aircraft.ts';
import { Pages } from './live/pages.ts';

export interface ProgramOptions {
  adminUrl: string;
  databaseUrl: string;
  migrationsDir: string;
  webDir: string | null;
  /** every version of every type; the newest of each flies */
  types: readonly TypeFile[];
  port: number;
  /** tails that a device line belongs to, each with its port */
  devices: Readonly<Record<string, number>>;
  controlPort: number;
  demoStarts: number;
  clock: Clock;
  log: Logger;
  /** tells whoever started the program what it does */
  say: (message: string) => void;
}

export interface Program {
  port: number;
  devicePorts: Readonly<Record<string, number>>;
  stop(): Promise<void>;
}

/** The server as a whole: database, demo, device line, pages, routes. @returns when it listens */
export async function startProgram(options: ProgramOptions): Promise<Program> {
  const { databaseUrl, log, clock } = options;
  await ensureDatabase(options.adminUrl, new URL(databaseUrl).pathname.slice(1));
  const migrated = await migrate(databaseUrl, options.migrationsDir);
  if (migrated.length) options.say(`database migrated: ${migrated.join(', ')}`);
  const pool = openPool(databaseUrl);
  pool.on('error', (error) => log.error(error, 'idle database connection'));
  const owner = new pg.Pool({ connectionString: databaseUrl, max: 1 });
  await loadDemo(owner, pool, options.types, new Date(clock.now()), options.demoStarts, options.say);
  await owner.end();

  const pages = new Pages();
  const aircraft = await asOperator(pool, DEMO.operatorId, async (tx) => {
    const listed = [];
    for (const row of await listAircraft(tx))
      listed.push({ row, type: await getType(tx, row.typeId, row.typeVersion) });
    return listed;
  });
  const fleet = new Fleet(
    aircraft.map(
      ({ row, type }) => new LiveAircraft({ pool, operatorId: DEMO.operatorId, clock, log, pages }, row, type),
    ),
  );
  await fleet.recover();
  const lines = await Promise.all(
    Object.entries(options.devices).map(async ([tail, port]) => {
      const wired = fleet.tail(tail);
      wired.wired = true;
      return { tail, listener: await listenForUnit(port, wired) };
    }),
  );
  const standIn = new StandInClient(options.controlPort);
  const app = await createApp({
    pool,
    operatorId: DEMO.operatorId,
    personId: DEMO.personId,
    clock,
    fleet,
    standIn,
    log,
    webDir: options.webDir,
  });
  const server = createServer(app);
  pages.attach(server, (run) => fleet.greeting(run));
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(options.port, '127.0.0.1', resolve);
  });
  return {
    port: (server.address() as AddressInfo).port,
    devicePorts: Object.fromEntries(lines.map(({ tail, listener }) => [tail, listener.port])),
    async stop() {
      for (const { listener } of lines) listener.close();
      pages.close();
      server.close();
      server.closeAllConnections();
      await fleet.close();
      await pool.end();
    },
  };
}
