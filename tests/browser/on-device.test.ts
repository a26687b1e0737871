import { cpSync, appendFileSync, mkdtempSync, rmSync } from 'node:fs';
import { once } from 'node:events';
import net from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { DrillMessage, RunDetail } from '@rouse/core/contract';
import { checkChain } from '@rouse/core/procedure';
import type { Page } from 'puppeteer-core';
import { afterAll, afterEach, beforeAll, describe, expect, test } from 'vitest';
import { DEMO } from '../../server/src/demo/identity.ts';
import { Caller, ROOT, Rouse } from '../rouse.ts';
import { type Chrome, launchChrome, openPage, type OpenPage } from './chrome.ts';
import { answerByKeyboard, fillBrief, leaveItem, presentItem } from './pilot.ts';

let rouse: Rouse;
let chrome: Chrome;
let call: Caller;
/** the pages as this server gives them; a newer version of them can be put here */
let pages: string;
beforeAll(async () => {
  pages = mkdtempSync(path.join(tmpdir(), 'rouse-pages-'));
  cpSync(path.join(ROOT, 'web/dist'), pages, { recursive: true });
  // the server comes back where it was
  const free = net.createServer().listen(0, '127.0.0.1');
  await once(free, 'listening');
  const { port } = free.address() as net.AddressInfo;
  free.close();
  [rouse, chrome] = await Promise.all([Rouse.start({ demoStarts: 10, webDir: pages, port }), launchChrome()]);
  call = new Caller(rouse.base);
});
afterAll(async () => {
  await chrome.close();
  await rouse.stop();
  rmSync(pages, { recursive: true, force: true });
  expect(rouse.errors).toEqual([]);
});

// whatever a test has found, the next one has a server
afterEach(async () => {
  await call.get('/today').catch(() => rouse.launch());
  await call.settle();
});

/** What a page says in its console when it has no server, or its store is taken away, is no fault of it. */
function noOther({ complaints }: OpenPage): void {
  expect(complaints.filter((c) => !/ERR_CONNECTION|WebSocket|Failed to load resource/.test(c))).toEqual([]);
}

async function pressed(page: Page, name: string): Promise<void> {
  const button = (await page.waitForSelector(`button:not([disabled])::-p-text(${name})`))!;
  await button.press('Enter');
}

/** A page that the service worker keeps, on the brief of an aircraft. */
async function keptPage(): Promise<OpenPage> {
  const open = await openPage(chrome.browser, rouse.base, { keepsOffline: true });
  const { page } = open;
  await page.goto(rouse.base, { waitUntil: 'networkidle2' });
  await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined));
  await page.reload({ waitUntil: 'networkidle2' });
  await page.waitForFunction(() => navigator.serviceWorker.controller !== null);
  return open;
}

/** A run by hand that is begun without a server. */
async function begunAlone(page: Page): Promise<void> {
  await page.goto(`${rouse.base}/brief/${DEMO.aircraftId}`, { waitUntil: 'networkidle2' });
  await fillBrief(page, '300');
  await rouse.program.stop();
  // a page that has asked nothing since learns of it when it asks
  await page.waitForFunction(
    () => {
      const begin = [...document.querySelectorAll('button')].find(
        (b) => !b.disabled && b.textContent.startsWith('Begin'),
      );
      if (begin?.textContent.startsWith('Begin by hand')) return true;
      begin?.click();
      return false;
    },
    { polling: 500 },
  );
  await pressed(page, 'Begin by hand, kept on this tablet');
}

