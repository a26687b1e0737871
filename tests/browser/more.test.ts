import type { RunsPage, Today } from '@rouse/core/contract';
import { expect, test } from 'vitest';
import { verifyBundle } from '@rouse/core/format';
import { waitUntil } from '../rouse.ts';
import { WHOLE } from '../../core/tests/whole.ts';
import { seriousFindings, spoken } from './chrome.ts';
import { leaveItem, presentItem, workByKeyboard } from './pilot.ts';
import { useStage } from './stage.ts';

const stage = useStage();

const CAUGHT = [
  ['hung-start', 'Hung start', /Ng hangs at \d+\.\d %/, /Hung at \d+ percent/],
  ['no-light', 'No light', /No light 6\.0 s after fuel/, /No light/],
  ['weak-battery', 'Volts too low', /Bus \d+\.\d V: below 13\.2 V/, /Volts low/],
] as const;
// the hot start is flown by the tests of a run; of the others one by one
test.each(CAUGHT.slice(0, WHOLE ? CAUGHT.length : 1))(
  '%s is caught with its reason, its figure and its actions',
  async (preset, title, figure, said) => {
    const { page } = stage.open;
    const run = await stage.openAt('QV-SKY', preset, 'start-engine', { times: 1 });
    await workByKeyboard(page, 'engine-start');
    await leaveItem(page, 'engine-start', 40_000);
    expect(await stage.text('[data-abort] h2')).toBe(title);
    expect(await stage.text('[data-abort] header')).toMatch(figure);
    expect((await spoken(page)).join(' ')).toMatch(said);
    expect(await stage.text('[aria-label="Immediate actions"]')).toMatch(/Engine selector/);
    expect(await presentItem(page)).toMatch(/-selector-off$/);
    const stopping = await presentItem(page);
    await page.keyboard.press('s');
    await leaveItem(page, stopping);
    const { entries } = await stage.call.detail(run);
    expect(entries.some((e) => e.kind === 'item-done' && e.item.endsWith('-selector-off') && e.how === 'sensed')).toBe(
      true,
    );
  },
);

test('the conditions are chosen with the keyboard, and locked while a run is open', async () => {
  await stage.choose('mild');
  const { page } = stage.open;
  await page.goto(`${stage.rouse.base}/`);
  await page.waitForSelector('details summary');
  await page.click('details summary');
  await page.waitForSelector('[role="radiogroup"]');
  await page.focus('[role="radiogroup"] input');
  await page.keyboard.press('ArrowDown');
  await page.waitForFunction(() =>
    document.querySelector('label[data-selected]')?.textContent?.startsWith('Second flight'),
  );
  const today = await stage.call.get<Today>('/today');
  expect(today.aircraft.find((a) => a.wired)!.standIn!.preset).toBe('warm-turn-round');
  await stage.call.open();
  await page.reload();
  await page.waitForFunction(() => document.activeElement?.textContent === 'Go on');
  await page.click('details summary');
  await page.waitForSelector('[role="radiogroup"] input:disabled');
  expect(await page.$('[role="radiogroup"] input:enabled')).toBeNull();
});

test('a run that is open shows on every page, and leads back to itself', async () => {
  const { page } = stage.open;
  const run = await stage.call.open();
  for (const place of ['/', '/log/tails', '/set-up/aircraft', '/drill', '/debrief']) {
    await page.goto(`${stage.rouse.base}${place}`);
    const link = await page.waitForSelector('nav a:has([data-open-runs="1"])');
    expect(await link!.evaluate((e) => e.textContent)).toBe('Start 1 run is open');
  }
  await page.click('nav a:has([data-open-runs="1"])');
  await page.waitForFunction((r) => location.pathname === `/start/${r}`, {}, run);
  await page.waitForSelector('footer [data-source="live"]');
  await stage.call.settle();
  await page.goto(`${stage.rouse.base}/log/tails`, { waitUntil: 'networkidle2' });
  expect(await page.$eval('nav a[href="/start"]', (e) => e.textContent.trim())).toBe('Start');
});

test('the pilot stops a start with Esc, and the record says so', async () => {
  const { page } = stage.open;
  const run = await stage.openAt('QV-SKY', 'mild', 'start-engine', { times: 1 });
  await page.keyboard.press('Escape'); // nothing runs: nothing to stop
  await workByKeyboard(page, 'engine-start');
  await page.waitForFunction(() => Number(document.querySelector('[data-channel="ng.1"] b')?.textContent) > 8);
  await page.keyboard.press('m');
  await page.keyboard.press('Escape');
  await page.waitForSelector('[data-abort="pilot"]');
  const { entries } = await stage.call.detail(run);
  expect(entries.filter((e) => e.kind === 'abort').map((e) => e.reason)).toEqual(['pilot']);
  expect(entries.some((e) => e.kind === 'mark')).toBe(true);
});

