import type { RunDetail } from '@rouse/core/contract';
import type { Entry } from '@rouse/core/procedure';
import { type DBSchema, type IDBPDatabase, openDB } from 'idb';

/** A run that was opened without a server, and is kept on this tablet until one has it. */
export interface TabletHead extends Omit<RunDetail, 'entries' | 'closedAt' | 'outcome'> {
  /** whoever opened it: nobody else can hand it over */
  by: string;
  closed: boolean;
  /** why the server did not take it, null while it was not asked or could not be reached */
  refused: string | null;
}

interface Schema extends DBSchema {
  runs: { key: string; value: TabletHead };
  entries: { key: [string, number]; value: Entry };
}

let opened: Promise<IDBPDatabase<Schema>> | null = null;
const db = (): Promise<IDBPDatabase<Schema>> =>
  (opened ??= openDB<Schema>('rouse', 1, {
    upgrade(made) {
      made.createObjectStore('runs', { keyPath: 'run' });
      made.createObjectStore('entries', { keyPath: ['run', 'seq'] });
    },
  }).catch((error: unknown) => {
    opened = null;
    throw error;
  }));

/**
 * Keeps the head of a run and its journal, in one. Where somebody has cleared what the browser keeps, all of it is written
 * again, otherwise what is new.
 * @param journal all of it
 * @throws where this browser keeps nothing
 */
export async function keepOnTablet(head: TabletHead, journal: readonly Entry[]): Promise<void> {
  const tx = (await db()).transaction(['runs', 'entries'], 'readwrite', { durability: 'strict' });
  const kept = await tx.objectStore('entries').count(IDBKeyRange.bound([head.run, 0], [head.run, Infinity]));
  await Promise.all([
    tx.objectStore('runs').put(head),
    ...journal.slice(kept).map((e) => tx.objectStore('entries').put(e)),
    tx.done,
  ]);
}

/** What is known of a run has changed, its journal has not. */
export async function keepHead(head: TabletHead): Promise<void> {
  await (await db()).put('runs', head);
}

/** A run of this tablet with its journal, null where it has none of that name. */
export async function readOnTablet(run: string): Promise<{ head: TabletHead; entries: Entry[] } | null> {
  const store = await db();
  const head = await store.get('runs', run);
  if (!head) return null;
  return { head, entries: await store.getAll('entries', IDBKeyRange.bound([run, 0], [run, Infinity])) };
}

export const listOnTablet = async (): Promise<TabletHead[]> => (await db()).getAll('runs');

/** The server has it. */
export async function dropOnTablet(run: string): Promise<void> {
  const tx = (await db()).transaction(['runs', 'entries'], 'readwrite');
  await Promise.all([
    tx.objectStore('runs').delete(run),
    tx.objectStore('entries').delete(IDBKeyRange.bound([run, 0], [run, Infinity])),
    tx.done,
  ]);
}
