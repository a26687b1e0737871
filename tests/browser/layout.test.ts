import { expect, test } from 'vitest';
import { DEMO, FLEET } from '../../server/src/demo/identity.ts';
import { signInPage } from './chrome.ts';
import { layoutFaults } from './layout.ts';
import { fillBrief } from './pilot.ts';
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
  'a type': ['/types/H9/1', 'h1'],
};
const SET_UP = ['first-steps', 'aircraft', 'sites', 'lessons', 'lines', 'people', 'operator', 'audit', 'me'];

async function shown(place: string, awaited: string): Promise<void> {
  await stage.open.page.goto(`${stage.rouse.base}${place}`, { waitUntil: 'networkidle2' });
  await stage.open.page.waitForSelector(awaited);
}

test.each(Object.entries(SCREENS))('%s is whole at every size, in every light, with large letters', async (name, [place, awaited]) => {
  await shown(place, awaited);
  if (name === 'brief') await fillBrief(stage.open.page, '1400');
  expect(await layoutFaults(stage.open.page, name)).toEqual([]);
}); // prettier-ignore

test.each(SET_UP)('set up, %s is whole at every size, in every light, with large letters', async (name) => {
  await signInPage(stage.open.page, stage.rouse.base, 'administrator');
  await shown(`/set-up/${name}`, 'main h1');
  expect(await layoutFaults(stage.open.page, name)).toEqual([]);
});

const STOP = 'footer button[data-stop]';

test('Start: the item, the cue and the way to stop are on the screen, whatever the size', async () => {
  const { page } = stage.open;
  await stage.openAt('QV-SKY', 'mild', 'papers');
  const faults = await layoutFaults(page, 'the walk', ['main [data-item] h2', 'main [data-item] button.wide', STOP]);
  await page.setViewport({ width: 1280, height: 800 });
  const run = page.url().split('/').pop()!;
  await stage.call.work(run, 'engine-start');
  await page.waitForSelector('[data-item="engine-start"]');
  // as fast as life: a start of two seconds may be over before a slow page has drawn its cue
  await stage.call.post('/stand-in/pace', { run, times: 1 });
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
