import { ApiRefusal, postJson } from '../../platform/api.ts';
import { dropOnTablet, keepHead, listOnTablet, readOnTablet, type TabletHead } from './tablet-store.ts';

const EVERY_MS = 5000;

/** Runs that wait on this tablet: those that go on, and those that the server does not have yet. */
export interface TabletRuns {
  open: readonly TabletHead[];
  waiting: readonly TabletHead[];
  refused: readonly TabletHead[];
}

const NONE: TabletRuns = { open: [], waiting: [], refused: [] };
let known: TabletRuns = NONE;
const listeners = new Set<() => void>();

export const tabletRuns = {
  now: (): TabletRuns => known,
  subscribe: (changed: () => void): (() => void) => {
    listeners.add(changed);
    return () => listeners.delete(changed);
  },
};

/** Looks again at what waits. */
export async function countTabletRuns(): Promise<void> {
  // a browser that keeps nothing has nothing that waits
  const all = await listOnTablet().catch(() => []);
  const next: TabletRuns = {
    open: all.filter((r) => !r.closed),
    waiting: all.filter((r) => r.closed && r.refused === null),
    refused: all.filter((r) => r.closed && r.refused !== null),
  };
  if (JSON.stringify(next) === JSON.stringify(known)) return;
  known = next;
  for (const changed of listeners) changed();
}

/** Sends what is closed, one after the other, from one page at a time; what is refused stays with its reason. */
async function sendAll(): Promise<void> {
  for (const { run } of tabletRuns.now().waiting) {
    const kept = await readOnTablet(run);
    if (!kept) continue;
    const { aircraft, type, openedAt } = kept.head;
    try {
      await postJson('/runs/brought', { run, aircraft, type, openedAt, tabletNow: new Date().toISOString(), entries: kept.entries }); // oxfmt-ignore
    } catch (error) {
      if (!(error instanceof ApiRefusal) || error.isOutage || error.code === 'signed-out') return;
      await keepHead({ ...kept.head, refused: `${error.message} ${error.remedy}` });
      continue;
    }
    await dropOnTablet(run);
  }
}

/** Looks and sends from now on, whenever a server may be there. @returns how to stop it */
export function keepSendingTabletRuns(): () => void {
  const look = (): void => {
    void countTabletRuns()
      .then(() => {
        if (known.waiting.length === 0) return undefined;
        return navigator.locks.request('tablet-runs', { ifAvailable: true }, async (lock) => (lock ? sendAll() : undefined));
      })
      .then(countTabletRuns);
  };
  look();
  const timer = window.setInterval(look, EVERY_MS);
  window.addEventListener('online', look);
  return () => {
    window.clearInterval(timer);
    window.removeEventListener('online', look);
  };
} // oxfmt-ignore

/** A run that was refused is sent once more. */
export async function sendAgain(run: string): Promise<void> {
  const kept = await readOnTablet(run);
  if (kept) await keepHead({ ...kept.head, refused: null });
  await countTabletRuns();
}
