import { DEMO } from '../../server/src/demo/identity.ts';
import type { Page } from 'puppeteer-core';

/** A mild day that was observed just now, or that many minutes from now, in any wind. */
export function reportOfNow({ ahead_min = 0, wind = '03008KT' } = {}): string {
  const now = new Date(Date.now() + ahead_min * 60_000);
  const two = (n: number): string => String(n).padStart(2, '0');
  const time = `${two(now.getUTCDate())}${two(now.getUTCHours())}${two(now.getUTCMinutes())}`;
  return `METAR QXVA ${time}Z ${wind} 9999 FEW030 12/06 Q1013=`;
}

export async function presentItem(page: Page): Promise<string> {
  return page.$eval('[data-item]', (e) => (e as HTMLElement).dataset['item']!);
}

/** Waits until the card shows another item. */
export async function leaveItem(page: Page, id: string, within_ms = 120_000): Promise<void> {
  await page.waitForFunction(
    (was) => (document.querySelector('[data-item]') as HTMLElement | null)?.dataset['item'] !== was,
    { timeout: within_ms, polling: 50 },
    id,
  );
}

/** What the card of the present item asks for beside a word. */
async function asked(page: Page): Promise<string> {
  return page.$eval('[data-item]', (card) => {
    if (card.querySelector('[data-turn="challenge"]')) return 'space';
    if (card.querySelector('#figure')) return 'figure';
    if (card.querySelectorAll('form input').length === 2) return 'compare';
    if (card.querySelectorAll('form input').length === 3) return 'wind';
    const button = [...card.querySelectorAll('button')].find((b) => b.textContent.startsWith('Hold for'));
    if (button) return `hold ${/[\d.]+/.exec(button.textContent)![0]}`;
    if (card.querySelector('[data-decide]')) return 'decide';
    return 'space';
  });
}

/** Where the present item stands: which it is, whose turn, which stage, and what was refused. Runs in the page. */
function standOfCard(): string {
  const card = document.querySelector('[data-item]') as HTMLElement | null;
  return [
    card?.dataset['item'],
    (card?.querySelector('[data-turn]') as HTMLElement | null)?.dataset['turn'],
    card?.querySelector('li[data-status="now"]')?.textContent,
    card?.querySelector('[role="alert"]')?.textContent,
  ].join('|');
}

/** Where a check stands: its item, its stage, and what it found. Runs in the page. */
function standOfCheck(): string {
  const card = document.querySelector('[data-item]') as HTMLElement | null;
  const stage = card?.querySelector('[data-stage]') as HTMLElement | null;
  return [card?.dataset['item'], stage?.dataset['stage'], card?.querySelector('[data-found]')?.textContent].join('|');
}

/** Whether the card has a large button for the present item. */
const offersButton = (page: Page): Promise<boolean> =>
  page.$eval('[data-item]', (card) => card.querySelector('button.wide') !== null);

/** Does what the present stage of a check says, and waits until it goes on by itself. */
async function flyStage(page: Page): Promise<void> {
  const before = await page.evaluate(standOfCheck);
  if (await offersButton(page)) await page.keyboard.press('Space');
  await page.waitForFunction(`(${standOfCheck.toString()})() !== ${JSON.stringify(before)}`, {
    polling: 20,
    timeout: 120_000,
  });
}

/** Answers the present item with the keyboard as a pilot does who finds everything as it should be. */
export async function answerByKeyboard(page: Page, id: string): Promise<void> {
  if (await page.$('[data-item] [data-stage]')) return flyStage(page);
  const kind = await asked(page);
  if (kind === 'figure') {
    const help = await page.$eval('#figure-help', (e) => e.textContent ?? '');
    const figure = /(?:The brief says|Good from) (-?[\d,.]+)/.exec(help)?.[1]?.replace(',', '') ?? '4';
    await page.focus('#figure');
    await page.keyboard.type(figure);
    await page.keyboard.press('Enter');
  } else if (kind === 'compare') {
    const figures = await page.$('[data-item] form input[inputmode="decimal"]');
    await page.keyboard.type(figures ? '100' : 'A7');
    await page.keyboard.press('Tab');
    await page.keyboard.type(figures ? '100' : 'a7');
    await page.keyboard.press('Enter');
  } else if (kind === 'wind') {
    await page.focus('[data-item] form input');
    await page.keyboard.press('Enter');
  } else if (kind.startsWith('hold')) {
    await page.keyboard.down('Space');
    await page.waitForFunction(
      (s) => Number(/^([\d.]+) of/.exec(document.querySelector('[data-item] button')?.textContent ?? '')?.[1]) > s,
      { polling: 20 },
      Number(kind.slice(5)) + 0.1,
    );
    await page.keyboard.up('Space');
  } else if (kind === 'decide') {
    await page.waitForFunction(() => document.activeElement?.closest('[data-item]') !== null);
    await page.keyboard.press('Enter');
  } else {
    // on a simulated aircraft the one button moves it, looks, and says it; by hand a pilot looks before answering
    const moved = await page.$eval('[data-item]', (card) =>
      card.querySelector('button.wide')?.textContent.startsWith('Do it'),
    );
    if (!moved)
      await page.waitForFunction(
        () => document.querySelector<HTMLElement>('[data-item] [data-verdict]')?.dataset['verdict'] !== 'false',
        { polling: 50, timeout: 120_000 },
      );
    const before = await page.evaluate(standOfCard);
    await page.keyboard.press('Space');
    // a stage, a turn or a word moves the card on; its clock and its readings do not
    await page.waitForFunction(`(${standOfCard.toString()})() !== ${JSON.stringify(before)}`, {
      polling: 50,
      timeout: 120_000,
    });
    return;
  }
  await leaveItem(page, id);
}

