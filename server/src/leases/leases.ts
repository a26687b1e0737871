import net from 'node:net';
import type pg from 'pg';
import type { Logger } from 'pino';
import type { Clock } from '../clock.ts';
import {
  claimFree,
  type Doors,
  type LeaseRow,
  listLeases,
  listServers,
  putBeat,
  removeServer,
  type ServerRow,
} from '../db/leases.ts';
import { isDatabaseAway } from '../db/pool.ts';

const BEAT_EVERY_MS = 500;
/** nobody looks at the beat of a server that is alone */
const ALONE_EVERY_MS = 2000;
/** a server whose heart stands still for so long, while the database is there, is gone */
const GONE_AFTER_MS = 2500;
/** between two looks, beyond which this server did not watch the others */
const NOT_WATCHED_MS = 1500;
/** whoever asks for a fleet that changes hands waits so long */
const WAIT_MS = 6000;

/** Who has a fleet: this server, another one with its doors, or nobody yet. */
export type Owner = 'here' | Doors | null;

/** Something that leads to another server. */
interface Onward {
  once(event: 'close', act: () => void): unknown;
  destroy(): unknown;
}

export interface LeasesOptions {
  pool: pg.Pool;
  clock: Clock;
  log: Logger;
  serverId: string;
  /** no other server works with this database: what an earlier one had is free at once */
  alone: boolean;
  /** a fleet is ours from now on, under this number: take it up */
  gained: (operatorId: string, fence: number) => Promise<void>;
  /** another server has it */
  lost: (operatorId: string) => void;
}

/**
 * Which fleets this server has. Every server counts up its beat; the fleets of one whose beat stands still are taken by
 * those that see it. Nobody loses a fleet because the database is away: nobody can take it then either.
 */
export class Leases {
  private readonly options: LeasesOptions;
  private doors: Doors | null = null;
  private readonly ours = new Map<string, number>();
  private owners = new Map<string, Doors>();
  /** the number of each tenure, whoever has it */
  private readonly fences = new Map<string, number>();
  /** the last beat of each other server, and since when it has been that */
  private readonly beats = new Map<string, { beat: number; since_ms: number }>();
  private looked_ms = -Infinity;
  private looking: Promise<void> | null = null;
  private timer: NodeJS.Timeout | undefined;
  private ended = false;
  private readonly waiters = new Set<() => void>();
  /** what leads to the owner of a fleet, by operator */
  private readonly onward = new Map<string, Set<Onward>>();

  constructor(options: LeasesOptions) {
    this.options = options;
  }

  /** Takes what is free, and goes on looking. @returns when the fleets of this server are taken up */
  async begin(doors: Doors): Promise<void> {
    this.doors = doors;
    await this.look();
    this.again();
  }

  /** Who has a fleet, as far as it is known. */
  ownerOf(operatorId: string): Owner {
    return this.ours.has(operatorId) ? 'here' : (this.owners.get(operatorId) ?? null);
  }

  /** The same, waiting for a fleet that changes hands; null when that takes too long. */
  async whoHas(operatorId: string): Promise<Owner> {
    const until_ms = this.options.clock.monotonic() + WAIT_MS;
    for (;;) {
      const owner = this.ownerOf(operatorId);
      const left_ms = until_ms - this.options.clock.monotonic();
      if (owner !== null || left_ms <= 0 || this.ended) return owner;
      await new Promise<void>((resolve) => {
        const timer = setTimeout(resolve, left_ms);
        this.waiters.add(() => {
          clearTimeout(timer);
          resolve();
        });
      });
    }
  }

  /** A connection to a door of whoever has a fleet; it ends when the fleet changes hands. */
  connect(operatorId: string, host: string, port: number): net.Socket {
    const socket = net.connect({ host, port, noDelay: true });
    socket.on('error', () => socket.destroy());
    this.endWithTenure(operatorId, socket);
    return socket;
  }

  /** What leads to whoever has a fleet is ended when the fleet changes hands: a server that stands still would hold it for ever. */
  endWithTenure(operatorId: string, onward: Onward): void {
    const all = this.onward.get(operatorId) ?? new Set();
    this.onward.set(operatorId, all.add(onward));
    onward.once('close', () => all.delete(onward));
  }

