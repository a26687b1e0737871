// npm start: set up, migrate, load the demo, build, serve.
import { spawn } from 'node:child_process';
import path from 'node:path';
import { ROOT, startPostgres } from './lib/pg.mjs';
import { fail, installFromDebian, installPackages, log, requireNode, seconds } from './lib/setup.mjs';
import { build, PROGRAMS } from './lib/build.mjs';

/** The tails of the demo, each with the type file of its stand-in. */
const TAILS = [
  { tail: 'QV-SKY', type: 'skerry-s7.json' },
  { tail: 'QV-TRN', type: 'tarn-t2.json' },
  { tail: 'QV-INJ', type: 'tarn-t2i.json' },
  { tail: 'QV-COR', type: 'corrie-c5.json' },
  { tail: 'QV-ERN', type: 'haugh-h9.json' },
  { tail: 'QV-STR', type: 'strath-x14.json' },
];

requireNode();
const since = performance.now();
let postgres;
let stopping = false;
let exitCode = 0;
const children = new Map();

/** Starts a program and starts it again when it dies by itself; three deaths within a minute end the command. */
function keep(name, args, env, onMessage) {
  const deaths = [];
  const launch = () => {
    const child = spawn(process.execPath, ['--enable-source-maps', ...args], {
      cwd: ROOT,
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'], // over ipc a child notices when this process is killed
      env: { ...process.env, NODE_ENV: 'production', ...env },
    });
    children.set(name, child);
    if (onMessage) child.on('message', onMessage);
    child.on('exit', (code, signal) => {
      children.delete(name);
      if (stopping) {
        if (children.size === 0) finish();
        return;
      }
      deaths.push(performance.now());
      if (code === 3 || deaths.filter((t) => performance.now() - t < 60_000).length >= 3) {
        log(`the ${name} ended (${signal ?? code}) and is not started again; see above`);
        shutDown(1);
        return;
      }
      log(`the ${name} ended (${signal ?? code}); starting it again`);
      launch();
    });
  };
  launch();
}

function finish() {
  postgres?.stop();
  log('stopped');
  process.exit(exitCode);
}

function shutDown(code = 0) {
  if (stopping) return;
  stopping = true;
  exitCode = code;
  if (children.size === 0) finish();
  for (const child of children.values()) {
    child.kill('SIGTERM');
    setTimeout(() => child.kill('SIGKILL'), 8000).unref();
  }
}
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => shutDown());

try {
  await Promise.all([installFromDebian({ chromium: false }), installPackages()]);
  [postgres] = await Promise.all([startPostgres({ log }), build()]);
  const port = Number(process.env.PORT ?? 8640);
  const controlPort = port + 1;
  // one line an aircraft, on the ports after the control port
  const devices = TAILS.map(({ tail, type }, i) => ({ tail, type, port: port + 2 + i }));
  let told = false;
  keep(
    'server',
    [PROGRAMS.server],
    {
      APP_ROOT: ROOT,
      ADMIN_URL: postgres.url('postgres'),
      DATABASE_URL: postgres.url('rouse'),
      PORT: String(port),
      ROUSE_DEVICES: devices.map((d) => `${d.tail}=${d.port}`).join(','),
      ROUSE_CONTROL_PORT: String(controlPort),
    },
    (message) => {
      if (message?.say) log(message.say);
      if (message?.ready && !told) {
        told = true;
        log(`ready in ${seconds(since)} s: open http://127.0.0.1:${message.port}`);
        log('Ctrl-C stops the server, the stand-in device and the database');
      }
    },
  );
  keep(
    'stand-in device',
    [
      PROGRAMS.standin,
      ...devices.flatMap((d) => ['--unit', `${path.join(ROOT, 'aircraft', d.type)}=127.0.0.1:${d.port}`]),
      '--control',
      String(controlPort),
    ],
    {},
  );
} catch (error) {
  postgres?.stop();
  fail(error);
}
