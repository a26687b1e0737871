import { type DBSchema, type IDBPDatabase, openDB } from 'idb';
import { ApiRefusal, postJson } from './api.ts';

/** A drill that was flown without a server. Its store is not that of the runs: the one can never become the other. */
export interface DrillAtHand {
  id: string;
  /** whoever flew it: nobody else can hand it over */
  by: string;
  path: string;
  flown: object;
  flownAt_ms: number;
}

interface Schema extends DBSchema {
  drills: { key: string; value: DrillAtHand };
}

let opened: Promise<IDBPDatabase<Schema>> | null = null;
const db = (): Promise<IDBPDatabase<Schema>> =>
  (opened ??= openDB<Schema>('rouse-drills', 1, {
    upgrade: (made) => void made.createObjectStore('drills', { keyPath: 'id' }),
  }).catch((error: unknown) => {
    opened = null;
    throw error;
  }));

/** Keeps a drill on this device until a server has it. @throws where this browser keeps nothing */
export async function keepDrillAtHand(drill: DrillAtHand): Promise<void> {
  await (await db()).put('drills', drill);
}

/** Sends what a drill is, once however often it is sent. */
export function sendDrill<Kept>({ id, path, flown, flownAt_ms }: DrillAtHand): Promise<Kept> {
  const waited_s = Math.max(0, (Date.now() - flownAt_ms) / 1000);
  return postJson(path, { ...flown, id, waited_s });
}

const EVERY_MS = 5000;

/** Hands over what a person has flown without a server, from now on. @param taken told when a server has taken some @returns how to stop it */
export function keepSendingDrills(by: string, taken: () => void): () => void {
  const look = async (): Promise<void> => {
    if ((await waitingOf(by)).length === 0) return;
    const count = await navigator.locks.request('drills', { ifAvailable: true }, async (lock) => (lock ? sendDrillsAtHand(by) : 0)); // oxfmt-ignore
    if (count > 0) taken();
  };
  const lookNow = (): void => void look();
  lookNow();
  const timer = window.setInterval(lookNow, EVERY_MS);
  window.addEventListener('online', lookNow);
  return () => {
    window.clearInterval(timer);
    window.removeEventListener('online', lookNow);
  };
}

/** What a server will not take is asked about once a page; it stays for the next version of the type, or of the lesson. */
const refused = new Set<string>();
const allAtHand = async (): Promise<DrillAtHand[]> => (await db()).getAll('drills');
/** A browser that keeps nothing has nothing that waits. */
const waitingOf = async (by: string): Promise<DrillAtHand[]> =>
  (await allAtHand().catch(() => [])).filter((d) => d.by === by && !refused.has(d.id));

/** What the server does not take stays. @returns how many it took */
async function sendDrillsAtHand(by: string): Promise<number> {
  let taken = 0;
  for (const drill of await waitingOf(by)) {
    try {
      await sendDrill(drill);
    } catch (error) {
      if (!(error instanceof ApiRefusal)) throw error;
      if (error.isOutage || error.code === 'signed-out') return taken;
      refused.add(drill.id);
      continue;
    }
    await (await db()).delete('drills', drill.id);
    taken += 1;
  }
  return taken;
}
