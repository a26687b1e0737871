import path from 'node:path';
import { afterAll, afterEach, beforeAll, beforeEach, expect } from 'vitest';
import { FLEET } from '../../server/src/demo/identity.ts';
import { Caller, goodBrief, ROOT, Rouse } from '../rouse.ts';
import { type Chrome, launchChrome, openPage, type OpenPage } from './chrome.ts';

/** A server with its stand-in, a browser, and a fresh page for each test; what a page complains of fails its test. */
export interface Stage {
  readonly rouse: Rouse;
  readonly chrome: Chrome;
  readonly open: OpenPage;
  readonly call: Caller;
  choose(preset: string): Promise<unknown>;
  /** A run worked quickly, eight times as fast as life, up to one of its items; then it is on the screen. @returns the run */
  openAt(tail: string, preset: string, until: string, ways?: Record<string, string>): Promise<string>;
  text(selector: string): Promise<string>;
}

/** @param tails the aircraft that a stand-in is wired to */
export function useStage(tails?: readonly string[]): Stage {
  let rouse: Rouse;
  let chrome: Chrome;
  let open: OpenPage;
  let call: Caller;
  beforeAll(async () => {
    [rouse, chrome] = await Promise.all([
      Rouse.start({ demoStarts: 10, webDir: path.join(ROOT, 'web/dist'), ...(tails && { tails }) }),
      launchChrome(),
    ]);
    call = new Caller(rouse.base);
  });
  afterAll(async () => {
    await chrome.close();
    await rouse.stop();
    expect(rouse.errors).toEqual([]);
  });
  beforeEach(async () => {
    open = await openPage(chrome.browser);
  });
  afterEach(async ({ task }) => {
    if (task.result?.state === 'fail') {
      // what stood on the screen, for a failure that is seen only on another machine
      const shown = await open.page.evaluate(() => `${location.pathname}\n${document.body.innerText}`).catch(String);
      console.error(shown);
    }
    await call.settle();
    await open.page.close();
    expect(open.complaints).toEqual([]);
  });
  return {
    get rouse() {
      return rouse;
    },
    get chrome() {
      return chrome;
    },
    get open() {
      return open;
    },
    get call() {
      return call;
    },
    choose: (preset) => call.choose(preset),
    async openAt(tail, preset, until, ways = {}) {
      const aircraft = FLEET.find((a) => a.tail === tail)!.aircraftId;
      await call.choose(preset, aircraft);
      const differs = Object.fromEntries(
        Object.entries(ways).map(([id, to]) => [id, { to, reason: 'the other school' }]),
      );
      const brief = goodBrief(aircraft);
      const run = await call.open(aircraft, { ...brief, ways: { ...brief.ways, ...differs } });
      await call.post('/stand-in/pace', { run, times: 8 });
      await call.work(run, until);
      await open.page.goto(`${rouse.base}/start/${run}`, { waitUntil: 'networkidle2' });
      await open.page.waitForSelector(`[data-item="${until}"]`);
      return run;
    },
    text: (selector) => open.page.$eval(selector, (e) => e.textContent ?? ''),
  };
}
