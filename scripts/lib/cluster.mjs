// A database that fails over, on one machine and on loopback, without system services: three etcd, two PostgreSQL under
// Patroni, and HAProxy before them and before the servers. Debian's packages; Node built-ins only.
import { spawn, spawnSync } from 'node:child_process';
import { createHash, randomBytes } from 'node:crypto';
import fs from 'node:fs';
import net from 'node:net';
import path from 'node:path';
import { pgBin, pgUser, ROOT } from './pg.mjs';

const isRoot = process.getuid() === 0;
/** the longest that a dead primary keeps its lock, s: shorter is quicker and less patient with a busy machine */
const TTL_S = 10;
const pause = (ms) => new Promise((r) => setTimeout(r, ms));
const as = () => (isRoot ? { uid: pgUser(null).uid, gid: pgUser(null).gid } : {});
/** without sbin haproxy would not be found; PG* of whoever calls must not leak in */
const env = (home) => ({
  PATH: `${pgBin().dir}:/usr/local/bin:/usr/bin:/bin:/usr/sbin`,
  HOME: home,
  LC_ALL: 'C.UTF-8',
  TZ: 'UTC',
});

/** Where it lies: in the checkout or, for root, where the user postgres reaches it. */
const DIR = isRoot
  ? path.join('/var/lib/rouse-cluster', createHash('sha256').update(ROOT).digest('hex').slice(0, 12))
  : path.join(ROOT, '.local/cluster');
const FILE = path.join(DIR, 'cluster.json');
const place = (...names) => path.join(DIR, ...names);

/** What is where: made once, read by every later command. @returns null where there is no cluster yet */
export const layout = () => (fs.existsSync(FILE) ? JSON.parse(fs.readFileSync(FILE, 'utf8')) : null);

/** @param {{ base: number, routed: { name: string, port: number, to: number[], check: number[] }[] }} wanted ports of the database from `base`; what else is routed, and whose pages say that it lives */
function plan({ base, routed }) {
  const node = (i) => ({ name: `node${i}`, pg: base + i, rest: base + 10 + i, dir: place(`node${i}`), data: place(`node${i}`, 'data') }); // oxfmt-ignore
  const etcd = (i) => ({ name: `etcd${i}`, client: base + 20 + i, peer: base + 30 + i });
  return {
    password: randomBytes(18).toString('base64url'),
    nodes: [1, 2].map(node),
    etcd: [1, 2, 3].map(etcd),
    rw: base + 40,
    routed,
  };
}

/** Patroni reads YAML, and JSON is YAML. */
const patroniConfig = (c, n) => ({
  scope: 'rouse',
  name: n.name,
  namespace: '/service/',
  restapi: { listen: `127.0.0.1:${n.rest}`, connect_address: `127.0.0.1:${n.rest}` },
  // the older interface on purpose: by the newer one Patroni 3.0.2 writes the lock without comparing, so that a primary
  // whose Patroni hung takes it back from the next one, and rows that were acknowledged are lost
  etcd: { hosts: c.etcd.map((e) => `127.0.0.1:${e.client}`) },
  bootstrap: {
    // read at the very first start; later: PATCH /config
    dcs: {
      // loop_wait + 2 * retry_timeout is at most ttl
      ttl: TTL_S,
      loop_wait: TTL_S / 5,
      retry_timeout: (TTL_S * 2) / 5,
      // a primary that crashed is followed by the standby at once
      primary_start_timeout: 0,
      // only a node that has every acknowledged commit may follow
      synchronous_mode: true,
      // without a standby the primary writes on, alone
      synchronous_mode_strict: false,
      // without etcd the primary goes on as long as it reaches the others
      failsafe_mode: true,
      postgresql: {
        use_pg_rewind: true,
        use_slots: true,
        parameters: {
          wal_level: 'replica',
          wal_log_hints: 'on',
          max_connections: 100,
          max_wal_senders: 10,
          max_replication_slots: 10,
          wal_keep_size: '256MB',
          synchronous_commit: 'on',
          shared_buffers: '128MB',
          timezone: 'UTC',
        },
      },
    },
    initdb: [{ encoding: 'UTF8' }, { locale: 'C.UTF-8' }, 'data-checksums'],
  },
  postgresql: {
    listen: `127.0.0.1:${n.pg}`,
    connect_address: `127.0.0.1:${n.pg}`,
    data_dir: n.data,
    bin_dir: pgBin().dir,
    pgpass: path.join(n.dir, 'pgpass'),
    authentication: {
      superuser: { username: 'rouse', password: c.password },
      replication: { username: 'replicator', password: c.password },
    },
    pg_hba: [
      'host all all 127.0.0.1/32 scram-sha-256',
      'host replication replicator 127.0.0.1/32 scram-sha-256',
      'local all all scram-sha-256',
    ],
    // the path of a socket may be too long: TCP only
    parameters: { unix_socket_directories: '', logging_collector: 'off' },
  },
  watchdog: { mode: 'off' },
});

