import { execFile } from 'node:child_process';
import { promisify } from 'node:util';
import { waitUntil } from '../../tests/caller.ts';
import { type Line, share } from '../measure.ts';
import { LONG_MS, Ordeal } from './ordeal.ts';

const execute = promisify(execFile);
/** a primary is followed in this time, with all that its lock, its checks and its clients need */
const FAILED_OVER_WITHIN_S = 30;
const TAKEN_OVER_WITHIN_S = 5;

/** `npm run cluster`. */
export class Cluster extends Ordeal {
  protected get script(): { name: string; env: Record<string, string> } {
    return { name: 'cluster.mjs', env: { ROUSE_ORIGIN: this.call.base } };
  }

  /** The database that is written to is lost, as a machine is. */
  async primaryLost(times: number): Promise<Line[]> {
    const since = this.crossings.length;
    const kill = async (): Promise<void> => void (await this.ask('kill', 'primary'));
    const lines = await this.killed('primary', times, kill, { within_s: FAILED_OVER_WITHIN_S });
    return [...lines, this.latency('while primaries are lost', this.crossings.slice(since))];
  }

  /** The server that has the fleet is killed; the other takes it over. */
  async ownerLost(times: number): Promise<Line[]> {
    const watched_s: number[] = [];
    const kill = async (): Promise<void> => {
      process.kill(await this.owner(), 'SIGKILL');
      watched_s.push(await this.framesAgain());
    };
    const lines = await this.killed('owner', times, kill, { within_s: TAKEN_OVER_WITHIN_S });
    return [...lines, takenOver('killed', watched_s)];
  }

  /** The server that has the fleet stands still until the other has taken over, and then wakes up. */
  async ownerPaused(times: number): Promise<Line[]> {
    const watched_s: number[] = [];
    for (let i = 0; i < times; i++) {
      const owner = await this.owner();
      process.kill(owner, 'SIGSTOP');
      watched_s.push(await this.framesAgain());
      await this.answersAgain();
      process.kill(owner, 'SIGCONT');
      await this.answersAgain();
    }
    return [
      ...(await this.account(`${times} times an owner that stands still and wakes up`)),
      takenOver('paused', watched_s),
    ];
  }

  /** Both databases and both servers are there again. */
  protected async recovered(): Promise<void> {
    await waitUntil(async () => {
      const said = await this.ask('status');
      return said.includes('primary') && said.includes('sync') && said.split('"ready":true').length === 3 ? true : null;
    }, LONG_MS);
  }

  protected async removed(): Promise<void> {
    await this.ask('remove');
  }

  /** Gives another command to the cluster of this checkout. @returns what it says */
  private async ask(...args: string[]): Promise<string> {
    const { stdout } = await execute(process.execPath, ['scripts/cluster.mjs', ...args], { cwd: this.checkout.dir });
    return stdout;
  }

  /** The server that watches the aircraft. */
  private owner(): Promise<number> {
    return waitUntil(async () => {
      for (const i of [1, 2]) {
        const address = `http://127.0.0.1:${this.port + 20 * i}/metrics`;
        const asked = fetch(address, { signal: AbortSignal.timeout(1000) }).then((answer) => answer.text());
        if ((await asked.catch(() => '')).includes('rouse_fleets_held 1'))
          return this.checkout.alive(`server/dist/main.js server${i}`)[0] ?? null;
      }
      return null;
    }, LONG_MS);
  }
}

const takenOver = (how: string, watched_s: readonly number[]): Line => ({
  name: `owner ${how}: frames come to the page again, worst`,
  value: share(watched_s, 1),
  unit: 's',
  wanted: 'at most',
  target: TAKEN_OVER_WITHIN_S,
  remark: `median ${share(watched_s, 0.5).toFixed(1)} s`,
});
