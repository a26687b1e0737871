// npm test [-- --whole]: set up, then every check there is, then one closing line: N passed, N failed. `--whole` also flies
// what other tests tell in part.
import fs from 'node:fs';
import path from 'node:path';
import { ROOT } from './lib/pg.mjs';
import { fail, installFromDebian, installPackages, log, requireNode, seconds, sh, timed } from './lib/setup.mjs';
import { build } from './lib/build.mjs';

requireNode();
const since = performance.now();
const whole = process.argv.includes('--whole');
const program = (place) => path.join(ROOT, 'node_modules', place);
let passed = 0;
let failed = 0;

async function check(name, work) {
  try {
    await timed(name, work);
    passed += 1;
  } catch (error) {
    failed += 1;
    log(`${name} FAILED: ${error.message}`);
  }
}

// more checkers than one each find the same types anew: two cores take twice as long with four
const ONE_CHECKER = ['--checkers', '1'];
const ONE_THREAD = { GOMAXPROCS: '1' };

const typeCheck = () =>
  check('type check', () =>
    sh(process.execPath, [program('typescript-7/bin/tsc'), '-b', ...ONE_CHECKER], {
      env: { ...process.env, ...ONE_THREAD },
    }),
  );

const lint = () =>
  check('lint', () =>
    sh(process.execPath, [program('oxlint/bin/oxlint'), '--type-aware', '--max-warnings', '0'], {
      env: { ...process.env, ...ONE_THREAD },
    }),
  );

async function layersAndUnused() {
  await check('layers', () =>
    sh(process.execPath, [
      program('dependency-cruiser/bin/dependency-cruise.mjs'),
      '--config',
      '.dependency-cruiser.cjs',
      'core/src',
      'aircraft/src',
      'server/src',
      'standin/src',
      'cli/src',
      'web/src',
    ]),
  );
  await check('unused files, exports and packages', () =>
    sh(process.execPath, [program('knip/bin/knip.js'), '--no-progress']),
  );
}

try {
  await Promise.all([installFromDebian({ chromium: true }), installPackages()]);
  await check('format', () => sh(process.execPath, [program('oxfmt/bin/oxfmt'), '--check']));
  await Promise.all([typeCheck(), lint(), layersAndUnused(), build()]);
  const report = path.join(ROOT, '.local/vitest.json');
  fs.rmSync(report, { force: true });
  await timed('unit, server and browser tests', () =>
    sh(
      process.execPath,
      [
        program('vitest/vitest.mjs'),
        'run',
        '--reporter=default',
        '--reporter=json',
        `--outputFile.json=${report}`,
        ...process.argv.slice(2).filter((arg) => arg !== '--whole'),
      ],
      {
        env: { ...process.env, NODE_ENV: 'test', ...(whole && { ROUSE_WHOLE: '1' }) },
      },
    ),
  ).catch((error) => log(error.message));
  const result = fs.existsSync(report)
    ? JSON.parse(fs.readFileSync(report, 'utf8'))
    : { numPassedTests: 0, numFailedTests: 1, numFailedTestSuites: 0 };
  passed += result.numPassedTests;
  failed += result.numFailedTests;
  // a file that could not even be loaded has no tests to count
  if (result.success === false && result.numFailedTests === 0) failed += Math.max(1, result.numFailedTestSuites ?? 0);
  log(`npm test took ${seconds(since)} s`);
  console.log(`${passed} passed, ${failed} failed`);
  process.exit(failed === 0 ? 0 : 1);
} catch (error) {
  console.log(`${passed} passed, ${failed + 1} failed`);
  fail(error);
}
