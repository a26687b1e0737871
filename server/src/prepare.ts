import type { TypeFile } from '@rouse/core/aircraft';
import { ensureDatabase, ensureServerRole, migrate } from './db/migrate.ts';
import { openPool } from './db/pool.ts';
import { loadDemo } from './demo/load.ts';

export interface PrepareOptions {
  /** may create databases and roles */
  adminUrl: string;
  /** what the server signs in with: its role, which owns nothing, with the password that it is given here */
  databaseUrl: string;
  migrationsDir: string;
  /** read only when they are needed: every version of every type, the newest of each flies */
  types: () => readonly TypeFile[];
  /** changes when any type file does */
  typesStamp: string;
  /** how many earlier starts the demo has; null for no demo at all */
  demoStarts: number | null;
  /** see loadDemo */
  reports: boolean;
  pastOf: readonly string[] | null;
  flyWorker: string | null;
  now: Date;
  /** tells whoever started the program what it does */
  say: (message: string) => void;
}

/** Everything that a server needs and may not do itself: role, database, migrations, demo. Again is nothing. */
export async function prepareDatabase(options: PrepareOptions): Promise<void> {
  const { adminUrl, databaseUrl, say } = options;
  const { username, password, pathname } = new URL(databaseUrl);
  const database = decodeURIComponent(pathname.slice(1));
  await ensureServerRole(adminUrl, username, decodeURIComponent(password));
  await ensureDatabase(adminUrl, database);
  const ownerUrl = new URL(adminUrl);
  ownerUrl.pathname = pathname;
  const migrated = await migrate(ownerUrl.href, options.migrationsDir);
  if (migrated.length) say(`database migrated: ${migrated.join(', ')}`);
  const pool = openPool(databaseUrl);
  try {
    if (options.demoStarts !== null) await loadDemo({ ...options, demoStarts: options.demoStarts, pool });
  } finally {
    await pool.end();
  }
}
