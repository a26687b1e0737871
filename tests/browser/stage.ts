import path from 'node:path';
import { afterAll, afterEach, beforeAll, beforeEach, expect } from 'vitest';
import { FLEET } from '../../server/src/demo/identity.ts';
import { Caller, type DemoPast, goodBrief, type Retyped, ROOT, Rouse } from '../rouse.ts';
import { type Chrome, launchChrome, openPage, type OpenPage } from './chrome.ts';

export interface HowOpened {
  readonly ways?: Readonly<Record<string, string>>;
  readonly byHand?: boolean;
  /** From the item on, as many times as fast as life. Sixteen where nothing is said. */
  readonly times?: 1 | 2 | 4 | 8 | 16;
}

/** A server with its stand-in, a browser, and a fresh page for each test; what a page complains of fails its test. */
export interface Stage {
  readonly rouse: Rouse;
  readonly chrome: Chrome;
  readonly open: OpenPage;
  readonly call: Caller;
  choose(preset: string): Promise<unknown>;
  /** A run worked quickly, sixteen times as fast as life, up to one of its items; then it is on the screen. @returns the run */
  openAt(tail: string, preset: string, until: string, how?: HowOpened): Promise<string>;
  text(selector: string): Promise<string>;
}

/** @param tails the aircraft that a stand-in is wired to @param retyped those that are another type than the demo says */
export function useStage(tails?: readonly string[], retyped?: Retyped, demoStarts: DemoPast = 10): Stage {
  let rouse: Rouse;
  let chrome: Chrome;
  let open: OpenPage;
  let call: Caller;
  beforeAll(async () => {
    [rouse, chrome] = await Promise.all([
      Rouse.start({
        demoStarts,
        webDir: path.join(ROOT, 'web/dist'),
        ...(tails && { tails }),
        ...(retyped && { retyped }),
      }),
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
    open = await openPage(chrome.browser, rouse.base);
  });
  afterEach(async ({ task }) => {
    if (task.result?.state === 'fail') {
      // what stood on the screen, for a failure that is seen only on another machine
      const shown = await open.page.evaluate(() => `${location.pathname}\n${document.body.innerText}`).catch(String);
      const run = /^\/start\/([0-9a-f-]{36})/.exec(shown)?.[1];
      const { entries } = run ? await call.detail(run) : { entries: [] };
      console.error(
        shown,
        entries
          .slice(-20)
          .map((e) => JSON.stringify(e))
          .join('\n'),
      );
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
    async openAt(tail, preset, until, { ways = {}, byHand = false, times = 16 } = {}) {
      const aircraft = FLEET.find((a) => a.tail === tail)!.aircraftId;
      await call.choose(preset, aircraft);
      const differs = Object.fromEntries(
        Object.entries(ways).map(([id, to]) => [id, { to, reason: 'the other school' }]),
      );
      const brief = goodBrief(aircraft);
      const run = await call.open(aircraft, { ...brief, ways: { ...brief.ways, ...differs } }, byHand);
      await call.post('/stand-in/pace', { run, times: 16 });
      await call.work(run, until);
      await call.post('/stand-in/pace', { run, times });
      await open.page.goto(`${rouse.base}/start/${run}`);
      await open.page.waitForSelector(`[data-item="${until}"]`);
      return run;
    },
    // found and read in one go: between two looks a card may be another one
    text: async (selector) => {
      const found = await open.page.waitForFunction(
        (s) => (document.querySelector(s) ? { words: document.querySelector(s)!.textContent ?? '' } : null),
        {},
        selector,
      );
      return (await found.jsonValue())!.words;
    },
  };
}
