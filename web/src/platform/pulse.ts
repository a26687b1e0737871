import { useEffect, useState } from 'react';

const BEAT_MS = 100;

interface Listener {
  readonly period_ms: number;
  readonly look: () => void;
  lookedAt_ms: number;
}

const listeners = new Set<Listener>();
let timer: number | undefined;

function beat(): void {
  const now_ms = performance.now();
  for (const listener of listeners) {
    // a timer is a little early or late: what is due within half a beat is due now
    if (now_ms - listener.lookedAt_ms < listener.period_ms - BEAT_MS / 2) continue;
    listener.lookedAt_ms = now_ms;
    try {
      listener.look();
    } catch (error) {
      // a part that fails keeps no other from seeing that its readings are old
      reportError(error);
    }
  }
}

/**
 * Calls `look` about every `period_ms`, in whole tenths of a second. All that is looked at on a page is looked at in one
 * beat, so that it is rendered and drawn once, however many parts the page has.
 * @returns how to stop
 */
export function everyPulse(period_ms: number, look: () => void): () => void {
  const listener = { period_ms, look, lookedAt_ms: performance.now() };
  listeners.add(listener);
  timer ??= window.setInterval(beat, BEAT_MS);
  return () => {
    listeners.delete(listener);
    if (listeners.size > 0) return;
    window.clearInterval(timer);
    timer = undefined;
  };
}

/** Renders the calling component again every `period_ms`. @returns performance time of the last pulse */
export function usePulse(period_ms: number): number {
  const [now, setNow] = useState(() => performance.now());
  useEffect(() => everyPulse(period_ms, () => setNow(performance.now())), [period_ms]);
  return now;
}

/** Wall clock, looked at again every `period_ms`. */
export function useWallClock(period_ms: number): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => everyPulse(period_ms, () => setNow(Date.now())), [period_ms]);
  return now;
}
