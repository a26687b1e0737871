import { expect, test } from 'vitest';
import { FLEET } from '../../server/src/demo/identity.ts';
import { layoutFaults } from './layout.ts';
import { seriousFindings, spoken } from './chrome.ts';
import { leaveItem, presentItem, workByKeyboard } from './pilot.ts';
import { useStage } from './stage.ts';

const stage = useStage(['QV-TRN', 'QV-ERN', 'QV-SKY']);
const haugh = FLEET.find((a) => a.tail === 'QV-ERN')!.aircraftId;
const SLOW = { timeout: 420_000 };

/** The items of a run that are done as written, by its journal. */
async function settled(run: string): Promise<string[]> {
  const { entries } = await stage.call.detail(run);
  return entries.flatMap((e) => (e.kind === 'item-done' ? [e.item] : []));
}

test(
  'the twin lifts with its board: what was skipped is told, the hover is as predicted, and the board knows the run',
  SLOW,
  async () => {
    const { page } = stage.open;
    const run = await stage.openAt('QV-ERN', 'mild', 'autopilot');
    await page.keyboard.press('k');
    await page.waitForSelector('#ask');
    await page.keyboard.type('no computer today');
    await page.keyboard.press('Enter');
    await leaveItem(page, 'autopilot');
    await workByKeyboard(page, 'power');

    await page.waitForSelector('[data-scan]');
    expect(await stage.text('[data-line="not-done"]')).toContain('no computer today');
    const wrong = (): Promise<(string | null)[]> =>
      page.$$eval('[data-line][data-verdict="false"]', (lines) => lines.map((l) => l.textContent));
    // frictions come off as the last thing before the last look
    expect(await wrong()).toEqual([expect.stringContaining('Frictions are set')]);
    expect(await stage.text('[data-power]')).toMatch(/\d % for take-off.*left out of ground effect/);
    expect(await seriousFindings(page)).toEqual([]);
    await workByKeyboard(page, 'ready');
    expect(await wrong()).toEqual([]);
    await workByKeyboard(page, 'end');
    expect(await stage.text('[data-item="end"]')).toContain('Ready for lift');

    await page.keyboard.press('l');
    // at eight times the pace of life it may be over before a busy machine has shown it
    const hover = await stage.call.waitFor(run, (e) => e.kind === 'measured' && e.item === 'hover-check', 120_000);
    expect(hover).toMatchObject({ verdict: 'good' });
    const difference = hover.kind === 'measured' ? hover.figures.find((f) => f.id === 'difference')!.value! : NaN;
    expect(Math.abs(difference)).toBeLessThan(2);
    await page.keyboard.press('Escape');

    await page.goto(`${stage.rouse.base}/power/${haugh}`);
    await page.waitForSelector('[data-line="hoist"]');
    expect(await stage.text('header')).toContain('the open run');
    const weight = '[role="group"]:has(input[aria-label], label) input[type="range"]';
    const holds = (): Promise<string> => stage.text('[data-line="high"]');
    const before = await holds();
    await page.focus(weight);
    for (let i = 0; i < 25; i++) await page.keyboard.press('ArrowRight');
    await page.waitForFunction((was) => document.querySelector('[data-line="high"]')!.textContent !== was, {}, before);
    expect(await holds()).toMatch(/holds|comes down/);
  },
);

test('four hundred failures are flown, shown as they come, and can be stopped', SLOW, async () => {
  const { page } = stage.open;
  await page.goto(`${stage.rouse.base}/power/${haugh}`, { waitUntil: 'networkidle2' });
  const press = (name: string): Promise<void> =>
    page.$$eval('button', (all, n) => all.find((b) => b.textContent.startsWith(n))!.click(), name);
  await page.waitForSelector('[data-line="high"]');
  await press('Fly 400');
  await page.waitForFunction(() => Number(document.querySelector('[data-flown]')?.getAttribute('data-flown')) > 5);
  await press('Stop');
  await page.waitForFunction(() =>
    [...document.querySelectorAll('button')].some((b) => b.textContent.startsWith('Fly 400')),
  );
  expect(Number(await page.$eval('[data-flown]', (e) => e.getAttribute('data-flown')))).toBeLessThan(400);
  await press('Fly 400');
  await page.waitForFunction(() => document.querySelector('[data-flown]')?.textContent?.includes('as predicted'), {
    timeout: 120_000,
  });
  expect(await stage.text('[data-flown]')).toMatch(/400 of 400 flown at \d+ ft.*none fell where it was said to hold/);
});

