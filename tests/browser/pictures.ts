// The pictures of docs/screenshots, from a running demo in which no run is open.
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Today } from '@rouse/core/contract';
import type { ElementHandle, Page } from 'puppeteer-core';
import { FLEET } from '../../server/src/demo/identity.ts';
import { Caller, goodBrief } from '../caller.ts';
import { ROOT, types } from '../skerry.ts';
import { launchChrome } from './chrome.ts';
import {
  answerByKeyboard,
  beginBefore,
  beginByKeyboard,
  fillBrief,
  fillField,
  leaveItem,
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
  await page.waitForFunction(
    () => !/^(Reading|Looking)/.test(document.querySelector('main [role="status"]')?.textContent ?? ''),
  );
  await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
  await page.screenshot({ path: path.join(OUT, `${name}.png`) });
  console.log(`docs/screenshots/${name}.png`);
}

const choose = (preset: string): Promise<unknown> => call.choose(preset);
const at = (place: string): Promise<unknown> => page.goto(`${BASE}${place}`, { waitUntil: 'networkidle2' });

/** A run of a tail that is worked by hand, in a method that the operator may not use. */
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

/** A run of a tail, worked up to one of its items. */
async function openAt(
  tail: string,
  until: string,
  options: { preset?: string; ways?: Record<string, string> } = {},
): Promise<string> {
  const { aircraftId } = FLEET.find((a) => a.tail === tail)!;
  if (options.preset) await call.choose(options.preset, aircraftId);
  const ways = Object.fromEntries(
    Object.entries(options.ways ?? {}).map(([id, to]) => [id, { to, reason: 'for the picture' }]),
  );
  const { body } = await call.post('/runs', {
    aircraft: aircraftId,
    brief: { ...goodBrief(aircraftId), ways },
  });
  await call.work(body.run!, until);
  await at(`/start/${body.run!}`);
  await page.waitForSelector(`[data-item="${until}"]`);
  return body.run!;
}

/** A twin, and a recorded file. */
async function twinAndReplay(): Promise<void> {
  await openAt('QV-ERN', 'load-2', { preset: 'mild', ways: { 'engine-first': 'always-2' } });
  await page.waitForFunction(() => document.querySelector('[data-item]')?.textContent?.includes('about'), {
    timeout: 60_000,
  });
  await shot('second-engine-day');
  await call.settle();

  await at('/replay');
  const input = (await page.waitForSelector('input[type="file"]')) as ElementHandle<HTMLInputElement>;
  const [hot] = (await call.get<Today>('/today')).aircraft.find((a) => a.tail === 'QV-SKY')!.recent;
  const csv = await fetch(`${BASE}/api/runs/${hot!.run}/trace.csv`);
  const place = path.join(mkdtempSync(path.join(tmpdir(), 'rouse-')), 'recorder.csv');
  writeFileSync(place, await csv.text());
  await input.uploadFile(place);
  await page.waitForSelector('[data-column]');
  await page.$$eval('button', (buttons) => buttons.find((b) => b.textContent === 'Read the whole file')!.click());
  await page.waitForSelector('[aria-label="What the watch says of this file"] button');
  await page.$$eval('[aria-label="What the watch says of this file"] button', (buttons) =>
    buttons.find((b) => b.textContent?.includes('Rotor turning'))!.click(),
  );
  await page.waitForFunction(() => Number(document.querySelector('[data-channel="nr"] b')?.textContent) > 8, {
    timeout: 30_000,
  });
  await shot('replay-day');
}

/** A trainer that warms up, and a check of it that is not good, measured and read back. */
async function runUp(): Promise<void> {
  const { aircraftId } = FLEET.find((a) => a.tail === 'QV-TRN')!;
  await call.choose('live-magneto', aircraftId);
  const { body } = await call.post('/runs', { aircraft: aircraftId, brief: goodBrief(aircraftId) });
  const run = body.run!;
  await call.post('/stand-in/pace', { run, times: 8 });
  await call.work(run, 'warm-up-low');
  await call.post('/stand-in/pace', { run, times: 1 });
  await at(`/start/${run}`);
  await page.waitForSelector('[data-item="warm-up-low"]');
  await page.keyboard.press('s');
  await page.waitForFunction(() => / to /.test(document.querySelector('[data-wait="oil-warm"]')?.textContent ?? ''), {
    timeout: 60_000,
  });
  await shot('warm-up-day');
  await call.post('/stand-in/pace', { run, times: 8 });
  await call.work(run, 'magnetos-low-left-first');
  await page.waitForSelector('[data-item="magnetos-low-left-first"]');
  while (!(await page.$('[data-found="fault"]'))) await answerByKeyboard(page, 'magnetos-low-left-first');
  await shot('magnetos-day');
  await page.keyboard.press('f');
  await page.waitForSelector('#ask');
  await page.keyboard.press('Enter');
  await leaveItem(page, 'magnetos-low-left-first');
  await page.keyboard.press('Space');
  await page.waitForFunction(() => document.body.textContent?.includes('This run is closed'));
  await at(`/debrief/${run}`);
  const checks = await page.waitForSelector('::-p-text(Checks,)');
  await checks!.press('Enter');
  await page.waitForSelector('[data-figure="drop-right"]');
  await shot('checks-night', 'night');
}

/** A twin from its last look to a quiet aircraft, its board, and a failure flown for practice. */
async function liftAndBack(): Promise<void> {
  const { aircraftId } = FLEET.find((a) => a.tail === 'QV-ERN')!;
  await call.choose('mild', aircraftId);
  const { body } = await call.post('/runs', { aircraft: aircraftId, brief: goodBrief(aircraftId) });
  const run = body.run!;
  await call.post('/stand-in/pace', { run, times: 8 });
  await call.work(run, 'power');
  await at(`/start/${run}`);
  await page.waitForSelector('[data-scan]');
  await shot('lift-day');
  await at(`/power/${aircraftId}`);
  await page.waitForSelector('[data-line="hoist"]');
  await shot('power-day');
  await at(`/start/${run}`);
  await workByKeyboard(page, 'end');
  await page.keyboard.press('x');
  await page.waitForSelector('[data-item="rotor-wind-stop"]');
  await workByKeyboard(page, 'end');
  await shot('shut-down-day');
  await call.settle();

  await at('/practice');
  await (await page.waitForSelector('::-p-text(Begin the hover)'))!.press('Enter');
  await page.waitForFunction(() => Number(document.querySelector('[data-nr]')?.textContent?.slice(0, 5)) > 90);
  await page.keyboard.press('1');
  await page.waitForSelector('::-p-text(engine 1 failed)');
  await page.waitForSelector('li[data-used]');
  await shot('practice-night', 'night');
}

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

  await byHand('QV-COR', 'two-crew', '180');
  await workByKeyboard(page, 'controls');
  await shot('two-crew-portrait', 'day', 820, 1180);
  await page.setViewport({ width: 1280, height: 800 });
  await call.settle();

  const strath = types.find((t) => t.id === 'X14')!;
  await at(`/types/X14/${strath.version}`);
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
  await workByKeyboard(page, 'end');
  await page.keyboard.press('Space');
  await page.waitForFunction(() => document.body.textContent?.includes('This run is closed'));
  await at(new URL(page.url()).pathname.replace('/start/', '/debrief/'));
  await page.waitForSelector('[data-chain]');
  await shot('debrief-day');

  await twinAndReplay();
  await runUp();
  await liftAndBack();

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
