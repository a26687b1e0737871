// npm start: set up, migrate, load the demo, build, serve.
import { randomBytes } from 'node:crypto';
import path from 'node:path';
import { keepRunning } from './lib/keep.mjs';
import { ROOT, startPostgres } from './lib/pg.mjs';
import { fail, installFromDebian, installPackages, log, requireNode, runOnce, seconds } from './lib/setup.mjs';
import { build, PROGRAMS } from './lib/build.mjs';

/** Which tails have a simulated aircraft on their line, as ROUSE_STAND_INS=QV-SKY,QV-TRN or none; all of them when it is not set. */
const STAND_INS = process.env.ROUSE_STAND_INS?.split(',');

/** ROUSE_DEMO=none begins without the demo: a database for somebody's own operator. */
const withDemo = process.env.ROUSE_DEMO !== 'none';

/** The tails of the demo, each with the type of its stand-in. */
const TAILS = [
  { tail: 'QV-SKY', type: 'skerry-s7' },
  { tail: 'QV-TRN', type: 'tarn-t2' },
  { tail: 'QV-INJ', type: 'tarn-t2i' },
  { tail: 'QV-COR', type: 'corrie-c5' },
  { tail: 'QV-ERN', type: 'haugh-h9' },
  { tail: 'QV-STR', type: 'strath-x14' },
];
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
  await Promise.all([installFromDebian({ chromium: false }), installPackages()]);
  [postgres] = await Promise.all([startPostgres({ log }), build()]);
  const port = Number(process.env.PORT ?? 8640);
  const controlPort = port + 1;
  // one line an aircraft, on the ports after the control port
  const devices = TAILS.map(({ tail, type }, i) => ({ tail, type, port: port + 2 + i }));
  const control = {
    ROUSE_CONTROL_PORT: String(controlPort),
    ROUSE_CONTROL_TOKEN: randomBytes(24).toString('base64url'),
  };
  await runOnce([PROGRAMS.prepare], {
    APP_ROOT: ROOT,
    ADMIN_URL: postgres.url('postgres'),
    DATABASE_URL: postgres.serverUrl('rouse'),
    MIGRATIONS_DIR: path.join(ROOT, 'server/migrations'),
  });
  if (stopping) throw new Error('stopped while it was set up');
  let told = false;
  programs.push(
    keepRunning({
      name: 'server',
      args: [PROGRAMS.server],
      asks: true,
      env: {
        APP_ROOT: ROOT,
        DATABASE_URL: postgres.serverUrl('rouse'),
        ROUSE_OUTBOX: path.join(ROOT, '.local/outbox'),
        ROUSE_KEY_FILE: path.join(ROOT, '.local/key'),
        PORT: String(port),
        // where units with a token speak, behind the lines of the demo
        ROUSE_LINES_PORT: process.env.ROUSE_LINES_PORT ?? String(port + 2 + TAILS.length),
        ROUSE_DEVICES: withDemo ? devices.map((d) => `${d.tail}=${d.port}`).join(',') : '',
        ...control,
      },
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
  const simulated = devices.filter((d) => withDemo && (STAND_INS === undefined || STAND_INS.includes(d.tail)));
  if (simulated.length > 0)
    programs.push(
      keepRunning({
        name: 'stand-in device',
        args: [
          PROGRAMS.standin,
          ...simulated.flatMap((d) => ['--unit', `${d.type}=127.0.0.1:${d.port}`]),
          '--control',
          String(controlPort),
        ],
        env: control,
        onGivenUp: () => void shutDown(1),
      }),
    );
  lookAfterPostgres();
} catch (error) {
  if (!stopping) {
    postgres?.stop();
    fail(error);
  }
}
