import type { Page } from 'puppeteer-core';
import { expect, test } from 'vitest';
import { FLEET } from '../../server/src/demo/identity.ts';
import { typeOfTail } from '../rouse.ts';
import { seriousFindings, signInPage } from './chrome.ts';
import { beginBefore, fieldOf, fillBrief, fillField, reportOfNow } from './pilot.ts';
import { useStage } from './stage.ts';

const stage = useStage();

async function openBrief(tail: string): Promise<{ page: Page; aircraft: string }> {
  const { page } = stage.open;
  const { aircraftId } = FLEET.find((a) => a.tail === tail)!;
  await page.goto(`${stage.rouse.base}/brief/${aircraftId}`);
  await page.waitForSelector('#report');
  return { page, aircraft: aircraftId };
}

const valueOf = async (page: Page, label: string): Promise<string> =>
  page.$eval(await fieldOf(page, label), (e) => (e as HTMLInputElement).value);
const holds = async (page: Page): Promise<string[]> =>
  page.$$eval('[data-hold]', (all) => all.map((e) => (e as HTMLElement).dataset['hold']!));
const holdsAre = (page: Page, ids: string[]): Promise<unknown> =>
  page.waitForFunction(
    (wanted) =>
      JSON.stringify([...document.querySelectorAll<HTMLElement>('[data-hold]')].map((e) => e.dataset['hold'])) ===
      JSON.stringify(wanted),
    {},
    ids,
  );
const canBegin = async (page: Page): Promise<boolean> =>
  page.$$eval('button', (all) => all.find((b) => b.textContent === 'Begin before-start')?.disabled === false);
const kept = async (page: Page, aircraft: string): Promise<unknown> =>
  JSON.parse((await page.evaluate((id) => localStorage.getItem(`rouse.brief.${id}`), aircraft))!);

test('a brief by paste: what cannot be read is named, the rest stands, and the record keeps it', async () => {
  const { page, aircraft } = await openBrief('QV-ERN');
  await page.focus('#report');
  await page.keyboard.sendCharacter(reportOfNow({ wind: '24012G21KT' }).replace('Q1013', 'Q10X3'));
  await page.waitForFunction(() => document.querySelector('[data-serious]')?.textContent?.includes('Q10X3'));
  expect(await valueOf(page, 'Outside')).toBe('12');
  expect(await valueOf(page, 'Wind')).toBe('240');
  expect(await valueOf(page, 'Gust')).toBe('21');
  expect(await valueOf(page, 'Pressure')).toBe('');
  expect(await canBegin(page)).toBe(false);
  const shown = await page.$eval('main', (m) => m.textContent);
  expect(shown).toContain('unknown');

  await fillField(page, 'Pressure', '1008');
  await fillField(page, 'Nose', '30');
  await fillField(page, 'Fuel', '420');
  await holdsAre(page, []);
  expect(await seriousFindings(page)).toEqual([]);
  const run = await beginBefore(page);
  const { entries, source } = await stage.call.detail(run);
  const briefed = entries.find((e) => e.kind === 'briefed')!;
  expect(briefed).toMatchObject({ brief: { expected: { fuel: 420, 'pressure-setting': 1008 } } });
  expect(source).toBe('by-hand');
  await page.goto(`${stage.rouse.base}/brief/${aircraft}`);
  await page.waitForFunction(() => document.body.textContent?.includes('Continue the open run'));
});

