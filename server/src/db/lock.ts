import pg from 'pg';
import type { Logger } from 'pino';
import { connectionsOf } from './pool.ts';

/** any number that nothing else in the database locks */
const LOCK = 7_268_311;
/** the connection of a server that was killed is gone within moments */
const ASK_AGAIN_MS = 200;
const PATIENCE_MS = 5000;

/** Another server works with this database. */
export class DatabaseInUse extends Error {}

/**
 * The one connection that stores what happened. It holds a lock on the database: one of its own for a server that is
 * alone, a shared one for servers that share the fleets by leases. Without the lock nothing is stored.
 */
export class DatabaseLock {
  private readonly url: string;
  private readonly serverId: string;
  private readonly takeLock: string;
  private readonly log: Logger;
  private readonly onLost: (error: DatabaseInUse) => void;
  private held: pg.Client | null = null;

  /** @param onLost another server took the lock while this one had no connection */
  constructor(url: string, serverId: string, shared: boolean, log: Logger, onLost: (error: DatabaseInUse) => void) {
    this.url = url;
    this.serverId = serverId;
    this.takeLock = `SELECT pg_try_advisory_lock${shared ? '_shared' : ''}($1) AS taken`;
    this.log = log;
    this.onLost = onLost;
  }

  /** The connection, opened anew when it was lost. @throws DatabaseInUse when another server holds the lock; what the database says */
  async client(): Promise<pg.Client> {
    if (this.held) return this.held;
    try {
      this.held = await this.take();
      return this.held;
    } catch (error) {
      if (error instanceof DatabaseInUse) this.onLost(error);
      throw error;
    }
  }

  async close(): Promise<void> {
    const { held } = this;
    this.held = null;
    await held?.end().catch(() => undefined);
  }

  private async take(): Promise<pg.Client> {
    const client = new pg.Client({
      connectionString: this.url,
      application_name: connectionsOf(this.serverId),
      connectionTimeoutMillis: 3000,
      query_timeout: 30_000,
    });
    client.on('error', (error) => {
      this.log.warn({ err: error }, 'the connection to the database was lost');
      if (this.held === client) this.held = null;
    });
    client.on('end', () => {
      if (this.held === client) this.held = null;
    });
    await client.connect();
    for (let waited_ms = 0; ; waited_ms += ASK_AGAIN_MS) {
      const { rows } = await client.query<{ taken: boolean }>(this.takeLock, [LOCK]);
      if (rows[0]!.taken) return client;
      if (waited_ms >= PATIENCE_MS) break;
      await new Promise((resolve) => setTimeout(resolve, ASK_AGAIN_MS));
    }
    await client.end();
    throw new DatabaseInUse(
      'another Rouse server works with this database. Stop it first, give this one a database of its own, or run both with ROUSE_SERVERS=several',
    );
  }
}
