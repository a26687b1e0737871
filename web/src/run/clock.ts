import type { LiveStatus } from './run-slice.ts';

/** The run clock now: the server's, carried on from its last word. */
export function runClock(status: LiveStatus | null, openedAt: string): number {
  return status
    ? status.t_s + (performance.now() - status.arrivedAt_ms) / 1000
    : (Date.now() - Date.parse(openedAt)) / 1000;
}
