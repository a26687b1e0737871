import path from 'node:path';
import { lessonsOf } from '@rouse/aircraft';
import { needWatched } from '@rouse/core/aircraft';
import { build } from 'esbuild';
import type { Page } from 'puppeteer-core';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { ROOT, types } from '../skerry.ts';
import { type Chrome, launchChrome } from './chrome.ts';
import { digestOf, drillDigestOf } from './determinism.ts';

let chrome: Chrome;
beforeAll(async () => {
  chrome = await launchChrome();
});
afterAll(() => chrome.close());

/** A page that has the bundled code. */
async function pageWithCode(): Promise<Page> {
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
  return page;
}

test('every plant gives the same bits in Node and in Chromium', async () => {
  const page = await pageWithCode();
  for (const { id, simulator } of types) {
    const there = await page.evaluate(
      (parameters) =>
        (window as unknown as { rouse: { digestOf: typeof digestOf } }).rouse.digestOf(parameters as never),
      simulator as never,
    );
    expect([id, there]).toEqual([id, digestOf(simulator!)]);
  }
});

test('a whole lesson gives the same journal, the same marks and the same bits in Node and in Chromium', async () => {
  const page = await pageWithCode();
  for (const id of ['S7', 'T2']) {
    const type = needWatched(types.find((t) => t.id === id)!);
    const lesson = lessonsOf(ROOT, type).lessons.find((l) => l.id === 'recall-start')!;
    const there = await page.evaluate(
      (t, l) =>
        (window as unknown as { rouse: { drillDigestOf: typeof drillDigestOf } }).rouse.drillDigestOf(
          t as never,
          l as never,
        ),
      type as never,
      lesson as never,
    );
    expect(there).toBe(drillDigestOf(type, lesson));
  }
});
