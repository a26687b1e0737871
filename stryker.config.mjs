// Asked for by scripts/mutate.mjs, one folder of the core at a time: its code is changed, its own tests must fail.
const folder = process.env.MUTATED ?? 'ratings';

export default {
  testRunner: 'vitest',
  vitest: { configFile: 'vitest.mutate.config.ts', related: false },
  ignorePatterns: ['.local', '.git', 'docs', 'web', 'server', 'cli', 'standin', 'bench', '**/dist'],
  coverageAnalysis: 'perTest',
  mutate: [`core/src/${folder}/**/*.ts`, '!**/index.ts'],
  // words are read by people: their tests are written for what they say, not for every letter
  mutator: { excludedMutations: ['StringLiteral'] },
  ignoreStatic: true,
  // what was killed stays killed while neither its code nor its tests change
  incremental: true,
  incrementalFile: `.local/stryker/${folder}.known.json`,
  tempDirName: '.local/stryker/work',
  reporters: ['clear-text', 'progress-append-only', 'json'],
  jsonReporter: { fileName: `.local/stryker/${folder}.json` },
  clearTextReporter: { allowColor: false, logTests: false, reportTests: false },
  concurrency: 2,
  timeoutMS: 10_000,
};
