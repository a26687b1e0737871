import { spawnSync } from 'node:child_process';
import path from 'node:path';
import { expect, test } from 'vitest';
import { bundle } from '../../scripts/lib/build.mjs';
import { ROOT } from '../rouse.ts';

test('the bench that starts the programs and a browser runs in its short form', { timeout: 420_000 }, async () => {
  const outfile = path.join(ROOT, 'bench/dist/main-browser.js');
  await bundle('bench/main.ts', outfile);
  const { stdout, stderr } = spawnSync(process.execPath, [outfile, 'cue', 'accounts', 'editor', '--smoke'], {
    encoding: 'utf8',
    env: { ...process.env, APP_ROOT: ROOT },
  });
  expect(stdout + stderr).not.toContain('FAILED');
  expect(stdout).toMatch(/cue: crossing frame to sound call[\s\S]*cue: crossing frame to painted cue/);
  expect(stdout).toMatch(/accounts: a sign-in[\s\S]*accounts: looking a session up[\s\S]*editor: a key in an item/);
});
