// The programs of Rouse as the commands run them: preparation, server, stand-in.
import path from 'node:path';
import { PROGRAMS } from './build.mjs';
import { keepRunning } from './keep.mjs';
import { ROOT } from './pg.mjs';
import { runOnce } from './setup.mjs';

/** The tails of the demo, each with the type of its stand-in. */
const TAILS = [
  { tail: 'QV-SKY', type: 'skerry-s7' },
  { tail: 'QV-TRN', type: 'tarn-t2' },
  { tail: 'QV-INJ', type: 'tarn-t2i' },
  { tail: 'QV-COR', type: 'corrie-c5' },
  { tail: 'QV-ERN', type: 'haugh-h9' },
  { tail: 'QV-STR', type: 'strath-x14' },
];
/** Which tails have a simulated aircraft on their line, as ROUSE_STAND_INS=QV-SKY,QV-TRN or none; all of them when it is not set. */
const STAND_INS = process.env.ROUSE_STAND_INS?.split(',');
/** ROUSE_DEMO=none begins without the demo: a database for somebody's own operator. */
const withDemo = process.env.ROUSE_DEMO !== 'none';

/** The ports of a server whose pages are at `port`: control of the stand-ins, one line a tail, units with a token. */
export const doorsAt = (port) => ({
  control: port + 1,
  devices: TAILS.map(({ tail, type }, i) => ({ tail, type, port: port + 2 + i })),
  lines: port + 2 + TAILS.length,
});

/** Role, migrations, demo. Again is nothing. */
export const prepare = (adminUrl, databaseUrl) =>
  runOnce([PROGRAMS.prepare], {
    APP_ROOT: ROOT,
    ADMIN_URL: adminUrl,
    DATABASE_URL: databaseUrl,
    MIGRATIONS_DIR: path.join(ROOT, 'server/migrations'),
  });

/** The server with its doors at `port`, kept running. @param env what is another way than usual */
export const keepServer = ({ name = 'server', port, databaseUrl, outbox, key, control, env, onMessage, onGivenUp }) =>
  keepRunning({
    name,
    // its name stands in the list of processes
    args: [PROGRAMS.server, name],
    asks: true,
    env: {
      APP_ROOT: ROOT,
      DATABASE_URL: databaseUrl,
      ROUSE_OUTBOX: outbox,
      ROUSE_KEY_FILE: key,
      PORT: String(port),
      ROUSE_LINES_PORT: String(doorsAt(port).lines),
      ROUSE_DEVICES: withDemo
        ? doorsAt(port)
            .devices.map((d) => `${d.tail}=${d.port}`)
            .join(',')
        : '',
      ...control,
      ...env,
    },
    onMessage,
    onGivenUp,
  });

/** The simulated aircraft that are wanted, on the lines at `port`; null where none is. */
export function keepStandIns({ port, control, onGivenUp }) {
  const simulated = doorsAt(port).devices.filter(
    (d) => withDemo && (STAND_INS === undefined || STAND_INS.includes(d.tail)),
  );
  if (simulated.length === 0) return null;
  const units = simulated.flatMap((d) => ['--unit', `${d.type}=127.0.0.1:${d.port}`]);
  return keepRunning({
    name: 'stand-in device',
    args: [PROGRAMS.standin, ...units, '--control', control.ROUSE_CONTROL_PORT],
    env: control,
    onGivenUp,
  });
}
