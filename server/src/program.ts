import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
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
import { StandInClient } from './device/stand-in-client.ts';
import { Accounts } from './accounts/accounts.ts';
import type { Member } from './accounts/sessions.ts';
import { DrillRooms } from './live/drill-rooms.ts';
import type { Fleets } from './live/fleets.ts';
import type { Leases } from './leases/leases.ts';
import { isRelayed, relayUpgrade } from './leases/relay.ts';
import type { ProgramOptions } from './options.ts';
import { isOwnOrigin } from './origin.ts';
import { Reckoner } from './reckon/reckoner.ts';
import { DayDesk } from './reckon/day-desk.ts';
import { TrendDesk } from './reckon/trend-desk.ts';
import type { Pages } from './live/pages.ts';
import { attachUpgrades, type Upgrade } from './live/upgrades.ts';
import type { Services, TypeSources } from './services.ts';
import { openUnattended } from './unattended.ts';

/** how long a request waits for the database to have what was just closed */
const STORED_WITHIN_MS = 1500;
const SESSIONS_EVERY_MS = 5000;

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
  const { log, clock } = options;
  const unattended = await openUnattended(options);
  const { pool, fleets, pages, lines, leases, tenures, health, devicePorts } = unattended;
  const server = await listening(options);
  const { port } = server.address() as AddressInfo;
  const desks = openDesks(pool, options.root, clock);
  const accounts = new Accounts({
    pool,
    clock,
    origin: options.origin ?? new URL(`http://localhost:${port}`),
    shared: options.several,
    key: options.key,
    requestsIn10s: options.requestsIn10s,
    holdsRun: (accountId) => fleets.holdsRun(accountId),
    onEnded: (sessionId) => connected.forEach((live) => live.endSession(sessionId)),
  });
  const connected = [pages, desks.rooms];
  const leaving = endWithSessions(accounts, connected);
  // whoever asks while the pages are read from the disk is answered when they are
  const app = createApp({
    pool,
    clock,
    accounts,
    fleets,
    leases,
    enlist: (...aircraft) => tenures.enlist(...aircraft),
    lines,
    standIn: new StandInClient(options.control),
    ...desks,
    types: typeSources(options.root),
    stored: () =>
      Promise.race([unattended.stored(), new Promise<void>((r) => setTimeout(r, STORED_WITHIN_MS).unref())]),
    log,
    health,
    webDir: options.webDir,
    origin: options.origin,
  });
  server.on('request', (req, res) => void app.then((answer) => answer(req, res)));
  attachUpgrades(server, upgradesOf({ accounts, fleets, leases, pages, rooms: desks.rooms, origin: options.origin }));
  // nobody who comes through the open door is left without an answer while the fleets are taken up
  await leases.begin({ host: options.host, port, lines: lines.port, devices: devicePorts });
  await app;
  return {
    port,
    devicePorts,
    linesPort: lines.port,
    openRuns: () => fleets.openRuns,
    async stop() {
      clearInterval(leaving);
      accounts.close();
      desks.rooms.close();
      server.close();
      server.closeAllConnections();
      await unattended.stop();
      await desks.reckoner.close();
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

/** Who was signed out elsewhere, by another server or with a person who left, is connected no longer. */
function endWithSessions({ sessions }: Accounts, connected: readonly (Pages | DrillRooms)[]): NodeJS.Timeout {
  const look = async (): Promise<void> => {
    for (const live of connected) for (const id of await sessions.overOf(live.sessionIds)) live.endSession(id);
  };
  // while the database is away nobody is signed out
  return setInterval(() => void look().catch(() => undefined), SESSIONS_EVERY_MS);
}

/** What works beside this thread, and what is kept in memory only. */
function openDesks(
  pool: pg.Pool,
  root: string,
  clock: Clock,
): Pick<Services, 'reckoner' | 'trends' | 'days' | 'rooms'> {
  // oxfmt-ignore
  const reckoner = new Reckoner(path.join(root, 'server/dist/reckon-worker.js'));
  return { reckoner, trends: new TrendDesk(reckoner), days: new DayDesk(pool, reckoner), rooms: new DrillRooms(() => clock.now()) }; // oxfmt-ignore
}

interface Sockets {
  accounts: Accounts;
  fleets: Fleets;
  leases: Leases;
  pages: Pages;
  rooms: DrillRooms;
  origin: URL | null;
}

/** What can be connected to: a run that goes on, and the room of a drill, here or at the server that has the fleet. */
function upgradesOf({ accounts, fleets, leases, pages, rooms, origin }: Sockets): Parameters<typeof attachUpgrades>[1] {
  const byMember = (take: (member: Member, sessionId: string, ...upgrade: Parameters<Upgrade>) => ReturnType<Upgrade>): Upgrade =>
    async (address, request, socket, head) => {
      const session = isOwnOrigin(request.headers, origin) ? await accounts.sessions.of(request.headers) : null;
      if (!session?.member) return false;
      const owner = await leases.whoHas(session.member.operatorId);
      if (owner === 'here') return take(session.member, session.sessionId, address, request, socket, head);
      if (owner === null || isRelayed(request)) return false;
      relayUpgrade(leases.connect(session.member.operatorId, owner.host, owner.port), request, socket, head);
      return true;
    }; // oxfmt-ignore
  return {
    '/live': byMember(async ({ operatorId, roles }, sessionId, address, ...upgrade) => {
      const run = address.searchParams.get('run');
      if (run === null || !may(roles, 'read')) return false;
      return pages.take({ sessionId, run, greet: () => fleets.greeting(operatorId, run) }, ...upgrade);
    }),
    '/live/drill': byMember(async ({ operatorId, personId, name, roles }, sessionId, address, ...upgrade) => {
      if (!may(roles, 'drill')) return false;
      const guest = { operatorId, personId, name, sessionId, leads: may(roles, 'oversee') };
      return rooms.admit(guest, address.searchParams.get('code') ?? '', ...upgrade);
    }),
  };
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
