import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { flyPractice } from '@rouse/core/drill';
import { writeCsv } from '@rouse/core/format';
import { conditionsOf } from '@rouse/core/simulator';
import type { Page } from 'puppeteer-core';
import { expect, test } from 'vitest';
import { WHOLE } from '../../core/tests/whole.ts';
import { FLEET } from '../../server/src/demo/identity.ts';
import { typeOfTail } from '../rouse.ts';
import { seriousFindings, signInPage } from './chrome.ts';
import { useStage } from './stage.ts';

const stage = useStage(undefined, undefined, 'story');
const idOf = (tail: string): string => FLEET.find((a) => a.tail === tail)!.aircraftId;

const go = async (page: Page, place: string): Promise<void> => {
  await page.goto(`${stage.rouse.base}${place}`, { waitUntil: 'networkidle2' });
};
/** Presses what can be pressed by its words, with the keyboard. */
const press = async (page: Page, words: string): Promise<void> => {
  const found = await page.waitForSelector(
    `::-p-xpath(//*[self::a or self::button][contains(normalize-space(.), "${words}")])`,
  );
  await found!.focus();
  await page.keyboard.press('Enter');
};
const said = (page: Page, words: string | RegExp): Promise<unknown> =>
  page.waitForFunction((source) => new RegExp(source).test(document.body.innerText), {}, words instanceof RegExp ? words.source : words); // oxfmt-ignore

test('from Today over the release to the report, as an engineer, by keyboard', { timeout: 420_000 }, async () => {
  const { page } = stage.open;
  await signInPage(page, stage.rouse.base, 'engineer');
  await go(page, '/');
  const row = await page.waitForSelector('article[aria-label="QV-STR"][data-edge="warning"]');
  expect(await row!.evaluate((e) => e.textContent)).toMatch(/Held.*Open exceedance.*It waits for your release/s);
  // what wants attention most stands first, and has the focus
  expect(await page.$eval('article', (e) => e.getAttribute('aria-label'))).toBe('QV-STR');
  await press(page, 'Release');
  await said(page, 'Not released: it holds the next start');
  await page.waitForSelector('svg[aria-label^="Engine oil pressure"] polyline');
  expect(await seriousFindings(page)).toEqual([]);
  await page.type('form[aria-label="What was done"] input', 'Pump drive replaced');
  await page.keyboard.press('Enter');
  await said(page, 'Pump drive replaced');
  await page.type('form[aria-label="Release"] input', 'ok');
  await page.keyboard.press('Enter');
  // a word too short is refused at its field, and stays there
  await said(page, 'says what was found and done');
  expect(await page.$eval('form[aria-label="Release"] input', (e) => (e as HTMLInputElement).value)).toBe('ok');
  await page.type('form[aria-label="Release"] input', ', two ground runs at 5.4 bar');
  await page.keyboard.press('Enter');
  await said(page, /Released by R\. Vale/);
  const href = await page.$eval('a[download]', (a) => a.getAttribute('href')!);
  const report = await stage.call.fetch(href.replace('/api', ''));
  expect(report.headers.get('content-type')).toContain('application/pdf');
  await go(page, '/');
  await page.waitForSelector('article[aria-label="QV-STR"]:not([data-edge="warning"])');
});

test('trends by keyboard, with their table; another aircraft by the key A', { timeout: 420_000 }, async () => {
  const { page } = stage.open;
  await go(page, '/log');
  await said(page, 'QV-COR');
  await press(page, 'QV-COR');
  await page.waitForSelector('[aria-label="What it means"]');
  await said(page, /[Bb]attery/);
  const signs = await page.$$('[aria-label="Signs"] button');
  expect(signs.length).toBeGreaterThanOrEqual(5);
  await signs[0]!.focus();
  await page.keyboard.press('Enter');
  await page.waitForSelector('[aria-label="Signs"] button:first-of-type[aria-pressed="true"]');
  await press(page, 'As a table');
  const rows = await page.$$eval('[aria-label^="Peak temperature"] tbody tr', (all) => all.length);
  expect(rows).toBeGreaterThan(12);
  expect(await seriousFindings(page)).toEqual([]);
  await page.evaluate(() => (document.activeElement as HTMLElement).blur());
  await page.keyboard.press('a');
  await page.waitForSelector('[role="menuitem"]');
  await page.keyboard.type('QV-ERN');
  await page.keyboard.press('Enter');
  await page.waitForFunction((id) => location.pathname === `/log/${id}/trends`, {}, idOf('QV-ERN'));
  // its address is there before its page
  await page.waitForSelector('button[aria-label^="QV-ERN"]');
  // every place of the rail opens on the one that was used last
  await go(page, '/brief');
  await page.waitForFunction((id) => location.pathname === `/brief/${id}`, {}, idOf('QV-ERN'));
  await go(page, '/power');
  await page.waitForFunction((id) => location.pathname === `/power/${id}`, {}, idOf('QV-ERN'));
});