test('a brief by hand: each wrong entry says what is wanted and loses nothing', async () => {
  const { page, aircraft } = await openBrief('QV-TRN');
  expect(await holds(page)).toContain('wind');
  for (const [label, text] of [
    ['Wind', '240'],
    ['Speed', '8'],
    ['Outside', '54 F'],
    ['Pressure', '29.92 inHg'],
    ['Nose', '210'],
    ['Fuel', '60 L'],
  ] as const)
    await fillField(page, label, text);
  await page.$$eval('button', (all) => all.find((b) => b.textContent === 'Just now')!.focus());
  await page.keyboard.press('Enter');
  const before = (await kept(page, aircraft)) as { oat_C: number; qnh_hPa: number; fuel_kg: number };
  expect(before.oat_C).toBeCloseTo(12.22, 2);
  expect(before.qnh_hPa).toBeCloseTo(1013.21, 1);
  for (const [label, text, words] of [
    ['Wind', '400', /direction is a number from 0 to 360/],
    ['Outside', '12 hPa', /hpa is not a unit of it: °C or °F/],
    ['Pressure', '1O13', /is a number in hPa, or with its unit/],
    ['Fuel', '900', /The fuel is from 0 kg to \d+ kg/],
  ] as const) {
    const field = await fillField(page, label, text);
    const wrong = await page.$eval(field.replace('"]', '-wrong"]'), (e) => e.textContent);
    expect(wrong).toMatch(words);
    expect(wrong).toContain('What was entered before is kept');
  }
  expect(await kept(page, aircraft)).toEqual(before);
  await page.reload();
  await page.waitForSelector('#report');
  expect(await valueOf(page, 'Outside')).toBe('12');
  await holdsAre(page, []);
  await beginBefore(page);
});

test('units switched in the middle lose nothing', async () => {
  const { page, aircraft } = await openBrief('QV-COR');
  await fillBrief(page, '180');
  await fillField(page, 'Pressure', '1O1'); // half typed, wrong so far
  const before = await kept(page, aircraft);
  const ready = await page.$eval('[aria-label^="Wind"], main', (e) => e.textContent);
  for (const kind of ['temperature', 'pressure', 'mass', 'volume', 'height', 'wind']) {
    await page.focus(`button[aria-label^="${kind} in"]`);
    await page.keyboard.press('Enter');
  }
  await page.waitForSelector('button[aria-label^="wind in km/h"]');
  expect(await kept(page, aircraft)).toEqual(before);
  expect(await valueOf(page, 'Outside')).toBe('54');
  expect(await valueOf(page, 'Speed')).toBe('15');
  expect(await valueOf(page, 'Fuel')).toBe('397');
  expect(await valueOf(page, 'Pressure')).toBe('1O1');
  await fillField(page, 'Pressure', '29.92');
  expect(((await kept(page, aircraft)) as { qnh_hPa: number }).qnh_hPa).toBeCloseTo(1013.21, 1);
  for (const kind of ['temperature', 'pressure', 'mass', 'volume', 'height', 'wind']) {
    await page.focus(`button[aria-label^="${kind} in"]`);
    await page.keyboard.press('Enter');
  }
  await page.waitForSelector('button[aria-label^="wind in kt"]');
  expect(await valueOf(page, 'Outside')).toBe('12');
  expect(await valueOf(page, 'Fuel')).toBe('180');
  expect(ready).not.toBe('');
});

test('a caution is passed with a reason; a no-go is not', async () => {
  const { page } = await openBrief('QV-ERN');
  await fillBrief(page, '420');
  await fillField(page, 'Gust', '32');
  await holdsAre(page, ['wind']);
  expect(await page.$eval('[data-hold="wind"]', (e) => (e as HTMLElement).dataset['severity'])).toBe('no-go');
  expect(await page.$('[data-hold="wind"] input')).toBeNull();
  await fillField(page, 'Gust', '');
  await holdsAre(page, []);
  const old = reportOfNow({ ahead_min: -150 });
  await page.click('#report', { count: 3 });
  await page.keyboard.type(old);
  await holdsAre(page, ['expired']);
  expect(await canBegin(page)).toBe(false);
  await page.type('[data-hold="expired"] input', 'The station is down, looked outside');
  await page.waitForFunction(
    () =>
      [...document.querySelectorAll('button')].find((b) => b.textContent === 'Begin before-start')?.disabled === false,
  );
  const run = await beginBefore(page);
  const briefed = (await stage.call.detail(run)).entries.find((e) => e.kind === 'briefed');
  expect(briefed).toMatchObject({
    brief: { accepted: [{ objection: 'expired', reason: 'The station is down, looked outside' }] },
  });
});

