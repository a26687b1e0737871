import type { Page } from 'puppeteer-core';
import { launchChrome, openPage } from '../tests/browser/chrome.ts';
import { type Line, many, share } from './measure.ts';
import { startPrograms } from './programs.ts';

const MOVES = many(60, 8);
const EVERY_MS = 300;
/** a control that nothing hangs on, and its key */
const [CONTROL, KEY] = ['heater', 'j'] as const;
const STARTED = { timeout: 60_000 };

/** From now on a page notes when it shows that the control has moved, and when a picture is painted. */
const lookOn = (page: Page): Promise<void> =>
  page.evaluate((control) => {
    const seen: number[] = [];
    const painted: number[] = [];
    const pressed: number[] = [];
    Object.assign(window, { seen, painted, pressed });
    const now = (): number => performance.timeOrigin + performance.now();
    const target = document.querySelector(`[data-control="${control}"]`)!;
    new MutationObserver(() => seen.push(now())).observe(target, { attributes: true, attributeFilter: ['data-at'] });
    window.addEventListener('keydown', () => pressed.push(now()), { capture: true });
    const count = (): void => {
      painted.push(now());
      requestAnimationFrame(count);
    };
    requestAnimationFrame(count);
  }, CONTROL);
const noted = (page: Page, what: 'seen' | 'painted' | 'pressed'): Promise<number[]> =>
  page.evaluate((w) => (window as unknown as Record<string, number[]>)[w]!, what);

/** Presses the key of the control so often, each time when the page that is looked at has shown the one before. */
async function move(page: Page, seenBy: Page): Promise<void> {
  const shown = (await noted(seenBy, 'seen')).length;
  for (let i = 0; i < MOVES; i++) {
    await page.keyboard.press(KEY);
    await seenBy.waitForFunction((n) => (window as unknown as { seen: number[] }).seen.length > n, { polling: 10 }, shown + i); // oxfmt-ignore
    await new Promise((next) => setTimeout(next, EVERY_MS));
  }
}

/** A learner alone, and with an instructor in a second browser: how long a hand takes to its own page, and to the other one. */
export async function drillDesk(): Promise<Line[]> {
  const programs = await startPrograms({ standIn: false });
  const chrome = await launchChrome();
  try {
    const { page } = await openPage(chrome.browser, programs.base, { everyFrame: true });
    await page.goto(`${programs.base}/drill/S7/1/learn-start`, { waitUntil: 'networkidle2' });
    await page.waitForSelector('[data-drill="flying"]', STARTED);
    await lookOn(page);
    await move(page, page);
    const [pressed, alone, painted] = [await noted(page, 'pressed'), await noted(page, 'seen'), await noted(page, 'painted')]; // oxfmt-ignore
    await page.$$eval('button', (all) => all.find((b) => b.textContent.startsWith('Ask an instructor in'))!.click());
    const code = await page.waitForSelector('[data-code]').then((e) => e!.evaluate((b) => b.textContent));
    const desk = (await openPage(chrome.browser, programs.base, { as: 'instructor', everyFrame: true })).page;
    await desk.goto(`${programs.base}/drill/desk/${code}`, { waitUntil: 'networkidle2' });
    await desk.waitForSelector(`[data-desk="live"] [data-control="${CONTROL}"]`, STARTED);
    await lookOn(desk);
    await move(page, desk);
    const own = (await noted(page, 'seen')).slice(alone.length);
    const there = await noted(desk, 'seen');
    const span_s = (painted.at(-1)! - painted[0]!) / 1000;
    const after = (of: readonly number[], since: readonly number[]): number[] => of.map((t, i) => t - since[i]!);
    return [
      { name: 'drill: from a key to the control on the learner’s page, p95, in a browser', value: share(after(alone, pressed), 0.95), unit: 'ms', wanted: 'at most', target: 50 },
      { name: 'drill: the instructor’s page behind the learner’s, p95', value: share(after(there, own), 0.95), unit: 'ms', wanted: 'at most', target: 250 },
      { name: 'drill: pictures a second with the cockpit moving', value: painted.length / span_s, unit: '1/s', wanted: 'at least', target: 55 },
    ]; // oxfmt-ignore
  } finally {
    await chrome.close();
    await programs.stop();
  }
}
