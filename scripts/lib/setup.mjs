// Everything a fresh machine lacks. Node built-ins only: this runs before node_modules exists.
import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import fs from 'node:fs';
import path from 'node:path';
import { pgBin, ROOT } from './pg.mjs';

let out = process.stdout;
/** For commands whose standard output is data: everything that is said goes to standard error. */
export const speakOnStandardError = () => {
  out = process.stderr;
};
export const log = (message) => out.write(`[rouse] ${message}\n`);
export const seconds = (since) => ((performance.now() - since) / 1000).toFixed(1);

/** Runs one named step and says how long it took. */
export async function timed(name, work) {
  const since = performance.now();
  const result = await work();
  log(`${name}: ${seconds(since)} s`);
  return result;
}

/** Ends the command with one plain sentence instead of a stack when the cause is known. */
export function fail(error) {
  console.error(`[rouse] stopped: ${error instanceof Error ? error.message : String(error)}`);
  process.exit(1);
}

export function requireNode() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19)) {
    fail(new Error(`Node 20.19 or newer is needed, this is ${process.versions.node}. Install it and try again.`));
  }
}

export function sh(file, args, options = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(file, args, { cwd: ROOT, stdio: ['ignore', out, 'inherit'], ...options });
    child.on('error', reject);
    child.on('exit', (code, signal) =>
      code === 0
        ? resolve()
        : reject(new Error(`${path.basename(file)} ${args.slice(0, 3).join(' ')} ended with ${signal ?? code}`)),
    );
  });
}

/** Runs a program of ours to its end, and passes on what it says. @throws Error with its exit code */
export function runOnce(args, env) {
  return new Promise((resolve, reject) => {
    const child = spawn(process.execPath, ['--enable-source-maps', ...args], {
      cwd: ROOT,
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
      env: { ...process.env, NODE_ENV: 'production', ...env },
    });
    child.on('message', (message) => message?.say && log(message.say));
    child.on('error', reject);
    child.on('exit', (code, signal) =>
      code === 0 ? resolve() : reject(new Error(`${path.basename(args[0])} ended with ${signal ?? code}; see above`)),
    );
  });
}

/** Installs PostgreSQL, for the tests Chromium and a reader of PDF, what steps a wall clock, and a database that fails over, from Debian when they are missing. */
export async function installFromDebian({ chromium, database = true, clockSteps = false, cluster = false }) {
  const want = [];
  if (database && !pgBin()) want.push('postgresql-15');
  // Chromium without windows of its own: the same pages for less work
  if (chromium && !fs.existsSync('/usr/bin/chromium-headless-shell'))
    want.push('chromium-headless-shell', 'fonts-dejavu-core');
  if (chromium && !fs.existsSync('/usr/bin/pdftotext')) want.push('poppler-utils');
  if (cluster && !fs.existsSync('/usr/bin/patroni')) want.push('etcd-server', 'patroni', 'haproxy');
  if (clockSteps && !fs.existsSync('/usr/bin/faketime')) want.push('faketime');
  if (!want.length) return;
  const sudo =
    process.getuid() === 0
      ? []
      : spawnSync('sudo', ['-n', 'true']).status === 0
        ? ['sudo', '-n', 'env', 'DEBIAN_FRONTEND=noninteractive']
        : null;
  if (!sudo) {
    throw new Error(
      `${want.join(', ')} missing, and neither root nor sudo is to be had. Ask someone who can: apt-get install -y ${want.join(' ')}`,
    );
  }
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  const run = (...command) => {
    const [file, ...args] = [...sudo, ...command];
    return sh(file, args, { env, stdio: ['ignore', 'ignore', 'inherit'] });
  };
  log(`installing ${want.join(', ')} from Debian; this takes one to three minutes`);
  await timed(`apt-get install ${want.join(' ')}`, async () => {
    if (want.includes('postgresql-15')) {
      // no machine-wide default cluster beside ours
      await run(
        'sh',
        '-c',
        'mkdir -p /etc/postgresql-common && { [ -e /etc/postgresql-common/createcluster.conf ] || echo "create_main_cluster = false" > /etc/postgresql-common/createcluster.conf; }',
      );
    }
    const options = ['-o', 'DPkg::Lock::Timeout=300', '-o', 'Acquire::Retries=3'];
    await run('apt-get', ...options, 'update', '-qq');
    await run(
      'apt-get',
      ...options,
      '-o',
      'Dpkg::Options::=--force-confold',
      'install',
      '-y',
      '-qq',
      '--no-install-recommends',
      ...want,
    );
  });
}

/** npm ci in a folder that has a lock file, once per lock file and Node version. */
export async function installPackages(folder = '.') {
  const dir = path.join(ROOT, folder);
  const key = createHash('sha256')
    .update(fs.readFileSync(path.join(dir, 'package-lock.json')))
    .update(process.version)
    .digest('hex');
  const packages = path.join(dir, 'node_modules');
  // packages of another checkout are that one's to change
  if (fs.lstatSync(packages, { throwIfNoEntry: false })?.isSymbolicLink()) return;
  const stamp = path.join(packages, '.ci-stamp');
  if (fs.existsSync(stamp) && fs.readFileSync(stamp, 'utf8') === key) return;
  // NODE_ENV=production would drop what the build needs
  const env = { ...process.env, NODE_ENV: 'development' };
  for (const name of Object.keys(env)) {
    if (/^npm_/i.test(name) && !/registry|cache|cafile|proxy|userconfig|globalconfig/i.test(name)) delete env[name];
  }
  log('installing packages with npm ci');
  await timed('npm ci', () =>
    sh('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error', '--include=dev', '--include=optional'], {
      cwd: dir,
      env,
    }),
  );
  fs.writeFileSync(stamp, key);
}
