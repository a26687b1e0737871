import { CLEAN_LINE, type Today } from '@rouse/core/contract';
import { describe, expect, test, vi } from 'vitest';
import { choosePreset, loadToday, todayReducer } from '../src/app/today-slice.ts';

const today: Today = {
  operator: { name: 'Varra Air Rescue and Training', place: 'Varra heliport, 61 ft' },
  person: { name: 'M. Aske', role: 'pilot' },
  aircraft: [
    {
      aircraft: 'a',
      tail: 'QV-SKY',
      booked: { starts: 0, running_s: 0, flight_s: 0 },
      type: { id: 'S7', version: 3, name: 'Skerry S7', role: '' },
      wired: true,
      standIn: { connected: true, preset: 'mild', line: CLEAN_LINE, presets: [] },
      pad: 'pad 2',
      openRun: null,
      setAside: null,
      openExceedances: 0,
      goodStarts: 3,
      recent: [],
    },
  ],
};

describe('today', () => {
  test('what was read stays on the page when the server is lost, with a word about it', () => {
    const read = todayReducer(undefined, loadToday.fulfilled(today, 'r'));
    const lost = todayReducer(read, loadToday.rejected(new Error('The server cannot be reached.'), 'r'));
    expect(lost).toEqual({ today, failure: 'The server cannot be reached.' });
    expect(todayReducer(lost, loadToday.fulfilled(today, 'r')).failure).toBeNull();
  });

  test('chosen conditions show at once; refused ones leave what was', () => {
    const read = todayReducer(undefined, loadToday.fulfilled(today, 'r'));
    const chosen = todayReducer(
      read,
      choosePreset.fulfilled({ connected: true, preset: 'cold', line: CLEAN_LINE, presets: [] }, 'r', {
        aircraft: 'a',
        preset: 'cold',
      }),
    );
    expect(chosen.today?.aircraft[0]?.standIn?.preset).toBe('cold');
    const refused = todayReducer(
      chosen,
      choosePreset.rejected(new Error('A run is open.'), 'r', { aircraft: 'a', preset: 'hot-start' }),
    );
    expect(refused.today?.aircraft[0]?.standIn?.preset).toBe('cold');
    expect(refused.failure).toBe('A run is open.');
  });
});

describe('settings', () => {
  test('light and voice go to the document and are kept', async () => {
    const kept = new Map<string, string>([['rouse.light', 'sun']]);
    const dataset: Record<string, string> = {};
    vi.stubGlobal('window', {
      localStorage: { getItem: (k: string) => kept.get(k) ?? null, setItem: (k: string, v: string) => kept.set(k, v) },
    });
    vi.stubGlobal('document', { documentElement: { dataset } });
    const { applySettings, lightChanged, settingsReducer, voiceToggled } = await import('../src/app/settings-slice.ts');
    const first = settingsReducer(undefined, { type: 'start' });
    expect(first).toMatchObject({ light: 'sun', voice: true, units: { temperature: 'C', pressure: 'hPa' } });
    const night = settingsReducer(settingsReducer(first, lightChanged('night')), voiceToggled());
    applySettings(night);
    expect(dataset['light']).toBe('night');
    expect(kept.get('rouse.voice')).toBe('off');
    applySettings(settingsReducer(night, lightChanged('auto')));
    expect('light' in dataset).toBe(false);
    vi.unstubAllGlobals();
  });

  test('a setting that nobody offers is the default', async () => {
    vi.stubGlobal('window', { localStorage: { getItem: () => 'purple', setItem: () => undefined } });
    vi.resetModules();
    const { settingsReducer } = await import('../src/app/settings-slice.ts');
    expect(settingsReducer(undefined, { type: 'start' }).light).toBe('auto');
    vi.unstubAllGlobals();
  });
});
