/** Whether the server is reached, and how old what is shown is where it is not. */
export interface Reach {
  /** ms since 1970, null while it is reached */
  awaySince_ms: number | null;
  /** of the oldest answer that is shown again because nothing newer could be had, ms since 1970 */
  shownFrom_ms: number | null;
}

let now: Reach = { awaySince_ms: null, shownFrom_ms: null };
const listeners = new Set<() => void>();

export const reach = {
  now: (): Reach => now,
  subscribe: (changed: () => void): (() => void) => {
    listeners.add(changed);
    return () => listeners.delete(changed);
  },
};

function become(next: Reach): void {
  if (next.awaySince_ms === now.awaySince_ms && next.shownFrom_ms === now.shownFrom_ms) return;
  now = next;
  for (const changed of listeners) changed();
}

/** The server has answered itself. */
export const reached = (): void => become({ awaySince_ms: null, shownFrom_ms: null });

/** It has not. @param keptAt when the answer that stands for it was given, null where there is none */
export function notReached(keptAt: string | null): void {
  const kept_ms = keptAt === null ? NaN : Date.parse(keptAt);
  become({
    awaySince_ms: now.awaySince_ms ?? Date.now(),
    shownFrom_ms: Number.isNaN(kept_ms) ? now.shownFrom_ms : Math.min(kept_ms, now.shownFrom_ms ?? Infinity),
  });
}
