// node scripts/screenshots.mjs: the pictures of docs/screenshots, taken from the running demo (npm start) by its keyboard.
import path from 'node:path';
import puppeteer from 'puppeteer-core';
import { ROOT } from './lib/pg.mjs';

const BASE = process.env.ROUSE ?? 'http://127.0.0.1:8640';
const OUT = path.join(ROOT, 'docs/screenshots');
const browser = await puppeteer.launch({
  executablePath: '/usr/bin/chromium',
  headless: true,
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
});
const page = await browser.newPage();

async function light(name, width = 1280, height = 800) {
  await page.setViewport({ width, height });
  await page.evaluate((l) => document.documentElement.setAttribute('data-light', l), name);
}
async function shot(name) {
  await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
  await page.screenshot({ path: path.join(OUT, `${name}.png`) });
  console.log(`docs/screenshots/${name}.png`);
}
async function today(preset) {
  await page.goto(`${BASE}/`, { waitUntil: 'networkidle2' });
  await fetch(`${BASE}/api/stand-in/conditions`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ preset }),
  });
  await page.reload({ waitUntil: 'networkidle2' });
  await page.waitForFunction(() => document.activeElement?.textContent === 'Begin a run');
}
async function begin(preset) {
  await today(preset);
  await page.keyboard.press('Enter');
  await page.waitForSelector('[data-item="papers"]');
}
const present = () => page.$eval('[data-item]', (e) => e.dataset.item);
const figureAbove = (channel, value) =>
  page.waitForFunction(
    (c, v) => Number(document.querySelector(`[data-channel="${c}"] b`)?.textContent) > v,
    { polling: 20, timeout: 60_000 },
    channel,
    value,
  );

/** Answers each item when its reading agrees, moves what can be moved, until one item is present. */
async function workTo(until) {
  for (let id = await present(); id !== until; id = await present()) {
    const standIn = await page.evaluate(() =>
      [...document.querySelectorAll('[data-item] button')].some((b) => b.textContent.includes('stand-in')),
    );
    if (standIn) await page.keyboard.press('s');
    else {
      await page.waitForFunction(
        () => document.querySelector('[data-item] [data-verdict]')?.dataset.verdict !== 'false',
        { polling: 50, timeout: 90_000 },
      );
      await page.keyboard.press('Space');
    }
    await page.waitForFunction(
      (was) => document.querySelector('[data-item]')?.dataset.item !== was,
      { polling: 50, timeout: 90_000 },
      id,
    );
  }
}
async function close() {
  await page.keyboard.press('Space');
  await page.waitForFunction(() => document.body.textContent.includes('This run is closed'));
}

await today('mild');
await light('day');
await shot('today-day');
await begin('mild');
await workTo('captions-cold');
await light('day');
await shot('before-start-day');
await workTo('engine-start');
await figureAbove('ng.1', 31);
await shot('start-day');
await light('night');
await shot('start-night');
await light('day', 820, 1180);
await shot('start-portrait');
await light('day');
await workTo('selector-flight');
await shot('warm-up-day');
await workTo('end');
await close();
await page.goto(page.url().replace('/start/', '/debrief/'), { waitUntil: 'networkidle2' });
await page.waitForSelector('[data-chain]');
await light('day');
await shot('debrief-day');
await light('night');
await shot('debrief-night');

await begin('hot-start');
await workTo('engine-start');
await page.waitForSelector('[data-abort] h2', { timeout: 60_000 });
await light('night');
await shot('abort-night');
for (let id = await present(); id !== 'end'; id = await present()) await workTo('end');
await close();
await browser.close();
