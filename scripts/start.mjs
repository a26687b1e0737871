// npm start: set up, migrate, load the demo, build, serve.
import { randomBytes } from 'node:crypto';
import path from 'node:path';
import { otherPostgres, ROOT, startPostgres } from './lib/pg.mjs';
import { fail, installFromDebian, installPackages, log, requireNode, seconds } from './lib/setup.mjs';
import { build } from './lib/build.mjs';
import { doorsAt, keepServer, keepStandIns, prepare } from './lib/programs.mjs';

const LOOK_AT_POSTGRES_MS = 500;

requireNode();
const since = performance.now();
let postgres;
let lookingAfter;
let stopping = false;
const programs = [];

async function shutDown(code = 0) {
  if (stopping) return;
  stopping = true;
  clearInterval(lookingAfter);
  await Promise.all(programs.map((p) => p.stop()));
  if (postgres && !postgres.stop()) log('the database is used by another command and goes on');
  log('stopped');
  process.exit(code);
}
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void shutDown());

/** A database that died is started again, on its port: the server keeps what happens meanwhile. */
function lookAfterPostgres() {
  let busy = false;
  const look = async () => {
    if (busy || stopping) return;
    busy = true;
    try {
      if (!(await postgres.isUp()) && !stopping) {
        log('the database is not there; starting it again');
        postgres = await postgres.revive();
      }
    } catch (error) {
      log(`the database does not start: ${error instanceof Error ? error.message.split('\n')[0] : String(error)}`);
    } finally {
      busy = false;
    }
  };
  lookingAfter = setInterval(() => void look(), LOOK_AT_POSTGRES_MS);
}

try {
  const elsewhere = process.env.ROUSE_DATABASE;
  const database = async () => (elsewhere ? otherPostgres(elsewhere) : startPostgres({ log }));
  await Promise.all([installFromDebian({ chromium: false, database: !elsewhere }), installPackages()]);
  [postgres] = await Promise.all([database(), build()]);
  const port = Number(process.env.PORT ?? 8640);
  const control = {
    ROUSE_CONTROL_PORT: String(doorsAt(port).control),
    ROUSE_CONTROL_TOKEN: randomBytes(24).toString('base64url'),
  };
  await prepare(postgres.url('postgres'), postgres.serverUrl('rouse'));
  if (stopping) throw new Error('stopped while it was set up');
  let told = false;
  programs.push(
    keepServer({
      port,
      databaseUrl: postgres.serverUrl('rouse'),
      outbox: path.join(ROOT, '.local/outbox'),
      key: path.join(ROOT, '.local/key'),
      control,
      env: process.env.ROUSE_LINES_PORT ? { ROUSE_LINES_PORT: process.env.ROUSE_LINES_PORT } : {},
      onMessage: (message) => {
        if (message?.say) log(message.say);
        if (message?.ready && !told) {
          told = true;
          log(`ready in ${seconds(since)} s: open ${process.env.ROUSE_ORIGIN ?? `http://localhost:${message.port}`}`);
          log('Ctrl-C stops the server, the stand-in device and the database');
        }
      },
      onGivenUp: () => void shutDown(1),
    }),
  );
  const standIns = keepStandIns({ port, control, onGivenUp: () => void shutDown(1) });
  if (standIns) programs.push(standIns);
  lookAfterPostgres();
} catch (error) {
  if (!stopping) {
    postgres?.stop();
    fail(error);
  }
}
