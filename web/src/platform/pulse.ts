import { useEffect, useState } from 'react';

const BEAT_MS = 100;

interface Looker {
  readonly period_ms: number;
  readonly look: () => void;
  lookedAt_ms: number;
}

const lookers = new Set<Looker>();
let timer: number | undefined;

function beat(): void {
  const now_ms = performance.now();
  for (const looker of lookers) {
    // a timer is a little early or late: what is due within half a beat is due now
    if (now_ms - looker.lookedAt_ms < looker.period_ms - BEAT_MS / 2) continue;
    looker.lookedAt_ms = now_ms;
    looker.look();
  }
}

/**
 * Calls `look` about every `period_ms`, in whole tenths of a second. All that is looked at on a page is looked at in one
 * beat, so that it is rendered and drawn once, however many parts the page has.
 * @returns how to stop
 */
export function everyPulse(period_ms: number, look: () => void): () => void {
  const looker = { period_ms, look, lookedAt_ms: performance.now() };
  lookers.add(looker);
  timer ??= window.setInterval(beat, BEAT_MS);
  return () => {
    lookers.delete(looker);
    if (lookers.size > 0) return;
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
