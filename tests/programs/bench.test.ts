import { spawnSync } from 'node:child_process';
import { readFileSync, rmSync } from 'node:fs';
import path from 'node:path';
import { afterAll, expect, test } from 'vitest';
import { bundle } from '../../scripts/lib/build.mjs';
import { ROOT } from '../rouse.ts';

/** those that need neither a browser nor a database; the others are measured by the tests of the pages themselves */
const ALONE = ['simulator', 'watch', 'codec', 'session', 'replay', 'procedure', 'authoring', 'checks', 'warm-up', 'one-engine', 'pages', 'alarms']; // oxfmt-ignore
const JSON_FILE = path.join(ROOT, 'bench/dist/smoke.json');

afterAll(() => rmSync(JSON_FILE, { force: true }));

// on a slow machine beside other tests all of them take minutes
test('every bench that runs alone runs in its short form, and gives figures', { timeout: 600_000 }, async () => {
  await bundle('bench/main.ts', path.join(ROOT, 'bench/dist/main.js'));
  await bundle('bench/failure-worker.ts', path.join(ROOT, 'bench/dist/failure-worker.js'));
  const { status, stdout, stderr } = spawnSync(
    process.execPath,
    [path.join(ROOT, 'bench/dist/main.js'), ...ALONE, '--smoke', '--json', JSON_FILE],
    { encoding: 'utf8', env: { ...process.env, APP_ROOT: ROOT } },
  );
  expect(stdout + stderr).not.toContain('FAILED');
  expect(status).toBe(0);
  const { lines, failed } = JSON.parse(readFileSync(JSON_FILE, 'utf8')) as {
    lines: { name: string; value: number | null }[];
    failed: string[];
  };
  expect(failed).toEqual([]);
  expect(lines.length).toBeGreaterThan(100);
  expect(lines.filter((l) => l.value === null)).toEqual([]);
});

test('a bench that is not there is said, with those that are', () => {
  const { status, stderr } = spawnSync(process.execPath, [path.join(ROOT, 'bench/dist/main.js'), 'speed'], {
    encoding: 'utf8',
  });
  expect(status).toBe(2);
  expect(stderr).toMatch(/no bench speed; there is simulator, watch/);
});
