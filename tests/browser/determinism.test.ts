import path from 'node:path';
import { build } from 'esbuild';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { ROOT, types } from '../skerry.ts';
import { type Chrome, launchChrome } from './chrome.ts';
import { digestOf } from './determinism.ts';

let chrome: Chrome;
beforeAll(async () => {
  chrome = await launchChrome();
});
afterAll(() => chrome.close());

test('every plant gives the same bits in Node and in Chromium', async () => {
  const bundled = await build({
    entryPoints: [path.join(ROOT, 'tests/browser/determinism.ts')],
    bundle: true,
    write: false,
    format: 'iife',
    globalName: 'rouse',
    logLevel: 'error',
  });
  const page = await chrome.browser.newPage();
  await page.addScriptTag({ content: bundled.outputFiles[0]!.text });
  for (const { id, simulator } of types) {
    const there = await page.evaluate(
      (parameters) =>
        (window as unknown as { rouse: { digestOf: typeof digestOf } }).rouse.digestOf(parameters as never),
      simulator as never,
    );
    expect([id, there]).toEqual([id, digestOf(simulator!)]);
  }
});
