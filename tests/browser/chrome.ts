import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import path from 'node:path';
import puppeteer, { type Browser, type Page } from 'puppeteer-core';

import { type As, PERSON, signIn } from '../caller.ts';

export interface Chrome {
  browser: Browser;
  close(): Promise<void>;
}

export async function launchChrome(): Promise<Chrome> {
  const userDataDir = mkdtempSync(path.join(tmpdir(), 'rouse-chrome-'));
  const browser = await puppeteer.launch({
    executablePath: process.env['CHROME'] ?? '/usr/lib/chromium/chromium-headless-shell',
    headless: true,
    pipe: true,
    userDataDir,
    defaultViewport: { width: 1280, height: 800 },
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
      '--disable-dev-shm-usage',
      // a window of its own for each context: what would stand under its address field is never seen, and loads for a second
      '--disable-features=WebUIOmniboxPopup,WebUIOmniboxAimPopup,WebUIOmniboxFullPopup',
      '--autoplay-policy=no-user-gesture-required',
    ],
  });
  return {
    browser,
    async close() {
      await browser.close();
      rmSync(userDataDir, { recursive: true, force: true, maxRetries: 5 });
    },
  };
}

export interface OpenPage {
  page: Page;
  /** what a page should never do: errors, warnings, violations of the content policy */
  complaints: string[];
}

/** Signs a page in as one of the people of the demo. */
export async function signInPage(page: Page, base: string, as: As = 'pilot'): Promise<void> {
  const pairs = (await signIn(base, PERSON[as].personId))
    .split('; ')
    .map((pair) => pair.split('=') as [string, string]);
  await page
    .browserContext()
    .setCookie(
      ...pairs.map(([name, value]) => ({ name, value, domain: new URL(base).hostname, path: '/', httpOnly: true })),
    );
}

/**
 * A page whose speech is recorded in `window.spoken`, in a chosen light, signed in where a server is named. A figure that
 * is none, shown or said, is a complaint.
 * @param keepsOffline the page and its answers are kept by its service worker; otherwise each test meets the server itself
 * @param everyFrame draws as often as a person's screen does, for what is timed
 */
export async function openPage(
  browser: Browser,
  base: string | null,
  {
    light = 'day',
    as = 'pilot',
    everyFrame = false,
    keepsOffline = false,
  }: { light?: 'day' | 'night' | 'sun'; as?: As; everyFrame?: boolean; keepsOffline?: boolean } = {},
): Promise<OpenPage> {
  const context = await browser.createBrowserContext();
  const page = await context.newPage();
  if (base !== null) await signInPage(page, base, as);
  // two browsers share a small machine: what is slow there is not wrong
  page.setDefaultTimeout(90_000);
  // by default a state is looked for at every frame, which makes an idle page draw sixty a second
  const wait = page.waitForFunction.bind(page);
  page.waitForFunction = (state, how = {}, ...args) => wait(state, { polling: 100, ...how }, ...args);
  const complaints: string[] = [];
  page.on('console', (message) => {
    // a refusal of the server is an answer, not a fault of the page
    if (message.text().startsWith('Failed to load resource: the server responded with a status of 4')) return;
    if (['error', 'warn'].includes(message.type())) complaints.push(`${message.type()}: ${message.text()}`);
  });
  page.on('pageerror', (error) => complaints.push(String(error)));
  await page.evaluateOnNewDocument(
    (chosen: string, drawsAll: boolean, keeps: boolean) => {
      // a page that is being made has no place of its own yet
      if (window.origin === 'null') return;
      localStorage.setItem('rouse.light', chosen);
      // without a window nobody listens to speech: a page that asks whether somebody does would wait for ever
      delete (window as { SpeechRecognition?: unknown }).SpeechRecognition;
      if (!keeps) delete (Navigator.prototype as { serviceWorker?: unknown }).serviceWorker;
      // a small machine draws in software: ten pictures a second tell a test as much as sixty
      if (!drawsAll) {
        const due = new Map<number, FrameRequestCallback>();
        let asked = 0;
        const drawDue = (): void => {
          const all = [...due.values()];
          due.clear();
          for (const draw of all) draw(performance.now());
        };
        window.requestAnimationFrame = (draw) => {
          if (due.size === 0) window.setTimeout(drawDue, 100);
          due.set(++asked, draw);
          return asked;
        };
        window.cancelAnimationFrame = (id) => void due.delete(id);
      }
      const spoken: string[] = [];
      Object.assign(window, { spoken });
      const noFigure = /\b(NaN|Infinity|undefined|null|\[object)\b/;
      const told = new Set<string>();
      const complain = (text: string | null | undefined): void => {
        if (!text || !noFigure.test(text) || told.has(text)) return;
        told.add(text);
        console.error(`shown or said: ${text.slice(0, 120)}`);
      };
      window.speechSynthesis.speak = (utterance) => {
        complain(utterance.text);
        spoken.push(utterance.text);
      };
      new MutationObserver((changes) => {
        for (const { target, type, attributeName, addedNodes } of changes) {
          if (type === 'characterData') complain(target.textContent);
          else if (type === 'attributes') complain((target as Element).getAttribute(attributeName!));
          else for (const node of addedNodes) if (!(node instanceof HTMLStyleElement)) complain(node.textContent);
        }
      }).observe(document, {
        subtree: true,
        childList: true,
        characterData: true,
        attributes: true,
        attributeFilter: ['aria-label', 'aria-valuetext', 'title', 'placeholder', 'd', 'points', 'x', 'y', 'style'],
      });
    },
    light,
    everyFrame,
    keepsOffline,
  );
  return { page, complaints };
}

export async function spoken(page: Page): Promise<string[]> {
  return page.evaluate(() => (window as unknown as { spoken: string[] }).spoken);
}

const axeSource = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

/** What cannot be read, or is otherwise seriously wrong, on the page that is open by day, by night and in the sun. */
export async function unreadable(page: Page): Promise<string[]> {
  const found: string[] = [];
  for (const light of ['day', 'night', 'sun']) {
    await page.evaluate((l) => document.documentElement.setAttribute('data-light', l), light);
    // another light changes colours alone
    found.push(...(await seriousFindings(page, light !== 'day')).map((finding) => `${light}: ${finding}`));
  }
  return found;
}

/** Findings of axe that are serious or worse, each with the elements it means. @param coloursOnly asks for contrast alone */
export async function seriousFindings(page: Page, coloursOnly = false): Promise<string[]> {
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(axeSource);
  return page.evaluate(
    async (rules: string[] | undefined) => {
      interface Finding {
        id: string;
        impact: string | null;
        nodes: { target: unknown[]; failureSummary: string }[];
      }
      const { axe } = window as unknown as {
        axe: {
          run(
            document: Document,
            how: { resultTypes: string[]; runOnly?: string[] },
          ): Promise<{ violations: Finding[] }>;
        };
      };
      const { violations } = await axe.run(document, { resultTypes: ['violations'], ...(rules && { runOnly: rules }) });
      return violations
        .filter((v) => v.impact === 'serious' || v.impact === 'critical')
        .map((v) => `${v.id}: ${v.nodes.map((n) => `${String(n.target)} ${n.failureSummary}`).join(' | ')}`);
    },
    coloursOnly ? ['color-contrast'] : undefined,
  );
}
