import { existsSync } from 'node:fs';
import type { TestProject } from 'vitest/node';
import pg from 'pg';
import { startPostgres } from '../../scripts/lib/pg.mjs';

declare module 'vitest' {
  interface ProvidedContext {
    /** address of the throw-away cluster's first database */
    pgAdmin: string;
    /** the same, by the role that the server signs in with */
    pgServer: string;
    /** how the names of this run's databases with a past begin */
    pgDemo: string;
  }
}

/** A cluster of its own for the tests, with durability off. */
export default async function setup(project: TestProject): Promise<() => void> {
  const postgres = (await startPostgres({ name: '-test' })) as {
    url(db: string): string;
    serverUrl(db: string): string;
    stop(): boolean;
  };
  project.provide('pgAdmin', postgres.url('postgres'));
  project.provide('pgServer', postgres.serverUrl('postgres'));
  await dropDemosOfOthers(postgres.url('postgres'));
  project.provide('pgDemo', `demo_${process.pid}`);
  return () => void postgres.stop();
}

/** Databases with a past that test runs before this one have left. */
async function dropDemosOfOthers(adminUrl: string): Promise<void> {
  const client = new pg.Client({ connectionString: adminUrl });
  await client.connect();
  const { rows } = await client.query<{ datname: string }>(
    `SELECT datname FROM pg_database WHERE datname ~ '^demo_[0-9]+_'`,
  );
  for (const { datname } of rows)
    if (!existsSync(`/proc/${/\d+/.exec(datname)![0]}`)) await client.query(`DROP DATABASE IF EXISTS ${datname}`);
  await client.end();
}
