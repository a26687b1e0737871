import pg from 'pg';

/** A transaction that sees one operator's rows. Every query function takes it first. */
export type Tx = pg.PoolClient & { readonly operatorId: string };

// timestamps come as Date, bigint and numeric as number: the only place where parsers are set
pg.types.setTypeParser(pg.types.builtins.INT8, Number);
pg.types.setTypeParser(pg.types.builtins.NUMERIC, Number);
pg.types.setTypeParser(pg.types.builtins.DATE, (text) => text);

/** Connections that work as the role `rouse_server`, behind row-level security. */
export function openPool(databaseUrl: string): pg.Pool {
  return new pg.Pool({ connectionString: databaseUrl, max: 8, options: '-c role=rouse_server' });
}

/** Runs `work` in one transaction for one operator; commits when it returns, rolls back when it throws. */
export async function asOperator<T>(pool: pg.Pool, operatorId: string, work: (tx: Tx) => Promise<T>): Promise<T> {
  const client = await pool.connect();
  try {
    await client.query('BEGIN');
    await client.query("SELECT set_config('rouse.operator', $1, true)", [operatorId]);
    const result = await work(Object.assign(client, { operatorId }));
    await client.query('COMMIT');
    return result;
  } catch (error) {
    await client.query('ROLLBACK').catch(() => undefined);
    throw error;
  } finally {
    client.release();
  }
}
