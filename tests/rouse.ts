import { randomBytes } from 'node:crypto';
import type { AddressInfo } from 'node:net';
import path from 'node:path';
import { needWatched, type WatchedType } from '@rouse/core/aircraft';
import pg from 'pg';
import { pino } from 'pino';
import { inject } from 'vitest';
import { type Program, startProgram } from '../server/src/program.ts';
import { openControlPort } from '../standin/src/control-port.ts';
import { Link } from '../standin/src/link.ts';
import { Unit } from '../standin/src/unit.ts';
import { obeyAmong } from '../standin/src/units.ts';
import { DEMO, FLEET } from '../server/src/demo/identity.ts';
import { ROOT, skerry, types } from './skerry.ts';

export { Caller, goodBrief, waitUntil } from './caller.ts';
export { ROOT, skerry, types };

/** Stand-ins inside the test, one a tail, on a control port of their own. */
export async function startStandIn(tails: readonly string[] = [DEMO.tail]): Promise<{
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
      new Unit(typeOfTail(tail), {
        send: (line) => links.get(tail)?.send(line),
        use: (over) => links.get(tail)?.use(over),
      }),
  );
  const control = await openControlPort(0, (command) => obeyAmong(units, command));
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
  return needWatched(types.filter((t) => t.id === typeId).toSorted((a, b) => b.version - a.version)[0]!);
}

/** A database of its own, dropped at the end. */
export async function freshDatabase(): Promise<{ url: string; adminUrl: string; drop(): Promise<void> }> {
  const adminUrl = inject('pgAdmin');
  const name = `t_${randomBytes(6).toString('hex')}`;
  return {
    adminUrl,
    url: adminUrl.replace(/\/postgres$/, `/${name}`),
    async drop() {
      const client = new pg.Client({ connectionString: adminUrl });
      await client.connect();
      await client.query(`DROP DATABASE IF EXISTS ${name} WITH (FORCE)`);
      await client.end();
    },
  };
}

export class Rouse {
  readonly base: string;
  readonly program: Program;
  readonly standIn: Awaited<ReturnType<typeof startStandIn>>;
  readonly database: Awaited<ReturnType<typeof freshDatabase>>;

  /** lines that the server logged as errors, fatal or not */
  get errors(): string[] {
    return this.logged.filter((line) => (JSON.parse(line) as { level: number }).level >= 50);
  }

  private readonly logged: string[];

  private constructor(program: Program, standIn: Rouse['standIn'], database: Rouse['database'], logged: string[]) {
    this.logged = logged;
    this.program = program;
    this.standIn = standIn;
    this.database = database;
    this.base = `http://127.0.0.1:${program.port}`;
  }

  /** The whole server with its stand-in, on ports of its own. */
  static async start(
    options: { demoStarts?: number; webDir?: string | null; tails?: readonly string[] } = {},
  ): Promise<Rouse> {
    const logged: string[] = [];
    const database = await freshDatabase();
    const tails = options.tails ?? [DEMO.tail];
    const standIn = await startStandIn(tails);
    const program = await startProgram({
      adminUrl: database.adminUrl,
      databaseUrl: database.url,
      migrationsDir: path.join(ROOT, 'server/migrations'),
      webDir: options.webDir ?? null,
      types,
      port: 0,
      devices: Object.fromEntries(tails.map((tail) => [tail, 0])),
      controlPort: standIn.controlPort,
      demoStarts: options.demoStarts ?? 0,
      clock: { now: Date.now },
      say: () => undefined,
      log: pino({ level: 'warn' }, { write: (line: string) => logged.push(line) }),
    });
    for (const tail of tails) standIn.connect(program.devicePorts[tail]!, tail);
    return new Rouse(program, standIn, database, logged);
  }

  async stop(): Promise<void> {
    this.standIn.stop();
    await this.program.stop();
    await this.database.drop();
  }
}
