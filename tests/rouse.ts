import { randomBytes } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { TypeFile, WatchedType } from '@rouse/core/aircraft';
import { canonicalJson, digestOf } from '@rouse/core/procedure';
import pg from 'pg';
import { pino } from 'pino';
import { inject } from 'vitest';
import { type Clock, MACHINE_CLOCK } from '../server/src/clock.ts';
import { prepareDatabase } from '../server/src/prepare.ts';
import { type Program, startProgram } from '../server/src/program.ts';
import { openControlPort } from '../standin/src/control-port.ts';
import { Link } from '../standin/src/link.ts';
import { Unit } from '../standin/src/unit.ts';
import { obeyAmong } from '../standin/src/units.ts';
import { insertType } from '../server/src/db/aircraft.ts';
import { asOperator, openPool } from '../server/src/db/pool.ts';
import { DEMO, FLEET } from '../server/src/demo/identity.ts';
import { newestType, ROOT, skerry, types } from './skerry.ts';

export { Caller, goodBrief, waitUntil } from './caller.ts';
export { ROOT, skerry, types };

/** what the control ports of the tests want to hear */
export const CONTROL_TOKEN = 'a-word-between-tests';

/** the key of the servers of the tests */
export const KEY = Buffer.alloc(32, 7);

/** Tails that are another type than the demo says. */
export type Retyped = Readonly<Record<string, WatchedType>>;

/** Stand-ins inside the test, one a tail, on a control port of their own. */
export async function startStandIn(
  tails: readonly string[] = [DEMO.tail],
  retyped: Retyped = {},
): Promise<{
  of(tail: string): Unit;
  /** of the first tail */
  unit: Unit;
  controlPort: number;
  /** lays the line of a tail, the first one's where none is named */
  connect(devicePort: number, tail?: string): void;
  disconnect(): void;
  stop(): void;
}> {
  const links = new Map<string, Link>();
  const units = tails.map(
    (tail) =>
      new Unit(retyped[tail] ?? typeOfTail(tail), {
        send: (line) => links.get(tail)?.send(line),
        use: (over) => links.get(tail)?.use(over),
      }),
  );
  const control = await openControlPort(0, CONTROL_TOKEN, (command) => obeyAmong(units, command));
  for (const unit of units) unit.start();
  const disconnect = (): void => {
    for (const link of links.values()) link.close();
    links.clear();
  };
  return {
    of: (tail) => units[tails.indexOf(tail)]!,
    unit: units[0]!,
    controlPort: (control.address() as AddressInfo).port,
    connect(devicePort, tail = tails[0]!) {
      links.set(tail, new Link('127.0.0.1', devicePort));
    },
    disconnect,
    stop() {
      for (const unit of units) unit.stop();
      disconnect();
      control.close();
    },
  };
}

/** The newest version of the type that a tail of the demo is. */
export function typeOfTail(tail: string): WatchedType {
  const { typeId } = FLEET.find((a) => a.tail === tail)!;
  return newestType(typeId);
}

export interface FreshDatabase {
  /** by its owner */
  url: string;
  /** by the role that the server signs in with */
  serverUrl: string;
  adminUrl: string;
  drop(): Promise<void>;
}

/** A database of its own, dropped at the end. */
export async function freshDatabase(): Promise<FreshDatabase> {
  const adminUrl = inject('pgAdmin');
  const name = `t_${randomBytes(6).toString('hex')}`;
  return {
    adminUrl,
    url: adminUrl.replace(/\/postgres$/, `/${name}`),
    serverUrl: inject('pgServer').replace(/\/postgres$/, `/${name}`),
    async drop() {
      const client = new pg.Client({ connectionString: adminUrl });
      await client.connect();
      await client.query(`DROP DATABASE IF EXISTS ${name} WITH (FORCE)`);
      await client.end();
    },
  };
}

/** How many starts the past has; `story`: all that the demo tells, with what wears, dies and holds. */
export type DemoPast = number | 'story';

/** Migrations and the demo, as the start command makes them. A past is flown once in all tests, then copied. */
export async function prepare({ adminUrl, serverUrl }: FreshDatabase, demoStarts: DemoPast = 0): Promise<void> {
  if (demoStarts !== 0) await copyDemo(adminUrl, serverUrl, demoStarts);
  await makeDemo(adminUrl, serverUrl, demoStarts);
}

/** Copies the database with that many starts; whoever needs it first makes it while the others wait. */
async function copyDemo(adminUrl: string, serverUrl: string, demoStarts: DemoPast): Promise<void> {
  const name = new URL(serverUrl).pathname.slice(1);
  const original = `${inject('pgDemo')}_${demoStarts}`;
  const client = new pg.Client({ connectionString: adminUrl });
  await client.connect();
  try {
    await client.query('SELECT pg_advisory_lock(hashtext($1))', [original]);
    const { rowCount } = await client.query('SELECT FROM pg_database WHERE datname = $1', [original]);
    if (rowCount === 0) {
      const making = `${original}_made`;
      await makeDemo(adminUrl, serverUrl.replace(/\/[^/]*$/, `/${making}`), demoStarts);
      await client.query(`ALTER DATABASE ${making} RENAME TO ${original}`);
    }
    await client.query(`CREATE DATABASE ${name} TEMPLATE ${original}`);
  } finally {
    await client.end();
  }
}

