import { afterEach, beforeEach, expect, test, vi } from 'vitest';

let everyPulse: (typeof import('../src/platform/pulse.ts'))['everyPulse'];

beforeEach(async () => {
  vi.useFakeTimers({ toFake: ['setInterval', 'clearInterval', 'performance'] });
  vi.stubGlobal('window', globalThis);
  vi.resetModules();
  ({ everyPulse } = await import('../src/platform/pulse.ts'));
});
afterEach(() => {
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

test('what is looked at on a page is looked at in the same beats, each as often as it asks', () => {
  const looks: [string, number][] = [];
  const look = (name: string) => () => void looks.push([name, performance.now()]);
  const start_ms = performance.now();
  everyPulse(100, look('fast'));
  vi.advanceTimersByTime(40);
  // one that comes later has no beat of its own
  everyPulse(200, look('slow'));
  everyPulse(1000, look('second'));
  vi.advanceTimersByTime(10_000);
  const times = (name: string): number[] => looks.filter(([n]) => n === name).map(([, at_ms]) => at_ms - start_ms);
  expect(times('fast').length).toBe(100);
  expect(times('slow').length).toBeGreaterThanOrEqual(49);
  expect(times('second').length).toBeGreaterThanOrEqual(9);
  const beats = new Set(times('fast'));
  expect([...times('slow'), ...times('second')].every((at_ms) => beats.has(at_ms))).toBe(true);
});

test('a timer that is early or late misses no beat', () => {
  const now = vi.spyOn(performance, 'now');
  let looks = 0;
  now.mockReturnValue(0);
  everyPulse(200, () => looks++);
  for (const at_ms of [103, 196, 299, 405, 504, 591]) {
    now.mockReturnValue(at_ms);
    vi.advanceTimersByTime(100);
  }
  expect(looks).toBe(3);
});

test('a part that fails is reported, and keeps no other from looking', () => {
  const reported = vi.fn();
  vi.stubGlobal('reportError', reported);
  const fault = new Error('no drawing');
  everyPulse(100, () => {
    throw fault;
  });
  const other = vi.fn();
  everyPulse(100, other);
  vi.advanceTimersByTime(300);
  expect(other).toHaveBeenCalledTimes(3);
  expect(reported.mock.calls).toEqual([[fault], [fault], [fault]]);
});

test('who is gone is not asked any more, and with the last of them the timer ends', () => {
  const [first, second] = [vi.fn(), vi.fn()];
  const stops = [everyPulse(100, first), everyPulse(100, second)];
  expect(vi.getTimerCount()).toBe(1);
  stops[0]!();
  vi.advanceTimersByTime(300);
  expect(first).not.toHaveBeenCalled();
  expect(second).toHaveBeenCalledTimes(3);
  stops[1]!();
  expect(vi.getTimerCount()).toBe(0);
});
