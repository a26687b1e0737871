// npm run bench [simulator|watch|codec|pages|live]: builds, then measures.
import path from 'node:path';
import { ROOT } from './lib/pg.mjs';
import { fail, installFromDebian, installPackages, requireNode, sh } from './lib/setup.mjs';
import { build, bundle } from './lib/build.mjs';

requireNode();
try {
  await Promise.all([installFromDebian({ chromium: true }), installPackages()]);
  await build();
  const outfile = path.join(ROOT, 'bench/dist/main.js');
  await bundle('bench/main.ts', outfile);
  await bundle('bench/failure-worker.ts', path.join(ROOT, 'bench/dist/failure-worker.js'));
  await sh(process.execPath, [outfile, ...process.argv.slice(2)], { env: { ...process.env, APP_ROOT: ROOT } });
} catch (error) {
  fail(error);
}
