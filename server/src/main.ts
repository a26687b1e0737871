// The server. scripts/start.mjs runs it, and starts it again when it ends by itself.
import path from 'node:path';
import { pino } from 'pino';
import { MACHINE_CLOCK } from './clock.ts';
import { DatabaseInUse } from './db/lock.ts';
import { env } from './environment.ts';
import { startProgram } from './program.ts';
import { serverKey } from './server-key.ts';

/** ended in a way that another try would not change */
const NOT_AGAIN = 3;

/** TAIL=PORT,TAIL=PORT */
function devicesFrom(text: string): Record<string, number> {
  return Object.fromEntries(
    text.split(',').flatMap((part) => {
      if (part === '') return [];
      const [tail, port] = part.split('=');
      if (!tail || !Number.isInteger(Number(port))) throw new Error(`ROUSE_DEVICES: ${part} is not TAIL=PORT`);
      return [[tail, Number(port)]];
    }),
  );
}

/** The one address that browsers open, where it is not this machine's own. */
function originFrom(text: string | undefined): URL | null {
  if (text === undefined || text === '') return null;
  if (!URL.canParse(text) || new URL(text).origin !== text.replace(/\/$/, ''))
    throw new Error(`ROUSE_ORIGIN: ${text} is no address of a site, as https://rouse.example`);
  return new URL(text);
}

/** Whether other servers may work with the same database. */
function severalFrom(text: string | undefined): boolean {
  if (text === undefined || text === '' || text === 'one') return false;
  if (text === 'several') return true;
  throw new Error(`ROUSE_SERVERS: ${text} is neither one nor several`);
}

function giveUp(error: unknown): never {
  const busy = error instanceof Error && 'code' in error && error.code === 'EADDRINUSE';
  const words = busy
    ? `a port is in use (${error.message}). Is Rouse running already? Else choose other ports: PORT=9000 npm start`
    : error instanceof DatabaseInUse
      ? error.message
      : error;
  console.error(typeof words === 'string' ? `[rouse] ${words}` : words);
  process.exit(busy || error instanceof DatabaseInUse ? NOT_AGAIN : 1);
}

const root = env('APP_ROOT');
const log = pino({ level: process.env['LOG_LEVEL'] ?? 'warn', base: null });

try {
  const program = await startProgram({
    databaseUrl: env('DATABASE_URL'),
    outboxDir: env('ROUSE_OUTBOX'),
    webDir: process.env['ROUSE_WEB'] === 'none' ? null : path.join(root, 'web/dist'),
    root,
    port: Number(env('PORT')),
    listen: process.env['ROUSE_LISTEN'] ?? '127.0.0.1',
    origin: originFrom(process.env['ROUSE_ORIGIN']),
    key: serverKey(env('ROUSE_KEY_FILE')),
    requestsIn10s: 3000,
    several: severalFrom(process.env['ROUSE_SERVERS']),
    host: process.env['ROUSE_HOST'] ?? process.env['ROUSE_LISTEN'] ?? '127.0.0.1',
    lines: { listen: process.env['ROUSE_LINES_LISTEN'] ?? '127.0.0.1', port: Number(env('ROUSE_LINES_PORT')) },
    devices: devicesFrom(env('ROUSE_DEVICES')),
    control: { port: Number(env('ROUSE_CONTROL_PORT')), token: env('ROUSE_CONTROL_TOKEN') },
    clock: MACHINE_CLOCK,
    log,
    say: (message) => process.send?.({ say: message }),
    giveUp,
  });
  process.send?.({ ready: true, port: program.port });
  // the start command asks whether this process still answers, and how many runs hang on it
  process.on('message', (message: unknown) => {
    if (typeof message === 'object' && message !== null && 'ping' in message)
      process.send?.({ pong: message.ping, openRuns: program.openRuns() });
  });
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
  giveUp(error);
}
