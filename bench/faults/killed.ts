import { type ChildProcess, spawn } from 'node:child_process';
import { once } from 'node:events';
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import net from 'node:net';
import path from 'node:path';
import type { LiveMessage } from '@rouse/core/contract';
import { writeDeviceLine } from '@rouse/core/format';
import { checkChain, type Entry } from '@rouse/core/procedure';
import pg from 'pg';
import { v7 as uuidv7 } from 'uuid';
import { WebSocket } from 'ws';
import { Caller, waitUntil } from '../../tests/caller.ts';
import { Checkout } from '../../tests/checkout.ts';
import { type Line, ROOT, skerry } from '../measure.ts';

const FRAME_MS = 20;
/** oil pressure falls below its limit every so many frames, and comes back after half of them */
const CROSS_EVERY_FRAMES = 60;
const MARK_EVERY_MS = 150;
const LONG_MS = 120_000;

type Kind = 'server' | 'database child' | 'postmaster' | 'stand-in' | 'command';

interface Crossing {
  at_ms: number;
  told_ms: number | null;
}

/** The whole of Rouse as `npm start` runs it, with a unit that crosses a limit again and again, a page, and a person who writes. */
export class Ordeal {
  private readonly checkout = new Checkout(ROOT);
  // below the ports that this system gives to those who connect: one of them would sit on a door while its server is dead
  private readonly port = 21_640 + (process.pid % 500) * 9;
  private cookie = '';
  private readonly call = new Caller(`http://127.0.0.1:${this.port}`);
  private command: ChildProcess | null = null;
  private run = '';
  private unit: net.Socket | null = null;
  private page: WebSocket | null = null;
  private readonly timers: NodeJS.Timeout[] = [];
  private readonly told = new Map<string, Entry>();
  private readonly acknowledged = new Set<string>();
  private crossings: Crossing[] = [];
  private lastAck_ms = performance.now();
  private stopping = false;
  /** what the command has said, for a failure that is seen only once */
  private said = '';

  /** by how much the wall clock of everything is off, as faketime reads it */
  private get offsetFile(): string {
    return path.join(this.checkout.dir, '.local-clock');
  }

  async begin(): Promise<void> {
    writeFileSync(this.offsetFile, '+0');
    await this.startCommand();
    this.feed();
    this.run = await waitUntil(async () => {
      const run = await this.call.open().catch(() => null);
      this.cookie = await this.call.cookie();
      if (run === null) return null;
      if ((await this.call.detail(run)).source === 'device') return run;
      await this.call.writeNext(run, { kind: 'closed', outcome: 'given-up' });
      return null;
    }, LONG_MS);
    this.follow();
    void this.write();
    await this.answersAgain();
  }

  async end(): Promise<void> {
    this.stopping = true;
    for (const timer of this.timers) clearInterval(timer);
    this.unit?.destroy();
    this.page?.terminate();
    this.command?.kill('SIGTERM');
    if (this.command) await once(this.command, 'exit');
    this.checkout.remove();
  }

  /** Kills one thing again and again at moments of chance. @returns what was lost, and how long it took each time */
  async killed(kind: Kind, times: number): Promise<Line[]> {
    const took_s: number[] = [];
    for (let i = 0; i < times; i++) {
      await new Promise((resolve) => setTimeout(resolve, 300 + 1500 * Math.random()));
      const since = performance.now();
      await this.kill(kind);
      await this.answersAgain();
      took_s.push((performance.now() - since) / 1000);
    }
    return [...(await this.account(`${times} times kill -9 of the ${kind}`)), this.again(kind, took_s)];
  }

  /** The database takes nothing for so long. */
  async unwritable(for_s: number): Promise<Line[]> {
    const since = this.crossings.length;
    await this.readOnly(true);
    await new Promise((resolve) => setTimeout(resolve, 1000 * for_s));
    const away = this.crossings.slice(since);
    await this.readOnly(false);
    await new Promise((resolve) => setTimeout(resolve, 5000));
    return [
      this.latency('with the database away', away),
      ...(await this.account(`database unwritable for ${for_s} s`)),
    ];
  }

  /** The wall clock of everything is set back an hour, forth an hour and back five seconds, again and again. */
  async clockSteps(times: number): Promise<Line[]> {
    const [since, told] = [this.crossings.length, new Set(this.told.keys())];
    for (let i = 0; i < times; i++)
      for (const step_s of [-3600, 0, -5, 0, 3600, 0]) {
        writeFileSync(this.offsetFile, `${step_s < 0 ? '' : '+'}${step_s}`);
        await new Promise((resolve) => setTimeout(resolve, 3000));
        await this.answersAgain();
      }
    const causeless = [...this.told].filter(
      ([id, entry]) =>
        !told.has(id) && (entry.kind === 'abort' || ('code' in entry && entry.code.startsWith('source'))),
    );
    return [
      this.latency('while the wall clock steps', this.crossings.slice(since)),
      {
        name: `wall clock stepped ${times * 6} times: stops, and data said to be lost`,
        value: causeless.length,
        unit: '',
        wanted: 'at most',
        target: 0,
      },
      ...(await this.account('wall clock stepped')),
    ];
  }

