import type pg from 'pg';
import { findOperatorOfUnit } from './db/leases.ts';
import { DatabaseInUse, DatabaseLock } from './db/lock.ts';
import { isDatabaseAway, openPool } from './db/pool.ts';
import { DEMO } from './demo/identity.ts';
import { Lines } from './device/lines.ts';
import { listenForUnit, type UnitListener } from './device/listener.ts';
import type { LineOwner, LineSink, Onward } from './device/speaker.ts';
import { Health } from './health/health.ts';
import { Leases, type Owner } from './leases/leases.ts';
import { Tenures } from './leases/tenures.ts';
import { Fleets } from './live/fleets.ts';
import { Pages } from './live/pages.ts';
import { RunZeros } from './live/run-clock.ts';
import { Drain } from './outbox/drain.ts';
import { Outbox } from './outbox/outbox.ts';
import type { ProgramOptions } from './options.ts';
import { serverIdOf } from './server-id.ts';

const ASK_AGAIN_MS = 300;

/** What goes on without anybody asking: what is kept and stored, whose fleets are watched here, and the doors of units. */
export interface Unattended {
  pool: pg.Pool;
  fleets: Fleets;
  pages: Pages;
  lines: Lines;
  leases: Leases;
  tenures: Tenures;
  health: Health;
  /** doors of this machine for tails of the demo, by tail */
  devicePorts: Readonly<Record<string, number>>;
  /** resolves when all that was kept so far is in the database */
  stored(): Promise<void>;
  stop(): Promise<void>;
}

/** Opens all of it; the fleets are taken up when `leases` begin. @throws DatabaseInUse */
export async function openUnattended(options: ProgramOptions): Promise<Unattended> {
  const { databaseUrl, log, clock, several } = options;
  const serverId = serverIdOf(options.outboxDir);
  const lock = new DatabaseLock(databaseUrl, serverId, several, log, (error) => options.giveUp(error));
  await untilThere(lock, options);
  const outbox = await Outbox.open(options.outboxDir, log);
  const pool = openPool(databaseUrl, serverId);
  const fleets = new Fleets();
  const drain = new Drain({
    outbox,
    lock,
    log,
    monotonic: () => clock.monotonic(),
    several,
    onEntries: (run, seq) => fleets.entriesStored(run, seq),
    onFrames: (run, to_s) => fleets.framesStored(run, to_s),
    onClosed: (run) => fleets.closedStored(run),
    onTenureOver: () => void leases.look().catch(() => undefined),
  });
  const leases: Leases = new Leases({
    pool,
    clock,
    log,
    serverId,
    alone: !several,
    gained: (operatorId, fence) => tenures.takeUp(operatorId, fence),
    lost: (operatorId) => tenures.letGo(operatorId),
  });
  if (outbox.waiting > 0) options.say(`storing ${outbox.waiting} entries that were kept`);
  await drain.emptied();

  const pages = new Pages();
  const lines = new Lines(log, async (unit) => {
    const operatorId = several ? await findOperatorOfUnit(pool, unit) : null;
    if (operatorId === null) return null;
    const owner = await leases.whoHas(operatorId);
    return owner === null || owner === 'here' ? null : doorOf(leases, operatorId, owner.host, owner.lines);
  });
  const listeners = await listenForUnits(fleets, leases, options.devices);
  const away_s = (): number => drain.away_s;
  const health = new Health({ pool, outbox, fleets, leases, away_s });
  const zeros = new RunZeros(options.outboxDir);
  const told = (after_s: number): void => health.told(after_s);
  const acknowledges = several ? 'stored' : 'kept';
  const live = { pool, clock, zeros, log, pages, outbox, away_s, told, acknowledges } as const;
  const tenures = new Tenures({ live, fleets, lines, listeners });
  await lines.listen(options.lines.listen, options.lines.port);
  return {
    pool,
    fleets,
    pages,
    lines,
    leases,
    tenures,
    health,
    devicePorts: Object.fromEntries(Array.from(listeners, ([tail, listener]) => [tail, listener.port])),
    stored: () => drain.emptied(),
    async stop() {
      for (const listener of listeners.values()) listener.close();
      lines.close();
      pages.close();
      await leases.end();
      fleets.close();
      health.close();
      await drain.stop();
      await leases.giveUp();
      await outbox.close();
      await Promise.all([pool.end(), lock.close()]);
    },
  };
}

const doorOf = (leases: Leases, operatorId: string, host: string, port: number): Onward => ({
  host,
  port,
  connect: () => leases.connect(operatorId, host, port),
});

/** A server that is started before its database waits for it, and says so. @throws DatabaseInUse; what is no matter of waiting */
async function untilThere(lock: DatabaseLock, { say }: ProgramOptions): Promise<void> {
  for (let told = false; ;) {
    try {
      await lock.client();
      return;
    } catch (error) {
      if (error instanceof DatabaseInUse || !isDatabaseAway(error)) throw error;
      if (!told) say('waiting for the database');
      told = true;
      await new Promise((resolve) => setTimeout(resolve, ASK_AGAIN_MS));
    }
  }
}

/** Doors of this machine for tails of the demo, whichever server watches them. */
async function listenForUnits(
  fleets: Fleets,
  leases: Leases,
  devices: ProgramOptions['devices'],
): Promise<Map<string, UnitListener>> {
  const { operatorId } = DEMO;
  const ownerOf = (tail: string): LineOwner => {
    const of = (owner: Owner): LineSink | Onward | null => {
      if (owner === 'here') return fleets.of(operatorId).tail(tail);
      const port = owner?.devices[tail];
      return owner === null || port === undefined ? null : doorOf(leases, operatorId, owner.host, port);
    };
    return {
      now: () => of(leases.ownerOf(operatorId)),
      soon: async () => of(await leases.whoHas(operatorId)),
    };
  };
  const listening = Object.entries(devices).map(
    async ([tail, port]) => [tail, await listenForUnit(port, ownerOf(tail))] as const,
  );
  return new Map(await Promise.all(listening));
}
