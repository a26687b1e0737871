// npm run mutate [-- FOLDER... --one-in N --part K/N]: changes the code of these folders of the core bit by bit; their
// tests must notice. One block of lines in N tells how a folder stands in a part of the time; the parts of a folder, each
// of them whole files, are run one after another where there is no time for all of it at once. A file that is added
// moves the parts.
import fs from 'node:fs';
import path from 'node:path';
import { parseArgs } from 'node:util';
import { ROOT } from './lib/pg.mjs';
import { fail, installPackages, log, requireNode, sh } from './lib/setup.mjs';

const FOLDERS = ['watch', 'session', 'procedure', 'power', 'ratings', 'weather', 'replay'];

/** What lived is tried again: the tool cannot tell that a new test would notice it now. */
function forgetSurvivors(report) {
  const file = path.join(ROOT, `.local/stryker/${report}.known.json`);
  if (!fs.existsSync(file)) return;
  const known = JSON.parse(fs.readFileSync(file, 'utf8'));
  for (const source of Object.values(known.files))
    source.mutants = source.mutants.filter(({ status }) => status === 'Killed' || status === 'Timeout');
  fs.writeFileSync(file, JSON.stringify(known));
}

requireNode();
try {
  const { positionals: asked, values } = parseArgs({
    allowPositionals: true,
    options: { 'one-in': { type: 'string', default: '1' }, part: { type: 'string', default: '1/1' } },
  });
  const oneIn = Number(values['one-in']);
  if (!(Number.isInteger(oneIn) && oneIn > 0))
    throw new Error(`--one-in is a whole number from 1 on, not ${values['one-in']}`);
  const [part, parts] = values.part.split('/').map(Number);
  if (!(Number.isInteger(part) && Number.isInteger(parts) && part >= 1 && part <= parts))
    throw new Error(`--part is like 2/4, the second of four, not ${values.part}`);
  const unknown = asked.filter((folder) => !FOLDERS.includes(folder));
  if (unknown.length > 0)
    throw new Error(`there is no ${unknown.join(', ')} to mutate; there is ${FOLDERS.join(', ')}`);
  await installPackages();
  // a tool of its own, of two hundred packages that nothing else needs
  await installPackages('mutation');
  for (const folder of asked.length > 0 ? asked : FOLDERS) {
    const report = `${folder}${oneIn > 1 ? `.one-in-${oneIn}` : ''}${parts > 1 ? `.part-${part}-of-${parts}` : ''}`;
    log(`mutating core/src/${folder}; what survives is in .local/stryker/${report}.json`);
    forgetSurvivors(report);
    const stryker = path.join(ROOT, 'mutation/node_modules/@stryker-mutator/core/bin/stryker.js');
    await sh(process.execPath, [stryker, 'run', 'mutation/stryker.config.mjs'], {
      env: {
        ...process.env,
        MUTATED: folder,
        MUTATED_ONE_IN: String(oneIn),
        MUTATED_PART: values.part,
        MUTATED_REPORT: report,
      },
    });
  }
} catch (error) {
  fail(error);
}
