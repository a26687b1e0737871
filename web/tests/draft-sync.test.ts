import type { DraftEdit } from '@rouse/core/contract';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { DraftSync } from '../src/features/types/editor/draft-sync.ts';

/** A server that answers when the test says so. */
let asked: { path: string; body: { file: string; text: string; seen: number } | null; answer: (body: object, status?: number) => void }[]; // oxfmt-ignore
let sync: DraftSync;

const edit = (revision: number, text: string): DraftEdit => ({ revision, file: 'wind.yaml', text, by: 'A. Lind', at: '2026-11-29T10:00:00.000Z' }); // oxfmt-ignore
const row = { draft: 'd', typeId: 'S7', version: 2, name: 'Skerry S7', basedOn: 1, status: 'open' };
const draft = (...edits: DraftEdit[]): object => ({ ...row, revision: edits.at(-1)?.revision ?? 0, edits });
const next = async (): Promise<(typeof asked)[number]> => vi.waitUntil(() => asked.shift());

beforeEach(async () => {
  asked = [];
  const kept = new Map<string, string>();
  const localStorage = {
    getItem: (k: string) => kept.get(k) ?? null,
    setItem: (k: string, v: string) => kept.set(k, v),
  };
  vi.stubGlobal('window', { localStorage });
  vi.stubGlobal(
    'fetch',
    (path: string, init?: RequestInit) =>
      new Promise<Response>((resolve) =>
        asked.push({
          path,
          body: typeof init?.body === 'string' ? (JSON.parse(init.body) as (typeof asked)[number]['body']) : null,
          answer: (body, status = 200) => resolve(Response.json(body, { status })),
        }),
      ),
  );
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'setInterval', 'clearInterval'], shouldAdvanceTime: true });
  sync = new DraftSync('d', () => undefined);
  sync.start();
  (await next()).answer(draft(edit(0, 'gust: 10')));
  await vi.waitUntil(() => sync.now.folder['wind.yaml'] === 'gust: 10');
});
afterEach(() => {
  sync.stop();
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

const write = async (text: string): Promise<(typeof asked)[number]> => {
  sync.change('wind.yaml', text);
  await vi.advanceTimersByTimeAsync(300);
  return next();
};

test('an answer that comes late takes nothing back, and makes nobody an adversary of himself', async () => {
  await vi.advanceTimersByTimeAsync(3000);
  const slow = await next(); // asked before anything was written
  const first = await write('gust: 11');
  expect(first.body).toMatchObject({ seen: 0 });
  first.answer(edit(1, 'gust: 11'));
  await vi.waitUntil(() => sync.now.kept !== null);
  slow.answer(draft(edit(0, 'gust: 10')));
  await vi.advanceTimersByTimeAsync(1);
  expect(sync.now.folder['wind.yaml']).toBe('gust: 11');
  expect((await write('gust: 12')).body).toMatchObject({ text: 'gust: 12', seen: 1 });
});

test('what another one has written meanwhile is put beside mine, and nothing is lost until somebody chooses', async () => {
  const theirs = edit(3, 'gust: 13');
  const refuse = {
    error: { code: 'changed-meanwhile', message: 'R. Vale has changed it.', remedy: 'Choose.', edit: theirs },
  };
  (await write('gust: 12')).answer(refuse, 409);
  await vi.waitUntil(() => sync.now.conflict !== null);
  expect(sync.now.conflict).toEqual({ file: 'wind.yaml', mine: 'gust: 12', theirs });
  expect(sync.now.folder['wind.yaml']).toBe('gust: 12');
  sync.settle(true);
  expect((await next()).body).toMatchObject({ text: 'gust: 12', seen: 3 });
});

test('what a closed tab had not sent is sent by the next one', async () => {
  sync.change('wind.yaml', 'gust: 12');
  const online = globalThis.fetch;
  vi.stubGlobal('fetch', () => Promise.reject(new TypeError('away')));
  sync.stop();
  await vi.advanceTimersByTimeAsync(1);
  vi.stubGlobal('fetch', online);
  const again = new DraftSync('d', () => undefined);
  again.start();
  (await next()).answer(draft(edit(0, 'gust: 10')));
  const sent = await next();
  expect(sent.body).toMatchObject({ text: 'gust: 12', seen: 0 });
  sent.answer(edit(1, 'gust: 12'));
  await vi.waitUntil(() => again.now.kept?.at !== undefined);
  expect(again.now.folder['wind.yaml']).toBe('gust: 12');
  again.stop();
});
