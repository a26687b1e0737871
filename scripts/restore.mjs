// npm run restore -- FOLDER [TIME]: the database as it was last, or at a moment, every chain of its journals checked.
import { restore } from './lib/backup.mjs';
import { build, PROGRAMS } from './lib/build.mjs';
import { fail, installFromDebian, installPackages, log, requireNode, runOnce, timed } from './lib/setup.mjs';

/** @returns {Date | null} */
function momentOf(text) {
  if (text === undefined) return null;
  const at = new Date(text);
  if (Number.isNaN(at.getTime())) throw new Error(`${text} is no time: write it like 2026-11-30T12:00:00Z`);
  return at;
}

requireNode();
try {
  const [dir, at] = process.argv.slice(2);
  if (!dir) throw new Error('name the folder of the backup: npm run restore -- /mnt/other/rouse');
  const to = momentOf(at);
  await Promise.all([installFromDebian({ chromium: false }), installPackages()]);
  await build({ page: false });
  await timed('restore', () => restore({ dir, to, log, verify: (env) => runOnce([PROGRAMS.verify], env) }));
} catch (error) {
  fail(error);
}
