import type { TestProject } from 'vitest/node';
import { startPostgres } from '../../scripts/lib/pg.mjs';

declare module 'vitest' {
  interface ProvidedContext {
    /** address of the throw-away cluster's first database */
    pgAdmin: string;
    /** the same, by the role that the server signs in with */
    pgServer: string;
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
  return () => void postgres.stop();
}
