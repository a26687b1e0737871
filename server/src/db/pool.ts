import pg from 'pg';

/** A transaction that sees one operator's rows. Every query function takes it first. */
export type Tx = pg.ClientBase & { readonly operatorId: string };

// timestamps come as Date, bigint and numeric as number: the only place where parsers are set
pg.types.setTypeParser(pg.types.builtins.INT8, Number);
pg.types.setTypeParser(pg.types.builtins.NUMERIC, Number);
pg.types.setTypeParser(pg.types.builtins.DATE, (text) => text);

/** What the connections of a server are called in the database, by which another one ends them when it is gone. */
export const connectionsOf = (serverId: string): string => `rouse ${serverId}`;

/** Connections of the server's own role, which owns nothing and stands behind row-level security. */
export function openPool(databaseUrl: string, serverId?: string): pg.Pool {
  const pool = new pg.Pool({
    connectionString: databaseUrl,
    ...(serverId !== undefined && { application_name: connectionsOf(serverId) }),
    max: 8,
    connectionTimeoutMillis: 3000,
    query_timeout: 30_000,
  });
  // a connection that dies while it is lent out says so on itself; the query that it was lent for is told by its promise
  pool.on('connect', (client) => client.on('error', () => undefined));
  pool.on('error', () => undefined);
  return pool;
}

/** Runs `work` in one transaction for one operator; commits when it returns, rolls back when it throws. */
export async function asOperator<T>(pool: pg.Pool, operatorId: string, work: (tx: Tx) => Promise<T>): Promise<T> {
  const client = await pool.connect();
  let broken = false;
  try {
    return await inTransaction(client, operatorId, work);
  } catch (error) {
    broken = isDatabaseAway(error);
    throw error;
  } finally {
    client.release(broken);
  }
}

/** The same on a connection that the caller has. */
export async function inTransaction<T>(
  client: pg.ClientBase,
  operatorId: string,
  work: (tx: Tx) => Promise<T>,
): Promise<T> {
  try {
    await client.query('BEGIN');
    await client.query("SELECT set_config('rouse.operator', $1, true)", [operatorId]);
    const result = await work(Object.assign(client, { operatorId }));
    await client.query('COMMIT');
    return result;
  } catch (error) {
    await client.query('ROLLBACK').catch(() => undefined);
    throw error;
  }
}

const AWAY = new Set(['ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ENOENT', 'ETIMEDOUT', '25006', '42501']);

/** Whether an error says that the database is not there, is going, or takes nothing, and not that the query was wrong. */
export function isDatabaseAway(error: unknown): boolean {
  if (!(error instanceof Error)) return false;
  const code = 'code' in error ? String(error.code) : '';
  if (AWAY.has(code) || /^(08|53|55|57|58)/.test(code)) return true;
  return /Connection terminated|timeout exceeded when trying to connect|Query read timeout|not queryable/.test(
    error.message,
  );
}
