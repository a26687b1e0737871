import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { enterRoom, followRun } from '../src/platform/live-socket.ts';

/** A connection as far as the page sees it; whoever is at the other end is the test. */
class FakeSocket {
  static readonly OPEN = 1;
  static made: FakeSocket[] = [];
  readyState = 0;
  binaryType = '';
  closed = 0;
  onopen: (() => void) | null = null;
  onmessage: ((event: { data: unknown }) => void) | null = null;
  onclose: (() => void) | null = null;
  constructor() {
    FakeSocket.made.push(this);
  }
  close = (): void => void this.closed++;
  opens(): void {
    this.readyState = FakeSocket.OPEN;
    this.onopen?.();
  }
}
const last = (): FakeSocket => FakeSocket.made[FakeSocket.made.length - 1]!;

let connected: boolean[];
const handlers = {
  onMessage: () => undefined,
  onFrames: () => undefined,
  onConnection: (is: boolean): void => void connected.push(is),
};
beforeEach(() => {
  connected = [];
  FakeSocket.made = [];
  vi.useFakeTimers();
  vi.stubGlobal('WebSocket', FakeSocket);
  vi.stubGlobal('window', globalThis);
  vi.stubGlobal('location', { protocol: 'http:', host: 'rouse.test' });
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

test('a connection to a run that falls silent is given up and made anew; one that speaks is kept', () => {
  followRun('r', handlers);
  last().opens();
  for (let i = 0; i < 50; i++) {
    vi.advanceTimersByTime(900);
    last().onmessage!({ data: new ArrayBuffer(8) });
  }
  expect(FakeSocket.made).toHaveLength(1);
  vi.advanceTimersByTime(3000);
  expect(FakeSocket.made[0]!.closed).toBe(1);
  expect(connected).toEqual([true, false]);
  vi.advanceTimersByTime(400);
  expect(FakeSocket.made).toHaveLength(2);
  // the first one wakes up much later: nobody listens to it any more
  expect([FakeSocket.made[0]!.onmessage, FakeSocket.made[0]!.onclose]).toEqual([null, null]);
  last().opens();
  expect(connected).toEqual([true, false, true]);
});

test('a door that does not open is tried again, and nothing is tried after the end', () => {
  const stop = followRun('r', handlers);
  vi.advanceTimersByTime(8400);
  expect(FakeSocket.made).toHaveLength(2);
  stop();
  vi.advanceTimersByTime(60_000);
  expect(FakeSocket.made).toHaveLength(2);
});

test('a room may be quiet for as long as it likes', () => {
  enterRoom('ABCDEF', () => undefined, handlers.onConnection);
  last().opens();
  vi.advanceTimersByTime(600_000);
  expect(FakeSocket.made).toHaveLength(1);
});
