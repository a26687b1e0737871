// npm run retain: keeps readings of old runs as long as the policy says, beside a server that runs. Once a day is enough.
import { build, PROGRAMS } from './lib/build.mjs';
import { cluster, ownerPassword } from './lib/pg.mjs';
import { fail, installPackages, requireNode, runOnce, timed } from './lib/setup.mjs';

requireNode();
try {
  await installPackages();
  await build({ page: false });
  const { live } = cluster();
  if (!live) throw new Error('the database does not run: npm start, then npm run retain beside it');
  const way = { PGHOST: '127.0.0.1', PGPORT: String(live.port), PGUSER: 'rouse', PGDATABASE: 'rouse' };
  await timed('retain', () => runOnce([PROGRAMS.retain], { ...way, PGPASSWORD: ownerPassword() }));
} catch (error) {
  fail(error);
}
