import type { DrillMessage } from '@rouse/core/contract';
import type { Page } from 'puppeteer-core';
import { expect, test } from 'vitest';
import { openPage, seriousFindings, spoken } from './chrome.ts';
import { useStage } from './stage.ts';

const stage = useStage();
const SLOW = { timeout: 420_000 };

/** Where a finger goes for an element, scrolled into view. */
async function middleOf(page: Page, selector: string): Promise<[number, number]> {
  return page.$eval(selector, (e) => {
    e.scrollIntoView({ block: 'center' });
    const { x, y, width, height } = e.getBoundingClientRect();
    return [x + width / 2, y + height / 2] as [number, number];
  });
}

/** Opens a lesson and waits until it flies. */
async function openLesson(id: string, type = 'S7'): Promise<Page> {
  const { page } = stage.open;
  await page.goto(`${stage.rouse.base}/drill?type=${type}`);
  const link = (await page.waitForSelector(`[data-lesson="${id}"]`))!;
  await link.press('Enter');
  await page.waitForSelector('[data-drill="flying"], [data-go]');
  return page;
}

const at = (page: Page, control: string): Promise<string> =>
  page.$eval(`[data-control="${control}"]`, (e) => (e as HTMLElement).dataset['at']!);

async function until(page: Page, control: string, word: string): Promise<void> {
  await page.waitForFunction(
    (c, w) => document.querySelector<HTMLElement>(`[data-control="${c}"]`)?.dataset['at'] === w,
    {},
    control,
    word,
  );
}

test(
  'a start is learned by keyboard: each key moves its control, the engine follows, and the marks are kept',
  SLOW,
  async () => {
    const page = await openLesson('learn-start');
    await page.waitForSelector('[data-hint="item"][data-item="area-clear"]');
    expect(await seriousFindings(page)).toEqual([]);
    await page.keyboard.press('Enter');
    await page.waitForSelector('[data-hint="item"][data-item="start-engine"]');
    expect(await at(page, 'selector')).toBe('off');
    await page.keyboard.press('m');
    await until(page, 'selector', 'idle');
    await page.keyboard.down('s');
    await until(page, 'start', 'pressed');
    await page.waitForFunction(() => Number(document.querySelector('[data-channel="ng.1"] b')?.textContent) > 3);
    await page.keyboard.up('s');
    await until(page, 'start', 'released');
    await page.waitForSelector('[data-hint="item"][data-item="generator-on"]');
    await page.keyboard.press('g');
    await page.waitForSelector('[data-drill="over"]');
    await page.waitForSelector('[data-sum]');
    expect(await page.$$eval('[data-loss]', (all) => all.map((e) => e.textContent))).toEqual([]);
    expect(await stage.text('[data-sum]')).toBe('100');
    const kept = async () => (await stage.call.get<DrillMessage>('/drill/S7/1')).flown;
    await page.waitForFunction(() => document.activeElement?.textContent === 'Once more');
    await expect.poll(async () => (await kept()).map((d) => [d.lesson, d.sum]), { timeout: 90_000 }).toEqual([['learn-start', 100]]); // oxfmt-ignore

    // what if the generator had stayed off?
    await page.select('[aria-label="The act"]', await page.$$eval('[aria-label="The act"] option', (all) => (all.find((o) => o.textContent!.includes('Generator on')) as HTMLOptionElement).value)); // oxfmt-ignore
    await (await page.waitForSelector('::-p-text(Left out)'))!.click();
    await page.waitForSelector('[data-would]');
    expect(await stage.text('[data-would]')).toMatch(/Turbine outlet temperature comes to/);
    expect(await seriousFindings(page)).toEqual([]);
  },
);

test(
  'without the list a hint costs, a stray hand is named, time can stand still, and nothing becomes a run',
  SLOW,
  async () => {
    const page = await openLesson('recall-start');
    expect(await page.$('[data-hint]')).toBeNull();
    expect(await spoken(page)).toContain('Drill. On the simulator.');
    await page.keyboard.press('h');
    await page.waitForSelector('[data-hint="zone"]');
    await page.keyboard.press('h');
    await page.waitForSelector('[data-hint="item"][data-item="battery-on"]');
    await page.keyboard.press('i');
    await page.waitForFunction(() => document.querySelector('[aria-label="Done so far"]')?.textContent?.includes('nothing asked for it')); // oxfmt-ignore
    await page.keyboard.press('Space');
    await page.waitForFunction(() => [...document.querySelectorAll('button')].some((b) => b.textContent.startsWith('Go on'))); // oxfmt-ignore
    const stood = await stage.text('[data-clock]');
    await page.keyboard.press('Space');
    await page.waitForFunction((was) => document.querySelector('[data-clock]')?.textContent !== was, {}, stood);
    await page.keyboard.press('b');
    await until(page, 'battery', 'on');
    await page.keyboard.down('Shift');
    await page.keyboard.press('E');
    await page.keyboard.up('Shift');
    await page.waitForSelector('[data-drill="over"]');
    expect(await stage.text('[data-loss="complete"]')).toMatch(/missed/);
    expect(Number(await stage.text('[data-sum]'))).toBeLessThan(80);
    const today = await stage.call.get<{ aircraft: { openRun: string | null }[] }>('/today');
    expect(today.aircraft.every((a) => a.openRun === null)).toBe(true);
  },
);

