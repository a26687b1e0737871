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

/** any number; it is held on the database of the administrator, so that two preparations take turns */
const ROLE_LOCK = 7_268_310;

/** Makes the role that the server signs in with, or gives it its password. It is no superuser and owns nothing. */
export async function ensureServerRole(adminUrl: string, name: string, password: string): Promise<void> {
  const client = new pg.Client({ connectionString: adminUrl });
  await client.connect();
  try {
    await client.query('SELECT pg_advisory_lock($1)', [ROLE_LOCK]);
    const { rowCount } = await client.query('SELECT FROM pg_roles WHERE rolname = $1', [name]);
    const how = `LOGIN NOSUPERUSER NOCREATEDB NOCREATEROLE NOBYPASSRLS PASSWORD ${pg.escapeLiteral(password)}`;
    await client.query(`${rowCount === 0 ? 'CREATE' : 'ALTER'} ROLE ${pg.escapeIdentifier(name)} ${how}`);
  } finally {
    await client.end();
  }
}

/** Runs the numbered migrations that are new, forward only, under an advisory lock. @returns their names */
export async function migrate(databaseUrl: string, dir: string): Promise<string[]> {
  const done = await runner({ databaseUrl, dir, direction: 'up', migrationsTable: 'migration', log: () => undefined });
  return done.map((m) => m.name);
}
