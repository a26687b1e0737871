// npm run mutate [-- FOLDER... --one-in N]: changes the code of these folders of the core bit by bit; their tests must
// notice. One block of lines in N tells how a folder stands in a part of the time.
import fs from 'node:fs';
import path from 'node:path';
import { parseArgs } from 'node:util';
import { ROOT } from './lib/pg.mjs';
import { fail, installPackages, log, requireNode, sh } from './lib/setup.mjs';

const FOLDERS = ['watch', 'session', 'procedure', 'power', 'ratings', 'weather', 'replay'];

/** What lived is tried again: the tool cannot tell that a new test would notice it now. */
function forgetSurvivors(folder) {
  const file = path.join(ROOT, `.local/stryker/${folder}.known.json`);
  if (!fs.existsSync(file)) return;
  const known = JSON.parse(fs.readFileSync(file, 'utf8'));
  for (const of of Object.values(known.files))
    of.mutants = of.mutants.filter(({ status }) => status === 'Killed' || status === 'Timeout');
  fs.writeFileSync(file, JSON.stringify(known));
}

requireNode();
const { positionals: asked, values } = parseArgs({
  allowPositionals: true,
  options: { 'one-in': { type: 'string', default: '1' } },
});
const unknown = asked.filter((folder) => !FOLDERS.includes(folder));
try {
  if (unknown.length > 0)
    throw new Error(`there is no ${unknown.join(', ')} to mutate; there is ${FOLDERS.join(', ')}`);
  await installPackages();
  for (const folder of asked.length > 0 ? asked : FOLDERS) {
    log(`mutating core/src/${folder}; what survives is in .local/stryker/${folder}.json`);
    forgetSurvivors(folder);
    await sh(process.execPath, [path.join(ROOT, 'node_modules/@stryker-mutator/core/bin/stryker.js'), 'run'], {
      env: { ...process.env, MUTATED: folder, MUTATED_ONE_IN: values['one-in'] },
    });
  }
} catch (error) {
  fail(error);
}
