import type { Page } from 'puppeteer-core';
import { skerry } from '../skerry.ts';

const ALL_ITEMS = [...skerry.items, ...Object.values(skerry.aborts).flatMap((a) => a.actions)];

export async function presentItem(page: Page): Promise<string> {
  return page.$eval('[data-item]', (e) => (e as HTMLElement).dataset['item']!);
}

/** Waits until the card shows another item. */
export async function leaveItem(page: Page, id: string, within_ms = 60_000): Promise<void> {
  await page.waitForFunction(
    (was) => (document.querySelector('[data-item]') as HTMLElement | null)?.dataset['item'] !== was,
    { timeout: within_ms, polling: 50 },
    id,
  );
}

/** Works the list with the keyboard alone until `until` is the present item: S moves a switch, Space settles the rest. */
export async function workByKeyboard(page: Page, until: string): Promise<string[]> {
  const seen: string[] = [];
  for (;;) {
    const id = await presentItem(page);
    if (id === until) return seen;
    seen.push(id);
    const item = ALL_ITEMS.find((i) => i.id === id);
    if (item?.standIn) await page.keyboard.press('s');
    else if (item?.kind !== 'wait' && item?.kind !== 'watch') {
      // a pilot looks before answering: the reading agrees, or there is none
      await page.waitForFunction(
        () =>
          (document.querySelector('[data-item] [data-verdict]') as HTMLElement | null)?.dataset['verdict'] !== 'false',
        { polling: 50, timeout: 60_000 },
      );
      await page.keyboard.press('Space');
    }
    await leaveItem(page, id);
  }
}

/** From Today to the first item, keyboard only. */
export async function beginByKeyboard(page: Page, base: string): Promise<string> {
  await page.goto(`${base}/`, { waitUntil: 'networkidle2' });
  await page.waitForFunction(() => document.activeElement?.textContent === 'Begin a run');
  await page.keyboard.press('Enter');
  await page.waitForSelector('[data-item="papers"]');
  await page.waitForFunction(() => document.body.textContent?.includes('simulated · live'));
  return page.url().split('/').pop()!;
}

export async function figure(page: Page, channel: string): Promise<string> {
  return page.$eval(`[data-channel="${channel}"] b`, (e) => e.textContent ?? '');
}