/** Works the list with the keyboard alone until an item is present. @returns the items that were present before */
export async function workByKeyboard(page: Page, until: string | readonly string[]): Promise<string[]> {
  const seen: string[] = [];
  for (;;) {
    const id = await presentItem(page);
    if (id === until || (typeof until !== 'string' && until.includes(id))) return seen;
    if (seen.at(-1) !== id) seen.push(id);
    const sensed = await page.$('[data-item][data-kind="wait"], [data-item][data-kind="watch"]');
    if (sensed && !(await offersButton(page))) await leaveItem(page, id, 240_000);
    else await answerByKeyboard(page, id);
  }
}

/** @returns a selector of the field whose label begins so */
export async function fieldOf(page: Page, label: string): Promise<string> {
  const id = await page.$$eval(
    'label',
    (labels, name) => (labels.find((l) => l.textContent.trim().startsWith(name)) as HTMLLabelElement).htmlFor,
    label,
  );
  return `[id="${id}"]`;
}

/** Types into the field whose label begins so, over what was there. @returns its selector */
export async function fillField(page: Page, label: string, text: string): Promise<string> {
  const selector = await fieldOf(page, label);
  await page.click(selector, { count: 3 });
  await page.keyboard.press('Backspace');
  await page.type(selector, text);
  return selector;
}

/** A brief of a mild day on the page that is open: report, pasted as a pilot does, heading, fuel. */
export async function fillBrief(page: Page, fuel: string, report = reportOfNow()): Promise<void> {
  await page.waitForSelector('#report');
  await page.focus('#report');
  await page.keyboard.down('Control');
  await page.keyboard.press('a');
  await page.keyboard.up('Control');
  await page.keyboard.sendCharacter(report);
  await fillField(page, 'Nose', '30');
  await fillField(page, 'Fuel', fuel);
}

/** Presses the one way on, as soon as nothing holds it. @returns the run */
export async function beginBefore(page: Page): Promise<string> {
  await page.waitForFunction(
    () =>
      [...document.querySelectorAll('button')].find((b) => b.textContent === 'Begin before-start')?.disabled === false,
  );
  await page.$$eval('button', (buttons) => buttons.find((b) => b.textContent === 'Begin before-start')!.focus());
  await page.keyboard.press('Enter');
  await page.waitForSelector('[data-item]');
  return page.url().split('/').pop()!;
}

/** From Today over the brief to the first item, keyboard only, on the tail that the stand-in is wired to. */
export async function beginByKeyboard(page: Page, base: string): Promise<string> {
  await page.goto(`${base}/`);
  const way = (await page.waitForSelector('article[aria-label="QV-SKY"] button'))!;
  // a run that has just ended is read back first; the rail leads to the brief of the aircraft in hand
  if ((await way.evaluate((b) => b.textContent)) === 'Brief') await way.press('Enter');
  else await page.goto(`${base}/brief/${DEMO.aircraftId}`);
  await fillBrief(page, '300');
  const run = await beginBefore(page);
  await page.waitForSelector('[data-item="papers"]');
  // a busy machine may find the line poor; what counts is that it speaks
  await page.waitForSelector('footer [data-source="live"]');
  return run;
}

export async function figure(page: Page, channel: string): Promise<string> {
  return page.$eval(`[data-channel="${channel}"] b`, (e) => e.textContent ?? '');
}
