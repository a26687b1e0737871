import { describe, expect, test } from 'vitest';
import { FLEET } from '../../server/src/demo/identity.ts';
import { openPage, seriousFindings } from './chrome.ts';
import { fillBrief } from './pilot.ts';
import { useStage } from './stage.ts';

const stage = useStage();
const heavy = FLEET.find((a) => a.typeId === 'X14')!.aircraftId;
const SCREENS = {
  today: '/',
  brief: `/brief/${heavy}`,
  types: '/types',
  type: '/types/H9/1',
  debriefs: '/debrief',
  power: `/power/${FLEET.find((a) => a.typeId === 'H9')!.aircraftId}`,
  practice: '/practice',
} as const;
const SIZES = [
  ['desk', 1280, 800],
  ['tablet upright', 820, 1180],
  ['phone', 390, 844],
] as const;

describe.each(SIZES)('on a %s', (_name, width, height) => {
  test.each(['day', 'night', 'sun'] as const)('every screen fits and can be read by %s', async (light) => {
    const { page, complaints } = await openPage(stage.chrome.browser, light);
    await page.setViewport({ width, height });
    for (const [name, place] of Object.entries(SCREENS)) {
      await page.goto(`${stage.rouse.base}${place}`, { waitUntil: 'networkidle2' });
      await page.waitForSelector('h1');
      if (name === 'brief') await fillBrief(page, '1400');
      if (name === 'power') await page.waitForSelector('[data-line="hoist"]');
      const wide = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
      expect([name, Math.max(0, wide)]).toEqual([name, 0]);
      expect([name, await seriousFindings(page)]).toEqual([name, []]);
    }
    expect(complaints).toEqual([]);
    await page.close();
  });
});

test('every place of the rail is reached with the keyboard, and says where it is', async () => {
  const { page } = stage.open;
  await page.goto(`${stage.rouse.base}/types`, { waitUntil: 'networkidle2' });
  for (const [name, title] of [
    ['Today', /Today/],
    ['Brief', /Brief/],
    ['Types', /Types/],
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