test('abort or go by keyboard: a start is dealt, stopped, and marked with what was wrong', SLOW, async () => {
  const page = await openLesson('abort-or-go');
  await page.waitForSelector('[data-go="ready"]');
  await page.keyboard.press('Space');
  await page.waitForSelector('[data-go="running"]');
  await page.waitForFunction(() => Number.parseFloat(document.querySelector('[data-clock]')!.textContent!) > 2);
  await page.keyboard.press('Escape');
  await page.waitForSelector('[data-decided]');
  expect(await stage.text('[data-decided]')).toMatch(/Nothing was wrong|Stopped|guess/);
  expect(await stage.text('[aria-label="Starts of this round"]')).toMatch(/\d+ of 10/);
  expect(await seriousFindings(page)).toEqual([]);
});

test(
  'on a small screen, by touch: a control is pressed, a place is looked at, and nothing sticks out',
  SLOW,
  async () => {
    const { page } = stage.open;
    await page.setViewport({ width: 390, height: 844, hasTouch: true });
    await openLesson('learn-start');
    await page.waitForSelector('[data-spot="area-clear"]');
    await page.touchscreen.tap(...(await middleOf(page, '[data-spot="area-clear"]')));
    await page.waitForSelector('[data-spot="area-clear"][data-settled]');
    await page.touchscreen.tap(...(await middleOf(page, '[data-control="heater"]')));
    await until(page, 'heater', 'on');
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  },
);

test('a game controller moves the lever in hand, and its reach is kept for the device', SLOW, async () => {
  const page = await openLesson('learn-start', 'C5');
  // keys that come faster than the screen shows them move it as far as keys that come slowly
  for (let i = 0; i < 6; i++) await page.keyboard.press('ArrowUp');
  await until(page, 'grip', '6 %');
  await page.keyboard.press('ArrowDown');
  await until(page, 'grip', '5 %');
  for (let i = 0; i < 5; i++) await page.keyboard.press('ArrowDown');
  await until(page, 'grip', 'cut-off');
  const stickAt = (axis: number): Promise<void> =>
    page.evaluate((y) => {
      const pad = { id: 'Lever, two axes', axes: [0, y] } as unknown as Gamepad;
      navigator.getGamepads = () => [pad];
    }, axis);
  await stickAt(1);
  expect(await at(page, 'grip')).toBe('cut-off');
  // where it rests is no hand: two looks have seen it there
  await page.evaluate(() => new Promise((seen) => requestAnimationFrame(() => requestAnimationFrame(seen))));
  await stickAt(0.2);
  await page.waitForFunction(() => document.querySelector<HTMLElement>('[data-control="grip"]')?.dataset['at'] !== 'cut-off'); // oxfmt-ignore
  await stickAt(-1.2);
  await until(page, 'grip', 'flight');
  expect(await page.evaluate(() => localStorage.getItem('rouse.stick.Lever, two axes'))).toContain('"least":-1.2');
});

test('a key of one’s own is bound, a taken one is refused, and the drill knows it', SLOW, async () => {
  const { page } = stage.open;
  await page.goto(`${stage.rouse.base}/drill/S7/1/hands`);
  const keyOf = (label: string): Promise<string> =>
    page.$$eval('section[aria-label="Keys"] button', (all, l) => all.find((b) => b.textContent.startsWith(l))!.textContent.slice(l.length).trim(), label); // oxfmt-ignore
  const bind = async (label: string, key: string): Promise<void> => {
    await (await page.waitForSelector(`::-p-xpath(//section[@aria-label="Keys"]//button[starts-with(., "${label}")])`))!.press('Enter'); // oxfmt-ignore
    await page.waitForSelector('section[aria-label="Keys"] button[aria-pressed="true"]');
    await page.keyboard.press(key as 'q');
  };
  await bind('Boost pump', 'b');
  await page.waitForFunction(() => /B moves Battery already/.test(document.querySelector('[role="alert"]')?.textContent ?? '')); // oxfmt-ignore
  await page.keyboard.press('q');
  await page.waitForFunction(() => !document.querySelector('section[aria-label="Keys"] [aria-pressed="true"]'));
  expect(await keyOf('Boost pump')).toBe('Q');
  const lesson = await openLesson('learn-start');
  const before = await at(lesson, 'boost');
  await lesson.keyboard.press('q');
  await lesson.waitForFunction((was) => document.querySelector<HTMLElement>('[data-control="boost"]')?.dataset['at'] !== was, {}, before); // oxfmt-ignore
});