test('training and a failure are practised by keyboard, timed aloud, and kept as practice only', SLOW, async () => {
  const { page } = stage.open;
  await page.goto(`${stage.rouse.base}/drill/H9/1/one-engine`);
  await page.waitForFunction(() => document.activeElement?.textContent === 'Begin the hover');
  await page.keyboard.press('Enter');
  const torque = (n: number): Promise<number> => page.$eval(`[data-torque="${n}"]`, (e) => parseFloat(e.textContent));
  await page.waitForSelector('[data-nr]');
  // the hand is on the slider, and the keys work all the same
  await page.focus('input[type=range]');
  await page.keyboard.press('t');
  await page.waitForFunction(() => document.body.textContent.includes('both engines share'));
  await page.keyboard.press('2');
  await page.waitForSelector('[data-timer="30s"][data-used]');
  await page.waitForFunction(() => parseFloat(document.querySelector('[data-torque="2"]')!.textContent) < 3);
  expect(await torque(1)).toBeGreaterThan(100);
  expect((await spoken(page)).join(' ')).toContain('Thirty-second power');
  for (let i = 0; i < 12; i++) await page.keyboard.press('ArrowDown');
  await page.waitForFunction(() => parseFloat(document.querySelector('[data-nr]')!.textContent) > 97);
  expect(await seriousFindings(page)).toEqual([]);
  while (!(await page.evaluate(() => document.body.textContent.includes('On the ground'))))
    await page.keyboard.press('ArrowDown');
  expect(await layoutFaults(page, 'one engine out')).toEqual([]);
  await page.keyboard.press('Escape');
  await page.waitForSelector('[data-past]');
  expect(await stage.text('[data-past]')).toMatch(/H9, engine failure.*lost, landed.*Thirty-second power, engine 1/);
  await page.waitForFunction(() =>
    [...document.querySelectorAll('button')].some((b) => b.textContent === 'Begin the hover'),
  );
  await page.$$eval('button', (all) => all.find((b) => b.textContent === 'Begin the hover')!.focus());
  await page.keyboard.press('Enter');
  await page.waitForSelector('[data-nr]');
  await page.keyboard.press('Escape');
  await page.waitForFunction(() =>
    /training mode.*ended in the air/.test(document.querySelector('[data-past] li')?.textContent ?? ''),
  );
  const today = await stage.call.get<{ aircraft: { openRun: string | null }[] }>('/today');
  expect(today.aircraft.every((a) => a.openRun === null)).toBe(true);
});

test('the trainer is shut down by keyboard: the books are shown, and the record has them', SLOW, async () => {
  const { page } = stage.open;
  // a pilot may turn back at any time: here while it still warms up
  const run = await stage.openAt('QV-TRN', 'mild', 'warm-up-low');
  await page.keyboard.press('x');
  await page.waitForFunction(() => document.querySelector('[data-item="rotor-wind-stop"]') !== null);
  await workByKeyboard(page, 'end');
  expect(await settled(run)).toEqual(
    expect.arrayContaining(['clutch-release', 'cut', 'brake-after', 'battery-off', 'beacon-off']),
  );
  await page.waitForSelector('[data-booked]');
  expect(await stage.text('[data-booked]')).toMatch(/1 start/);
  await page.keyboard.press('Space');
  await page.waitForFunction(() => document.body.textContent?.includes('This run is closed'));
  expect((await stage.call.detail(run)).outcome).toBe('shut-down');
  await page.goto(`${stage.rouse.base}/debrief/${run}`);
  await page.waitForSelector('[data-booked]');
  expect(await stage.text('[data-booked]')).toMatch(/1 rotor cycle/);
  expect(await seriousFindings(page)).toEqual([]);
});

test('what is not ready is named: a caption that comes back holds the word ready, with what to do', SLOW, async () => {
  const { page } = stage.open;
  const run = await stage.openAt('QV-SKY', 'mild', 'ready');
  stage.rouse.standIn.of('QV-SKY').obey({ cmd: 'move', actions: [{ control: 'hyd_test', to: 1 }] });
  await page.waitForSelector('[data-line="captions"][data-verdict="false"]');
  await page.keyboard.press('Space');
  expect(await stage.text('[data-item] [role="alert"]')).toMatch(/not yet.*Captions.*extra/i);
  expect(await presentItem(page)).toBe('ready');
  stage.rouse.standIn.of('QV-SKY').obey({ cmd: 'move', actions: [{ control: 'hyd_test', to: 0 }] });
  await page.waitForSelector('[data-line="captions"][data-verdict="true"]');
  await page.keyboard.press('Space');
  await leaveItem(page, 'ready');
  expect((await stage.call.detail(run)).entries.some((e) => e.kind === 'item-done' && e.item === 'ready')).toBe(true);
});
