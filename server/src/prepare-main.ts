// Prepares the database for the server: role, migrations, demo. scripts/start.mjs runs it before the server.
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { prepareDatabase } from './prepare.ts';
import { shippedTypes, typesStamp } from '@rouse/aircraft';
import { env } from './environment.ts';

try {
  await prepareDatabase({
    adminUrl: env('ADMIN_URL'),
    databaseUrl: env('DATABASE_URL'),
    migrationsDir: env('MIGRATIONS_DIR'),
    types: () => shippedTypes(env('APP_ROOT')),
    typesStamp: typesStamp(env('APP_ROOT')),
    demoStarts: process.env['ROUSE_DEMO'] === 'none' ? null : Number(process.env['ROUSE_DEMO_STARTS'] ?? 44),
    reports: true,
    pastOf: process.env['ROUSE_DEMO_TAILS']?.split(',') ?? null,
    flyWorker: path.join(path.dirname(fileURLToPath(import.meta.url)), 'fly-worker.js'),
    now: new Date(),
    say: (message) => process.send?.({ say: message }),
  });
  process.exit(0);
} catch (error) {
  console.error(`[rouse] the database cannot be prepared: ${error instanceof Error ? error.message : String(error)}`);
  process.exit(3); // not worth another try by itself
}