  /** How many fleets this server has. */
  get held(): number {
    return this.ours.size;
  }

  /** Looks who lives and who has what, and takes what is free. One look at a time. @throws what the database says */
  look(): Promise<void> {
    if (this.doors === null) return Promise.resolve();
    this.looking ??= this.lookOnce(this.doors).finally(() => (this.looking = null));
    return this.looking;
  }

  /** No more looking. The fleets stay ours until they are given up. */
  async end(): Promise<void> {
    this.ended = true;
    clearTimeout(this.timer);
    this.wake();
    await this.looking?.catch(() => undefined);
  }

  /** The others may have the fleets at once: everything of them is stored. */
  async giveUp(): Promise<void> {
    await removeServer(this.options.pool, this.options.serverId, null).catch(() => undefined);
  }

  private again(): void {
    if (this.ended) return;
    const every_ms = this.options.alone ? ALONE_EVERY_MS : BEAT_EVERY_MS;
    this.timer = setTimeout(() => {
      void this.look()
        .catch((error: unknown) => {
          if (!isDatabaseAway(error)) this.options.log.error({ err: error }, 'looking for the other servers failed');
        })
        .finally(() => this.again());
    }, every_ms);
  }

  private async lookOnce(doors: Doors): Promise<void> {
    const { pool, serverId, clock, alone } = this.options;
    await putBeat(pool, serverId, doors);
    const servers = await listServers(pool);
    for (const { serverId: other, beat } of this.gone(servers, clock.monotonic()))
      await removeServer(pool, other, alone ? null : beat);
    await claimFree(pool, serverId);
    await this.settle(await listLeases(pool), servers);
  }

  /** Servers whose beat has stood still while this one watched; alone: all others. */
  private gone(servers: readonly ServerRow[], now_ms: number): ServerRow[] {
    const watched = now_ms - this.looked_ms < NOT_WATCHED_MS;
    this.looked_ms = now_ms;
    const others = servers.filter((s) => s.serverId !== this.options.serverId);
    if (this.options.alone) return others;
    const known = new Set(others.map((s) => s.serverId));
    for (const id of this.beats.keys()) if (!known.has(id)) this.beats.delete(id);
    return others.filter(({ serverId, beat }) => {
      const last = this.beats.get(serverId);
      if (!watched || last?.beat !== beat) this.beats.set(serverId, { beat, since_ms: now_ms });
      else if (now_ms - last.since_ms >= GONE_AFTER_MS) {
        this.options.log.warn({ server: serverId }, 'another server does not live any more; its fleets are taken over');
        return true;
      }
      return false;
    });
  }

  private async settle(leases: readonly LeaseRow[], servers: readonly ServerRow[]): Promise<void> {
    const { serverId: me, lost, gained, log } = this.options;
    const doorsOf = new Map(servers.map((s) => [s.serverId, s.doors]));
    const mine = new Map(leases.flatMap((l) => (l.serverId === me ? [[l.operatorId, l.fence] as const] : [])));
    for (const [operatorId, fence] of this.ours) {
      if (mine.get(operatorId) === fence) continue;
      this.ours.delete(operatorId);
      lost(operatorId);
    }
    this.owners = new Map();
    for (const { operatorId, serverId, fence } of leases) {
      const doors = serverId !== me && serverId !== null ? doorsOf.get(serverId) : undefined;
      if (doors) this.owners.set(operatorId, doors);
      if (this.fences.get(operatorId) !== fence) this.hangUp(operatorId);
      this.fences.set(operatorId, fence);
    }
    for (const [operatorId, fence] of mine) {
      if (this.ours.has(operatorId)) continue;
      try {
        await gained(operatorId, fence);
        this.ours.set(operatorId, fence);
      } catch (error) {
        log.error({ err: error, operator: operatorId }, 'a fleet could not be taken up; it is tried again');
      }
    }
    this.wake();
  }

  private hangUp(operatorId: string): void {
    for (const onward of this.onward.get(operatorId) ?? []) onward.destroy();
    this.onward.delete(operatorId);
  }

  private wake(): void {
    for (const wake of this.waiters) wake();
    this.waiters.clear();
  }
}
