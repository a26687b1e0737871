import { describe, expect, test, vi } from 'vitest';

describe('settings', () => {
  test('light and size of text go to the document, and all is kept', async () => {
    const kept = new Map<string, string>([['rouse.light', 'sun']]);
    const dataset: Record<string, string> = {};
    vi.stubGlobal('window', {
      localStorage: { getItem: (k: string) => kept.get(k) ?? null, setItem: (k: string, v: string) => kept.set(k, v) },
    });
    const style = new Map<string, string>();
    const setProperty = (name: string, value: string): void => void style.set(name, value);
    vi.stubGlobal('document', { documentElement: { dataset, style: { setProperty } } });
    const { answersChanged, applySettings, lightChanged, textSizeChanged, settingsReducer, voiceToggled } =
      await import('../src/app/settings-slice.ts');
    const first = settingsReducer(undefined, { type: 'start' });
    expect(first).toMatchObject({ light: 'sun', voice: true, units: { temperature: 'C', pressure: 'hPa' } });
    const changes = [lightChanged('night'), voiceToggled(), textSizeChanged(2), answersChanged('headset')];
    const night = changes.reduce(settingsReducer, first);
    applySettings(night);
    expect(dataset['light']).toBe('night');
    expect(style.get('--text-size')).toBe('2');
    expect(['voice', 'text-size', 'answers'].map((name) => kept.get(`rouse.${name}`))).toEqual(['off', '2', 'headset']);
    applySettings(settingsReducer(night, lightChanged('auto')));
    expect('light' in dataset).toBe(false);
    vi.unstubAllGlobals();
  });

  test('a setting that nobody offers is the default', async () => {
    vi.stubGlobal('window', { localStorage: { getItem: () => 'purple', setItem: () => undefined } });
    vi.resetModules();
    const { settingsReducer } = await import('../src/app/settings-slice.ts');
    expect(settingsReducer(undefined, { type: 'start' })).toMatchObject({
      light: 'auto',
      textSize: 1,
      answers: 'hand',
    });
    vi.unstubAllGlobals();
  });
});
