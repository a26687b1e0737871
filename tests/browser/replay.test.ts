import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { flyPractice } from '@rouse/core/drill';
import { conditionsOf } from '@rouse/core/simulator';
import { columnOf, type Trace } from '@rouse/core/trace';
import type { ElementHandle, Page } from 'puppeteer-core';
import { afterAll, expect, test } from 'vitest';
import { skerry } from '../skerry.ts';
import { seriousFindings } from './chrome.ts';
import { useStage } from './stage.ts';

const stage = useStage();
const dir = mkdtempSync(path.join(tmpdir(), 'rouse-replay-'));
afterAll(() => rmSync(dir, { recursive: true }));

/** A hot start as another recorder would have written it: other names, units, separator, decimals and clock. */
function foreignFile(name: string, spoil: (lines: string[]) => string[] = (l) => l): string {
  const preset = skerry.standIn.find((p) => p.id === 'hot-start')!;
  const { trace } = flyPractice({
    type: skerry,
    conditions: conditionsOf(skerry, preset),
    faults: preset.faults,
    corridors: {},
    seed: 4,
  });
  const place = path.join(dir, name);
  writeFileSync(
    place,
    spoil(['Recorder', 'Time;Speed 1;Heat 1;Oil;Bus volts;Flow;Starter;Lever', ...rowsOf(trace)]).join('\n'),
  );
  return place;
}

function rowsOf(trace: Trace): string[] {
  const comma = (v: number, digits: number): string => (Number.isNaN(v) ? '' : v.toFixed(digits).replace('.', ','));
  const rows: string[] = [];
  for (let i = 0; i < trace.t_s.length; i += 5) {
    const at = (id: string): number => columnOf(trace, id)[i]!;
    const t = trace.t_s[i]! + 86_400 - 30; // past midnight on the way
    const two = (n: number): string => String(n).padStart(2, '0');
    const clock = `${two(Math.floor(t / 3600) % 24)}:${two(Math.floor(t / 60) % 60)}:${comma(t % 60, 2).padStart(5, '0')}`;
    rows.push(
      [
        clock,
        comma(at('ng.1'), 1),
        comma(at('tot.1') * 1.8 + 32, 0),
        comma(at('oil.1.pressure') * 14.503774, 1),
        comma(at('bus.volts'), 1),
        comma(at('fuel.1.flow'), 1),
        comma(at('starter.1.amps'), 0),
        comma(at('engine.1.selector'), 0),
      ].join(';'),
    );
  }
  return rows;
}

async function choose(page: Page, file: string): Promise<void> {
  const input = (await page.waitForSelector('input[type="file"]')) as ElementHandle<HTMLInputElement>;
  await input.uploadFile(file);
  await page.waitForSelector('[data-column="Heat 1"]');
}

const press = (page: Page, text: string) =>
  page.$$eval('button', (buttons, t) => buttons.find((b) => b.textContent === t)!.click(), text);

test('a foreign file is mapped once, kept for the next, watched whole and played', { timeout: 180_000 }, async () => {
  const { page } = stage.open;
  await page.goto(`${stage.rouse.base}/log/recording`, { waitUntil: 'networkidle2' });
  await choose(page, foreignFile('one.csv'));
  await page.select('select[aria-label="Channel of Speed 1"]', 'ng.1');
  await page.select('select[aria-label="Channel of Heat 1"]', 'tot.1');
  await page.select('select[aria-label="Unit of Heat 1"]', '°F');
  await page.select('select[aria-label="Channel of Oil"]', 'oil.1.pressure');
  await page.select('select[aria-label="Unit of Oil"]', 'psi');
  await page.select('select[aria-label="Channel of Flow"]', 'fuel.1.flow');
  await page.select('select[aria-label="Channel of Starter"]', 'starter.1.amps');
  await page.select('select[aria-label="Channel of Lever"]', 'engine.1.selector');
  // what the file does not say is asked for, and nothing is read before
  expect(await stage.text('[data-unsure]')).toMatch(/Choose first: .*the unit of Fuel flow/);
  for (const [column, unit] of [
    ['Flow', 'kg/h'],
    ['Starter', 'A'],
  ] as const)
    await page.select(`select[aria-label="Unit of ${column}"]`, unit);
  await page.waitForFunction(() => document.querySelector('[data-unsure]') === null);
  expect(await seriousFindings(page)).toEqual([]);
  await press(page, 'Read the whole file');
  await page.waitForSelector('[aria-label="What the watch says of this file"] [data-severity="warning"]');
  await page.$eval('[data-severity="warning"]', (e) => (e as HTMLElement).click());
  await page.waitForFunction(() => Number(document.querySelector('[data-channel="tot.1"] b')?.textContent) > 770);
  expect(await stage.text('[data-channel="nr"] b')).toBe('unknown'); // not in the file, and not zero
  await page.select('select[aria-label="Speed"]', '32');
  await page.waitForFunction(() => [...document.querySelectorAll('button')].some((b) => b.textContent === 'Play'));
  expect(await seriousFindings(page)).toEqual([]);

  await page.goto(`${stage.rouse.base}/log/recording`, { waitUntil: 'networkidle2' });
  await choose(page, foreignFile('two.csv'));
  await page.waitForFunction(
    () => (document.querySelector('select[aria-label="Unit of Heat 1"]') as HTMLSelectElement | null)?.value === '°F',
  );
});

test('nonsense is refused with its row and column, and what was entered stays', async () => {
  const { page } = stage.open;
  await page.goto(`${stage.rouse.base}/log/recording`, { waitUntil: 'networkidle2' });
  await choose(
    page,
    foreignFile('bad.csv', (l) => l.map((line, i) => (i === 400 ? line.replace(/;[^;]*;/, ';abc;') : line))),
  );
  await page.select('select[aria-label="Channel of Speed 1"]', 'ng.1');
  await page.select('select[aria-label="Unit of Oil"]', 'psi');
  await page.select('select[aria-label="Unit of Starter"]', 'A');
  await page.waitForFunction(() => document.querySelector('[data-unsure]') === null);
  await press(page, 'Read the whole file');
  await page.waitForSelector('[data-refused]');
  expect(await stage.text('[data-refused]')).toMatch(/Row 401, column Speed 1: "abc" is not a number/);
  expect(await page.$eval('select[aria-label="Channel of Speed 1"]', (e) => (e as HTMLSelectElement).value)).toBe(
    'ng.1',
  );
});

test('a long file shows its progress and can be cancelled', async () => {
  const { page } = stage.open;
  await page.goto(`${stage.rouse.base}/log/recording`, { waitUntil: 'networkidle2' });
  const place = path.join(dir, 'long.csv');
  const rows = Array.from({ length: 1_500_000 }, (_, i) => `${i / 50},${(i % 600) / 10},${300 + (i % 90)}`);
  writeFileSync(place, `t_s,Ng,Heat 1\n${rows.join('\n')}\n`);
  await choose(page, place);
  await press(page, 'Read the whole file');
  await page.waitForFunction(() => Number(document.querySelector('progress')?.value) > 0);
  await press(page, 'Cancel');
  await page.waitForFunction(() => document.querySelector('progress') === null);
  expect(await page.$('[aria-label="What the watch says of this file"]')).toBeNull();
});
