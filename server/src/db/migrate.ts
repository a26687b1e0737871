import { runner } from 'node-pg-migrate';
import pg from 'pg';

/** Creates the database when it is missing. @param adminUrl a connection to another database of the cluster */
export async function ensureDatabase(adminUrl: string, name: string): Promise<void> {
  const client = new pg.Client({ connectionString: adminUrl });
  await client.connect();
  try {
    const { rowCount } = await client.query('SELECT FROM pg_database WHERE datname = $1', [name]);
    if (rowCount === 0) await client.query(`CREATE DATABASE ${pg.escapeIdentifier(name)}`);
  } finally {
    await client.end();
  }
}

/** Runs the numbered migrations that are new, forward only, under an advisory lock. @returns their names */
export async function migrate(databaseUrl: string, dir: string): Promise<string[]> {
  const done = await runner({ databaseUrl, dir, direction: 'up', migrationsTable: 'migration', log: () => undefined });
  return done.map((m) => m.name);
}