test('an engineer releases an exceedance on the brief, by name, and the run can begin', async () => {
  await stage.choose('weak-battery');
  const run = await stage.call.open();
  await stage.call.post('/stand-in/pace', { run, times: 8 });
  await stage.call.work(run, 'engine-start');
  await stage.call.waitFor(run, (e) => e.kind === 'exceedance' && e.expired);
  await stage.call.writeNext(run, { kind: 'closed', outcome: 'aborted' });
  const { page } = await openBrief('QV-SKY');
  await fillBrief(page, '300');
  const n = (await holds(page)).length;
  expect(n).toBeGreaterThan(0);
  // a pilot reads who releases it, and cannot
  expect(await page.$('[aria-label="What was found and done"]')).toBeNull();
  await signInPage(page, stage.rouse.base, 'engineer');
  await page.reload();
  await page.waitForSelector('[aria-label="What was found and done"]');
  for (let left = n; left > 0; left -= 1) {
    await page.focus('[aria-label="What was found and done"]');
    await page.keyboard.type('No');
    await page.keyboard.press('Enter');
    await page.waitForFunction(() => document.querySelector('form [role="alert"]')?.textContent?.includes('found'));
    await page.focus('[aria-label="What was found and done"]');
    await page.keyboard.type('thing but the battery, changed');
    await page.keyboard.press('Enter');
    await page.waitForFunction((was) => document.querySelectorAll('[data-hold]').length === was - 1, {}, left);
  }
  await stage.choose('mild');
  await beginBefore(page);
});

test('every drawing can be read as a table', async () => {
  const { page } = await openBrief('QV-STR');
  await fillBrief(page, '1400');
  for (const button of await page.$$('button[aria-label$=": figures"]')) await button.click();
  const heads = await page.$$eval('table caption', (all) => all.map((c) => c.textContent));
  expect(heads).toHaveLength(4);
  expect(await seriousFindings(page)).toEqual([]);
});

test('a type is read, printed and compared with its earlier version; the operator changes a way', async () => {
  const { page } = stage.open;
  const trainer = typeOfTail('QV-TRN');
  const items = trainer.items.map((i) => (i.id === 'bus-volts' ? { ...i, why: 'A weak battery floods it.' } : i));
  await stage.rouse.release({ ...trainer, version: 2, items });
  await page.goto(`${stage.rouse.base}/types`);
  const versions = await page.waitForSelector('[data-type="T2"] ::-p-text(Versions)');
  await versions!.press('Enter');
  await page.waitForFunction(() => document.body.textContent?.includes('what changed since 1'));
  await page.goto(`${stage.rouse.base}/types/T2/2?against=1`);
  await page.waitForSelector('#changes');
  expect(await page.$$eval('#changes tbody tr', (rows) => rows.map((r) => r.textContent))).toEqual([
    expect.stringContaining('A weak battery floods it.'),
  ]);
  expect(await page.$$eval('#leg-before-start tbody tr', (rows) => rows.length)).toBeGreaterThanOrEqual(20);
  expect(await seriousFindings(page)).toEqual([]);
  const pdf = await page.pdf({ format: 'A4' });
  expect(pdf.length).toBeGreaterThan(20_000);
  // a pilot reads how the operator works; an administrator says it
  expect(await page.$eval('#ways input[value="two-crew"]', (e) => (e as HTMLInputElement).disabled)).toBe(true);
  await signInPage(page, stage.rouse.base, 'administrator');
  await page.reload();
  await page.waitForFunction(() => document.querySelector('#ways label[data-selected]') !== null);
  await page.$$eval('#ways input[value="two-crew"]', (all) => all[0]!.focus());
  await page.keyboard.press('Space');
  await page.waitForFunction(
    () => document.querySelector<HTMLInputElement>('#ways input[value="two-crew"]')?.checked === true,
  );
  expect(await stage.call.get('/types/T2/ways')).toMatchObject({ method: 'two-crew' });
  await page.goto(`${stage.rouse.base}/types/Q9/1`, { waitUntil: 'networkidle2' });
  await page.waitForSelector('[role="alert"]');
});
