import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { readAhead, readRun } from '../src/run/read-run.ts';

let asked: string[];
let away: boolean;

const ANSWERS: Record<string, unknown> = {
  '/api/runs/r': { run: 'r', type: { id: 'S7', version: 2 }, openedAt: new Date(Date.now() - 300_000).toISOString() },
  '/api/runs/r/corridors': {},
  '/api/types/S7/2': { id: 'S7' },
};

beforeEach(() => {
  [asked, away] = [[], false];
  vi.stubGlobal('window', { dispatchEvent: () => true });
  vi.stubGlobal('fetch', async (path: string): Promise<Response> => {
    asked.push(path);
    if (away) throw new TypeError('no network');
    if (path.startsWith('/api/runs/r/trace')) return new Response(new Uint8Array([1, 2, 3]));
    const answer = ANSWERS[path];
    return answer ? Response.json(answer) : Response.json({ error: { code: 'not-found', message: 'There is no such run.', remedy: '' } }, { status: 404 }); // oxfmt-ignore
  });
});
afterEach(() => vi.unstubAllGlobals());

test('what was read ahead is not asked for again, and serves once', async () => {
  readAhead('r');
  const read = await readRun('r');
  expect(read).toMatchObject({ detail: { run: 'r' }, type: { id: 'S7' } });
  expect([...read.bytes]).toEqual([1, 2, 3]);
  expect(asked).toHaveLength(4);
  // the last two minutes of what has gone on for five
  expect(Number(/from=(.+)/.exec(asked.at(-1)!)![1])).toBeCloseTo(180, 0);
  // whoever comes back to the page wants to know how it stands by then
  await readRun('r');
  expect(asked).toHaveLength(8);
});

test('what could not be read ahead is asked for again, and its refusal told', async () => {
  away = true;
  readAhead('r');
  await vi.waitUntil(() => asked.length === 2);
  away = false;
  expect((await readRun('r')).detail.run).toBe('r');
  readAhead('x');
  await expect(readRun('x')).rejects.toThrow('There is no such run.');
});

test('what was read ahead of another run is nobody’s', async () => {
  readAhead('x');
  expect((await readRun('r')).detail.run).toBe('r');
});
