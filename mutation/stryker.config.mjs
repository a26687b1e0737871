// Asked for by scripts/mutate.mjs, one folder of the core at a time: its code is changed, its own tests must fail.
import fs from 'node:fs';
import path from 'node:path';

const folder = process.env.MUTATED ?? 'ratings';
/** one block of lines in so many, where a share is asked for instead of all of the folder */
const oneIn = Number(process.env.MUTATED_ONE_IN ?? 1);
/** what is known of a share is kept apart: its score is of these blocks alone */
const report = process.env.MUTATED_REPORT ?? folder;
const BLOCK_LINES = 10;

/** the files of this part, every so many-th of the folder, so that each part has large and small ones */
function filesOfPart() {
  const dir = `core/src/${folder}`;
  const [part, parts] = (process.env.MUTATED_PART ?? '1/1').split('/').map(Number);
  return fs
    .readdirSync(dir, { recursive: true, encoding: 'utf8' })
    .filter((file) => file.endsWith('.ts') && !file.endsWith('index.ts'))
    .sort()
    .filter((_, i) => i % parts === part - 1)
    .map((file) => `${dir}/${file}`);
}

function blocks() {
  const found = [];
  let block = 0;
  for (const file of filesOfPart()) {
    const lines = fs.readFileSync(file, 'utf8').split('\n').length;
    for (let line = 1; line <= lines; line += BLOCK_LINES)
      if (block++ % oneIn === 0) found.push(`${file}:${line}-${line + BLOCK_LINES - 1}`);
  }
  return found;
}

export default {
  testRunner: 'vitest',
  plugins: [path.join(import.meta.dirname, 'node_modules/@stryker-mutator/vitest-runner/dist/src/index.js')],
  vitest: { configFile: 'mutation/vitest.config.ts', related: false },
  ignorePatterns: ['.local', '.git', 'docs', 'web', 'server', 'cli', 'standin', 'bench', '**/dist'],
  coverageAnalysis: 'perTest',
  mutate: oneIn > 1 ? blocks() : filesOfPart(),
  // words are read by people: their tests are written for what they say, not for every letter
  mutator: { excludedMutations: ['StringLiteral'] },
  ignoreStatic: true,
  // what was killed stays killed while neither its code nor its tests change
  incremental: true,
  incrementalFile: `.local/stryker/${report}.known.json`,
  tempDirName: '.local/stryker/work',
  reporters: ['clear-text', 'progress-append-only', 'json'],
  jsonReporter: { fileName: `.local/stryker/${report}.json` },
  clearTextReporter: { allowColor: false, logTests: false, reportTests: false },
  concurrency: 2,
  timeoutMS: 10_000,
};
