import { launchChrome, openPage } from '../tests/browser/chrome.ts';
import { fieldIn, press, wrongIn } from '../tests/browser/editor.ts';
import { Caller } from '../tests/caller.ts';
import { type Line, many, share } from './measure.ts';
import { startPrograms } from './programs.ts';

const KEYS = many(80, 6);

/** From a key in an item of the largest type to its problems and its card as they are then, in a browser. */
export async function editor(): Promise<Line> {
  const programs = await startPrograms({ standIn: false });
  const chrome = await launchChrome();
  try {
    const call = new Caller(programs.base);
    const { body } = await call.post('/types/drafts', { like: 'strath-x14' });
    const { page } = await openPage(chrome.browser, programs.base, { everyFrame: true });
    await page.goto(`${programs.base}/types/drafts/${(body as { draft?: string }).draft!}`, {
      waitUntil: 'networkidle2',
    });
    await press(page, '[data-part="procedure/before-start.yaml"]');
    await press(page, '[data-row="bus-volts"] button[aria-expanded]');
    await page.focus(await fieldIn(page, '[data-form]', 'Why, two sentences at most'));
    await wrongIn(page, 0);
    await page.evaluate(() => {
      const taken: number[] = [];
      Object.assign(window, { taken });
      let since = NaN;
      document.addEventListener('input', () => (since = performance.now()), { capture: true });
      new MutationObserver(() => {
        const fresh = document.querySelector('[data-problems]') !== null;
        if (!fresh || Number.isNaN(since)) return;
        taken.push(performance.now() - since);
        since = NaN;
      }).observe(document.body, { subtree: true, attributes: true, attributeFilter: ['data-problems'] });
    });
    for (let i = 1; i <= KEYS; i++) {
      // no hand is so quick that the key before it is not drawn yet
      await page.evaluate(() => new Promise((drawn) => requestAnimationFrame(() => requestAnimationFrame(drawn))));
      await page.keyboard.type('x');
      await page.waitForFunction((n) => (window as unknown as { taken: number[] }).taken.length >= n, {}, i);
    }
    const taken = await page.evaluate(() => (window as unknown as { taken: number[] }).taken);
    return {
      name: 'editor: a key in an item of the largest type to its problems and its card, p95',
      value: share(taken, 0.95),
      unit: 'ms',
      wanted: 'at most',
      target: 50,
      remark: `median ${share(taken, 0.5).toFixed(0)} ms`,
    };
  } finally {
    await chrome.close();
    await programs.stop();
  }
}
