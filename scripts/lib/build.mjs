// Builds the page with Vite and the three Node programs with esbuild, when their sources changed.
import { createHash } from 'node:crypto';
import fs from 'node:fs';
import path from 'node:path';
import { ROOT } from './pg.mjs';
import { log, sh, timed } from './setup.mjs';

export const PROGRAMS = {
  server: path.join(ROOT, 'server/dist/main.js'),
  prepare: path.join(ROOT, 'server/dist/prepare-main.js'),
  verify: path.join(ROOT, 'server/dist/verify-main.js'),
  retain: path.join(ROOT, 'server/dist/retain-main.js'),
  compile: path.join(ROOT, 'server/dist/compile-worker.js'),
  fly: path.join(ROOT, 'server/dist/fly-worker.js'),
  reckon: path.join(ROOT, 'server/dist/reckon-worker.js'),
  standin: path.join(ROOT, 'standin/dist/main.js'),
  cli: path.join(ROOT, 'cli/dist/main.js'),
};
const SOURCES = [
  'core/src',
  'core/package.json',
  'server/src',
  'standin/src',
  'cli/src',
  'web/src',
  'web/index.html',
  'web/public',
  'web/worker',
  'web/vite.config.ts',
  'aircraft',
  'package-lock.json',
  'tsconfig.base.json',
  'scripts/lib/build.mjs',
];

function treeHash(places) {
  const hash = createHash('sha256');
  const walk = (place) => {
    if (!fs.existsSync(place)) return;
    if (fs.statSync(place).isDirectory()) {
      for (const entry of fs.readdirSync(place).sort()) walk(path.join(place, entry));
    } else {
      hash.update(path.relative(ROOT, place)).update(fs.readFileSync(place));
    }
  };
  for (const place of places) walk(path.join(ROOT, place));
  return hash.digest('hex');
}

/** npm packages stay outside the bundle; the workspaces' sources go in. */
export const externals = {
  name: 'externals',
  setup(build) {
    build.onResolve({ filter: /^[^./]/ }, (found) =>
      found.kind === 'entry-point' || found.path.startsWith('@rouse/')
        ? undefined
        : { path: found.path, external: true },
    );
  },
};

/** One Node program in one file. */
export async function bundle(entry, outfile) {
  const { build } = await import('esbuild');
  await build({
    absWorkingDir: ROOT,
    entryPoints: [entry],
    outfile,
    bundle: true,
    platform: 'node',
    target: 'node20',
    format: 'esm',
    sourcemap: true,
    logLevel: 'warning',
    plugins: [externals],
  });
}

async function buildPrograms() {
  await Promise.all(
    Object.values(PROGRAMS).map((outfile) =>
      bundle(path.relative(ROOT, outfile).replace('/dist/', '/src/').replace(/\.js$/, '.ts'), outfile),
    ),
  );
}

const PAGE = path.join(ROOT, 'web/dist');

/** Every file of the built page that a browser loads; those in assets are named by what is in them. */
function builtFiles() {
  return fs
    .readdirSync(PAGE, { recursive: true, withFileTypes: true })
    .filter(
      (found) =>
        found.isFile() &&
        !/\.map$|^\./.test(found.name) &&
        !found.parentPath.includes('.vite') &&
        found.name !== 'sw.js',
    )
    .map((found) => {
      const file = path.join(found.parentPath, found.name);
      const url = `/${path.relative(PAGE, file).split(path.sep).join('/')}`;
      const digest = createHash('sha256').update(fs.readFileSync(file)).digest('hex');
      return { url, revision: url.startsWith('/assets/') ? null : digest };
    });
}

/** The worker that keeps the page on a device, with the list of what it keeps. */
async function buildServiceWorker() {
  const { build } = await import('esbuild');
  await build({
    absWorkingDir: ROOT,
    entryPoints: ['web/worker/service-worker.ts'],
    outfile: path.join(PAGE, 'sw.js'),
    bundle: true,
    minify: true,
    platform: 'browser',
    target: 'es2022',
    format: 'iife',
    logLevel: 'warning',
    define: { BUILT_FILES: JSON.stringify(builtFiles()), 'process.env.NODE_ENV': '"production"' },
  });
}

async function buildPage() {
  const vite = path.join(ROOT, 'node_modules/vite/bin/vite.js');
  await sh(process.execPath, [vite, 'build', '--logLevel', 'warn'], { cwd: path.join(ROOT, 'web') });
  await buildServiceWorker();
}

/** @param {{ quiet?: boolean, page?: boolean }} [options] page: false builds the Node programs only */
export async function build({ quiet = false, page = true } = {}) {
  const key = treeHash(SOURCES);
  const stamp = path.join(ROOT, page ? 'web/dist/.stamp' : 'cli/dist/.stamp');
  if (fs.existsSync(stamp) && fs.readFileSync(stamp, 'utf8') === key) {
    if (!quiet) log('build: up to date');
    return;
  }
  const work = () => Promise.all([buildPrograms(), page ? buildPage() : undefined]);
  await (quiet ? work() : timed('build', work));
  fs.writeFileSync(stamp, key);
}
