import { createServer, type IncomingMessage, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { Logger } from 'pino';
import path from 'node:path';
import type pg from 'pg';
import { folderNames, lessonsOf, readFolder, shippedTypes } from '@rouse/aircraft';
import { LIBRARY } from '@rouse/core/authoring';
import type { TypeFile } from '@rouse/core/aircraft';
import type { TypeLibrary } from '@rouse/core/contract';
import type { Lesson } from '@rouse/core/drill';
import { may } from '@rouse/core/people';
import { createApp } from './app.ts';
import type { Clock } from './clock.ts';
import { getType, listAircraft } from './db/aircraft.ts';
import { DatabaseInUse, DatabaseLock } from './db/lock.ts';
import { asOperator, isDatabaseAway, openPool } from './db/pool.ts';
import { listDevices } from './db/devices.ts';
import { listOperators } from './db/operators.ts';
import { DEMO } from './demo/identity.ts';
import { listenForUnit } from './device/listener.ts';
import { StandInClient } from './device/stand-in-client.ts';
import { Accounts } from './accounts/accounts.ts';
import { Lines } from './device/lines.ts';
import { DrillRooms, type Guest } from './live/drill-rooms.ts';
import { Health } from './health/health.ts';
import { Fleets } from './live/fleets.ts';
import { isOwnOrigin } from './origin.ts';
import { Reckoner } from './reckon/reckoner.ts';
import { DayDesk } from './reckon/day-desk.ts';
import { TrendDesk } from './reckon/trend-desk.ts';
import { LiveAircraft } from './live/live-aircraft.ts';
import { type LiveAdmission, Pages } from './live/pages.ts';
import { RunZeros } from './live/run-clock.ts';
import { attachUpgrades } from './live/upgrades.ts';
import { Drain } from './outbox/drain.ts';
import { Outbox } from './outbox/outbox.ts';
import type { Services, TypeSources } from './services.ts';

const ASK_AGAIN_MS = 300;
/** how long a request waits for the database to have what was just closed */
const STORED_WITHIN_MS = 1500;

export interface ProgramOptions {
  /** a prepared database, by the server's own role */
  databaseUrl: string;
  /** folder on the local disk for what is kept before it is stored */
  outboxDir: string;
  webDir: string | null;
  /** the checkout: types that come with it, and what compiles others */
  root: string;
  port: number;
  /** the address to listen at: loopback unless somebody says otherwise */
  listen: string;
  /** the address that browsers open, where it is not this machine's own */
  origin: URL | null;
  /** 32 bytes that seal what the database keeps */
  key: Buffer;
  /** so many requests of one session in ten seconds, and no more */
  requestsIn10s: number;
  /** where units with a token speak: on loopback unless somebody says otherwise */
  lines: { listen: string; port: number };
  /** tails of the demo that a line of this machine belongs to, each with its port */
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
  /** where units with a token speak */
  linesPort: number;
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
  const fleets = new Fleets();
  const drain = new Drain({
    outbox,
    lock,
    log,
    monotonic: () => clock.monotonic(),
    onFrames: (run, to_s) => fleets.framesStored(run, to_s),
    onClosed: (run) => fleets.closedStored(run),
  });
  if (outbox.waiting > 0) options.say(`storing ${outbox.waiting} entries that were kept`);
  await drain.emptied();

  const pages = new Pages();
  const lines = new Lines(log);
  const zeros = new RunZeros(options.outboxDir);
  const away_s = (): number => drain.away_s;
  const health = new Health({ pool, outbox, fleets, away_s });
  const deps = { pool, clock, zeros, log, pages, outbox, away_s, told: (after_s: number) => health.told(after_s) };
  const enlist: Services['enlist'] = (operatorId, row, type) => new LiveAircraft({ ...deps, operatorId }, row, type);
  await enlistAll(pool, fleets, lines, enlist);
  await fleets.recover();
  const tails = await listenForUnits(fleets, options.devices);
  await lines.listen(options.lines.listen, options.lines.port);
  const server = await listening(options);
  const { port } = server.address() as AddressInfo;
  const desks = openDesks(pool, options.root, clock);
  const accounts = new Accounts({
    pool,
    clock,
    origin: options.origin ?? new URL(`http://localhost:${port}`),
    key: options.key,
    requestsIn10s: options.requestsIn10s,
    holdsRun: (accountId) => fleets.holdsRun(accountId),
    onEnded: (sessionId) => [pages, desks.rooms].forEach((live) => live.endSession(sessionId)),
  });
  // whoever asks while the pages are read from the disk is answered when they are
  const app = createApp({
    pool,
    clock,
    accounts,
    fleets,
    enlist,
    lines,
    standIn: new StandInClient(options.control),
    ...desks,
    types: typeSources(options.root),
    stored: () => Promise.race([drain.emptied(), new Promise<void>((r) => setTimeout(r, STORED_WITHIN_MS).unref())]),
    log,
    health,
    webDir: options.webDir,
    origin: options.origin,
  });
  server.on('request', (req, res) => void app.then((answer) => answer(req, res)));
  attachUpgrades(server, upgradesOf({ accounts, fleets, pages, rooms: desks.rooms, origin: options.origin }));
  await app;
  return {
    port,
    devicePorts: Object.fromEntries(tails.map(({ tail, listener }) => [tail, listener.port])),
    linesPort: lines.port,
    openRuns: () => fleets.openRuns,
    async stop() {
      for (const { listener } of tails) listener.close();
      lines.close();
      accounts.close();
      pages.close();
      desks.rooms.close();
      server.close();
      server.closeAllConnections();
      fleets.close();
      health.close();
      await drain.stop();
      await outbox.close();
      await Promise.all([pool.end(), lock.close(), desks.reckoner.close()]);
    },
  };
}

/** The door of the pages, open before anything answers there. */
async function listening({ port, listen }: ProgramOptions): Promise<Server> {
  // longer than a proxy in front keeps a connection that nobody uses: who closes first has nothing on the way
  const server = createServer({ keepAliveTimeout: 75_000 });
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, listen, resolve);
  });
  return server;
}

