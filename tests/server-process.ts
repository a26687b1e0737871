import { type ChildProcess, spawn } from 'node:child_process';
import { once } from 'node:events';
import path from 'node:path';
import { untilReady } from './ready.ts';
import { CONTROL_TOKEN, freshFolder, ROOT } from './rouse.ts';

/** The built server as a process of its own, to be killed. */
export class ServerProcess {
  readonly port: number;
  /** what it keeps on the disk: the same through all its lives */
  readonly folder = freshFolder();
  private child: ChildProcess | null = null;
  private readonly env: Record<string, string>;

  /** @param devices tails with a line of this machine, on the ports after that of the pages in this order */
  constructor(port: number, databaseUrl: string, controlPort: number, devices: readonly string[], env = {}) {
    this.port = port;
    this.env = {
      APP_ROOT: ROOT,
      DATABASE_URL: databaseUrl,
      ROUSE_OUTBOX: this.folder.dir,
      ROUSE_KEY_FILE: path.join(this.folder.dir, 'key'),
      ROUSE_LINES_PORT: '0',
      ROUSE_WEB: 'none',
      PORT: String(port),
      LOG_LEVEL: 'warn',
      ROUSE_DEVICES: devices.map((tail, i) => `${tail}=${port + 1 + i}`).join(','),
      ROUSE_CONTROL_PORT: String(controlPort),
      ROUSE_CONTROL_TOKEN: CONTROL_TOKEN,
      ...env,
    };
  }

  get base(): string {
    return `http://127.0.0.1:${this.port}`;
  }

  async launch(): Promise<void> {
    this.child = spawn(process.execPath, [path.join(ROOT, 'server/dist/main.js')], {
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
      env: { ...process.env, ...this.env },
    });
    await untilReady(this.child);
  }

  signal(signal: NodeJS.Signals): void {
    this.child!.kill(signal);
  }

  /** Ends it, and waits for that. @returns its code, null when a signal ended it */
  async end(signal: NodeJS.Signals): Promise<number | null> {
    const { child } = this;
    if (!child || child.exitCode !== null || child.signalCode !== null) return null;
    const gone = once(child, 'exit');
    child.kill(signal);
    const [code] = (await gone) as [number | null];
    return code;
  }

  async remove(): Promise<void> {
    this.child?.kill('SIGCONT');
    await this.end('SIGTERM');
    this.folder.remove();
  }
}