test('runs are narrowed by what is chosen, the choice stands in the address, and a run is laid beside another', { timeout: 420_000 }, async () => {
  const { page } = stage.open;
  await go(page, '/log/runs');
  await page.waitForSelector('tbody tr');
  await page.select('form[aria-label="Which runs"] select', 'QV-SKY');
  await page.waitForFunction(() => location.search === '?tail=QV-SKY');
  await page.waitForFunction(() => [...document.querySelectorAll('tbody tr')].every((r) => r.textContent!.includes('QV-SKY')));
  await page.type('input[type="search"]', 'no such wind');
  await said(page, 'No run is like that');
  await go(page, '/log/runs?tail=QV-SKY&outcome=shut-down');
  await page.waitForSelector('tbody a');
  await (await page.$('tbody a'))!.press('Enter');
  await page.waitForSelector('[data-chain="true"]');
  await said(page, 'What mattered');
  const other = await page.$eval('header select', (s) => (s as HTMLSelectElement).options[1]!.value);
  await page.select('header select', other);
  await page.waitForSelector('polyline[stroke-dasharray]');
  // a moment is looked at, and a note is pinned to it
  const moment = await page.waitForSelector('[aria-label="What happened"] button[data-weight]');
  await moment!.press('Enter');
  await page.waitForSelector('button[data-weight][aria-pressed="true"]');
  await press(page, 'Add a note about');
  await page.keyboard.type('Seen on the debrief.');
  await page.keyboard.press('Enter');
  await said(page, 'Seen on the debrief.');
  expect(await seriousFindings(page)).toEqual([]);
}); // oxfmt-ignore

test('a newer report is pasted on Today: a wrong one is refused and stays, a right one serves every row', { timeout: 420_000 }, async () => {
  const { page } = stage.open;
  await go(page, '/');
  await press(page, 'Paste a report');
  await page.type('textarea', 'a fine morning');
  await press(page, 'Read it');
  await said(page, 'not a report of the present weather');
  expect(await page.$eval('textarea', (e) => e.value)).toBe('a fine morning');
  await page.$eval('textarea', (e) => e.select());
  await page.type('textarea', 'METAR QXVA 290820Z 24012G21KT 9999 FEW030 12/06 Q1013');
  await press(page, 'Read it');
  await page.waitForFunction(() => [...document.querySelectorAll('article')].filter((a) => /21 of \d+ kt/.test(a.textContent!)).length >= 3);
  expect(await page.$eval('article[aria-label="QV-COR"]', (e) => e.textContent)).toContain('unknown there');
  expect(await seriousFindings(page)).toEqual([]);
}); // oxfmt-ignore

/** a hundred files where everything is flown */
const DAYS = WHOLE ? 97 : 27;

test('a folder of a recorder is brought along, three of its files bad', { timeout: 420_000 }, async () => {
  const { page } = stage.open;
  const dir = fs.mkdtempSync(path.join(os.tmpdir(), 'rouse-past-'));
  try {
    const files = pastFiles(dir);
    await signInPage(page, stage.rouse.base, 'engineer');
    await go(page, '/log/past');
    await page.select('select', idOf('QV-SKY'));
    await (await page.waitForSelector<'input'>('input[type="file"]' as 'input'))!.uploadFile(...files);
    await said(page, 'What comes out');
    expect(await seriousFindings(page)).toEqual([]);
    await press(page, `Bring ${DAYS + 3} files along`);
    await page.waitForSelector('[data-brought="done"]', { timeout: 180_000 });
    await said(page, `${DAYS + 3} of ${DAYS + 3} read: ${DAYS} kept with ${DAYS} starts, 3 refused`);
    const refused = await page.$eval('ul[aria-label="Refused files"]', (e) => (e as HTMLElement).innerText);
    expect(refused).toMatch(/row 22.*full/);
    expect(refused).toMatch(/no table/);
    expect(refused).toMatch(/tell the day/);
    await press(page, 'Runs of QV-SKY');
    await said(page, 'a recording');
  } finally {
    fs.rmSync(dir, { recursive: true, force: true });
  }
});

/** Days of one start each as a recorder would keep them, ten rows a second, and three files that are none. */
function pastFiles(dir: string): string[] {
  const type = typeOfTail('QV-SKY');
  const found = type.standIn.find((p) => p.id === 'mild')!;
  const flown = flyPractice({ type, conditions: conditionsOf(type, found), faults: [], corridors: {}, seed: 5 });
  const [header, ...rows] = writeCsv(flown.trace, type.channels).trim().split('\n');
  const tenth = [header, ...rows.filter((_, i) => i % 5 === 0)];
  const day = (i: number): string => new Date(Date.UTC(2022, 0, 1 + i)).toISOString().slice(0, 10);
  const bad = tenth.map((line, i) => (i === 20 ? line!.replace(/,[-\d.]+/, ',full') : line));
  const all: [string, string][] = [
    ...Array.from({ length: DAYS }, (_, i): [string, string] => [`${day(i)} 0900.csv`, tenth.join('\n')]),
    ['2022-08-01.csv', bad.join('\n')],
    ['2022-08-02.csv', 'nothing to see'],
    ['undated.csv', tenth.join('\n')],
  ];
  return all.map(([name, text], i) => {
    const file = path.join(dir, name);
    // a recorder that counts its flights: no two files are the same
    fs.writeFileSync(file, text.replace('\n', `\n# flight ${i}\n`));
    return file;
  });
}
