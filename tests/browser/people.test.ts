import type { Entry } from '@rouse/core/procedure';
import type { Page } from 'puppeteer-core';
import { expect, test } from 'vitest';
import { OWN, PASSWORD } from '../guest.ts';
import { openPage, seriousFindings, signInPage } from './chrome.ts';
import { fieldIn, press, pressButton, write } from './editor.ts';
import { beginBefore, fillBrief, presentItem, reportOfNow } from './pilot.ts';
import { useStage } from './stage.ts';

const stage = useStage();
const SLOW = { timeout: 420_000 };

/** Passkeys belong to a name, not to a number: the same server as this machine calls it. */
const named = (): string => stage.rouse.base.replace('127.0.0.1', 'localhost');
const shows = (page: Page, words: string): Promise<unknown> =>
  page.waitForFunction((wanted) => document.body.textContent?.includes(wanted), {}, words);
/** Tabs from field to field, as somebody does who has no mouse. */
async function tabTo(page: Page, name: string): Promise<void> {
  for (let i = 0; i < 80; i++) {
    if (await page.evaluate((wanted) => document.activeElement?.getAttribute('name') === wanted, name)) return;
    await page.keyboard.press('Tab');
  }
  throw new Error(`no Tab leads to ${name}`);
}
async function fill(page: Page, name: string, words: string): Promise<void> {
  await tabTo(page, name);
  await page.keyboard.down('Control');
  await page.keyboard.press('a');
  await page.keyboard.up('Control');
  await page.keyboard.type(words);
}

test('into the demo by one press, once through what everybody acknowledges, and out again', SLOW, async () => {
  const { page, complaints } = await openPage(stage.chrome.browser, null);
  await page.goto(stage.rouse.base);
  await shows(page, 'Look around with the demo');
  expect(await seriousFindings(page)).toEqual([]);
  await press(page, 'main ::-p-text(T. Brae)');
  await shows(page, 'Before you begin');
  expect(
    await stage.call
      .as('administrator')
      .fetch('/audit')
      .then((r) => r.status),
  ).toBe(200);
  await pressButton(page, 'I have read this');
  await page.waitForSelector('main ::-p-text(Sorted by what wants attention)');
  await page.reload();
  await page.waitForSelector('main ::-p-text(Sorted by what wants attention)');
  await page.keyboard.press('F2');
  await page.waitForSelector('[role="dialog"]');
  expect(await seriousFindings(page)).toEqual([]);
  await pressButton(page, 'Sign out');
  await shows(page, 'Look around with the demo');
  expect(complaints).toEqual([]);
  await page.close();
});

