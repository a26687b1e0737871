import type { ElementHandle, Page, Viewport } from 'puppeteer-core';
import { expect, test } from 'vitest';
import { FLEET } from '../../server/src/demo/identity.ts';
import { launchChrome, openPage } from './chrome.ts';
import { leaveItem, presentItem, workByKeyboard } from './pilot.ts';
import { seventhType } from '../../core/tests/seventh.ts';
import { WHOLE } from '../../core/tests/whole.ts';
import { useStage } from './stage.ts';

const TAILS = FLEET.map((a) => a.tail);
/** in ordinary runs one of the tails is a type that nobody ships */
const SEVENTH = 'QV-INJ';
const stage = useStage(TAILS, WHOLE ? {} : { [SEVENTH]: seventhType() });
/** for one aircraft, at eight times the pace of life where there is only waiting */
const WITHIN_MS = 540_000;

/** What a newcomer sees: the largest button that can be pressed on the card, and what the card says. Runs in the page. */
function largestButton(): Element | null {
  const card = document.querySelector('[data-item]');
  const size = (e: Element): number => {
    const { width, height } = e.getBoundingClientRect();
    return width * height * (getComputedStyle(e).backgroundColor === 'rgb(163, 36, 111)' ? 2 : 1);
  };
  const buttons = [...(card?.querySelectorAll('button') ?? [])].filter(
    (b) => !b.disabled && b.dataset['disabled'] === undefined && !/^(Mark|Fault|Why|Close the run)/.test(b.textContent),
  );
  return buttons.toSorted((a, b) => size(b) - size(a))[0] ?? null;
}

/** What the card is about: its item, its stage, its turn. Runs in the page. */
function stand(): string {
  const card = document.querySelector<HTMLElement>('[data-item]');
  const words = ['h2', '[data-stage]', '[data-turn]', 'li[data-status="now"]', '[role="alert"]', 'button.wide'];
  return [card?.dataset['item'], ...words.map((w) => card?.querySelector(w)?.textContent)].join('|');
}

interface Hand {
  press(page: Page, button: ElementHandle<Element>): Promise<void>;
  hold(page: Page, button: ElementHandle<Element>, until: () => Promise<unknown>): Promise<void>;
}

const KEYBOARD: Hand = {
  async press(page, button) {
    await button.focus();
    await page.keyboard.press('Enter');
  },
  async hold(page, _button, until) {
    await page.keyboard.down('Space');
    await until();
    await page.keyboard.up('Space');
  },
};

const TOUCH: Hand = {
  press: async (_page, button) => button.tap(),
  async hold(page, button, until) {
    const box = (await button.boundingBox())!;
    await page.touchscreen.touchStart(box.x + box.width / 2, box.y + box.height / 2);
    await until();
    await page.touchscreen.touchEnd();
  },
};

async function pressText(page: Page, hand: Hand, text: string, within = 'button'): Promise<void> {
  const found = await page.waitForFunction(
    (words, selector) =>
      [...document.querySelectorAll<HTMLButtonElement>(selector)].find((b) => b.textContent === words && !b.disabled),
    { timeout: 90_000 },
    text,
    within,
  );
  await hand.press(page, found.asElement() as ElementHandle<Element>);
}

