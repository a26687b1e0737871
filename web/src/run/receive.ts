import type { Entry } from '@rouse/core/procedure';
import { store } from '../app/store.ts';
import { announce, announceMissed } from './announce.ts';
import { entriesArrived } from './run-slice.ts';

/** entries of the followed run that were said, or were there before the page was */
const told = new Set<string>();

/** The page knows these already: a run that was just loaded. */
export function knowsAlready(entries: readonly Entry[]): void {
  told.clear();
  for (const { id } of entries) told.add(id);
}

/**
 * Takes entries from wherever they come, the live line or the answer to what was written, and says each of them once.
 * @param how new ones as they happen; 'missed' is the whole journal after a broken connection: it replaces what the page
 *   knew, and the worst that is new is said
 */
export function receive(entries: Entry[], how: 'new' | 'missed'): void {
  store.dispatch(entriesArrived({ entries, whole: how === 'missed' }));
  const fresh = entries.filter((e) => !told.has(e.id));
  for (const { id } of fresh) told.add(id);
  if (how === 'missed') announceMissed(fresh);
  else fresh.forEach(announce);
}