  /** Alarms in ordinary times. */
  async ordinary(for_s: number): Promise<Line> {
    const since = this.crossings.length;
    await new Promise((resolve) => setTimeout(resolve, 1000 * for_s));
    return this.latency('with the database there', this.crossings.slice(since));
  }

  private async startCommand(): Promise<void> {
    const command = spawn(process.execPath, ['scripts/start.mjs'], {
      cwd: this.checkout.dir,
      env: {
        ...process.env,
        PORT: String(this.port),
        ROUSE_DEMO_STARTS: '0',
        ROUSE_STAND_INS: 'QV-TRN',
        LOG_LEVEL: 'fatal',
        ...steppedClock(this.offsetFile),
      },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    this.command = command;
    this.said = '';
    command.stdout.on('data', (data: Buffer) => (this.said += data.toString()));
    command.stderr.on('data', (data: Buffer) => (this.said += data.toString()));
    await waitUntil(() => {
      if (command.exitCode !== null) throw new Error(this.said);
      return this.said.includes('ready in');
    }, LONG_MS);
  }

  private async kill(kind: Kind): Promise<void> {
    const { checkout } = this;
    if (kind === 'command') {
      this.command!.kill('SIGKILL');
      await once(this.command!, 'exit');
      await waitUntil(() => checkout.alive('dist/main.js').length === 0, LONG_MS);
      return this.startCommand();
    }
    const found =
      kind === 'server'
        ? checkout.alive('server/dist/main.js')[0]
        : kind === 'stand-in'
          ? checkout.alive('standin/dist/main.js')[0]
          : kind === 'postmaster'
            ? checkout.postmaster()
            : await this.backend();
    if (found) process.kill(found, 'SIGKILL');
  }

  private async backend(): Promise<number> {
    const admin = await this.admin();
    const { rows } = await admin.query<{ pid: number }>(
      "SELECT pid FROM pg_stat_activity WHERE datname = 'rouse' LIMIT 1",
    );
    await admin.end();
    return rows[0]?.pid ?? this.checkout.postmaster();
  }

  private async readOnly(is: boolean): Promise<void> {
    const admin = await this.admin();
    await admin.query(`ALTER DATABASE rouse SET default_transaction_read_only = ${is ? 'on' : 'off'}`);
    await admin.query("SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = 'rouse'");
    await admin.end();
  }

  private async admin(): Promise<pg.Client> {
    const password = readFileSync(path.join(this.checkout.dir, '.local/pg-password'), 'utf8').trim();
    return waitUntil(async () => {
      const port = readPort(this.checkout);
      const client = new pg.Client({ host: '127.0.0.1', port, user: 'rouse', password, database: 'postgres' });
      client.on('error', () => undefined);
      return client.connect().then(
        () => client,
        () => null,
      );
    }, LONG_MS);
  }

  /** An engine at idle whose oil pressure crosses its limit again and again. */
  private feed(): void {
    const values = new Float64Array(skerry.channels.length);
    const set = (id: string, v: number): void => void (values[skerry.channels.findIndex((c) => c.id === id)] = v);
    const idle: Record<string, number> = { 'ng.1': 67, 'tot.1': 480, nr: 68, 'np.1': 68, 'tq.1': 20, 'fuel.1.flow': 60, 'oil.1.pressure': 3.1, 'oil.1.temperature': 70, 'bus.volts': 28, 'gearbox.oil.pressure': 3.5, 'gearbox.oil.temperature': 60, 'hydraulic.1.pressure': 95, 'hydraulic.2.pressure': 95, 'outside.air': 12, 'engine.1.selector': 1, 'switch.battery': 1, 'switch.generator.1': 1, 'generator.1.amps': 40 }; // prettier-ignore
    for (const [id, v] of Object.entries(idle)) set(id, v);
    const epoch = performance.now();
    let frame = 0;
    this.timers.push(
      setInterval(() => {
        this.unit ??= net
          .connect({ port: this.port + 2, host: '127.0.0.1', noDelay: true })
          .on('error', () => undefined)
          .on('close', () => (this.unit = null));
        const at = ++frame % CROSS_EVERY_FRAMES;
        set('oil.1.pressure', at >= CROSS_EVERY_FRAMES / 2 ? 2.0 : 3.1);
        if (this.unit?.writable)
          this.unit.write(writeDeviceLine((performance.now() - epoch) / 1000, values, skerry.channels));
        if (at === CROSS_EVERY_FRAMES / 2) this.crossings.push({ at_ms: performance.now(), told_ms: null });
      }, FRAME_MS),
    );
  }

  private follow(): void {
    if (this.stopping) return;
    const page = new WebSocket(`ws://127.0.0.1:${this.port}/live?run=${this.run}`, {
      headers: { cookie: this.cookie },
    });
    this.page = page;
    page.on('error', () => undefined);
    page.on('close', () => setTimeout(() => this.follow(), 200));
    page.on('message', (data: Buffer, binary) => {
      if (binary) return;
      const message = JSON.parse(data.toString()) as LiveMessage;
      if (message.kind !== 'entries') return;
      const now = performance.now();
      for (const entry of message.entries) {
        if (entry.kind !== 'cue' && entry.kind !== 'abort') continue;
        this.told.set(entry.id, entry);
        const crossing = this.crossings[this.crossings.length - 1];
        if (
          entry.kind === 'cue' &&
          entry.severity !== 'call' &&
          crossing?.told_ms === null &&
          !entry.code.startsWith('source')
        )
          crossing.told_ms = now;
      }
    });
  }

  /** A person who writes all the time, and sends again with the same id what was not acknowledged. */
  private async write(): Promise<void> {
    while (!this.stopping) {
      const id = uuidv7();
      let seq = 1;
      while (!this.stopping) {
        const answer = await this.call.write(this.run, { kind: 'mark', words: '' }, seq, id).catch(() => null);
        if (answer?.status === 201) {
          this.acknowledged.add(id);
          this.lastAck_ms = performance.now();
          break;
        }
        seq = answer?.body.error?.expected ?? seq;
        if (answer?.body.error?.code !== 'out-of-order') await new Promise((resolve) => setTimeout(resolve, 50));
      }
      await new Promise((resolve) => setTimeout(resolve, MARK_EVERY_MS));
    }
  }

  private async answersAgain(): Promise<void> {
    const since = performance.now();
    await waitUntil(() => this.lastAck_ms > since, LONG_MS).catch((error: unknown) => {
      throw new Error(`nothing is acknowledged any more; the command said last:\n${this.said.slice(-2000)}`, {
        cause: error,
      });
    });
  }

  /** What the journal says of all that was acknowledged and told. */
  private async account(after: string): Promise<Line[]> {
    const { entries } = await this.call.detail(this.run);
    const ids = entries.map((e) => e.id);
    const known = new Set(ids);
    const lost = [...this.acknowledged].filter((id) => !known.has(id)).length;
    const isKept = (told: Entry): boolean =>
      known.has(told.id) ||
      entries.some(
        (e) =>
          e.kind === told.kind &&
          Math.abs(e.t - told.t) < 0.05 &&
          'code' in e &&
          'code' in told &&
          e.code === told.code,
      );
    const unheard = [...this.told.values()].filter((told) => !isKept(told)).length;
    const chain = checkChain(entries);
    const none = (what: string, value: number, remark?: string): Line => ({
      name: `${after}: ${what}`,
      value,
      unit: '',
      wanted: 'at most',
      target: 0,
      ...(remark && { remark }),
    });
    return [
      none('acknowledged entries lost', lost, `of ${this.acknowledged.size}`),
      none('entries doubled', ids.length - known.size),
      none('alarms lost that were told', unheard, `of ${this.told.size}`),
      none('breaks of the chain', chain ? 1 : 0, chain?.message),
    ];
  }

  private again(kind: Kind, took_s: number[]): Line {
    const sorted = took_s.toSorted((a, b) => a - b);
    const worst = sorted[sorted.length - 1] ?? NaN;
    const hand = kind === 'command' ? ' after the command was given again' : ' without a hand';
    return {
      name: `killed ${kind}: written again${hand}, median`,
      value: sorted[Math.floor(sorted.length / 2)] ?? NaN,
      unit: 's',
      wanted: 'at most',
      target: kind === 'command' ? 10 : 3,
      remark: `worst ${worst.toFixed(1)} s`,
    };
  }

  private latency(when: string, crossings: readonly Crossing[]): Line {
    const late = crossings.flatMap((c) => (c.told_ms === null ? [] : [c.told_ms - c.at_ms])).toSorted((a, b) => a - b);
    const share = (p: number): number => late[Math.min(late.length - 1, Math.floor(p * late.length))] ?? NaN;
    return {
      name: `alarm at the page after its frame, ${when}, p99`,
      value: share(0.99),
      unit: 'ms',
      wanted: 'at most',
      target: 50,
      remark: `p50 ${share(0.5).toFixed(1)} ms, ${late.length} of ${crossings.length} crossings told`,
    };
  }
}

/** What a program is begun with so that a file says its wall clock; time that only runs on is left alone. */
function steppedClock(offsetFile: string): Record<string, string> {
  const found = readdirSync('/usr/lib')
    .map((place) => `/usr/lib/${place}/faketime/libfaketimeMT.so.1`)
    .find((library) => existsSync(library));
  if (!found) throw new Error('faketime is missing; give npm run faults again as someone who can install it');
  return {
    LD_PRELOAD: found,
    FAKETIME_TIMESTAMP_FILE: offsetFile,
    FAKETIME_CACHE_DURATION: '1',
    FAKETIME_DONT_FAKE_MONOTONIC: '1',
  };
}

function readPort(checkout: Checkout): number {
  const pid = checkout.postmaster();
  const args = readFileSync(`/proc/${pid}/cmdline`, 'utf8').split('\0');
  return Number(args[args.indexOf('-p') + 1]);
}