test('while oil warms, another item is taken with its number', async () => {
  const { page } = stage.open;
  await stage.openAt('QV-SKY', 'cold', 'captions-idle', { times: 1 });
  await page.waitForFunction(() => document.body.textContent?.includes('Meanwhile'));
  const key = await page.$$eval('li', (rows) => rows.find((r) => r.textContent.startsWith('Avionics'))?.querySelector('kbd')?.textContent); // oxfmt-ignore
  await page.keyboard.press(key as '1');
  await page.waitForSelector('[data-item="avionics-on"]');
  await page.keyboard.press('s');
  await leaveItem(page, 'avionics-on');
  expect(await presentItem(page)).toBe('captions-idle');
  await page.keyboard.press('Space');
  await leaveItem(page, 'captions-idle');
  expect(await stage.text('[role="progressbar"] , main')).toMatch(/Engine oil/);
});

test('help, why and voice answer their keys', async () => {
  const { page } = stage.open;
  await stage.openAt('QV-SKY', 'mild', 'start-engine', { times: 1 });
  await page.keyboard.press('?');
  await page.waitForFunction(() => document.body.textContent?.includes('mark the moment'));
  expect(await stage.text('[data-item]')).toContain('off is always yours');
  await page.keyboard.press('w');
  await page.waitForFunction(
    () => !document.querySelector('[data-item]')?.textContent?.includes('off is always yours'),
  );
  await page.keyboard.press('v');
  await page.waitForFunction(() => document.querySelector('footer')?.textContent?.includes('Voice off'));
  await workByKeyboard(page, 'engine-start');
  await page.waitForFunction(() => document.querySelector('footer')?.textContent?.includes('Starter engaged'));
  expect(await spoken(page)).toEqual([]);
});

test('an earlier start is read back: tables, exports, and a note that stays', async () => {
  const { page } = stage.open;
  await page.goto(`${stage.rouse.base}/log/runs`);
  await page.waitForSelector('main td a');
  const { runs } = await stage.call.get<RunsPage>('/log/runs');
  const { run } = runs.find((r) => r.tail === 'QV-SKY' && r.outcome === 'ready')!;
  const place = await page.$$eval(
    'main a',
    (links, id) => links.map((a) => a.href).find((href) => href.includes(id))!,
    run,
  );
  await page.goto(place);
  await page.waitForSelector('[data-chain="true"]');
  const tables = await page.$$('section[aria-label="Drawings"] button');
  for (const button of tables) await button.click();
  await page.waitForFunction(
    (opened) => document.querySelectorAll('section[aria-label="Drawings"] table').length === opened,
    {},
    tables.length,
  );
  expect(await stage.text('section[aria-label="Drawings"] table')).toMatch(/Ng %This start °CUsual °C/);
  expect(await seriousFindings(page)).toEqual([]);

  const exports = await page.$$eval('nav[aria-label="Exports"] a', (links) =>
    links.map((a) => (a as HTMLAnchorElement).href),
  );
  const [csv, bundle] = await Promise.all(
    exports.map(async (href) => (await stage.call.fetch(new URL(href).pathname.replace('/api', ''))).text()),
  );
  expect(csv).toMatch(/^t_s,ng\.1_pct/);
  expect(verifyBundle(bundle!).ok).toBe(true);

  const add = (await page.$$('footer button')).at(-1)!;
  await add.click();
  await page.waitForSelector('footer input');
  await page.keyboard.type('Gusty from the left.');
  await page.keyboard.press('Enter');
  await page.waitForFunction(() =>
    document.querySelector('[aria-label="What happened"]')?.textContent?.includes('Gusty from the left.'),
  );
  await waitUntil(async () => (await stage.call.detail(run)).entries.some((e) => e.kind === 'note'));
  await page.reload();
  await page.waitForSelector('[data-chain="true"]');
});

test('a run that is not there, and a place that is not there, say so and show the way back', async () => {
  const { page } = stage.open;
  await page.goto(`${stage.rouse.base}/debrief/0193a000-0000-7000-8000-00000000dead`, { waitUntil: 'networkidle2' });
  await page.waitForSelector('[role="alert"]');
  expect(await stage.text('[role="alert"]')).toMatch(/no run/);
  await page.goto(`${stage.rouse.base}/start`);
  await page.waitForFunction(() => document.body.textContent?.includes('No run is open'));
  await page.goto(`${stage.rouse.base}/nowhere`);
  await page.waitForFunction(() => document.body.textContent?.includes('There is no such page'));
  stage.open.complaints.length = 0; // the router names the missing place on the console
});
