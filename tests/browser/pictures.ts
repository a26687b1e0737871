// The pictures of docs/screenshots, from a running demo in which no run is open.
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Today } from '@rouse/core/contract';
import type { ElementHandle } from 'puppeteer-core';
import { FLEET } from '../../server/src/demo/identity.ts';
import { Caller, goodBrief } from '../caller.ts';
import { ROOT, types } from '../skerry.ts';
import { launchChrome, signInPage } from './chrome.ts';
import { answerByKeyboard, beginByKeyboard, fillBrief, fillField, reportOfNow, workByKeyboard } from './pilot.ts';

const BASE = process.env['ROUSE'] ?? 'http://127.0.0.1:8640';
const OUT = path.join(ROOT, 'docs/screenshots');
type Light = 'day' | 'night' | 'sun';

const chrome = await launchChrome();
const page = await chrome.browser.newPage();
await signInPage(page, BASE);
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

const figureAbove = (channel: string, value: number): Promise<unknown> =>
  page.waitForFunction(
    (c, v) => Number(document.querySelector(`[data-channel="${c}"] b`)?.textContent) > v,
    { polling: 20 },
    channel,
    value,
  );

/** A recorded file. */
async function replay(): Promise<void> {
  await at('/log/recording');
  const input = (await page.waitForSelector('input[type="file"]')) as ElementHandle<HTMLInputElement>;
  const [hot] = (await call.get<Today>('/today')).aircraft.find((a) => a.tail === 'QV-SKY')!.recent;
  const csv = await call.fetch(`/runs/${hot!.run}/trace.csv`);
  const place = path.join(mkdtempSync(path.join(tmpdir(), 'rouse-')), 'recorder.csv');
  writeFileSync(place, await csv.text());
  await input.uploadFile(place);
  await page.waitForSelector('[data-column]');
  await page.$$eval('button', (buttons) => buttons.find((b) => b.textContent === 'Read the whole file')!.click());
  await page.waitForSelector('[aria-label="What the watch says of this file"] button');
  await page.$$eval('[aria-label="What the watch says of this file"] button', (buttons) =>
    buttons.find((b) => b.textContent?.includes('Rotor turning'))!.click(),
  );
  await page.waitForFunction(() => Number(document.querySelector('[data-channel="nr"] b')?.textContent) > 8);
  await shot('replay-day');
}

/** A check of a trainer that is not good. */
async function runUp(): Promise<void> {
  const { aircraftId } = FLEET.find((a) => a.tail === 'QV-TRN')!;
  await call.choose('live-magneto', aircraftId);
  const { body } = await call.post('/runs', { aircraft: aircraftId, brief: goodBrief(aircraftId) });
  const run = body.run!;
  await call.post('/stand-in/pace', { run, times: 8 });
  await at(`/start/${run}`);
  await call.work(run, 'magnetos-low-left-first');
  await page.waitForSelector('[data-item="magnetos-low-left-first"]');
  while (!(await page.$('[data-found="fault"]'))) await answerByKeyboard(page, 'magnetos-low-left-first');
  await shot('magnetos-day');
  await call.settle();
}

/** The first page, what an operator keeps, and a type that is being written. */
async function setUp(): Promise<void> {
  const draft = await call.post('/types/drafts', { like: 'haugh-h9' });
  await at(`/types/drafts/${(draft.body as { draft?: string }).draft!}`);
  await (await page.waitForSelector('[data-part="procedure/before-start.yaml"]'))!.press('Enter');
  await (await page.waitForSelector('[data-row="bus-volts"] button[aria-expanded]'))!.press('Enter');
  await page.waitForSelector('[data-problems="0"]');
  await shot('editor-day');
  await signInPage(page, BASE, 'administrator');
  await at('/set-up/sites');
  await page.waitForSelector('[data-pad]');
  await page.$eval('section[aria-label="Varra"]', (e) => e.scrollIntoView());
  await shot('set-up-day');
  await page.browserContext().deleteCookie(...(await page.browserContext().cookies()));
  await at('/');
  await page.waitForSelector('main ::-p-text(Look around)');
  await shot('sign-in-day');
  await signInPage(page, BASE);
}

/** A twin from its last look to a quiet aircraft, its board; and a start that is drilled. */
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
  // a figure that was typed keeps its keys
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await page.keyboard.press('x');
  await page.waitForSelector('[data-item="rotor-wind-stop"]');
  await workByKeyboard(page, 'end');
  await shot('shut-down-day');
  await call.settle();

  await at('/drill/C5/1/recall-start');
  await page.waitForSelector('[data-drill="flying"]');
  for (const key of ['b', 'u', 'l'] as const) await page.keyboard.press(key);
  await page.click('[data-spot="bus-volts"]');
  await page.keyboard.down('s');
  await page.waitForFunction(() => Number(document.querySelector('[data-channel="ng.1"] b')?.textContent) > 14);
  await page.keyboard.down('Shift');
  for (let i = 0; i < 8; i++) await page.keyboard.press('ArrowUp');
  await page.keyboard.up('Shift');
  await page.waitForFunction(() => Number(document.querySelector('[data-channel="tot.1"] b')?.textContent) > 500);
  await shot('drill-day');
  await page.keyboard.up('s');
}

try {
  await choose('mild');
  await at('/');
  await page.waitForFunction(() =>
    [...document.querySelectorAll('article')].every((a) => !a.textContent!.includes('worked out')),
  );
  await shot('today-day');
  await at(`/log/${FLEET.find((a) => a.tail === 'QV-COR')!.aircraftId}/trends`);
  await page.waitForSelector('[aria-label="What it means"]');
  await shot('trends-day');

  const heavy = FLEET.find((a) => a.tail === 'QV-ERN')!;
  await at(`/brief/${heavy.aircraftId}`);
  await fillBrief(page, '420', reportOfNow({ wind: '24012G21KT' }));
  await fillField(page, 'Outside', '3');
  await fillField(page, 'Dew point', '1');
  await shot('brief-day');

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

  await replay();
  await runUp();
  await liftAndBack();

  await choose('hot-start');
  await beginByKeyboard(page, BASE);
  await workByKeyboard(page, 'engine-start');
  await page.waitForSelector('[data-abort] h2');
  await shot('abort-night', 'night');
  await workByKeyboard(page, 'end');
  await call.settle();
  await choose('mild');
  await setUp();
} finally {
  await chrome.close();
}
