import { expect, test } from 'vitest';
import { DEMO, FLEET } from '../../server/src/demo/identity.ts';
import { unreadable } from './chrome.ts';
import { layoutFaults } from './layout.ts';
import { fillBrief, reportOfNow } from './pilot.ts';
import { useStage } from './stage.ts';

const stage = useStage();
const aircraftOf = (type: string): string => FLEET.find((a) => a.typeId === type)!.aircraftId;

/** Every screen, and what is awaited on it. */
const SCREENS: Readonly<Record<string, readonly [place: string, awaited: string]>> = {
  today: ['/', 'article[aria-label="QV-SKY"]'],
  brief: [`/brief/${aircraftOf('X14')}`, '#report'],
  power: [`/power/${aircraftOf('H9')}`, '[data-line="hoist"]'],
  debrief: ['/debrief', 'h1'],
  'log, tails': ['/log/tails', 'h1'],
  'log, runs': ['/log/runs', 'h1'],
  'log, own': ['/log/me', 'h1'],
  'log, a recording': ['/log/recording', 'h1'],
  'log, trends': [`/log/${DEMO.aircraftId}/trends`, 'h1'],
  'log, exceedances': [`/log/${DEMO.aircraftId}/exceedances`, 'h1'],
  'log, books': [`/log/${DEMO.aircraftId}/books`, 'h1'],
  drill: ['/drill', 'h1'],
  types: ['/types', 'h1'],
  'a type': ['/types/S7/2', 'h1'],
};
const STOP = 'footer button[data-stop]';

test.each(Object.entries(SCREENS))('%s can be read in every light, and is whole at every size with large letters', async (name, [place, awaited]) => {
  const { page } = stage.open;
  await page.goto(`${stage.rouse.base}${place}`, { waitUntil: 'networkidle2' });
  await page.waitForSelector(awaited);
  if (name === 'brief') await fillBrief(page, '1400', reportOfNow({ ahead_min: -50 }));
  expect([...(await unreadable(page)), ...(await layoutFaults(page, name))]).toEqual([]);
}); // oxfmt-ignore

test('Start: the item, the cue and the way to stop are on the screen, whatever the size', async () => {
  const { page } = stage.open;
  await stage.openAt('QV-SKY', 'mild', 'papers');
  const faults = await layoutFaults(page, 'the walk', ['main [data-item] h2', 'main [data-item] button.wide', STOP]);
  await page.setViewport({ width: 1280, height: 800 });
  const run = page.url().split('/').pop()!;
  await stage.call.work(run, 'start-engine');
  // as fast as life: a start of two seconds may be over before a slow page has drawn its cue
  await stage.call.post('/stand-in/pace', { run, times: 1 });
  await stage.call.work(run, 'engine-start');
  await page.waitForSelector('[data-item="engine-start"]');
  await stage.call.post('/stand-in/move', { run, item: 'engine-start' });
  await page.waitForSelector('footer [data-cue]');
  faults.push(...(await layoutFaults(page, 'the start', ['main [data-item] h2', STOP])));
  await page.keyboard.press('Escape');
  await page.waitForSelector('[data-abort]');
  faults.push(
    ...(await layoutFaults(page, 'the abort', [
      '[data-abort] h2',
      '[data-abort] [data-now="true"]',
      'footer [data-cue]',
      STOP,
    ])),
  );
  expect(faults).toEqual([]);
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