function haproxyConfig(c) {
  const fast =
    'default-server inter 300ms fastinter 200ms downinter 300ms fall 2 rise 1 on-marked-down shutdown-sessions';
  const listen = (name, port, check, servers) =>
    `listen ${name}\n  bind 127.0.0.1:${port}\n  option httpchk ${check}\n  http-check expect status 200\n  ${fast}\n${servers.join('\n')}\n`;
  const database = c.nodes.map((n) => `  server ${n.name} 127.0.0.1:${n.pg} check port ${n.rest}`);
  const routed = c.routed.map(({ name, port, to, check }) =>
    listen(name, port, 'GET /healthz', to.map((at, i) => `  server server${i + 1} 127.0.0.1:${at} check port ${check[i]}`)),
  ); // oxfmt-ignore
  return `global
  maxconn 1000
defaults
  mode tcp
  balance roundrobin
  option redispatch
  retries 3
  timeout connect 2s
  timeout client 24h
  timeout server 24h
  timeout check 1s
${listen('database', c.rw, 'OPTIONS /primary', database)}${routed.join('')}`;
}

/** Alive, and still the one that was started: a number that was given again has another start time. */
function alive(name) {
  try {
    const { pid, started } = JSON.parse(fs.readFileSync(place('run', name), 'utf8'));
    const stat = startedAt(pid);
    return stat.state !== 'Z' && stat.started === started ? pid : null;
  } catch {
    return null;
  }
}

function startedAt(pid) {
  const fields = fs.readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1].split(' ');
  return { state: fields[0], started: fields[19] };
}

function launch(name, file, args, home = DIR) {
  if (alive(name)) return;
  const out = fs.openSync(place('log', `${name}.log`), 'a');
  const p = spawn(file, args, { cwd: '/', detached: true, stdio: ['ignore', out, out], env: env(home), ...as() });
  fs.closeSync(out);
  if (!p.pid) throw new Error(`${file} did not start; is it installed?`);
  p.unref();
  fs.writeFileSync(place('run', name), JSON.stringify({ pid: p.pid, started: startedAt(p.pid).started }));
}

async function end(name, within_ms = 20_000) {
  const pid = alive(name);
  if (!pid) return;
  process.kill(pid, 'SIGTERM');
  for (const since = performance.now(); alive(name); await pause(50))
    if (performance.now() - since > within_ms) return void process.kill(pid, 'SIGKILL');
}

/** The postmaster of a node: only a process that stands in that node's data. */
function postmaster(n) {
  try {
    const pid = Number(fs.readFileSync(path.join(n.data, 'postmaster.pid'), 'utf8').split('\n')[0]);
    return fs.readlinkSync(`/proc/${pid}/cwd`) === fs.realpathSync(n.data) ? pid : null;
  } catch {
    return null;
  }
}

const stopPostgres = (n, mode) =>
  postmaster(n) &&
  spawnSync(`${pgBin().dir}/pg_ctl`, ['-D', n.data, '-m', mode, '-w', 'stop'], { cwd: '/', env: env(n.dir), ...as() });

// the shell stays the parent: when Patroni dies, its postgres dies with it
const KEEPER =
  'patroni "$1" & p=$!; trap "kill $p" TERM INT; while kill -0 $p 2>/dev/null; do wait $p; done; pg_ctl -D "$2" -m immediate stop 2>/dev/null';

function startNode(n) {
  if (alive(n.name)) return;
  // a Patroni that is started over a postgres that still runs would set commits free that nobody else has
  stopPostgres(n, 'immediate');
  launch(n.name, '/bin/sh', ['-c', KEEPER, 'patroni-keeper', path.join(n.dir, 'patroni.json'), n.data], n.dir);
}

const children = (pid) =>
  fs.readFileSync(`/proc/${pid}/task/${pid}/children`, 'utf8').trim().split(' ').filter(Boolean).map(Number);

/** kill -9 of Patroni, its keeper and every process of its postgres, as when a machine is lost. */
export function killNode(n) {
  const keeper = alive(n.name);
  const main = postmaster(n);
  const all = [...(keeper ? [keeper, ...children(keeper)] : []), ...(main ? [main, ...children(main)] : [])];
  for (const pid of all) {
    try {
      process.kill(pid, 'SIGKILL');
    } catch {
      // gone already
    }
  }
}

