import { once } from 'node:events';
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import pg from 'pg';
import { waitUntil } from '../../tests/caller.ts';
import type { Checkout } from '../../tests/checkout.ts';
import type { Line } from '../measure.ts';
import { LONG_MS, Ordeal } from './ordeal.ts';

/** What can be killed of one machine. */
export const PARTS = ['server', 'database child', 'postmaster', 'stand-in', 'command'] as const;
type Part = (typeof PARTS)[number];

/** `npm start`. */
export class OneMachine extends Ordeal {
  protected get script(): { name: string; env: Record<string, string> } {
    return { name: 'start.mjs', env: steppedClock(this.offsetFile) };
  }

  /** by how much the wall clock of everything is off, as faketime reads it */
  private get offsetFile(): string {
    return path.join(this.checkout.dir, '.local-clock');
  }

  override async begin(): Promise<void> {
    writeFileSync(this.offsetFile, '+0');
    await super.begin();
  }

  killedAgain(part: Part, times: number): Promise<Line[]> {
    const target = part === 'command' ? { within_s: 10, how: 'after the command was given again' } : { within_s: 3 };
    return this.killed(part, times, () => this.kill(part), target);
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

  protected recovered(): Promise<void> {
    return Promise.resolve();
  }

  protected removed(): Promise<void> {
    return Promise.resolve();
  }

  private async kill(part: Part): Promise<void> {
    const { checkout } = this;
    if (part === 'command') {
      this.command!.kill('SIGKILL');
      await once(this.command!, 'exit');
      await waitUntil(() => checkout.alive('dist/main.js').length === 0, LONG_MS);
      return this.startCommand();
    }
    const found =
      part === 'server'
        ? checkout.alive('server/dist/main.js')[0]
        : part === 'stand-in'
          ? checkout.alive('standin/dist/main.js')[0]
          : part === 'postmaster'
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
