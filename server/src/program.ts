import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { Logger } from 'pino';
import { createApp } from './app.ts';
import type { Clock } from './clock.ts';
import { getType, listAircraft } from './db/aircraft.ts';
import { DatabaseInUse, DatabaseLock } from './db/lock.ts';
import { asOperator, isDatabaseAway, openPool } from './db/pool.ts';
import { DEMO } from './demo/identity.ts';
import { listenForUnit } from './device/listener.ts';
import { StandInClient } from './device/stand-in-client.ts';
import { Fleet } from './live/fleet.ts';
import { LiveAircraft } from './live/live-aircraft.ts';
import { Pages } from './live/pages.ts';
import { RunZeros } from './live/run-clock.ts';
import { Drain } from './outbox/drain.ts';
import { Outbox } from './outbox/outbox.ts';

const ASK_AGAIN_MS = 300;
/** how long a request waits for the database to have what was just closed */
const STORED_WITHIN_MS = 1500;

export interface ProgramOptions {
  /** a prepared database, by the server's own role */
  databaseUrl: string;
  /** folder on the local disk for what is kept before it is stored */
  outboxDir: string;
  webDir: string | null;
  port: number;
  /** tails that a device line belongs to, each with its port */
  devices: Readonly<Record<string, number>>;
  control: { port: number; token: string };
  clock: Clock;
  log: Logger;
  /** tells whoever started the program what it does */
  say: (message: string) => void;
  /** another server has taken the database over: this one must end */
  giveUp: (error: Error) => void;
}

export interface Program {
  port: number;
  devicePorts: Readonly<Record<string, number>>;
  openRuns(): number;
  stop(): Promise<void>;
}

/** The server as a whole: outbox, database, device lines, pages, routes. @returns when it listens @throws DatabaseInUse */
export async function startProgram(options: ProgramOptions): Promise<Program> {
  const { databaseUrl, log, clock } = options;
  const lock = new DatabaseLock(databaseUrl, log, (error) => options.giveUp(error));
  await untilThere(lock, options);
  const outbox = await Outbox.open(options.outboxDir, log);
  const pool = openPool(databaseUrl);
  let fleet: Fleet | null = null;
  const drain = new Drain({
    outbox,
    lock,
    log,
    monotonic: () => clock.monotonic(),
    onFrames: (run, to_s) => fleet?.framesStored(run, to_s),
    onClosed: (run) => fleet?.closedStored(run),
  });
  if (outbox.waiting > 0) options.say(`storing ${outbox.waiting} entries that were kept`);
  await drain.emptied();

  const pages = new Pages();
  const zeros = new RunZeros(options.outboxDir);
  const deps = { pool, operatorId: DEMO.operatorId, clock, zeros, log, pages, outbox, away_s: () => drain.away_s };
  fleet = await asOperator(pool, DEMO.operatorId, async (tx) => {
    const aircraft = [];
    for (const row of await listAircraft(tx))
      aircraft.push(new LiveAircraft(deps, row, await getType(tx, row.typeId, row.typeVersion)));
    return new Fleet(aircraft);
  });
  await fleet.recover();
  const lines = await listenForUnits(fleet, options.devices);
  const app = await createApp({
    pool,
    operatorId: DEMO.operatorId,
    personId: DEMO.personId,
    clock,
    fleet,
    standIn: new StandInClient(options.control),
    stored: () => Promise.race([drain.emptied(), new Promise<void>((r) => setTimeout(r, STORED_WITHIN_MS).unref())]),
    log,
    webDir: options.webDir,
  });
  const server = createServer(app);
  const live = fleet;
  pages.attach(server, (run) => live.greeting(run));
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(options.port, '127.0.0.1', resolve);
  });
  return {
    port: (server.address() as AddressInfo).port,
    devicePorts: Object.fromEntries(lines.map(({ tail, listener }) => [tail, listener.port])),
    openRuns: () => live.openRuns,
    async stop() {
      for (const { listener } of lines) listener.close();
      pages.close();
      server.close();
      server.closeAllConnections();
      live.close();
      await drain.stop();
      await outbox.close();
      await Promise.all([pool.end(), lock.close()]);
    },
  };
}

/** A server that is started before its database waits for it, and says so. @throws DatabaseInUse; what is no matter of waiting */
async function untilThere(lock: DatabaseLock, { say }: ProgramOptions): Promise<void> {
  for (let told = false; ;) {
    try {
      await lock.client();
      return;
    } catch (error) {
      if (error instanceof DatabaseInUse || !isDatabaseAway(error)) throw error;
      if (!told) say('waiting for the database');
      told = true;
      await new Promise((resolve) => setTimeout(resolve, ASK_AGAIN_MS));
    }
  }
}

async function listenForUnits(
  fleet: Fleet,
  devices: ProgramOptions['devices'],
): Promise<{ tail: string; listener: Awaited<ReturnType<typeof listenForUnit>> }[]> {
  return Promise.all(
    Object.entries(devices).map(async ([tail, port]) => {
      const wired = fleet.tail(tail);
      wired.wired = true;
      return { tail, listener: await listenForUnit(port, wired) };
    }),
  );
}