/** From Today to the hover by pressing the one large button that each page and each card shows. @returns the run */
async function follow(page: Page, hand: Hand, tail: string): Promise<string> {
  await page.goto(`${stage.rouse.base}/`, { waitUntil: 'domcontentloaded' });
  await pressText(page, hand, 'Brief', `article[aria-label="${tail}"] button`);
  await pressText(page, hand, 'Take the simulated day');
  await pressText(page, hand, 'Begin before-start');
  await page.waitForSelector('[data-item]');
  const run = page.url().split('/').pop()!;
  const pace = (times: number) => stage.call.post('/stand-in/pace', { run, times });
  await pace(8);
  for (const end = Date.now() + WITHIN_MS; Date.now() < end;) {
    const before = await page.evaluate(`(${stand.toString()})()`);
    if (await isLifted(run)) return run;
    const button = (
      await page.evaluateHandle(`(${largestButton.toString()})()`)
    ).asElement() as ElementHandle<Element> | null;
    const text = button && (await button.evaluate((b) => b.textContent));
    const changed = (timeout: number): Promise<unknown> =>
      page
        .waitForFunction(`(${stand.toString()})() !== ${JSON.stringify(before)}`, { polling: 50, timeout })
        .catch(() => null);
    const hold_s = /^Hold for ([\d.]+) s/.exec(text ?? '')?.[1];
    if (button && hold_s) {
      // what is primed has to be cranked before it has gone again: from here to the start it goes at the pace of life
      await pace(1);
      await hand.hold(page, button, () =>
        page.waitForFunction(
          (s) =>
            [...document.querySelectorAll('[data-item] button')].some(
              (b) => Number(/^([\d.]+) of/.exec(b.textContent)?.[1]) > s,
            ),
          { polling: 20 },
          Number(hold_s) + 0.1,
        ),
      );
    } else if (button) await hand.press(page, button).catch(() => undefined);
    if (!button && (await page.$('[data-kind="watch"]'))) await pace(8);
    // a button that was pressed and changed nothing yet is waited for: it moves something, or waits for a reading
    await changed(button ? 15_000 : 60_000);
  }
  throw new Error(`${tail}: ${String(await page.evaluate(`(${stand.toString()})()`))}`);
}

async function isLifted(run: string): Promise<boolean> {
  const { entries } = await stage.call.detail(run);
  return entries.some((e) => e.kind === 'leg-begun');
}

/** One aircraft after the other, in a browser of its own: a page behind another one is slowed down. @returns how many were flown */
async function lane(tails: readonly string[], hand: Hand, viewport: Viewport): Promise<number> {
  const chrome = await launchChrome();
  try {
    for (const tail of tails) {
      const { page, complaints } = await openPage(chrome.browser, stage.rouse.base);
      await page.setViewport(viewport);
      complaints.length = 0; // an empty page is begun anew for a finger, and has no storage
      const run = await follow(page, hand, tail);
      const { entries } = await stage.call.detail(run);
      const wrong = entries.filter(
        (e) =>
          e.kind === 'abort' ||
          e.kind === 'item-fault' ||
          e.kind === 'item-skipped' ||
          // a machine that flies two aircraft at eight times the pace of life may be late itself
          (e.kind === 'cue' && e.severity === 'warning' && e.code !== 'source-lost'),
      );
      // who takes long grows ice in the carburettor: it is found, melted, and the check is flown again
      const found = Object.fromEntries(entries.flatMap((e) => (e.kind === 'measured' ? [[e.item, e.verdict]] : [])));
      expect(
        Object.entries(found).filter(([, verdict]) => verdict === 'fault'),
        tail,
      ).toEqual([]);
      expect(wrong, tail).toEqual([]);
      expect(complaints, tail).toEqual([]);
      // a type that nobody ships goes the whole way
      if (tail === SEVENTH && !WHOLE) await shutDown(page, run);
      else await stage.call.writeNext(run, { kind: 'closed', outcome: 'ready' });
      await page.close();
    }
    return tails.length;
  } finally {
    await chrome.close();
  }
}

/** A type takes two minutes: one for each hand in every run of the tests, all six by both hands in the whole tests. */
const [keyed, touched] = WHOLE ? [TAILS, [...TAILS.slice(3), ...TAILS.slice(0, 3)]] : [[SEVENTH], TAILS.slice(3, 4)];

/** From the hover to a quiet aircraft, by keyboard. */
async function shutDown(page: Page, run: string): Promise<void> {
  const present = await presentItem(page);
  // the figure of the hover is asked for: a key belongs to its field while that has the focus
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await page.keyboard.press('x');
  await leaveItem(page, present);
  await workByKeyboard(page, 'end');
  await page.keyboard.press('Space');
  await page.waitForFunction(() => document.body.textContent?.includes('This run is closed'));
  expect((await stage.call.detail(run)).outcome).toBe('shut-down');
}

test(
  'following only the largest button, a newcomer gets from Today to the hover, by keyboard and by touch',
  { timeout: 20 * 60_000 },
  async () => {
    const flown = await Promise.all([
      lane(keyed, KEYBOARD, { width: 1280, height: 800 }),
      lane(touched, TOUCH, { width: 820, height: 1180, hasTouch: true }),
    ]);
    expect(flown).toEqual([keyed.length, touched.length]);
  },
);
