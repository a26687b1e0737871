// npm run backup -- FOLDER: a whole copy of the running database, and from then on every change.
import { backUp } from './lib/backup.mjs';
import { fail, log, requireNode, timed } from './lib/setup.mjs';

requireNode();
try {
  const [dir] = process.argv.slice(2);
  if (!dir) throw new Error('name a folder on another disk: npm run backup -- /mnt/other/rouse');
  await timed('backup', () => backUp({ dir, log }));
} catch (error) {
  fail(error);
}
