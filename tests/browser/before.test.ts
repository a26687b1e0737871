import type { TypeFile } from '@rouse/core/aircraft';
import { differences, isFinished, passage, reduceRun, stillOpen } from '@rouse/core/procedure';
import type { Page } from 'puppeteer-core';
import { expect, test } from 'vitest';
import { FLEET } from '../../server/src/demo/identity.ts';
import { typeOfTail } from '../rouse.ts';
import { seriousFindings } from './chrome.ts';
import { answerByKeyboard, beginBefore, fillBrief, leaveItem, presentItem, workByKeyboard } from './pilot.ts';
import { useStage } from './stage.ts';

const stage = useStage();

/** Begins a run of a tail over its brief, worked in `method`, with the day's reason where the operator does otherwise. */
async function begin(tail: string, method: string, fuel: string): Promise<{ page: Page; run: string; type: TypeFile }> {
  const { page } = stage.open;
  const { aircraftId } = FLEET.find((a) => a.tail === tail)!;
  const type = typeOfTail(tail);
  await page.goto(`${stage.rouse.base}/brief/${aircraftId}`);
  await fillBrief(page, fuel);
  const choice = type.choices.find((c) => c.id === 'method')!;
  if (choice.usual !== method) {
    await page.select(`select:has(option[value="${method}"])`, method);
    await page.type('input[aria-label*="differs today"]', 'check flight');
  }
  return { page, run: await beginBefore(page), type };
}

const stateOf = async (run: string) => reduceRun((await stage.call.detail(run)).entries);
/** Every item behind the before-start leg. */
const behind = (type: TypeFile): string[] => type.items.filter((i) => i.leg !== 'before-start').map((i) => i.id);

test('read and do: each item is read, done and answered, in the order of the walk', async () => {
  const { page, run, type } = await begin('QV-TRN', 'read-and-do', '40');
  const seen = await workByKeyboard(page, behind(type));
  const state = await stateOf(run);
  const [before] = passage(type, state);
  expect(before).toMatchObject({ id: 'before-start', status: 'done' });
  expect(seen.length).toBeGreaterThanOrEqual(20);
  const order = type.items.map((i) => i.id);
  const walked = seen.map((id) => order.indexOf(id));
  expect(walked).toEqual(walked.toSorted((a, b) => a - b));
  // what was set for the start stays open until the lift
  expect(stillOpen(type, state).map((o) => o.closedIn)).toEqual(['lift']);
  expect(await seriousFindings(page)).toEqual([]);
});

test('flow, then verify: zones from memory, then the list, and what differs is marked', async () => {
  const { page, run, type } = await begin('QV-ERN', 'flow-then-verify', '420');
  const zones: string[] = [];
  for (;;) {
    const id = await presentItem(page);
    if (!id.startsWith('flow-')) break;
    zones.push(id);
    await page.keyboard.press('Space');
    await leaveItem(page, id);
  }
  expect(zones.length).toBeGreaterThanOrEqual(3);
  const first = await presentItem(page);
  await page.keyboard.press('d');
  await leaveItem(page, first);
  await workByKeyboard(page, behind(type));
  const state = await stateOf(run);
  expect(differences(type, state).map((i) => i.id)).toEqual([first]);
  expect((await stage.call.detail(run)).entries.filter((e) => e.kind === 'zone-flowed')).toHaveLength(zones.length);
  expect(isFinished(type, state)).toBe(false);
});

test('two crew: one reads, the other answers, and neither answers unread', async () => {
  const { page, run, type } = await begin('QV-COR', 'two-crew', '180');
  expect(await page.$eval('[data-turn]', (e) => e.textContent)).toMatch(/reads/);
  const seen = await workByKeyboard(page, behind(type));
  const { entries } = await stage.call.detail(run);
  for (const id of seen.slice(0, 10)) {
    const read = entries.findIndex((e) => e.kind === 'challenged' && e.item === id);
    const answered = entries.findIndex((e) => (e.kind === 'item-done' || e.kind === 'stage-done') && e.item === id);
    expect(read).toBeGreaterThan(-1);
    expect(answered).toBeGreaterThan(read);
  }
});

test('an interruption: the two items before it are looked at again, also after a reload', async () => {
  const { page, run } = await begin('QV-STR', 'read-and-do', '1400');
  const worked: string[] = [];
  while (worked.length < 4) {
    const id = await presentItem(page);
    await answerByKeyboard(page, id);
    if (worked.at(-1) !== id) worked.push(id);
  }
  const at = await presentItem(page);
  await page.keyboard.press('i');
  await page.waitForSelector('[data-item^="again-"]');
  await page.reload();
  await page.waitForSelector('[data-item^="again-"]');
  const again: string[] = [];
  for (let left = 2; left > 0; left -= 1) {
    const id = await presentItem(page);
    again.push(id.replace('again-', ''));
    await page.keyboard.press('Space');
    await leaveItem(page, id);
  }
  expect(again.toSorted()).toEqual(worked.slice(-2).toSorted());
  expect(await presentItem(page)).toBe(at);
  expect((await stage.call.detail(run)).entries.filter((e) => e.kind === 'reseen')).toHaveLength(2);
});

/** The first item of QV-ERN's walk that is so, on the screen; what stands before it was answered elsewhere. */
async function openAtFirst(is: (item: TypeFile['items'][number], type: TypeFile) => boolean): Promise<string> {
  const type = typeOfTail('QV-ERN');
  const item = type.items.find((i) => is(i, type))!;
  await stage.openAt('QV-ERN', 'mild', item.id, { ways: { method: 'read-and-do' }, byHand: true });
  return item.id;
}

test('a figure that is wrong is refused with what was expected, and stays in its field', async () => {
  const id = await openAtFirst((item) => item.kind === 'enter');
  const { page } = stage.open;
  await page.focus('#figure');
  await page.keyboard.type('abc');
  await page.keyboard.press('Enter');
  await page.waitForSelector('[data-item] [role="alert"]');
  expect(await page.$eval('#figure', (e) => (e as HTMLInputElement).value)).toBe('abc');
  await page.click('#figure', { count: 3 });
  await page.keyboard.type('9999');
  await page.keyboard.press('Enter');
  await page.waitForFunction(() => document.querySelector('[data-item]')?.textContent?.includes("can't be"));
  expect(await presentItem(page)).toBe(id);
});

test('a reading by eye that is no number is refused by name, and stays in its field', async () => {
  const id = await openAtFirst((item, type) => {
    const channel = item.kind === 'check' && item.expect && 'channel' in item.expect ? item.expect.channel : null;
    return type.channels.some((c) => c.id === channel && !c.states && c.unit !== '');
  });
  const { page } = stage.open;
  await page.focus('#by-eye');
  await page.keyboard.type('twelve');
  await page.keyboard.press('Enter');
  const refusal = await page.waitForSelector('#by-eye-wrong[role="alert"]');
  expect(await refusal!.evaluate((e) => e.textContent)).toMatch(/ is a number in \S+\.$/);
  expect(await page.$eval('#by-eye', (e) => (e as HTMLInputElement).value)).toBe('twelve');
  expect(await presentItem(page)).toBe(id);
});