// before any server is stopped: the stand-in stays with the first one
describe('answers without a hand on the device', () => {
  /** A page that recognises speech on the device, as the newest browsers do; `hear` says a word to it. */
  async function listening(answers: string): Promise<{ open: OpenPage; run: string }> {
    const open = await openPage(chrome.browser, rouse.base);
    const { page } = open;
    await page.evaluateOnNewDocument((by: string) => {
      localStorage.setItem('rouse.answers', by);
      const handlers: Record<string, () => void> = {};
      class Recognition {
        static available = (): Promise<string> => Promise.resolve('available');
        onresult: ((event: object) => void) | null = null;
        start(): void {
          Object.assign(window, {
            hear: (said: string) =>
              this.onresult?.({ resultIndex: 0, results: [Object.assign([{ transcript: said }], { isFinal: true })] }),
          });
        }
        abort(): void {
          Object.assign(window, { hear: () => undefined });
        }
      }
      Object.assign(window, { SpeechRecognition: Recognition, headset: handlers });
      navigator.mediaSession.setActionHandler = (name: string, act: unknown) =>
        void (handlers[name] = act as () => void);
    }, answers);
    await call.choose('mild');
    const run = await call.open();
    await page.goto(`${rouse.base}/start/${run}`, { waitUntil: 'networkidle2' });
    await page.waitForSelector('[data-item="papers"]');
    return { open, run };
  }
  const hear = (page: Page, said: string): Promise<void> =>
    page.evaluate((s) => (window as unknown as { hear(said: string): void }).hear(s), said);

  test('three words, each said alone, do what their keys do', { timeout: 300_000 }, async () => {
    const { open, run } = await listening('words');
    const { page } = open;
    await page.waitForFunction(() => 'hear' in window);
    await hear(page, 'have you seen the papers');
    await hear(page, 'Seen.');
    await leaveItem(page, 'papers');
    const second = await presentItem(page);
    await hear(page, 'fault');
    await page.waitForSelector('[data-item] form');
    await page.keyboard.press('Escape');
    await call.post('/stand-in/pace', { run, times: 16 });
    await call.work(run, 'engine-start');
    await call.post('/stand-in/pace', { run, times: 1 });
    await page.waitForSelector('[data-item="engine-start"]');
    await call.post('/stand-in/move', { run, item: 'engine-start' });
    await page.waitForSelector('footer button[data-stop]:not([disabled])');
    await hear(page, 'stop');
    await page.waitForSelector('[data-abort]');
    const { entries } = await call.get<RunDetail>(`/runs/${run}`);
    expect(entries.filter((e) => e.kind === 'item-done' && e.item === 'papers')).toHaveLength(1);
    expect(entries.filter((e) => e.kind === 'item-fault' && e.item === second)).toEqual([]);
    expect(entries.find((e) => e.kind === 'abort')).toMatchObject({ reason: 'pilot' });
    await call.settle();
    await page.close();
    noOther(open);
  });

  test('the button of a headset says seen', { timeout: 300_000 }, async () => {
    const { open } = await listening('headset');
    const { page } = open;
    await page.waitForFunction(() => 'pause' in (window as unknown as { headset: object }).headset);
    await page.evaluate(() => (window as unknown as { headset: { pause(): void } }).headset.pause());
    await leaveItem(page, 'papers');
    expect(await presentItem(page)).not.toBe('papers');
    await call.settle();
    await page.close();
    noOther(open);
  });
});

test('by night no point of a screen is brighter than three fifths of white', { timeout: 300_000 }, async () => {
  const { page, complaints } = await openPage(chrome.browser, rouse.base, { light: 'night' });
  const run = await call.open();
  const brightest: Record<string, number> = {};
  for (const place of ['/', `/brief/${DEMO.aircraftId}`, `/start/${run}`, '/debrief', `/log/${DEMO.aircraftId}/trends`, '/drill']) {
    await page.goto(`${rouse.base}${place}`, { waitUntil: 'networkidle2' });
    await page.waitForSelector('h1');
    const picture = await page.screenshot({ encoding: 'base64' });
    brightest[place] = await page.evaluate(async (png) => {
      const bytes = Uint8Array.from(atob(png), (c) => c.charCodeAt(0));
      const bitmap = await createImageBitmap(new Blob([bytes], { type: 'image/png' }));
      const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
      const context = canvas.getContext('2d')!;
      context.drawImage(bitmap, 0, 0);
      const { data } = context.getImageData(0, 0, bitmap.width, bitmap.height);
      const linear = Float64Array.from({ length: 256 }, (_, v) =>
        v / 255 <= 0.04045 ? v / 255 / 12.92 : ((v / 255 + 0.055) / 1.055) ** 2.4,
      );
      let most = 0;
      for (let i = 0; i < data.length; i += 4)
        most = Math.max(most, 0.2126 * linear[data[i]!]! + 0.7152 * linear[data[i + 1]!]! + 0.0722 * linear[data[i + 2]!]!);
      return most;
    }, picture);
  }
  expect(Object.entries(brightest).filter(([, most]) => most > 0.6)).toEqual([]);
  expect(Math.min(...Object.values(brightest))).toBeGreaterThan(0.2);
  await call.settle();
  await page.close();
  expect(complaints).toEqual([]);
}); // oxfmt-ignore

