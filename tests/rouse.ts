import { randomBytes } from 'node:crypto';
import type { AddressInfo } from 'node:net';
import path from 'node:path';
import type { ApiError, BriefContextMessage, RunDetail, Today } from '@rouse/core/contract';
import { type BriefInput, emptyBrief } from '@rouse/core/brief';
import { rightAnswer } from '@rouse/core/drill';
import { type Entry, type Payload, presentItem, reduceRun } from '@rouse/core/procedure';
import pg from 'pg';
import { pino } from 'pino';
import { v7 as uuidv7 } from 'uuid';
import { inject } from 'vitest';
import { DEMO, FLEET } from '../server/src/demo/identity.ts';
import { type Program, startProgram } from '../server/src/program.ts';
import { openControlPort } from '../standin/src/control-port.ts';
import { Link } from '../standin/src/link.ts';
import { Unit } from '../standin/src/unit.ts';
import { ROOT, skerry, types } from './skerry.ts';

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

/** A calm mild day, observed now, and the usual load of the type that this aircraft is. */
export function goodBrief(aircraft: string = DEMO.aircraftId): BriefInput {
  const { typeId } = FLEET.find((a) => a.aircraftId === aircraft) ?? { typeId: 'S7' };
  const type = types.filter((t) => t.id === typeId).toSorted((a, b) => b.version - a.version)[0]!;
  const { max_L } = type.loading.fuel;
  return {
    ...emptyBrief(type),
    wind: { direction_deg: null, from_deg: null, to_deg: null, speed_kt: 0, gust_kt: null },
    oat_C: 12,
    dew_C: 6,
    qnh_hPa: 1013,
    observedAt: new Date().toISOString(),
    heading_deg: 30,
    fuel_kg: Math.round(0.6 * max_L * type.loading.fuel_density_kgL),
    flight_min: 30,
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

/** Talks to a running server as a page would. */
export class Caller {
  readonly base: string;

  constructor(base: string) {
    this.base = base;
  }

  async get<T>(place: string): Promise<T> {
    const response = await fetch(`${this.base}/api${place}`);
    if (!response.ok) throw new Error(`${place}: ${response.status} ${await response.text()}`);
    return response.json() as Promise<T>;
  }

  async post(
    place: string,
    body: unknown,
  ): Promise<{ status: number; body: Partial<Entry> & Partial<ApiError> & { run?: string } }> {
    const response = await fetch(`${this.base}/api${place}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
    });
    return { status: response.status, body: (await response.json()) as never };
  }

  /** Opens a run of the wired tail, or of another one, with a brief that nothing holds. */
  async open(aircraft: string = DEMO.aircraftId): Promise<string> {
    const { status, body } = await this.post('/runs', { aircraft, brief: goodBrief(aircraft) });
    if (status !== 201) throw new Error(JSON.stringify(body));
    return body.run!;
  }

  async write(
    run: string,
    payload: Payload,
    seq: number,
    id = uuidv7(),
  ): Promise<{ status: number; body: Partial<Entry> & Partial<ApiError> }> {
    return this.post(`/runs/${run}/entries`, { id, seq, payload });
  }

  /** Writes behind whatever the watch has written in between. */
  async writeNext(
    run: string,
    payload: Payload,
  ): Promise<{ status: number; body: Partial<Entry> & Partial<ApiError> }> {
    const id = uuidv7();
    let seq = (await this.detail(run)).entries.length + 1;
    for (;;) {
      const answer = await this.write(run, payload, seq, id);
      if (answer.body.error?.code !== 'out-of-order') return answer;
      seq = answer.body.error.expected!;
    }
  }

  async detail(run: string): Promise<RunDetail> {
    return this.get(`/runs/${run}`);
  }

  /** Works the list from its present item up to `until`, as a quick pilot would. */
  async work(run: string, until: string): Promise<void> {
    for (;;) {
      const state = reduceRun((await this.detail(run)).entries);
      const item = presentItem(skerry, state);
      if (!item || item.id === until) return;
      if (item.standIn) {
        await this.post('/stand-in/move', { item: item.id });
        await this.waitFor(run, (e) => e.kind === 'item-done' && e.item === item.id);
      } else if (item.kind === 'wait' || item.kind === 'watch') {
        await this.waitFor(run, (e) => e.kind === 'item-done' && e.item === item.id);
      } else {
        const { status, body } = await this.writeNext(run, rightAnswer(skerry, state, item));
        if (status !== 201) throw new Error(`${item.id}: ${JSON.stringify(body)}`);
      }
    }
  }

  /** Closes open runs and releases open exceedances, so that the next one can begin. */
  async settle(): Promise<void> {
    const { aircraft } = await this.get<Today>('/today');
    for (const { aircraft: id, openRun, openExceedances } of aircraft) {
      if (openRun) await this.writeNext(openRun, { kind: 'closed', outcome: 'given-up' });
      if (openRun === null && openExceedances === 0) continue;
      const message = await this.get<BriefContextMessage>(`/aircraft/${id}/brief`);
      for (const { run, seq } of message.openExceedances)
        await this.post(`/exceedances/${run}/${seq}/release`, { engineer: 'R. Vale', found: 'Looked at, no finding' });
    }
  }

  async waitFor(run: string, found: (entry: Entry) => boolean, within_ms = 60_000): Promise<Entry> {
    return waitUntil(async () => (await this.detail(run)).entries.find(found) ?? null, within_ms);
  }
}

/** Asks again until there is an answer. @throws Error when the time is over */
export async function waitUntil<T>(ask: () => Promise<T | null> | T | null, within_ms = 30_000): Promise<T> {
  const end = Date.now() + within_ms;
  for (;;) {
    const answer = await ask();
    if (answer !== null && answer !== false) return answer;
    if (Date.now() > end) throw new Error(`nothing came within ${within_ms} ms`);
    await new Promise((resolve) => setTimeout(resolve, 25));
  }
}
