import { reduceRun, stillOpen } from '@rouse/core/procedure';
import { expect, test } from 'vitest';
import { types } from '../skerry.ts';
import { WHOLE } from '../../core/tests/whole.ts';
import { seriousFindings } from './chrome.ts';
import { answerByKeyboard, leaveItem, presentItem, workByKeyboard } from './pilot.ts';
import { useStage } from './stage.ts';

const stage = useStage(['QV-TRN', 'QV-ERN', 'QV-SKY']);

/** What each check of a run came to, in the order in which they were flown: a hand that was late has flown it again. */
async function found(run: string): Promise<string[]> {
  const { entries } = await stage.call.detail(run);
  const last = Object.fromEntries(entries.flatMap((e) => (e.kind === 'measured' ? [[e.item, e.verdict]] : [])));
  return Object.entries(last).map(([item, verdict]) => `${item} ${verdict}`);
}

async function nothingOpen(run: string): Promise<boolean> {
  const { entries, type } = await stage.call.detail(run);
  const file = types.find((t) => t.id === type.id && t.version === type.version)!;
  return stillOpen(file, reduceRun(entries)).length === 0;
}

// a newcomer flies the same checks the usual way, by keyboard and by touch
test.runIf(WHOLE)(
  'the run-up of the trainer by keyboard, as the other school has it',
  { timeout: 420_000 },
  async () => {
    const ways = { 'magneto-speed': 'high', 'magneto-first': 'right', 'carb-heat-order': 'before', 'low-rotor-by': 'collective', 'warm-up-speed': 'high' }; // oxfmt-ignore
    const order = ['carb-heat-before', 'magnetos-high-right-first', 'freewheel', 'governor', 'low-rotor-collective'];
    const { page } = stage.open;
    const run = await stage.openAt('QV-TRN', 'mild', order[0]!, { ways });
    expect(await seriousFindings(page)).toEqual([]);
    await workByKeyboard(page, 'captions-flight');
    await page.waitForFunction(() =>
      /Engine speed -?0\.\d % *joined/.test(document.querySelector('[aria-label="Drawings"]')?.textContent ?? ''),
    );
    await workByKeyboard(page, 'ready');
    const good = (await found(run)).filter((f) => f.endsWith(' good')).map((f) => f.split(' ')[0]);
    expect(good).toEqual(['clutch-engage', 'oil-for-temperature', ...order]);
    expect(await nothingOpen(run)).toBe(true);
  },
);

test.runIf(WHOLE)(
  'the run-up of the twin by keyboard: systems, generators, training mode, and nothing left open',
  { timeout: 420_000 },
  async () => {
    const { page } = stage.open;
    const run = await stage.openAt('QV-ERN', 'mild', 'selectors-flight');
    await workByKeyboard(page, 'ready');
    expect(await found(run)).toEqual([
      'load-steps good',
      'oil-for-temperature good',
      'hydraulics good',
      'anti-ice good',
      'heater good',
      'generator-split good',
      'training-mode good',
    ]);
    const { entries } = await stage.call.detail(run);
    const done = entries.find((e) => e.kind === 'run-up-done')!;
    expect(done).toMatchObject({ watch: 'run-up-to-flight' });
    expect(done.kind === 'run-up-done' && done.torqueMax_pct! > 5 && done.splitMax_pct! < 8).toBe(true);
    expect(entries.filter((e) => e.kind === 'cue' && e.code.startsWith('hydraulic'))).toEqual([]);
    expect(await nothingOpen(run)).toBe(true);
  },
);

test(
  'a check that is not good holds the departure: no key takes it as done, and the record shows why',
  { timeout: 420_000 },
  async () => {
    const { page } = stage.open;
    const check = 'magnetos-low-left-first';
    const run = await stage.openAt('QV-TRN', 'live-magneto', check);
    while (!(await page.$('[data-found="fault"]'))) await answerByKeyboard(page, check);
    expect(await stage.text('[data-found="fault"]')).toMatch(/No drop on the right magneto.*left one stays live/);
    expect(await presentItem(page)).toBe(check);
    expect(await stage.text('[data-item]')).toContain('Measured from the readings');
    expect(await seriousFindings(page)).toEqual([]);
    await page.keyboard.press('f');
    await page.waitForFunction(() =>
      (document.querySelector('#ask') as HTMLInputElement | null)?.value.includes('No drop'),
    );
    await page.keyboard.press('Enter');
    await leaveItem(page, check);
    expect(await found(run)).toContain(`${check} fault`);

    // the frictions that were set for the start come off before the run is closed
    expect(await stage.text('[aria-label="Present item"]')).toMatch(/Still open.*No-go: Magnetos at 78 %.*It is back/s);
    await page.keyboard.press('Space');
    await page.waitForFunction(() => !document.querySelector('[aria-label="Present item"]')!.textContent!.includes('It is back')); // oxfmt-ignore
    await page.keyboard.press('Space');
    await page.waitForFunction(() => document.body.textContent?.includes('This run is closed'));
    await page.goto(`${stage.rouse.base}/debrief/${run}`, { waitUntil: 'networkidle2' });
    await page.waitForSelector('header h2');
    expect(await stage.text('header h2')).toContain('Magnetos at 78 % not good');
    const checks = await page.waitForSelector('::-p-text(Checks,)');
    await checks!.press('Enter');
    await page.waitForSelector('[data-figure="drop-right"][data-worse]');
    expect(await stage.text('[aria-label="Checks of the run"]')).toMatch(/Drop on right *-?0\.\d/);
    // drawn once the page knows how wide it is
    await page.waitForFunction(() => document.querySelectorAll('svg[aria-label^="Readings of the check of magnetos"] path').length === 2); // oxfmt-ignore
    expect(await seriousFindings(page)).toEqual([]);
  },
);

test(
  'too much wind for the rotor is refused with the figure, and what was typed stays',
  { timeout: 420_000 },
  async () => {
    const { page } = stage.open;
    await stage.openAt('QV-SKY', 'mild', 'rotor-wind');
    const speed = '[data-item] form label:nth-of-type(2) input';
    const type = async (text: string): Promise<void> => {
      await page.click(speed, { count: 3 });
      await page.keyboard.press('Backspace');
      await page.type(speed, text);
      await page.keyboard.press('Enter');
    };
    await type('41');
    await page.waitForFunction(() =>
      /41 kt with the gust/.test(document.querySelector('[role="alert"]')?.textContent ?? ''),
    );
    expect(await page.$eval(speed, (e) => (e as HTMLInputElement).value)).toBe('41');
    await type('strong');
    await page.waitForFunction(() => /Wind, kt/.test(document.querySelector('#wind-help')?.textContent ?? ''));
    await type('6');
    await page.waitForSelector('[data-item="rotor-idle"]');
  },
);
