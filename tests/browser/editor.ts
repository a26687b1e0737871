import type { Page } from 'puppeteer-core';

/** Waits until the draft has been read again and so many things are wrong with it. */
export async function wrongIn(page: Page, count: number | 'some'): Promise<void> {
  await page.waitForFunction(
    (n) => {
      const said = document.querySelector<HTMLElement>('[data-problems]')?.dataset['problems'];
      return n === 'some' ? said !== undefined && said !== '0' : said === String(n);
    },
    {},
    count,
  );
}

/** Waits until everything that was written is kept on the server. */
export async function allKept(page: Page): Promise<void> {
  await page.waitForSelector('[data-kept="true"]');
}

export async function press(page: Page, selector: string): Promise<void> {
  const button = await page.waitForSelector(selector);
  await button!.press('Enter');
}

/** Presses the button of these words, once it can be pressed. */
export async function pressButton(page: Page, words: string): Promise<void> {
  await press(page, `::-p-xpath(//button[normalize-space()="${words}"][not(@disabled)])`);
}

/** Opens a part of the draft. */
export async function openPart(page: Page, file: string): Promise<void> {
  await press(page, `[data-part="${file}"]`);
  await page.waitForSelector(`[data-part="${file}"][aria-current]`);
}

/** Writes over what stands in a field. */
export async function write(page: Page, selector: string, text: string): Promise<void> {
  const field = await page.waitForSelector(selector);
  await field!.focus();
  await page.keyboard.down('Control');
  await page.keyboard.press('a');
  await page.keyboard.up('Control');
  await page.keyboard.type(text);
}

/** A selector of the field with a label, inside of another element. */
export async function fieldIn(page: Page, inside: string, label: string): Promise<string> {
  const found = await page.waitForFunction(
    (place, words) => {
      const labels = [...(document.querySelector(place)?.querySelectorAll('label') ?? [])];
      const one = labels.find((l) => l.firstChild?.textContent?.trim() === words);
      const field = one && (one.control as HTMLElement | null);
      if (!field) return null;
      field.id ||= `named-${words.replaceAll(/\W/g, '-')}`;
      return field.id;
    },
    {},
    inside,
    label,
  );
  return `[id="${String(await found.jsonValue())}"]`;
}

/** Fills the last row of the table that is open, cell by cell. */
export async function fillRow(page: Page, cells: readonly string[]): Promise<void> {
  for (const [i, cell] of cells.entries()) await write(page, `tbody tr:last-child td:nth-child(${i + 1}) input`, cell);
}

/** Pastes what a spreadsheet would into a cell. */
export async function paste(page: Page, selector: string, text: string): Promise<void> {
  await page.waitForSelector(selector);
  await page.focus(selector);
  await page.$eval(
    selector,
    (cell, words) => {
      const clipboardData = new DataTransfer();
      clipboardData.setData('text/plain', words);
      cell.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }));
    },
    text,
  );
}
