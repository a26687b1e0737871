import { CLEAN_LINE, type Today } from '@rouse/core/contract';
import { configureStore } from '@reduxjs/toolkit';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { serverData, troubleIn } from '../src/app/server-data.ts';

const todayWith = (preset: string): Today => ({
  operator: { name: 'Varra Air Rescue and Training', place: 'Varra heliport, 61 ft' },
  person: { name: 'M. Aske', role: 'pilot' },
  now: '2026-11-29T08:34:00Z',
  sites: [],
  aircraft: [
    {
      aircraft: 'a',
      tail: 'QV-SKY',
      booked: { starts: 0, running_s: 0, flight_s: 0 },
      type: { id: 'S7', version: 3, name: 'Skerry S7', role: '' },
      wired: true,
      connected: true,
      standIn: { connected: true, preset, line: CLEAN_LINE, presets: [] },
      pad: 'pad 2',
      openRun: null,
      running: null,
      residual: null,
      site: 'Varra',
      exceedance: null,
      defects: 0,
      due: [],
      allows: null,
      starts: null,
      findings: null,
      setAside: null,
      openExceedances: 0,
      goodStarts: 3,
      recent: [],
    },
  ],
});

/** A server of one aircraft, that can go away and can refuse. */
const server = { preset: 'mild', isAway: false, isOpen: false };

const answer = (status: number, body: unknown): Response =>
  new Response(JSON.stringify(body), { status, headers: { 'content-type': 'application/json' } });

beforeEach(() => {
  Object.assign(server, { preset: 'mild', isAway: false, isOpen: false });
  vi.stubGlobal('fetch', (path: string, init?: RequestInit) => {
    if (server.isAway) return Promise.reject(new TypeError('gone'));
    if (path === '/api/today') return Promise.resolve(answer(200, todayWith(server.preset)));
    if (server.isOpen)
      return Promise.resolve(
        answer(409, { error: { code: 'run-open', message: 'A run is open.', remedy: 'Close it first.' } }),
      );
    server.preset = (JSON.parse(init?.body as string) as { preset: string }).preset;
    return Promise.resolve(answer(200, todayWith(server.preset).aircraft[0]!.standIn));
  });
});
afterEach(() => vi.unstubAllGlobals());

const { today, choosePreset } = serverData.endpoints;

function page() {
  return configureStore({
    reducer: { [serverData.reducerPath]: serverData.reducer },
    middleware: (defaults) =>
      defaults({ serializableCheck: false, immutableCheck: false }).concat(serverData.middleware),
  });
}

test('what was read stays on the page when the server is lost, with a word about it', async () => {
  const store = page();
  await store.dispatch(today.initiate());
  server.isAway = true;
  await store.dispatch(today.initiate(undefined, { forceRefetch: true }));
  const lost = today.select()(store.getState());
  expect(lost.data?.aircraft[0]?.tail).toBe('QV-SKY');
  expect(troubleIn(lost.error)).toMatch(/cannot be reached.*npm start/);
  server.isAway = false;
  await store.dispatch(today.initiate(undefined, { forceRefetch: true }));
  expect(troubleIn(today.select()(store.getState()).error)).toBeNull();
});

test('chosen conditions are read again at once; refused ones leave what was, and say why', async () => {
  const store = page();
  const preset = () => today.select()(store.getState()).data?.aircraft[0]?.standIn?.preset;
  await store.dispatch(today.initiate());
  await store.dispatch(choosePreset.initiate({ aircraft: 'a', preset: 'cold' }));
  await vi.waitFor(() => expect(preset()).toBe('cold'));
  server.isOpen = true;
  const refused = await store.dispatch(choosePreset.initiate({ aircraft: 'a', preset: 'hot-start' }));
  expect(troubleIn(refused.error)).toBe('A run is open. Close it first.');
  expect(preset()).toBe('cold');
});
