import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';

/** The few browser globals that the platform folder touches, as small as they can be. */
class FakeParam {
  setValueAtTime = (): void => undefined;
  linearRampToValueAtTime = (): void => undefined;
}
const oscillators: { frequency: number; type: string; at_s: number; stopped: number }[] = [];
class FakeOscillator {
  private readonly entry: (typeof oscillators)[number];
  constructor(_context: unknown, options: { type: string; frequency: number }) {
    this.entry = { frequency: options.frequency, type: options.type, at_s: NaN, stopped: 0 };
    oscillators.push(this.entry);
  }
  connect = <T>(next: T): T => next;
  start = (at_s: number): void => void (this.entry.at_s = at_s);
  stop = (): void => void this.entry.stopped++;
}
class FakeGain {
  gain = new FakeParam();
  connect = <T>(next: T): T => next;
}
class FakeContext {
  currentTime = 0;
  destination = {};
  resume = async (): Promise<void> => undefined;
}

beforeEach(() => {
  oscillators.length = 0;
  vi.resetModules();
  Object.assign(globalThis, { AudioContext: FakeContext, OscillatorNode: FakeOscillator, GainNode: FakeGain });
});
afterEach(() => {
  vi.unstubAllGlobals();
});

describe('tones', () => {
  const sound = async (): Promise<typeof import('../src/platform/sound.ts')> => import('../src/platform/sound.ts');

  test('each severity has a pattern of its own', async () => {
    const { playTone } = await sound();
    const patterns = (['call', 'caution', 'warning'] as const).map((severity) => {
      oscillators.length = 0;
      playTone(severity);
      return oscillators.map((o) => `${o.type} ${o.frequency} ${o.at_s.toFixed(2)}`).join();
    });
    expect(new Set(patterns).size).toBe(3);
    expect(patterns[2]!.split(',').length).toBeGreaterThan(patterns[1]!.split(',').length);
  });

  test('a new tone replaces what still sounds, and one key silences', async () => {
    const { playTone, silenceTones } = await sound();
    playTone('caution');
    const first = [...oscillators];
    playTone('warning');
    expect(first.every((o) => o.stopped === 2)).toBe(true); // its own end, and the cut
    silenceTones();
    expect(oscillators.every((o) => o.stopped === 2)).toBe(true);
  });
});

describe('speech', () => {
  const spoken: string[] = [];
  let cancelled = 0;
  beforeEach(() => {
    spoken.length = 0;
    cancelled = 0;
    vi.stubGlobal(
      'SpeechSynthesisUtterance',
      class {
        text: string;
        constructor(text: string) {
          this.text = text;
        }
      },
    );
  });
  const withSynthesis = (): void => {
    vi.stubGlobal('window', {
      speechSynthesis: { speak: (u: { text: string }) => spoken.push(u.text), cancel: () => cancelled++ },
    });
  };

  test('a warning cuts off what is being said, a call waits its turn', async () => {
    withSynthesis();
    const { speak, stopSpeaking } = await import('../src/platform/speech.ts');
    speak('Light-off', false);
    expect(cancelled).toBe(0);
    speak('Abort.', true);
    expect(cancelled).toBe(1);
    expect(spoken).toEqual(['Light-off', 'Abort.']);
    stopSpeaking();
    expect(cancelled).toBe(2);
  });

  test('a machine without speech stays silent and whole', async () => {
    vi.stubGlobal('window', {});
    const { speak, stopSpeaking } = await import('../src/platform/speech.ts');
    expect(() => speak('Abort.', true)).not.toThrow();
    expect(() => stopSpeaking()).not.toThrow();
    expect(spoken).toEqual([]);
  });
});

describe('settings', () => {
  test('are kept for next time, and a full or forbidden store is the default', async () => {
    const kept = new Map<string, string>();
    vi.stubGlobal('window', {
      localStorage: { getItem: (k: string) => kept.get(k) ?? null, setItem: (k: string, v: string) => kept.set(k, v) },
    });
    const { readSetting, writeSetting } = await import('../src/platform/storage.ts');
    writeSetting('light', 'night');
    expect(readSetting('light')).toBe('night');
    expect([...kept.keys()]).toEqual(['rouse.light']);
    vi.stubGlobal('window', {
      get localStorage(): never {
        throw new Error('forbidden');
      },
    });
    expect(readSetting('light')).toBeNull();
    expect(() => writeSetting('light', 'day')).not.toThrow();
  });
});

describe('the door to the server', () => {
  const answer = (status: number, body: unknown): void => {
    vi.stubGlobal(
      'fetch',
      async () => new Response(typeof body === 'string' ? body : JSON.stringify(body), { status }),
    );
  };

  test('a refusal carries the server’s words; no answer says what to do', async () => {
    const { getJson, postJson } = await import('../src/platform/api.ts');
    answer(409, {
      error: {
        code: 'out-of-order',
        message: 'The journal expects entry 4, not 3.',
        remedy: 'Send it again.',
        expected: 4,
      },
    });
    await expect(postJson('/runs/x/entries', {})).rejects.toMatchObject({
      code: 'out-of-order',
      details: { expected: 4 },
      remedy: 'Send it again.',
    });
    answer(502, '<html>');
    await expect(getJson('/today')).rejects.toMatchObject({ code: 'internal' });
    vi.stubGlobal('fetch', async () => Promise.reject(new TypeError('failed')));
    await expect(getJson('/today')).rejects.toMatchObject({ code: 'unreachable' });
    answer(200, { fine: true });
    expect(await getJson('/today')).toEqual({ fine: true });
  });
});
