// The pictures of docs/screenshots, from a running demo in which no run is open.
import path from 'node:path';
import type { Page } from 'puppeteer-core';
import { FLEET } from '../../server/src/demo/identity.ts';
import { Caller } from '../caller.ts';
import { ROOT } from '../skerry.ts';
import { launchChrome } from './chrome.ts';
import {
  beginBefore,
  beginByKeyboard,
  fillBrief,
  fillField,
  leaveItem,
  presentItem,
  reportOfNow,
  workByKeyboard,
} from './pilot.ts';

const BASE = process.env['ROUSE'] ?? 'http://127.0.0.1:8640';
const OUT = path.join(ROOT, 'docs/screenshots');
type Light = 'day' | 'night' | 'sun';

const chrome = await launchChrome();
const page = await chrome.browser.newPage();
const call = new Caller(BASE);

async function shot(name: string, light: Light = 'day', width = 1280, height = 800): Promise<void> {
  await page.setViewport({ width, height });
  await page.evaluate((l) => document.documentElement.setAttribute('data-light', l), light);
  await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
  await page.screenshot({ path: path.join(OUT, `${name}.png`) });
  console.log(`docs/screenshots/${name}.png`);
}

const choose = (preset: string): Promise<unknown> => call.choose(preset);
const at = (place: string): Promise<unknown> => page.goto(`${BASE}${place}`, { waitUntil: 'networkidle2' });

/** A run of a tail that is worked by hand, in a method that the house may not use. */
async function byHand(tail: string, method: string, fuel: string): Promise<Page> {
  const { aircraftId } = FLEET.find((a) => a.tail === tail)!;
  await at(`/brief/${aircraftId}`);
  await fillBrief(page, fuel);
  const select = `select:has(option[value="${method}"])`;
  if ((await page.$eval(select, (s) => (s as HTMLSelectElement).value)) !== method) {
    await page.select(select, method);
    await page.type('input[aria-label*="differs today"]', 'line check');
  }
  await beginBefore(page);
  return page;
}

const figureAbove = (channel: string, value: number): Promise<unknown> =>
  page.waitForFunction(
    (c, v) => Number(document.querySelector(`[data-channel="${c}"] b`)?.textContent) > v,
    { polling: 20, timeout: 60_000 },
    channel,
    value,
  );

try {
  await choose('mild');
  await at('/');
  await shot('today-day');

  const heavy = FLEET.find((a) => a.tail === 'QV-ERN')!;
  await at(`/brief/${heavy.aircraftId}`);
  await fillBrief(page, '420', reportOfNow({ wind: '24012G21KT' }));
  await fillField(page, 'Outside', '3');
  await fillField(page, 'Dew point', '1');
  await shot('brief-day');
  await shot('brief-night', 'night');

  await byHand('QV-ERN', 'flow-then-verify', '420');
  for (let zones = 0; zones < 2; zones++) {
    const zone = await presentItem(page);
    await page.keyboard.press('Space');
    await leaveItem(page, zone);
  }
  await shot('flow-day');
  await byHand('QV-COR', 'two-crew', '180');
  await workByKeyboard(page, 'controls');
  await shot('two-crew-portrait', 'day', 820, 1180);
  await page.setViewport({ width: 1280, height: 800 });
  await call.settle();

  await at('/types/X14/1');
  await page.waitForSelector('#limits');
  await shot('type-day');

  await beginByKeyboard(page, BASE);
  await workByKeyboard(page, 'captions-cold');
  await shot('before-start-day');
  await workByKeyboard(page, 'engine-start');
  await figureAbove('ng.1', 31);
  await shot('start-day');
  await shot('start-night', 'night');
  await shot('start-portrait', 'day', 820, 1180);
  await page.setViewport({ width: 1280, height: 800 });
  await workByKeyboard(page, 'selector-flight');
  await shot('warm-up-day');
  await workByKeyboard(page, 'end');
  await page.keyboard.press('Space');
  await page.waitForFunction(() => document.body.textContent?.includes('This run is closed'));
  await at(new URL(page.url()).pathname.replace('/start/', '/debrief/'));
  await page.waitForSelector('[data-chain]');
  await shot('debrief-day');
  await shot('debrief-night', 'night');

  await choose('hot-start');
  await beginByKeyboard(page, BASE);
  await workByKeyboard(page, 'engine-start');
  await page.waitForSelector('[data-abort] h2', { timeout: 60_000 });
  await shot('abort-night', 'night');
  await workByKeyboard(page, 'end');
  await call.settle();
  await choose('mild');
} finally {
  await chrome.close();
}
