// Copies of the database with the log of what changed since, and the way back. PostgreSQL's own programs and gzip only.
import fs from 'node:fs';
import path from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import pg from 'pg';
import { cluster, forgetOwnerPassword, freePort, must, ownerPassword, run, tail } from './pg.mjs';

/** whole copies that are kept, newest first */
const KEPT = 2;
/** what was written is in the backup after so long at most, s */
const ARCHIVED_WITHIN_S = 30;
const WAIT_MS = 60_000;
const COPY = /^base-(\d{4})(\d\d)(\d\d)T(\d\d)(\d\d)(\d\d)Z$/;

const nameNow = () => `base-${new Date().toISOString().replaceAll(/[-:]|\.\d+/g, '')}`;
const timeOf = (name) => new Date(name.replace(COPY, '$1-$2-$3T$4:$5:$6Z'));

/** Never overwrites, never leaves half a file under the real name; a file that is there already has to be the same. */
const archiveCommand = (wal) => {
  const file = `${wal}/%f.gz`;
  return `if test -f ${file}; then gunzip -c ${file} | cmp -s - %p; else gzip -1 -c %p > ${file}.tmp && sync ${file}.tmp && mv ${file}.tmp ${file}; fi`;
};

/** Whole copies in a folder, newest first. */
const copiesIn = (dir) =>
  (fs.existsSync(dir) ? fs.readdirSync(dir) : [])
    .filter((name) => COPY.test(name))
    .sort()
    .reverse();

function checkFolder(dir) {
  if (!path.isAbsolute(dir) || !/^[\w./-]+$/.test(dir))
    throw new Error(`${dir}: name the folder of the backup by its whole path, without blanks`);
}

function makeFolder(dir, user) {
  fs.mkdirSync(dir, { recursive: true, mode: 0o700 });
  if (process.getuid() === 0) fs.chownSync(dir, user.uid, user.gid);
}

/**
 * Copies the running database whole, and has every change since kept beside it.
 * @param {{ dir: string, log: (words: string) => void }} o dir: a folder on another disk
 * @returns the name of the copy
 */
export async function backUp({ dir, log }) {
  checkFolder(dir);
  const { bin, user, live } = cluster();
  if (!live) throw new Error('the database does not run: npm start, then npm run backup beside it');
  const wal = path.join(dir, 'wal');
  makeFolder(dir, user);
  makeFolder(wal, user);
  const password = ownerPassword();
  const db = new pg.Client({ host: '127.0.0.1', port: live.port, user: 'rouse', password, database: 'postgres' });
  await db.connect();
  try {
    await keepChanges(db, wal);
    const name = nameNow();
    const part = path.join(dir, `${name}.part`);
    const at = ['-h', '127.0.0.1', '-p', String(live.port), '-U', 'rouse'];
    const env = { PGPASSWORD: password };
    must(
      run(user, `${bin}/pg_basebackup`, [...at, '-D', part, '-X', 'stream', '-c', 'fast'], { env }),
      'pg_basebackup',
    );
    must(run(user, `${bin}/pg_verifybackup`, ['-q', part]), 'pg_verifybackup');
    fs.renameSync(part, path.join(dir, name));
    log(`copied whole: ${path.join(dir, name)}`);
    await proveArchive(db, wal);
    prune({ bin, user, dir, wal, log });
    log(`what is written from now on is in ${wal} within ${ARCHIVED_WITHIN_S} s`);
    return name;
  } finally {
    await db.end();
  }
}

async function keepChanges(db, wal) {
  const { rows } = await db.query('SHOW archive_mode');
  if (rows[0].archive_mode !== 'on') {
    await db.query(`ALTER SYSTEM SET archive_mode = 'on'`);
    await db.query(`ALTER SYSTEM SET archive_command = 'true'`);
    throw new Error(
      'this database has kept no log of changes so far; it will from its next start: stop Rouse, npm start, and run this again',
    );
  }
  await db.query(`ALTER SYSTEM SET archive_command = '${archiveCommand(wal)}'`);
  await db.query(`ALTER SYSTEM SET archive_timeout = '${ARCHIVED_WITHIN_S}s'`);
  await db.query('SELECT pg_reload_conf()');
}

/** The log that is written now arrives in the folder, or the backup is said to have failed. */
async function proveArchive(db, wal) {
  const { rows } = await db.query(`SELECT pg_walfile_name(pg_switch_wal()) AS file`);
  const file = path.join(wal, `${rows[0].file}.gz`);
  for (const end = Date.now() + WAIT_MS; !fs.existsSync(file); await sleep(50)) {
    if (Date.now() < end) continue;
    const { rows: last } = await db.query(
      'SELECT last_failed_wal AS wal, last_failed_time AS at FROM pg_stat_archiver',
    );
    throw new Error(
      `changes do not arrive in ${wal} (last failed: ${last[0].wal} at ${last[0].at}): is there room, and may the database's user write there?`,
    );
  }
}

