import { randomBytes } from 'node:crypto';
import type { AddressInfo } from 'node:net';
import path from 'node:path';
import pg from 'pg';
import { pino } from 'pino';
import { inject } from 'vitest';
import { type Program, startProgram } from '../server/src/program.ts';
import { openControlPort } from '../standin/src/control-port.ts';
import { Link } from '../standin/src/link.ts';
import { Unit } from '../standin/src/unit.ts';
import { ROOT, skerry, types } from './skerry.ts';

export { Caller, goodBrief, waitUntil } from './caller.ts';
export { ROOT, skerry, types };

/** A stand-in inside the test, on a control port of its own. */
export async function startStandIn(): Promise<{
  unit: Unit;
  controlPort: number;
  connect(devicePort: number): void;
  disconnect(): void;
  stop(): void;
}> {
  let link: Link | null = null;
  const unit = new Unit(skerry, (line) => link?.send(line));
  const control = await openControlPort(0, (command) => unit.obey(command));
  unit.start();
  return {
    unit,
    controlPort: (control.address() as AddressInfo).port,
    connect(devicePort) {
      link = new Link('127.0.0.1', devicePort);
    },
    disconnect() {
      link?.close();
      link = null;
    },
    stop() {
      unit.stop();
      link?.close();
      control.close();
    },
  };
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
  static async start(options: { demoStarts?: number; webDir?: string | null } = {}): Promise<Rouse> {
    const logged: string[] = [];
    const database = await freshDatabase();
    const standIn = await startStandIn();
    const program = await startProgram({
      adminUrl: database.adminUrl,
      databaseUrl: database.url,
      migrationsDir: path.join(ROOT, 'server/migrations'),
      webDir: options.webDir ?? null,
      types,
      port: 0,
      devicePort: 0,
      controlPort: standIn.controlPort,
      demoStarts: options.demoStarts ?? 0,
      clock: { now: Date.now },
      say: () => undefined,
      log: pino({ level: 'warn' }, { write: (line: string) => logged.push(line) }),
    });
    standIn.connect(program.devicePort);
    return new Rouse(program, standIn, database, logged);
  }

  async stop(): Promise<void> {
    this.standIn.stop();
    await this.program.stop();
    await this.database.drop();
  }
}
