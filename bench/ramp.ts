import { DEMO } from '../server/src/demo/identity.ts';
import { Caller, goodBrief } from '../tests/caller.ts';
import { launchChrome, openPage } from '../tests/browser/chrome.ts';
import { type Line, many, share } from './measure.ts';
import { startPrograms } from './programs.ts';

const TIMES = many(10, 2);
/** a phone is taken to be so many times slower than this machine */
const SLOWER = 4;

/** What somebody on a ramp waits for, on the screen and the processor of a phone. */
export async function ramp(): Promise<Line[]> {
  const programs = await startPrograms({ standIn: true });
  const chrome = await launchChrome();
  try {
    const call = new Caller(programs.base);
    const { body } = await call.post('/runs', { aircraft: DEMO.aircraftId, brief: goodBrief(DEMO.aircraftId) });
    const { page } = await openPage(chrome.browser, programs.base, { everyFrame: true, keepsOffline: true });
    await page.setViewport({ width: 390, height: 844, isMobile: true, hasTouch: true });
    await page.goto(programs.base, { waitUntil: 'networkidle2' });
    await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined));
    await page.reload({ waitUntil: 'networkidle2' });
    await page.emulateCPUThrottling(SLOWER);
    /** from the wish to go there until its first words are painted, ms: told by the page itself, whoever else asks it */
    const opened = async (place: string, first: string): Promise<number> => {
      const { identifier } = await page.evaluateOnNewDocument(tellWhenPainted, first);
      await page.goto(`${programs.base}${place}`, { waitUntil: 'domcontentloaded' });
      const painted = await page.waitForFunction(() => (window as unknown as { painted?: number }).painted);
      await page.removeScriptToEvaluateOnNewDocument(identifier);
      return painted.jsonValue() as Promise<number>;
    };
    const start: number[] = [];
    for (let i = 0; i < TIMES; i++) start.push(await opened(`/start/${body.run!}`, '[data-item] h2'));
    const offline: number[] = [];
    await page.setOfflineMode(true);
    for (let i = 0; i < TIMES; i++) offline.push(await opened('/', `article[aria-label="${DEMO.tail}"]`));
    const line = (name: string, taken: readonly number[], target: number): Line => ({
      name: `ramp: ${name}, median, processor ${SLOWER} times slowed`,
      value: share(taken, 0.5) / 1000,
      unit: 's',
      wanted: 'at most',
      target,
      remark: `worst ${(Math.max(...taken) / 1000).toFixed(2)} s of ${TIMES}`,
    });
    return [line('Start painted', start, 2), line('Today opened without a server', offline, 1.5)];
  } finally {
    await chrome.close();
    await programs.stop();
  }
}

/** In the page: the time at which the frame with what is looked for was made. */
function tellWhenPainted(first: string): void {
  const look = new MutationObserver(() => {
    if (!document.querySelector(first)) return;
    look.disconnect();
    requestAnimationFrame(() => setTimeout(() => Object.assign(window, { painted: performance.now() })));
  });
  look.observe(document, { subtree: true, childList: true });
}