describe('a browser that keeps nothing, or no longer', () => {
  test('full: an answer that cannot be kept does not count, and counts when there is room; cleared: all is written again', { timeout: 300_000 }, async () => {
    const open = await keptPage();
    const { page } = open;
    await begunAlone(page);
    await page.waitForSelector('[data-item]');
    const run = page.url().split('/').pop()!;
    const stood = await presentItem(page);
    await page.evaluate(() => {
      const room = Object.getOwnPropertyDescriptor(IDBObjectStore.prototype, 'put')!;
      Object.assign(window, { makeRoom: () => void Object.defineProperty(IDBObjectStore.prototype, 'put', room) });
      IDBObjectStore.prototype.put = () => {
        throw new DOMException('The disk is full.', 'QuotaExceededError');
      };
    });
    await page.keyboard.press('Space');
    const refused = (await page.waitForSelector('[data-item] [role="alert"]'))!;
    expect(await refused.evaluate((e) => e.textContent)).toMatch(/does not keep what is written\. Make room on it/);
    expect(await presentItem(page)).toBe(stood);
    await page.evaluate(() => (window as unknown as { makeRoom(): void }).makeRoom());
    await answerByKeyboard(page, stood);

    await page.evaluate(
      () =>
        new Promise<void>((done, fail) => {
          const asked = indexedDB.open('rouse');
          asked.onerror = () => fail(new Error('there is no store'));
          asked.onsuccess = () => {
            const tx = asked.result.transaction(['runs', 'entries'], 'readwrite');
            tx.objectStore('runs').clear();
            tx.objectStore('entries').clear();
            tx.oncomplete = () => (asked.result.close(), done());
          };
        }),
    );
    const next = await presentItem(page);
    await answerByKeyboard(page, next);
    await pressed(page, 'Give this run up');
    await pressed(page, 'Give it up');
    await page.waitForSelector('[data-tablet="waiting"]');
    await rouse.launch();
    await page.waitForFunction(() => !document.querySelector('[data-tablet]'));
    const { entries } = await call.get<RunDetail>(`/runs/${run}`);
    expect(checkChain(entries)).toBeNull();
    expect(entries.filter((e) => e.kind === 'item-done').map((e) => e.item)).toEqual([stood, next]);
    await page.close();
    noOther(open);
  }); // oxfmt-ignore

  test('a private window: it is said that nothing can be begun, and why', { timeout: 300_000 }, async () => {
    const open = await openPage(chrome.browser, rouse.base);
    const { page } = open;
    await page.evaluateOnNewDocument(() => {
      IDBFactory.prototype.open = () => {
        throw new DOMException('Not in a private window.', 'SecurityError');
      };
    });
    await begunAlone(page);
    const said = (await page.waitForSelector('[role="alert"]'))!;
    expect(await said.evaluate((e) => e.textContent)).toMatch(
      /This browser keeps nothing, .* Leave the private window/,
    );
    await rouse.launch();
    await page.waitForFunction(() => !document.querySelector('[data-away]'));
    await page.close();
    noOther(open);
  });
});

test('a drill that is flown without a server waits on the device, and is kept when one is there', { timeout: 300_000 }, async () => {
  const open = await keptPage();
  const { page } = open;
  await page.goto(`${rouse.base}/drill?type=S7`, { waitUntil: 'networkidle2' });
  await (await page.waitForSelector('[data-lesson="fault-start"]'))!.press('Enter');
  await page.waitForSelector('[data-drill="flying"]');
  await rouse.program.stop();
  await pressed(page, 'End');
  await page.waitForSelector('[data-waits]');
  await rouse.launch();
  const flown = async () => (await call.get<DrillMessage>('/drill/S7/1')).flown.map((d) => d.lesson);
  await expect.poll(flown, { timeout: 90_000 }).toEqual(['fault-start']);
  await page.close();
  noOther(open);
}); // oxfmt-ignore

test('a newer Rouse waits until the open run is closed, then one press brings it', { timeout: 300_000 }, async () => {
  const open = await keptPage();
  const { page } = open;
  const run = await call.open();
  await page.goto(`${rouse.base}/start/${run}`, { waitUntil: 'networkidle2' });
  await page.waitForSelector('[data-item="papers"]');
  appendFileSync(path.join(pages, 'sw.js'), '\n// newer\n');
  await page.evaluate(async () => {
    const registration = (await navigator.serviceWorker.getRegistration())!;
    await registration.update();
  });
  await page.waitForFunction(async () => ((await navigator.serviceWorker.getRegistration())?.waiting ?? null) !== null);
  await answerByKeyboard(page, 'papers');
  expect(await page.$('[data-newer]')).toBeNull();
  await call.writeNext(run, { kind: 'closed', outcome: 'given-up' });
  await page.waitForSelector('[data-newer]');
  const loaded = page.waitForNavigation();
  await pressed(page, 'Use it now');
  await loaded;
  await page.waitForFunction(
    async () => ((await navigator.serviceWorker.getRegistration())?.waiting ?? null) === null && !document.querySelector('[data-newer]'),
  );
  await page.close();
  noOther(open);
}); // oxfmt-ignore