test('an instructor looks on from another page: arms a fault, says a word, freezes, and signs', SLOW, async () => {
  const page = await openLesson('recall-start');
  const press = (on: Page, name: string): Promise<void> =>
    on.$$eval('button', (all, n) => all.find((b) => b.textContent.startsWith(n))!.click(), name);
  await press(page, 'Ask an instructor in');
  await page.waitForSelector('[data-code]');
  const code = await stage.text('[data-code]');

  const { page: desk, complaints } = await openPage(stage.chrome.browser, stage.rouse.base, { as: 'instructor' });
  await desk.goto(`${stage.rouse.base}/drill`, { waitUntil: 'networkidle2' });
  await desk.type('[aria-label="Code of the learner"]', code);
  await desk.keyboard.press('Enter');
  await desk.waitForSelector('[data-desk="live"] [data-control="battery"]');
  await page.waitForSelector('[data-here]');
  await page.keyboard.press('b');
  await until(desk, 'battery', 'on');
  expect(await seriousFindings(desk)).toEqual([]);

  await desk.type('[aria-label="Say to the learner"]', 'Slower with the hand.');
  await desk.keyboard.press('Enter');
  await page.waitForSelector('[data-note]');
  expect(await stage.text('[data-note]')).toContain('Slower with the hand.');
  await press(desk, 'Freeze');
  await page.waitForFunction(() => [...document.querySelectorAll('button')].some((b) => b.textContent.startsWith('Go on'))); // oxfmt-ignore
  await desk.waitForSelector('[data-desk="frozen"]');
  await press(desk, 'Let it go on');
  await desk.waitForSelector('[data-desk="live"]');
  await desk.select('[aria-label="Fault"]', 'no-light');
  await press(desk, 'Arm it');
  await page.waitForFunction(() => document.querySelector('[aria-label="Done so far"]')?.textContent?.includes('armed')); // oxfmt-ignore

  await desk.type('[aria-label="Weather from now on"] input', '31');
  await desk.keyboard.press('Enter');
  await page.waitForFunction(() =>
    document.querySelector('[aria-label="Done so far"]')?.textContent?.includes('31 °C'),
  );

  // the learner's drill goes on whatever becomes of the desk
  await press(desk, 'End the drill');
  await page.waitForSelector('[data-drill="over"]');
  await desk.waitForFunction(() => [...document.querySelectorAll('button')].some((b) => b.textContent === 'Sign this drill' && !b.disabled)); // oxfmt-ignore
  await press(desk, 'Sign this drill');
  await page.waitForSelector('[data-signed]');
  const [flown] = (await stage.call.get<DrillMessage>('/drill/S7/1')).flown;
  expect(flown!.signed?.by).toBe(await page.$eval('[data-signed]', (e) => (e as HTMLElement).dataset['signed']));
  await desk.close();
  expect(complaints).toEqual([]);
});

test('an instructor writes a lesson: what is wrong is said as it is typed and stays, it is tried out, kept, and flown', SLOW, async () => {
  const { page, complaints } = await openPage(stage.chrome.browser, stage.rouse.base, { as: 'instructor' });
  await page.goto(`${stage.rouse.base}/set-up/lessons`, { waitUntil: 'networkidle2' });
  const skerry = await page.$$eval('main select option', (all) => all.find((o) => o.textContent.includes('S7'))!.value);
  await page.select('main select', skerry);
  await page.waitForFunction(() => [...document.querySelectorAll('main select')].length === 2);
  await page.waitForSelector('main option[value="learn-before-start"]');
  await page.$$eval('main select', (all) => all.at(-1)!.setAttribute('data-begin', ''));
  await page.select('[data-begin]', 'learn-before-start');
  const text = await page.waitForSelector('#lesson-text');
  expect(await text!.evaluate((t) => (t as HTMLTextAreaElement).value)).toContain('id: own-learn-before-start');
  await text!.focus();
  await page.keyboard.down('Control');
  await page.keyboard.press('End');
  await page.keyboard.up('Control');
  await page.keyboard.type('price: 3');
  await page.waitForFunction(() => document.querySelector('[data-problem]')?.textContent?.includes('price'));
  await page.reload({ waitUntil: 'networkidle2' });
  await page.select('main select', skerry);
  await page.waitForFunction(() => document.querySelector<HTMLTextAreaElement>('#lesson-text')?.value.endsWith('price: 3'));
  await page.focus('#lesson-text');
  await page.keyboard.down('Control');
  await page.keyboard.press('End');
  await page.keyboard.up('Control');
  for (let i = 0; i < 'price: 3'.length; i++) await page.keyboard.press('Backspace');
  await page.waitForFunction(() => document.querySelectorAll('[data-problem]').length === 0);
  expect(await seriousFindings(page)).toEqual([]);
  const press = (name: string): Promise<void> =>
    page.$$eval('button', (all, n) => all.find((b) => b.textContent === n)!.click(), name);
  await press('Try it');
  await page.waitForSelector('[data-tried="100"]', { timeout: 120_000 });
  await press('Keep it');
  await page.waitForFunction(() => document.body.innerText.includes('It stands in Drill now.'));
  await page.goto(`${stage.rouse.base}/drill?type=S7`);
  await page.waitForSelector('[data-lesson="own-learn-before-start"]');
  await page.close();
  expect(complaints).toEqual([]);
}); // oxfmt-ignore