/** The demo in a database, flown there. */
export function makeDemo(adminUrl: string, databaseUrl: string, demoStarts: DemoPast): Promise<void> {
  return prepareDatabase({
    adminUrl,
    databaseUrl,
    migrationsDir: path.join(ROOT, 'server/migrations'),
    types: () => types,
    typesStamp: 'tests',
    demoStarts: demoStarts === 'story' ? 26 : demoStarts,
    // what holds an aircraft, or is worn, is for the tests of the log, with one beside it that nothing is wrong with
    pastOf: demoStarts === 'story' ? ['QV-SKY', 'QV-COR', 'QV-STR', 'QV-TRN'] : ['QV-SKY', 'QV-TRN', 'QV-ERN'],
    // others wait for it: on every core
    flyWorker: path.join(ROOT, 'server/dist/fly-worker.js'),
    reports: false,
    now: new Date(),
    say: () => undefined,
  });
}

/** A folder for what a server keeps, removed at the end. */
export function freshFolder(): { dir: string; remove(): void } {
  const dir = mkdtempSync(path.join(tmpdir(), 'rouse-kept-'));
  return { dir, remove: () => rmSync(dir, { recursive: true, force: true }) };
}

export class Rouse {
  readonly standIn: Awaited<ReturnType<typeof startStandIn>>;
  readonly database: FreshDatabase;
  readonly outboxDir: string;
  program!: Program;
  private readonly folder: ReturnType<typeof freshFolder>;
  private readonly logged: string[] = [];
  private readonly options: RouseOptions;

  private constructor(options: RouseOptions, standIn: Rouse['standIn'], database: FreshDatabase) {
    this.options = options;
    this.standIn = standIn;
    this.database = database;
    this.folder = freshFolder();
    this.outboxDir = this.folder.dir;
  }

  get base(): string {
    return `http://127.0.0.1:${this.program.port}`;
  }

  /** lines that the server logged as errors, fatal or not */
  get errors(): string[] {
    return this.logged.filter((line) => (JSON.parse(line) as { level: number }).level >= 50);
  }

  /** The whole server with its stand-in, on ports of its own. */
  static async start(options: RouseOptions = {}): Promise<Rouse> {
    const database = await freshDatabase();
    const tails = options.tails ?? [DEMO.tail];
    const standIn = await startStandIn(tails, options.retyped);
    await prepare(database, options.demoStarts);
    const rouse = new Rouse(options, standIn, database);
    for (const [tail, type] of Object.entries(options.retyped ?? {})) await rouse.retype(tail, type);
    await rouse.launch();
    for (const tail of tails) standIn.connect(rouse.program.devicePorts[tail]!, tail);
    return rouse;
  }

  /** Starts the server, or starts it again after `program.stop()`. */
  async launch(): Promise<void> {
    const tails = this.options.tails ?? [DEMO.tail];
    this.program = await startProgram({
      databaseUrl: this.database.serverUrl,
      outboxDir: this.outboxDir,
      webDir: this.options.webDir ?? null,
      root: ROOT,
      port: this.options.port ?? 0,
      listen: '127.0.0.1',
      origin: this.options.origin ?? null,
      key: KEY,
      requestsIn10s: this.options.requestsIn10s ?? 3000,
      several: false,
      host: '127.0.0.1',
      lines: { listen: '127.0.0.1', port: 0 },
      devices: Object.fromEntries(tails.map((tail) => [tail, 0])),
      control: { port: this.standIn.controlPort, token: CONTROL_TOKEN },
      clock: this.options.clock ?? MACHINE_CLOCK,
      say: () => undefined,
      giveUp: (error) => this.logged.push(JSON.stringify({ level: 60, msg: error.message })),
      log: pino({ level: 'warn' }, { write: (line: string) => this.logged.push(line) }),
    });
  }

  /** Another version of a type, beside those that are there. */
  async release(type: TypeFile): Promise<void> {
    const pool = openPool(this.database.serverUrl);
    await asOperator(pool, DEMO.operatorId, (tx) => insertType(tx, type, digestOf(canonicalJson(type))));
    await pool.end();
  }

  /** A tail becomes another type. */
  private async retype(tail: string, type: TypeFile): Promise<void> {
    await this.release(type);
    const owner = new pg.Client({ connectionString: this.database.url });
    await owner.connect();
    await owner.query('UPDATE aircraft SET type_id = $2, type_version = $3 WHERE tail = $1', [tail, type.id, type.version]); // oxfmt-ignore
    await owner.end();
  }

  async stop(): Promise<void> {
    this.standIn.stop();
    await this.program.stop();
    await this.database.drop();
    this.folder.remove();
  }
}

interface RouseOptions {
  demoStarts?: DemoPast;
  webDir?: string | null;
  tails?: readonly string[];
  retyped?: Retyped;
  clock?: Clock;
  port?: number;
  origin?: URL;
  requestsIn10s?: number;
}
