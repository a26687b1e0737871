import { beforeEach, expect, test } from 'vitest';
import { signInPage, unreadable } from './chrome.ts';
import { layoutFaults } from './layout.ts';
import { useStage } from './stage.ts';

const stage = useStage();
/** What an administrator keeps. */
const SET_UP = ['first-steps', 'aircraft', 'sites', 'lessons', 'lines', 'people', 'operator', 'audit', 'me'];

beforeEach(() => signInPage(stage.open.page, stage.rouse.base, 'administrator'));

test.each(SET_UP)('%s can be read in every light, and is whole at every size with large letters', async (name) => {
  const { page } = stage.open;
  await page.goto(`${stage.rouse.base}/set-up/${name}`, { waitUntil: 'networkidle2' });
  await page.waitForSelector('main h1');
  expect([...(await unreadable(page)), ...(await layoutFaults(page, name))]).toEqual([]);
});

test('a draft of a type can be read in every light', async () => {
  const { page } = stage.open;
  const { body } = await stage.call.post('/types/drafts', { like: 'haugh-h9' });
  await page.goto(`${stage.rouse.base}/types/drafts/${(body as { draft?: string }).draft!}`, { waitUntil: 'networkidle2' }); // oxfmt-ignore
  await page.waitForSelector('[data-problems="0"]');
  expect(await unreadable(page)).toEqual([]);
});
