// node scripts/screenshots.mjs: the pictures of docs/screenshots, taken from the running demo (npm start) by its keyboard.
import path from 'node:path';
import { bundle } from './lib/build.mjs';
import { ROOT } from './lib/pg.mjs';
import { fail, sh } from './lib/setup.mjs';

try {
  const outfile = path.join(ROOT, '.local/pictures.js');
  await bundle('tests/browser/pictures.ts', outfile);
  await sh(process.execPath, [outfile], { cwd: ROOT });
} catch (error) {
  fail(error);
}