/** @returns {Promise<'primary' | 'sync' | 'replica' | 'down'>} */
export async function role(n) {
  for (const r of ['primary', 'sync', 'replica']) {
    try {
      const answer = await fetch(`http://127.0.0.1:${n.rest}/${r}`, { signal: AbortSignal.timeout(1500) });
      if (answer.status === 200) return r;
    } catch {
      return 'down';
    }
  }
  return 'down';
}

async function until(what, test, within_ms = 120_000) {
  for (const since = performance.now(); ; await pause(100)) {
    if (await test()) return;
    if (performance.now() - since > within_ms)
      throw new Error(`waited ${within_ms / 1000} s in vain for ${what}; its words are in ${place('log')}`);
  }
}

const open = (port) =>
  new Promise((resolve) => {
    const s = net.connect(port, '127.0.0.1', () => {
      s.destroy();
      resolve(true);
    });
    s.on('error', () => resolve(false));
  });

function startEtcd(c) {
  for (const e of c.etcd)
    launch(
      e.name,
      '/usr/bin/etcd',
      Object.entries({
        name: e.name,
        'data-dir': place(e.name),
        'enable-v2': 'true',
        logger: 'zap',
        'log-level': 'warn',
        'listen-client-urls': `http://127.0.0.1:${e.client}`,
        'advertise-client-urls': `http://127.0.0.1:${e.client}`,
        'listen-peer-urls': `http://127.0.0.1:${e.peer}`,
        'initial-advertise-peer-urls': `http://127.0.0.1:${e.peer}`,
        'initial-cluster': c.etcd.map((x) => `${x.name}=http://127.0.0.1:${x.peer}`).join(','),
        // a busy disk must not cost the lock
        'heartbeat-interval': 300,
        'election-timeout': 3000,
        'auto-compaction-retention': '1h',
      }).map(([name, value]) => `--${name}=${value}`),
    );
}

const startRouter = () => launch('haproxy', '/usr/sbin/haproxy', ['-db', '-f', place('haproxy.cfg')]);

function make(wanted) {
  const c = plan(wanted);
  const folders = [DIR, ...['run', 'log'].map((f) => place(f)), ...c.nodes.map((n) => n.dir)];
  for (const folder of folders) fs.mkdirSync(folder, { recursive: true, mode: 0o700 });
  const put = (file, text) => fs.writeFileSync(file, text, { mode: 0o600 });
  for (const n of c.nodes) put(path.join(n.dir, 'patroni.json'), JSON.stringify(patroniConfig(c, n), null, 1));
  return c;
}

/** Starts what does not run; again is nothing. @returns the layout, with a primary and a synchronous standby */
export async function startCluster(wanted) {
  const c = { ...(layout() ?? make(wanted)), routed: wanted.routed };
  fs.writeFileSync(FILE, JSON.stringify(c, null, 1), { mode: 0o600 });
  fs.writeFileSync(place('haproxy.cfg'), haproxyConfig(c), { mode: 0o600 });
  if (isRoot) {
    fs.chmodSync(path.dirname(DIR), 0o755);
    spawnSync('chown', ['-R', `${as().uid}:${as().gid}`, DIR]);
  }
  startEtcd(c);
  await until('etcd', async () => (await Promise.all(c.etcd.map((e) => open(e.client)))).every(Boolean));
  const [first, second] = c.nodes;
  startNode(first);
  // the first one makes the database, the second copies it
  if (!fs.existsSync(path.join(second.data, 'PG_VERSION'))) await until('the first primary', async () => (await role(first)) === 'primary'); // oxfmt-ignore
  startNode(second);
  startRouter();
  await until('a primary and a synchronous standby', async () => {
    const roles = await Promise.all(c.nodes.map(role));
    return roles.includes('primary') && roles.includes('sync');
  });
  await until('the router', () => open(c.rw));
  return c;
}

/** Starts again what has died. */
export function reviveCluster(c) {
  startEtcd(c);
  for (const n of c.nodes) startNode(n);
  startRouter();
}

/** The standby first, so that nothing fails over on the way down. */
export async function stopCluster() {
  const c = layout();
  if (!c) return;
  await end('haproxy');
  const roles = await Promise.all(c.nodes.map(role));
  const order = [...c.nodes].sort((a, b) => (roles[c.nodes.indexOf(a)] === 'primary') - (roles[c.nodes.indexOf(b)] === 'primary')); // oxfmt-ignore
  for (const n of order) {
    await end(n.name, 60_000);
    stopPostgres(n, 'fast');
  }
  for (const e of c.etcd) await end(e.name);
}

/** Everything that was ever in it. */
export async function removeCluster() {
  await stopCluster();
  fs.rmSync(DIR, { recursive: true, force: true });
}