/** Older copies go, and the log that only they need. */
function prune({ bin, user, dir, wal, log }) {
  const copies = copiesIn(dir);
  for (const name of copies.slice(KEPT)) {
    fs.rmSync(path.join(dir, name), { recursive: true });
    log(`removed ${name}`);
  }
  const oldest = copies.slice(0, KEPT).at(-1);
  const label = fs.readFileSync(path.join(dir, oldest, 'backup_label'), 'utf8');
  const first = /START WAL LOCATION: .* \(file (\w+)\)/.exec(label)[1];
  must(run(user, `${bin}/pg_archivecleanup`, ['-x', '.gz', wal, first]), 'pg_archivecleanup');
}

/**
 * Puts a copy in the place of the database, with every change that was kept since, or up to a moment. What was there
 * before is set aside, never removed.
 * @param {{ dir: string, to: Date | null, log: (words: string) => void, verify: (env: Record<string, string>) => Promise<void> }} o
 *   verify: looks at the restored database, by the way to it, and throws when it is not whole
 */
export async function restore({ dir, to, log, verify }) {
  checkFolder(dir);
  const { bin, base, user, data, live } = cluster();
  if (live) throw new Error('the database runs: stop Rouse with Ctrl-C in its terminal, then run this again');
  const name = copiesIn(dir).find((copy) => to === null || timeOf(copy) <= to);
  if (!name)
    throw new Error(
      `${dir} has no whole copy${to ? ` from before ${to.toISOString()}` : ''}: name the folder that npm run backup wrote`,
    );
  const fresh = path.join(base, 'data.restored');
  fs.rmSync(fresh, { recursive: true, force: true });
  log(`copying ${name}`);
  must(run(user, 'cp', ['-a', path.join(dir, name), fresh]), 'cp');
  const settings = {
    restore_command: `gunzip -c ${dir}/wal/%f.gz > %p`,
    // it must not write into the folder that it reads from
    archive_mode: 'off',
    ...(to && {
      recovery_target_time: to.toISOString().replace('T', ' ').replace('Z', '+00'),
      recovery_target_action: 'promote',
    }),
  };
  const lines = Object.entries(settings).map(([key, value]) => `${key} = '${value}'\n`);
  fs.appendFileSync(path.join(fresh, 'postgresql.auto.conf'), lines.join(''));
  fs.writeFileSync(path.join(fresh, 'recovery.signal'), '');
  if (process.getuid() === 0) fs.chownSync(path.join(fresh, 'recovery.signal'), user.uid, user.gid);
  await replay({
    bin,
    base,
    user,
    fresh,
    verify,
    log,
    settings: [...Object.keys(settings), 'archive_command', 'archive_timeout'],
  });
  if (fs.existsSync(data)) {
    const aside = `${data}.before-${nameNow().slice('base-'.length)}`;
    fs.renameSync(data, aside);
    log(`what was there before is set aside: ${aside}`);
  }
  fs.renameSync(fresh, data);
  // the copy may have the password of another machine
  forgetOwnerPassword();
  log('restored: npm start, then npm run backup, which keeps changes again');
}

/** Starts the copy by itself, out of everybody's reach, lets it catch up, has it looked at, and stops it. */
async function replay({ bin, base, user, fresh, verify, log, settings }) {
  const port = await freePort();
  const trust = path.join(base, 'restore.hba');
  const words = path.join(base, 'restore.log');
  fs.rmSync(words, { force: true });
  fs.writeFileSync(trust, 'local all all trust\n');
  if (process.getuid() === 0) fs.chownSync(trust, user.uid, user.gid);
  const o = `-p ${port} -c listen_addresses='' -c unix_socket_directories='${base}' -c unix_socket_permissions=0700 -c hba_file='${trust}'`;
  const ctl = (...args) =>
    run(user, `${bin}/pg_ctl`, ['-D', fresh, '-w', '-s', ...args], { stdio: ['ignore', 'ignore', 'pipe'] });
  const started = ctl('-t', '600', '-l', words, '-o', o, 'start');
  if (started.status !== 0) throw new Error(`the copy does not start: ${started.stderr}\n${tail(words)}`);
  const db = new pg.Client({ host: base, port, user: 'rouse', database: 'postgres' });
  // it may stop in the middle: what that was is in its log
  db.on('error', () => undefined);
  try {
    await caughtUp(db).catch((error) => {
      throw new Error(`the copy stopped while it caught up: ${error.message}\n${tail(words)}`);
    });
    log('caught up with what was kept since');
    await verify({ PGHOST: base, PGPORT: String(port), PGUSER: 'rouse', PGDATABASE: 'rouse' });
    for (const key of settings) await db.query(`ALTER SYSTEM RESET ${key}`);
  } finally {
    await db.end().catch(() => undefined);
    ctl('-m', 'fast', 'stop');
    fs.rmSync(trust, { force: true });
  }
}

async function caughtUp(db) {
  await db.connect();
  while ((await db.query('SELECT pg_is_in_recovery() AS behind')).rows[0].behind) await sleep(100);
}
