import { type ChildProcess, spawn } from 'node:child_process';
import { once } from 'node:events';
import net from 'node:net';
import type { LiveMessage } from '@rouse/core/contract';
import { writeDeviceLine } from '@rouse/core/format';
import { checkChain, type Entry } from '@rouse/core/procedure';
import { v7 as uuidv7 } from 'uuid';
import { WebSocket } from 'ws';
import { Caller, waitUntil } from '../../tests/caller.ts';
import { Checkout } from '../../tests/checkout.ts';
import { type Line, ROOT, share, skerry } from '../measure.ts';

const FRAME_MS = 20;
/** oil pressure falls below its limit every so many frames, and comes back after half of them */
const CROSS_EVERY_FRAMES = 60;
const MARK_EVERY_MS = 150;
export const LONG_MS = 120_000;

interface Target {
  within_s: number;
  /** by whom it is started again, where it is not by itself */
  how?: string;
}

interface Crossing {
  at_ms: number;
  told_ms: number | null;
}

/**
 * The whole of Rouse as one of its commands runs it, with a unit that crosses a limit again and again, a page, and a person
 * who writes. What happens to it is up to those who extend it.
 */
export abstract class Ordeal {
  protected readonly checkout = new Checkout(ROOT);
  // below the ports that this system gives to those who connect: one of them would sit on a door while its server is dead
  protected readonly port = 21_640 + (process.pid % 500) * 9;
  private cookie = '';
  protected readonly call = new Caller(`http://127.0.0.1:${this.port}`);
  protected command: ChildProcess | null = null;
  private run = '';
  private unit: net.Socket | null = null;
  private page: WebSocket | null = null;
  private readonly timers: NodeJS.Timeout[] = [];
  protected readonly told = new Map<string, Entry>();
  private readonly acknowledged = new Set<string>();
  protected crossings: Crossing[] = [];
  private lastAck_ms = performance.now();
  private frameAt_ms = -Infinity;
  private stopping = false;
  /** what the command has said, for a failure that is seen only once */
  private said = '';

  async begin(): Promise<void> {
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
    await this.removed();
    this.checkout.remove();
  }

  /** Alarms in ordinary times. */
  async ordinary(for_s: number): Promise<Line> {
    const since = this.crossings.length;
    await new Promise((resolve) => setTimeout(resolve, 1000 * for_s));
    return this.latency('with the database there', this.crossings.slice(since));
  }

  /** Kills one thing again and again at moments of chance. @returns what was lost, and how long it took each time */
  protected async killed(what: string, times: number, kill: () => Promise<void>, target: Target): Promise<Line[]> {
    const took_s: number[] = [];
    for (let i = 0; i < times; i++) {
      await new Promise((resolve) => setTimeout(resolve, 300 + 1500 * Math.random()));
      const since = performance.now();
      await kill();
      await this.answersAgain();
      took_s.push((performance.now() - since) / 1000);
      await this.recovered();
    }
    const again: Line = {
      name: `killed ${what}: written again ${target.how ?? 'without a hand'}, median`,
      value: share(took_s, 0.5),
      unit: 's',
      wanted: 'at most',
      target: target.within_s,
      remark: `worst ${share(took_s, 1).toFixed(1)} s`,
    };
    return [...(await this.account(`${times} times kill -9 of the ${what}`)), again];
  }

  /** The command of ours that is tried, with what it is begun with beside the usual. */
  protected abstract readonly script: { name: string; env: Record<string, string> };
  /** what the next kill waits for */
  protected abstract recovered(): Promise<void>;
  /** What lies outside the checkout is taken away. */
  protected abstract removed(): Promise<void>;

  protected async startCommand(): Promise<void> {
    const { name, env } = this.script;
    const command = spawn(process.execPath, [`scripts/${name}`], {
      cwd: this.checkout.dir,
      env: {
        ...process.env,
        PORT: String(this.port),
        ROUSE_DEMO_STARTS: '0',
        ROUSE_STAND_INS: 'QV-TRN',
        LOG_LEVEL: 'fatal',
        ...env,
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

  /** @returns how long no frame came to the page from now on, s */
  protected async framesAgain(): Promise<number> {
    const since = performance.now();
    // what was on its way is not what comes again
    await new Promise((resolve) => setTimeout(resolve, 100));
    const from = performance.now();
    await waitUntil(() => this.frameAt_ms > from, LONG_MS);
    return (this.frameAt_ms - since) / 1000;
  }

  /** An engine at idle whose oil pressure crosses its limit again and again. */
  private feed(): void {
    const values = new Float64Array(skerry.channels.length);
    const set = (id: string, v: number): void => void (values[skerry.channels.findIndex((c) => c.id === id)] = v);
    const idle: Record<string, number> = { 'ng.1': 67, 'tot.1': 480, nr: 68, 'np.1': 68, 'tq.1': 20, 'fuel.1.flow': 60, 'oil.1.pressure': 3.1, 'oil.1.temperature': 70, 'bus.volts': 28, 'gearbox.oil.pressure': 3.5, 'gearbox.oil.temperature': 60, 'hydraulic.1.pressure': 95, 'hydraulic.2.pressure': 95, 'outside.air': 12, 'engine.1.selector': 1, 'switch.battery': 1, 'switch.generator.1': 1, 'generator.1.amps': 40 }; // oxfmt-ignore
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
      if (binary) {
        this.frameAt_ms = performance.now();
        return;
      }
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

  protected async answersAgain(): Promise<void> {
    const since = performance.now();
    await waitUntil(() => this.lastAck_ms > since, LONG_MS).catch((error: unknown) => {
      throw new Error(`nothing is acknowledged any more; the command said last:\n${this.said.slice(-2000)}`, {
        cause: error,
      });
    });
  }

  /** What the journal says of all that was acknowledged and told. */
  protected async account(after: string): Promise<Line[]> {
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

  protected latency(when: string, crossings: readonly Crossing[]): Line {
    const late = crossings.flatMap((c) => (c.told_ms === null ? [] : [c.told_ms - c.at_ms]));
    return {
      name: `alarm at the page after its frame, ${when}, p99`,
      value: share(late, 0.99),
      unit: 'ms',
      wanted: 'at most',
      target: 50,
      remark: `p50 ${share(late, 0.5).toFixed(1)} ms, ${late.length} of ${crossings.length} crossings told`,
    };
  }
}
