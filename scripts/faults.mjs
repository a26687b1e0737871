// npm run faults [-- cluster] [-- --smoke]: builds, then kills and cuts, and prints what was lost.
import path from 'node:path';
import { ROOT } from './lib/pg.mjs';
import { fail, installFromDebian, installPackages, requireNode, sh } from './lib/setup.mjs';
import { build, bundle } from './lib/build.mjs';

requireNode();
try {
  await Promise.all([
    installFromDebian({ chromium: false, clockSteps: true, cluster: process.argv.includes('cluster') }),
    installPackages(),
  ]);
  await build();
  const outfile = path.join(ROOT, 'bench/dist/faults.js');
  await bundle('bench/faults/main.ts', outfile);
  await sh(process.execPath, [outfile, ...process.argv.slice(2)], { env: { ...process.env, APP_ROOT: ROOT } });
} catch (error) {
  fail(error);
}
