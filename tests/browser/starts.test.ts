import { CLEAN_LINE } from '@rouse/core/contract';
import { reduceRun } from '@rouse/core/procedure';
import { expect, test } from 'vitest';
import { FLEET } from '../../server/src/demo/identity.ts';
import { seriousFindings } from './chrome.ts';
import { presentItem, workByKeyboard } from './pilot.ts';
import { useStage } from './stage.ts';

const stage = useStage(['QV-SKY', 'QV-TRN', 'QV-COR', 'QV-ERN']);
const idOf = (tail: string): string => FLEET.find((a) => a.tail === tail)!.aircraftId;

test(
  'a piston start: cranks, fires, has oil and charges, then the record draws its speed',
  { timeout: 180_000 },
  async () => {
    const { page } = stage.open;
    const run = await stage.openAt('QV-TRN', 'mild', 'start-engine', { times: 1 });
    await page.keyboard.press('s');
    await page.waitForFunction(() =>
      document
        .querySelector('[aria-label="Drawings"]')
        ?.textContent?.includes('engine speed in % over seconds from the starter'),
    );
    await page.waitForSelector('[data-item="oil-up"]', { timeout: 120_000 });
    const done = (await stage.call.detail(run)).entries.find((e) => e.kind === 'start-done');
    expect(done).toMatchObject({ watch: 'engine-1-start' });
    await page.goto(`${stage.rouse.base}/debrief/${run}`);
    await page.waitForSelector('svg[aria-label^="Engine speed over the seconds"] polyline');
  },
);

test('the second engine waits for the generator: how long is said, then it is open', { timeout: 360_000 }, async () => {
  const { page } = stage.open;
  const run = await stage.openAt('QV-ERN', 'mild', 'load-2', { times: 4 });
  await page.waitForFunction(
    () => /\d+ A[\s\S]*about 0:\d\d/.test(document.querySelector('[data-item="load-2"]')?.textContent ?? ''),
    { timeout: 80_000 },
  );
  await page.waitForSelector('[data-item="start-1-second"]', { timeout: 180_000 });
  await page.keyboard.press('s');
  await page.waitForFunction(() => document.body.textContent?.includes('Engine 1 start'));
  await page.waitForSelector('[data-item="generator-1-second"]', { timeout: 120_000 });
  const { entries } = await stage.call.detail(run);
  expect(entries.filter((e) => e.kind === 'start-done').map((e) => e.watch)).toEqual([
    'engine-2-start',
    'engine-1-start',
  ]);
  expect(entries.filter((e) => e.kind === 'cue' && e.code.startsWith('gate'))).toEqual([]);
});

test('a hot start of the manual turbine, stopped by keyboard; what must follow is on the screen', async () => {
  const { page } = stage.open;
  const run = await stage.openAt('QV-COR', 'hot-start', 'start-engine', { times: 1 });
  await page.keyboard.press('s');
  await page.waitForSelector('[data-abort="going-to-be-hot"]', { timeout: 80_000 });
  expect(await presentItem(page)).toBe('going-to-be-hot-grip');
  // the starter that stays on is seen at once, so its item may be gone before anybody looks
  await workByKeyboard(page, 'going-to-be-hot-starter-off');
  // stopped before a limit was passed, no engineer is needed; a busy machine may have been too slow for that
  const { entries } = await stage.call.detail(run);
  const passed = entries.some((e) => e.kind === 'exceedance' && e.expired && e.severity === 'warning');
  expect(await page.$eval('[data-next]', (e) => (e as HTMLElement).dataset['next'])).toBe(
    passed ? 'after-inspection' : 'held',
  );
  expect(await stage.text('[data-next]')).toContain(
    passed ? 'no further start before an engineer has looked' : 'Another start is open when',
  );
  expect(await seriousFindings(page)).toEqual([]);
});

test('a start timed by hand: moments by Space, a late one marked, the peak typed, and what nobody can judge said', async () => {
  const { page } = stage.open;
  const run = await stage.openAt('QV-COR', 'mild', 'start-engine', { byHand: true, times: 1 });
  expect(await stage.text('[data-source]')).toContain('By hand');
  expect(await stage.text('[aria-label="What cannot be judged"]')).toContain('hangs');
  for (const moment of ['Starter on', 'Fuel open', 'Light-off']) {
    await page.waitForSelector(`[data-moment="${moment}"]`);
    await page.keyboard.press('Space');
  }
  await page.waitForSelector('[data-moment="Rotor turning"]');
  const target = await page.$eval('[data-moment]', (e) => e.getBoundingClientRect().height);
  expect(target).toBeGreaterThanOrEqual(96);
  // the pilot was slow: the deadline of this moment runs out before it is tapped
  await page.waitForFunction(() => document.querySelector('[data-moment] [role="alert"]') !== null);
  for (const moment of ['Rotor turning', 'Starter off', 'Idle']) {
    await page.waitForSelector(`[data-moment="${moment}"]`);
    await page.keyboard.press('Space');
    if (moment === 'Rotor turning') await page.waitForSelector('[data-verdict="late"]');
  }
  await page.waitForSelector('[data-item="peak"]');
  await page.focus('#figure');
  await page.keyboard.type('hot');
  await page.keyboard.press('Enter');
  await page.waitForSelector('#figure-help[role="alert"]');
  await page.$eval('#figure', (e) => (e as HTMLInputElement).select());
  await page.keyboard.type('684');
  await page.keyboard.press('Enter');
  await page.waitForSelector('[data-item="oil-up"]');
  const { entries } = await stage.call.detail(run);
  expect(reduceRun(entries).items['peak']).toMatchObject({ status: 'done', value: 684 });
  expect(entries.some((e) => e.kind === 'start-state')).toBe(false); // the line was live, and was not listened to
});

test('over NMEA and UDP, with lines lost and garbled, the poor line is said until it is good again', async () => {
  const { page } = stage.open;
  const lay = async (line: object): Promise<void> =>
    expect((await stage.call.post('/stand-in/line', { aircraft: idOf('QV-SKY'), line })).status).toBe(200);
  await lay({ ...CLEAN_LINE, format: 'nmea', transport: 'udp', drop: 0.05, corrupt: 0.05, repeat: 0.05 });
  await stage.openAt('QV-SKY', 'mild', 'bus-volts', { times: 1 });
  const poor = 'poor line: \\d+ % unreadable';
  await page.waitForFunction((words) => new RegExp(words).test(document.body.textContent ?? ''), {}, poor);
  await lay(CLEAN_LINE);
  await page.waitForFunction((words) => !new RegExp(words).test(document.body.textContent ?? ''), {}, poor);
});
