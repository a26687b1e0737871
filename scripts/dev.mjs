// npm run dev: pages with hot reload, the server and the stand-in bundled and restarted at each change, demo data of their own.
import { randomBytes } from 'node:crypto';
import fs from 'node:fs';
import path from 'node:path';
import { keepRunning } from './lib/keep.mjs';
import { ROOT, startPostgres } from './lib/pg.mjs';
import { externals } from './lib/build.mjs';
import { fail, installFromDebian, installPackages, log, requireNode, runOnce, seconds } from './lib/setup.mjs';

requireNode();
const since = performance.now();
const OUT = path.join(ROOT, 'server/dist/dev'); // beside the sources, so that node_modules is found
const page = Number(process.env.PORT ?? 5173);
const api = page + 1;
const devices = [
  { tail: 'QV-SKY', type: 'skerry-s7', port: page + 3 },
  { tail: 'QV-TRN', type: 'tarn-t2', port: page + 4 },
];
let postgres;
let stopping = false;
const ends = [];

async function stop(code = 0) {
  if (stopping) return;
  stopping = true;
  await Promise.allSettled(ends.map((end) => end()));
  postgres?.stop();
  process.exit(code);
}

try {
  await Promise.all([installFromDebian({ chromium: false }), installPackages()]);
  postgres = await startPostgres({ log });
  const { context } = await import('esbuild');
  const { createServer } = await import('vite');
  const env = {
    NODE_ENV: 'development',
    APP_ROOT: ROOT,
    ADMIN_URL: postgres.url('postgres'),
    DATABASE_URL: postgres.serverUrl('rouse_dev'),
    MIGRATIONS_DIR: path.join(ROOT, 'server/migrations'),
    ROUSE_OUTBOX: path.join(ROOT, '.local/outbox-dev'),
    ROUSE_KEY_FILE: path.join(ROOT, '.local/key'),
    ROUSE_LINES_PORT: '0',
    ROUSE_WEB: 'none',
    ROUSE_DEMO_STARTS: process.env.ROUSE_DEMO_STARTS ?? '10',
    PORT: String(api),
    ROUSE_DEVICES: devices.map((d) => `${d.tail}=${d.port}`).join(','),
    ROUSE_CONTROL_PORT: String(page + 2),
    ROUSE_CONTROL_TOKEN: randomBytes(24).toString('base64url'),
  };
  const programs = {
    server: { entry: 'server/src/main.ts', args: [] },
    'stand-in device': {
      entry: 'standin/src/main.ts',
      args: [...devices.flatMap((d) => ['--unit', `${d.type}=127.0.0.1:${d.port}`]), '--control', String(page + 2)],
    },
  };
  const bundled = (name) => path.join(OUT, `${name.replaceAll(' ', '-')}.js`);

  /** Bundles at each change; a bundle that did not change, by a comment or a type, restarts nothing. */
  const follow = async (name, entry, onChanged) => {
    let last = '';
    const watching = await context({
      absWorkingDir: ROOT,
      entryPoints: [entry],
      outfile: bundled(name),
      bundle: true,
      platform: 'node',
      target: 'node20',
      format: 'esm',
      sourcemap: true,
      logLevel: 'warning',
      plugins: [
        externals,
        {
          name: 'restart',
          setup(build) {
            build.onEnd(({ errors }) => {
              if (errors.length > 0) return;
              const now = fs.readFileSync(bundled(name), 'utf8');
              if (now !== last) onChanged();
              last = now;
            });
          },
        },
      ],
    });
    ends.push(() => watching.dispose());
    await watching.rebuild();
    await watching.watch();
  };

  await follow('prepare', 'server/src/prepare-main.ts', () => undefined);
  await runOnce([bundled('prepare')], env);
  for (const [name, { entry, args }] of Object.entries(programs)) {
    let kept = null;
    await follow(name, entry, () => {
      if (kept) return kept.restart();
      kept = keepRunning({
        name,
        args: [bundled(name), ...args],
        env,
        onMessage: (message) => message?.say && log(message.say),
        onGivenUp: () => void stop(1),
      });
      ends.push(() => kept.stop());
    });
  }
  const proxied = `http://127.0.0.1:${api}`;
  const vite = await createServer({
    root: path.join(ROOT, 'web'),
    server: {
      host: '127.0.0.1',
      port: page,
      strictPort: true,
      // Host stays the page's own, so that the server's look at the origin holds
      proxy: {
        '/api': { target: proxied, changeOrigin: false },
        '/live': { target: proxied.replace('http', 'ws'), ws: true, changeOrigin: false },
      },
    },
  });
  await vite.listen();
  ends.push(() => vite.close());
  // Vite hangs its own end on these, and would be gone before the database is stopped
  process.removeAllListeners('SIGTERM');
  process.stdin.removeAllListeners('end');
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void stop());
  log(`ready in ${seconds(since)} s: open http://127.0.0.1:${page}`);
} catch (error) {
  postgres?.stop();
  fail(error);
}
