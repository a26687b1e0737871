import { describe, expect, test, vi } from 'vitest';

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
