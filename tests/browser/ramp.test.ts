import path from 'node:path';
import net from 'node:net';
import { once } from 'node:events';
import type { RunDetail } from '@rouse/core/contract';
import { checkChain } from '@rouse/core/procedure';
import type { Page } from 'puppeteer-core';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { DEMO } from '../../server/src/demo/identity.ts';
import { Caller, ROOT, Rouse } from '../rouse.ts';
import { type Chrome, launchChrome, openPage, seriousFindings } from './chrome.ts';
import { answerByKeyboard, fillBrief, leaveItem, presentItem } from './pilot.ts';

let rouse: Rouse;
let chrome: Chrome;
let call: Caller;
beforeAll(async () => {
  // the server comes back where it was
  const free = net.createServer().listen(0, '127.0.0.1');
  await once(free, 'listening');
  const { port } = free.address() as net.AddressInfo;
  free.close();
  [rouse, chrome] = await Promise.all([Rouse.start({ demoStarts: 10, webDir: path.join(ROOT, 'web/dist'), port }), launchChrome()]);
  call = new Caller(rouse.base);
}); // oxfmt-ignore
afterAll(async () => {
  await chrome.close();
  await rouse.stop();
  expect(rouse.errors).toEqual([]);
});

/** Presses a button by the keyboard, as soon as it is there: found and focused between two pictures. */
async function pressed(page: Page, name: string): Promise<void> {
  await page.waitForFunction(
    (n) => {
      const button = [...document.querySelectorAll('button')].find((b) => b.textContent.startsWith(n) && !b.disabled);
      button?.focus();
      return button !== undefined && document.activeElement === button;
    },
    {},
    name,
  );
  await page.keyboard.press('Enter');
}

test('a server that dies while the list is worked: it goes on by hand in the same run, and the journal says so', { timeout: 300_000 }, async () => {
  const { page, complaints } = await openPage(chrome.browser, rouse.base);
  const run = await call.open();
  await page.goto(`${rouse.base}/start/${run}`, { waitUntil: 'networkidle2' });
  await page.waitForSelector('[data-item="papers"]');
  await rouse.program.stop();
  await page.waitForSelector('[data-away]');
  for (const id of ['papers', 'blades']) await answerByKeyboard(page, id);
  const stood = await presentItem(page);
  expect(await page.$eval('footer', (e) => e.textContent)).toContain('kept on this page');
  await rouse.launch();
  await page.waitForFunction(() => !document.querySelector('[data-away]') && !document.querySelector('footer')!.textContent.includes('kept on this page'));
  const { entries } = await call.get<RunDetail>(`/runs/${run}`);
  expect(checkChain(entries)).toBeNull();
  const done = entries.filter((e) => e.kind === 'item-done').map((e) => e.item);
  expect(done).toEqual(['papers', 'blades']);
  const outage = entries.findIndex((e) => e.kind === 'note' && e.text.startsWith('No server was reached from'));
  expect(outage).toBeGreaterThan(0);
  expect(outage).toBeLessThan(entries.findIndex((e) => e.kind === 'item-done'));
  expect(await presentItem(page)).toBe(stood);
  await call.settle();
  await page.close();
  expect(complaints.filter((c) => !/ERR_CONNECTION|WebSocket|Failed to load resource/.test(c))).toEqual([]);
}); // oxfmt-ignore

test('without a server Rouse opens, a run is worked by hand and outlives a reload, and the server takes it as it is', { timeout: 300_000 }, async () => {
  const { page, complaints } = await openPage(chrome.browser, rouse.base, { keepsOffline: true });
  await page.goto(rouse.base, { waitUntil: 'networkidle2' });
  await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined));
  await page.reload({ waitUntil: 'networkidle2' });
  await page.waitForFunction(() => navigator.serviceWorker.controller !== null);
  await page.goto(`${rouse.base}/brief/${DEMO.aircraftId}`, { waitUntil: 'networkidle2' });
  await fillBrief(page, '300');

  await rouse.program.stop();
  await page.goto(rouse.base, { waitUntil: 'domcontentloaded' });
  await page.waitForSelector('[data-away]');
  await page.waitForSelector('article[aria-label="QV-SKY"]');
  expect(await page.$eval('[data-away]', (e) => e.textContent)).toMatch(/No server since .* What is shown is as it was at/);
  expect(await seriousFindings(page)).toEqual([]);
  // what never changes comes out of the browser: there is no server all the same
  await page.goto(`${rouse.base}/brief/${DEMO.aircraftId}`, { waitUntil: 'domcontentloaded' });
  await page.waitForSelector('[data-away]');
  await pressed(page, 'Begin by hand, kept on this tablet');
  await page.waitForSelector('[data-item]');
  const run = page.url().split('/').pop()!;
  const first = await presentItem(page);
  for (let i = 0; i < 3; i++) await answerByKeyboard(page, await presentItem(page));
  const stood = await presentItem(page);
  expect(stood).not.toBe(first);
  await page.reload({ waitUntil: 'domcontentloaded' });
  await page.waitForSelector('[data-item]');
  expect(await presentItem(page)).toBe(stood);
  await page.waitForSelector('[data-tablet="open"]');
  await page.keyboard.press('f');
  await page.waitForSelector('[data-item] form input, [data-item] form textarea');
  await page.keyboard.type('A crack at the root.');
  await page.keyboard.press('Enter');
  await leaveItem(page, stood);
  await pressed(page, 'Give this run up');
  await pressed(page, 'Give it up');
  await page.waitForSelector('[data-tablet="waiting"]');

  await rouse.launch();
  await page.waitForFunction(() => !document.querySelector('[data-tablet]') && !document.querySelector('[data-away]'));
  const kept = await call.get<RunDetail>(`/runs/${run}`);
  expect(checkChain(kept.entries)).toBeNull();
  expect(kept.conditions).toContain('written on a tablet without a server');
  expect(kept.entries.some((e) => e.kind === 'item-fault' && e.note === 'A crack at the root.')).toBe(true);
  await page.close();
  // a page without its server says so in the console too
  expect(complaints.filter((c) => !/ERR_CONNECTION|WebSocket|Failed to load resource/.test(c))).toEqual([]);
}); // oxfmt-ignore
