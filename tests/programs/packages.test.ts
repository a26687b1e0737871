import { spawnSync } from 'node:child_process';
import { expect, test } from 'vitest';
import { ROOT } from '../rouse.ts';

interface Report {
  metadata?: { vulnerabilities: Record<string, number> };
}

test('no package that ships is known to be dangerous, as far as the registry answers', (context) => {
  const { stdout } = spawnSync('npm', ['audit', '--omit=dev', '--json'], { cwd: ROOT, encoding: 'utf8', timeout: 60_000 }); // oxfmt-ignore
  const { metadata } = (stdout.trim() === '' ? {} : JSON.parse(stdout)) as Report;
  // without a network, or with a registry that knows of no advisories, nothing can be said
  if (!metadata) return context.skip();
  const { high, critical, moderate } = metadata.vulnerabilities;
  expect({ high, critical, moderate }).toEqual({ high: 0, critical: 0, moderate: 0 });
});
