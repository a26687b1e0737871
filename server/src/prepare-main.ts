// Prepares the database for the server: role, migrations, demo. scripts/start.mjs runs it before the server.
import { prepareDatabase } from './prepare.ts';
import { env, readTypes, typesStamp } from './environment.ts';

try {
  await prepareDatabase({
    adminUrl: env('ADMIN_URL'),
    databaseUrl: env('DATABASE_URL'),
    migrationsDir: env('MIGRATIONS_DIR'),
    types: readTypes,
    typesStamp: typesStamp(),
    demoStarts: Number(process.env['ROUSE_DEMO_STARTS'] ?? 44),
    now: new Date(),
    say: (message) => process.send?.({ say: message }),
  });
  process.exit(0);
} catch (error) {
  console.error(`[rouse] the database cannot be prepared: ${error instanceof Error ? error.message : String(error)}`);
  process.exit(3); // not worth another try by itself
}
