// The only file that reads the environment. scripts/start.mjs runs it.
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { typeFileSchema } from '@rouse/core/aircraft';
import { pino } from 'pino';
import { startProgram } from './program.ts';

function env(name: string): string {
  const value = process.env[name];
  if (value === undefined) throw new Error(`${name} is not set; run npm start`);
  return value;
}

/** TAIL=PORT,TAIL=PORT */
function devicesFrom(text: string): Record<string, number> {
  return Object.fromEntries(
    text.split(',').map((part) => {
      const [tail, port] = part.split('=');
      if (!tail || !Number.isInteger(Number(port))) throw new Error(`ROUSE_DEVICES: ${part} is not TAIL=PORT`);
      return [tail, Number(port)];
    }),
  );
}

const root = env('APP_ROOT');
const log = pino({ level: process.env['LOG_LEVEL'] ?? 'warn', base: null });
const types = ['aircraft', 'aircraft/earlier'].flatMap((dir) =>
  readdirSync(path.join(root, dir))
    .filter((name) => name.endsWith('.json'))
    .map((name) => typeFileSchema.parse(JSON.parse(readFileSync(path.join(root, dir, name), 'utf8')))),
);

try {
  const program = await startProgram({
    adminUrl: env('ADMIN_URL'),
    databaseUrl: env('DATABASE_URL'),
    migrationsDir: path.join(root, 'server/migrations'),
    webDir: path.join(root, 'web/dist'),
    types,
    port: Number(env('PORT')),
    devices: devicesFrom(env('ROUSE_DEVICES')),
    controlPort: Number(env('ROUSE_CONTROL_PORT')),
    demoStarts: Number(process.env['ROUSE_DEMO_STARTS'] ?? 44),
    clock: { now: Date.now },
    log,
    say: (message) => process.send?.({ say: message }),
  });
  process.send?.({ ready: true, port: program.port });
  let stopping = false;
  const stop = (): void => {
    if (stopping) return;
    stopping = true;
    void program.stop().then(() => process.exit(0));
  };
  process.on('SIGTERM', stop);
  process.on('SIGINT', stop);
  process.on('disconnect', stop); // the start command was killed
} catch (error) {
  const busy = error instanceof Error && 'code' in error && error.code === 'EADDRINUSE';
  console.error(
    busy
      ? `[rouse] a port is in use (${error.message}). Is Rouse running already? Else choose other ports: PORT=9000 npm start`
      : error,
  );
  process.exit(3); // not worth another try by itself
}