/** What works beside this thread, and what is kept in memory only. */
function openDesks(
  pool: pg.Pool,
  root: string,
  clock: Clock,
): Pick<Services, 'reckoner' | 'trends' | 'days' | 'rooms'> {
  // prettier-ignore
  const reckoner = new Reckoner(path.join(root, 'server/dist/reckon-worker.js'));
  return { reckoner, trends: new TrendDesk(reckoner), days: new DayDesk(pool, reckoner), rooms: new DrillRooms(() => clock.now()) }; // prettier-ignore
}

interface Sockets {
  accounts: Accounts;
  fleets: Fleets;
  pages: Pages;
  rooms: DrillRooms;
  origin: URL | null;
}

/** What can be connected to: a run that goes on, and the room of a drill. */
function upgradesOf({ accounts, fleets, pages, rooms, origin }: Sockets): Parameters<typeof attachUpgrades>[1] {
  const admission = liveAdmission(accounts, fleets, origin);
  return {
    '/live': (address, ...upgrade) => pages.take(admission, address.searchParams.get('run'), ...upgrade),
    '/live/drill': async (address, request, ...upgrade) => {
      const guest = await guestOf(accounts, origin, request);
      return guest !== null && rooms.admit(guest, address.searchParams.get('code') ?? '', request, ...upgrade);
    },
  };
}

/** A page may follow the runs of the operator that its person works in. */
const liveAdmission = (accounts: Accounts, fleets: Fleets, origin: URL | null): LiveAdmission => ({
  async admit(request, run) {
    if (!isOwnOrigin(request.headers, origin)) return null;
    const session = await accounts.sessions.of(request.headers);
    const member = session?.member;
    if (!session || !member || !may(member.roles, 'read')) return null;
    return { sessionId: session.sessionId, greet: () => fleets.greeting(member.operatorId, run) };
  },
});

/** Who comes to a drill's room: whoever may drill, and who leads them. */
async function guestOf(accounts: Accounts, origin: URL | null, request: IncomingMessage): Promise<Guest | null> {
  if (!isOwnOrigin(request.headers, origin)) return null;
  const session = await accounts.sessions.of(request.headers);
  const member = session?.member;
  if (!session || !member || !may(member.roles, 'drill')) return null;
  const { operatorId, personId, name, roles } = member;
  return { operatorId, personId, name, sessionId: session.sessionId, leads: may(roles, 'oversee') };
}

/** Every aircraft of every operator, and the units that may speak for them. */
async function enlistAll(pool: pg.Pool, fleets: Fleets, lines: Lines, enlist: Services['enlist']): Promise<void> {
  for (const { operatorId } of await listOperators(pool))
    await asOperator(pool, operatorId, async (tx) => {
      const fleet = fleets.of(operatorId);
      for (const row of await listAircraft(tx))
        fleet.add(enlist(operatorId, row, await getType(tx, row.typeId, row.typeVersion)));
      for (const { deviceId, aircraftId, tokenDigest, datagramKey } of await listDevices(tx))
        if (tokenDigest && datagramKey) lines.add({ deviceId, tokenDigest, datagramKey, sink: fleet.of(aircraftId) });
    });
}

/** The shipped folders, read once: they change only with the application. */
function typeSources(root: string): TypeSources {
  const dir = path.join(root, 'aircraft');
  let library: TypeLibrary | null = null;
  let shipped: readonly TypeFile[] | null = null;
  const lessons = new Map<string, readonly Lesson[]>();
  return {
    dir,
    shipped: () => (shipped ??= shippedTypes(root)),
    lessons(type) {
      const key = `${type.id}/${type.version}`;
      const known = lessons.get(key) ?? lessonsOf(root, type).lessons;
      lessons.set(key, known);
      return known;
    },
    library: () =>
      (library ??= Object.fromEntries(
        [LIBRARY, ...folderNames(dir)].map((name) => [name, { ...readFolder(path.join(dir, name)) }]),
      )),
    compileWorker: path.join(root, 'server/dist/compile-worker.js'),
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
  fleets: Fleets,
  devices: ProgramOptions['devices'],
): Promise<{ tail: string; listener: Awaited<ReturnType<typeof listenForUnit>> }[]> {
  return Promise.all(
    Object.entries(devices).map(async ([tail, port]) => {
      const wired = fleets.of(DEMO.operatorId).tail(tail);
      wired.wired = true;
      return { tail, listener: await listenForUnit(port, wired) };
    }),
  );
}