test('an operator of one’s own by keyboard, from the first page to the first item by hand', SLOW, async () => {
  const { page, complaints } = await openPage(stage.chrome.browser, null);
  await page.goto(named(), { waitUntil: 'networkidle2' });
  await pressButton(page, 'Set Rouse up');
  await page.waitForSelector('form[aria-label="Set Rouse up"]');
  expect(await seriousFindings(page)).toEqual([]);
  for (const [name, words] of Object.entries({
    operator: OWN.operator,
    'site.name': OWN.site.name,
    'site.elev_ft': 'three hundred',
    'person.name': OWN.person.name,
    'person.login': OWN.person.login,
    'person.password': 'too short',
    'aircraft.tail': 'al-001',
  }))
    await fill(page, name, words);
  await page.keyboard.press('Enter');
  // each wrong field is named where it stands, and nothing that was typed is lost
  await shows(page, 'site.elev_ft');
  const wrong = await page.$eval('input[name="site.elev_ft"]', (e) => e.getAttribute('aria-invalid'));
  expect(wrong).toBe('true');
  await page.focus('input[name="operator"]');
  await fill(page, 'site.elev_ft', '320');
  await page.keyboard.press('Enter');
  await shows(page, 'at least 12 characters');
  expect(await page.$eval('input[name="operator"]', (e) => e.value)).toBe(OWN.operator);
  await page.focus('input[name="operator"]');
  await fill(page, 'person.password', OWN.person.password);
  await page.keyboard.press('Enter');
  await pressButton(page, 'I have read this');
  await page.waitForSelector('main ::-p-text(Sorted by what wants attention)');
  await shows(page, 'AL-001');
  expect(await page.evaluate(() => document.body.textContent?.includes('QV-SKY'))).toBe(false);

  const tail = await page.evaluate(async () => ((await (await fetch('/api/today')).json()) as { aircraft: { aircraft: string }[] }).aircraft[0]!.aircraft); // oxfmt-ignore
  await page.goto(`${named()}/brief/${tail}`);
  await fillBrief(page, '120', reportOfNow());
  await beginBefore(page);
  expect(await presentItem(page)).toBe('papers');
  expect(await page.$eval('[data-holder]', (e) => e.textContent)).toContain('with you');

  // everything that the demo has can be made here
  await page.goto(`${named()}/set-up/sites`, { waitUntil: 'networkidle2' });
  for (const [i, [name, east]] of [
    ['pad 2', '40'],
    ['pad 3', '80'],
  ].entries()) {
    await write(page, await fieldIn(page, 'main', 'Another pad'), name!);
    await write(page, await fieldIn(page, 'main', 'East, m'), east!);
    await write(page, await fieldIn(page, 'main', 'North, m'), i === 0 ? 'far' : '0');
    await page.keyboard.press('Enter');
    if (i === 0) {
      await shows(page, 'y_m');
      await write(page, await fieldIn(page, 'main', 'North, m'), '0');
      await page.keyboard.press('Enter');
    }
    await page.waitForSelector(`[data-pad="${name}, Alder"]`);
  }
  await page.$eval('[data-pad="pad 2, Alder"]', (e) => (e as SVGElement).focus());
  await page.keyboard.press('ArrowUp');
  await shows(page, '40 m east, 1 m north');
  expect(await seriousFindings(page)).toEqual([]);
  for (const place of ['aircraft', 'lines', 'people', 'operator', 'audit', 'me']) {
    await page.goto(`${named()}/set-up/${place}`, { waitUntil: 'networkidle2' });
    await page.waitForSelector('main h1');
    expect(await seriousFindings(page), place).toEqual([]);
  }

  // a passkey, made here, signs in without a name
  const devices = await page.createCDPSession();
  await devices.send('WebAuthn.enable');
  await devices.send('WebAuthn.addVirtualAuthenticator', {
    options: {
      protocol: 'ctap2',
      transport: 'internal',
      hasResidentKey: true,
      hasUserVerification: true,
      isUserVerified: true,
      automaticPresenceSimulation: true,
    },
  });
  await write(page, await fieldIn(page, 'form[aria-label="A passkey"]', 'This device is called'), 'Desk');
  await page.keyboard.press('Enter');
  await page.waitForSelector('ul[aria-label="Passkeys"] ::-p-text(Desk)');
  await pressButton(page, 'Sign out');
  await pressButton(page, 'With a passkey');
  await page.waitForSelector('main h1 ::-p-text(Your sign-in)');
  await page.waitForSelector('ul[aria-label="Sessions"] ::-p-text(by passkey)');

  // somebody is invited, joins in a browser of their own, and sees what their role shows
  await page.goto(`${named()}/set-up/people`, { waitUntil: 'networkidle2' });
  await write(page, await fieldIn(page, 'form[aria-label="Invite somebody"]', 'Name'), 'Nils Newly');
  await page.keyboard.press('Enter');
  const link = await (await page.waitForSelector('[data-link]'))!.evaluate((e) => e.textContent);
  const { page: other, complaints: others } = await openPage(stage.chrome.browser, null);
  await other.setViewport({ width: 390, height: 844, hasTouch: true, isMobile: true });
  others.length = 0; // an empty page is begun anew for a finger, and has no storage
  await other.goto(link);
  await shows(other, 'Nils Newly, you are invited as pilot');
  expect(await other.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await other.type('input[name="login"]', 'nils');
  await other.type('input[name="password"]', PASSWORD);
  await (await other.waitForSelector('button[type="submit"]'))!.tap();
  await (await other.waitForSelector('::-p-text(I have read this)'))!.tap();
  await other.waitForSelector('main ::-p-text(Sorted by what wants attention)');
  await other.goto(`${named()}/set-up`, { waitUntil: 'networkidle2' });
  await other.waitForSelector('main h1');
  expect(await other.$$eval('nav[aria-label="Set up"] a', (all) => all.map((a) => a.textContent))).toEqual([
    'Aircraft',
    'Sites and pads',
    'Types',
    'Your sign-in',
  ]);
  await other.goto(link);
  await shows(other, 'This link is over');

  // a run is taken over by whoever takes it: both names stand in its journal
  await other.goto(`${named()}/start`);
  await other.waitForSelector('[data-holder] button');
  await (await other.$('[data-holder] button'))!.tap();
  await other.waitForFunction(() => document.querySelector('[data-holder]')?.textContent?.includes('with you'));
  const run = new URL(other.url()).pathname.split('/').at(-1)!;
  const { entries } = await other.evaluate(async (id) => (await (await fetch(`/api/runs/${id}`)).json()) as { entries: Entry[] }, run); // oxfmt-ignore
  expect(entries.at(-1)).toMatchObject({ kind: 'handed-over', from: OWN.person.name, to: 'Nils Newly' });
  // the run by hand is closed and read back
  await other.evaluate(
    async (id, seq) => {
      const payload = { kind: 'closed', outcome: 'given-up' };
      const body = JSON.stringify({ id: crypto.randomUUID(), seq, payload });
      await fetch(`/api/runs/${id}/entries`, { method: 'POST', headers: { 'content-type': 'application/json' }, body });
    },
    run,
    entries.length + 1,
  );
  await other.goto(`${named()}/debrief/${run}`, { waitUntil: 'networkidle2' });
  await other.waitForSelector('header h2');
  await shows(other, 'Nils Newly has taken over');
  expect(others).toEqual([]);
  await other.close();
  expect(complaints).toEqual([]);
  await page.close();
});

test('a session that is ended elsewhere leaves the page as it is, and what was typed in it', SLOW, async () => {
  const { page } = stage.open;
  const aircraft = await stage.call.get<{ aircraft: { aircraft: string; tail: string }[] }>('/today');
  const skerry = aircraft.aircraft.find((a) => a.tail === 'QV-SKY')!.aircraft;
  await page.goto(`${stage.rouse.base}/brief/${skerry}`);
  const report = await page.waitForSelector('textarea');
  await report!.type('METAR as it was typed');
  const kept = await page.$eval('textarea', (e) => e.value);
  await page.evaluate(() => fetch('/api/session', { method: 'DELETE' }));
  await page.evaluate(() => fetch('/api/today').then(() => window.dispatchEvent(new Event('rouse:signed-out'))));
  await page.waitForSelector('[role="dialog"] ::-p-text(Look around with the demo)');
  await press(page, '[role="dialog"] ::-p-text(M. Aske)');
  await page.waitForFunction(() => document.querySelector('[role="dialog"]') === null);
  expect(await page.$eval('textarea', (e) => e.value)).toBe(kept);
});

test(
  'an administrator weighs an aircraft, a pilot writes a defect down, an engineer mends it: the brief knows',
  SLOW,
  async () => {
    const { page } = stage.open;
    const look = async (): Promise<void> => {
      await page.goto(`${stage.rouse.base}/set-up/aircraft`, { waitUntil: 'networkidle2' });
      await press(page, 'section[aria-label="QV-COR"] button');
    };
    await signInPage(page, stage.rouse.base, 'administrator');
    await look();
    const mass = await fieldIn(page, 'section[aria-label="QV-COR"]', 'Basic mass, kg');
    await write(page, mass, 'heavy');
    await page.focus(mass);
    await page.keyboard.press('Enter');
    await shows(page, 'basic.mass_kg');
    await write(page, mass, '911');
    await page.keyboard.press('Enter');
    const corrie = (await stage.call.get<{ aircraft: { aircraft: string; tail: string }[] }>('/today')).aircraft.find((a) => a.tail === 'QV-COR')!.aircraft; // oxfmt-ignore
    const brief = (): Promise<{ basic: { mass_kg: number } | null; defects: { words: string }[] }> =>
      stage.call.get(`/aircraft/${corrie}/brief`);
    await page.waitForFunction(async (id) => ((await (await fetch(`/api/aircraft/${id}/brief`)).json()) as { basic: { mass_kg: number } | null }).basic?.mass_kg === 911, {}, corrie); // oxfmt-ignore
    expect((await brief()).basic).toMatchObject({ mass_kg: 911 });

    await signInPage(page, stage.rouse.base, 'pilot');
    await look();
    await write(page, await fieldIn(page, 'form[aria-label="A defect"]', 'What is wrong with it'), 'Pin is missing');
    await page.keyboard.press('Enter');
    await page.waitForSelector('ul[aria-label="Open defects"] ::-p-text(Pin is missing)');
    expect((await brief()).defects).toMatchObject([{ words: 'Pin is missing' }]);
    await page.goto(`${stage.rouse.base}/brief/${corrie}`);
    await shows(page, 'a defect is open');
    await signInPage(page, stage.rouse.base, 'engineer');
    await look();
    await press(page, 'ul[aria-label="Open defects"] button');
    await shows(page, 'Nothing is known to be missing.');
    expect((await brief()).defects).toEqual([]);
  },
);
