import type { Page } from 'puppeteer-core';
import { expect, test } from 'vitest';
import { DEMO, FLEET } from '../../server/src/demo/identity.ts';
import { seriousFindings, signInPage } from './chrome.ts';
import { fillBrief } from './pilot.ts';
import { useStage } from './stage.ts';

const stage = useStage();
const heavy = FLEET.find((a) => a.typeId === 'X14')!.aircraftId;
const SCREENS = {
  today: '/',
  brief: `/brief/${heavy}`,
  types: '/types',
  type: '/types/H9/1',
  debrief: '/debrief',
  tails: '/log/tails',
  runs: '/log/runs',
  own: '/log/me',
  recording: '/log/recording',
  trends: `/log/${DEMO.aircraftId}/trends`,
  exceedances: `/log/${DEMO.aircraftId}/exceedances`,
  books: `/log/${DEMO.aircraftId}/books`,
  power: `/power/${FLEET.find((a) => a.typeId === 'H9')!.aircraftId}`,
  drill: '/drill',
} as const;
/** What an administrator keeps. */
const SET_UP = ['first-steps', 'aircraft', 'sites', 'lines', 'people', 'operator', 'audit', 'me'];
/** Whether a screen fits at every size is asked by the layout test; a phone is read in the flows. */
const LIGHTS = ['day', 'night', 'sun'] as const;

/** What is serious on the page that is open; another light changes colours alone. */
async function wrongOn(page: Page, name: string): Promise<string[]> {
  const found: string[] = [];
  for (const [i, light] of LIGHTS.entries()) {
    await page.evaluate((l) => document.documentElement.setAttribute('data-light', l), light);
    found.push(...(await seriousFindings(page, i > 0)).map((finding) => `${name}, ${light}: ${finding}`));
  }
  return found;
}

test('everything that is set up can be read by day, by night and in the sun, a draft of a type too', async () => {
  const { page } = stage.open;
  await signInPage(page, stage.rouse.base, 'administrator');
  const found: string[] = [];
  for (const name of SET_UP) {
    await page.goto(`${stage.rouse.base}/set-up/${name}`, { waitUntil: 'networkidle2' });
    await page.waitForSelector('main h1');
    found.push(...(await wrongOn(page, name)));
  }
  const { body } = await stage.call.post('/types/drafts', { like: 'haugh-h9' });
  await page.goto(`${stage.rouse.base}/types/drafts/${(body as { draft?: string }).draft!}`, {
    waitUntil: 'networkidle2',
  });
  await page.waitForSelector('[data-problems="0"]');
  expect([...found, ...(await wrongOn(page, 'draft'))]).toEqual([]);
});

test('every screen can be read, by day, by night and in the sun', async () => {
  const { page } = stage.open;
  const found: string[] = [];
  for (const [name, place] of Object.entries(SCREENS)) {
    await page.goto(`${stage.rouse.base}${place}`, { waitUntil: 'networkidle2' });
    await page.waitForSelector('h1');
    if (name === 'brief') await fillBrief(page, '1400');
    if (name === 'power') await page.waitForSelector('[data-line="hoist"]');
    found.push(...(await wrongOn(page, name)));
  }
  expect(found).toEqual([]);
});

test('every place of the rail is reached with the keyboard, and says where it is', async () => {
  const { page } = stage.open;
  await page.goto(`${stage.rouse.base}/types`, { waitUntil: 'networkidle2' });
  for (const [name, title] of [
    ['Today', /Today/],
    ['Brief', /Brief/],
    ['Set up', /Aircraft · Set up/],
    ['Debrief', /Debrief|Runs/],
  ] as const) {
    await page.$$eval('nav[aria-label="Rouse"] a', (links, n) => links.find((l) => l.textContent === n)!.focus(), name);
    await page.keyboard.press('Enter');
    await page.waitForFunction(
      (n) => document.querySelector('nav[aria-label="Rouse"] a.active')?.textContent === n,
      {},
      name,
    );
    await page.waitForFunction((t) => new RegExp(t).test(document.title), {}, title.source);
    expect(await page.$$eval('main', (all) => all.length)).toBe(1);
  }
});
