import type { TypeFile } from '@rouse/core/aircraft';
import { type Entry, isHeld } from '@rouse/core/procedure';
import { insertCheck } from '../db/checks.ts';
import { insertExceedance } from '../db/exceedances.ts';
import type { Tx } from '../db/pool.ts';

/** What follows from entries beside the journal: what holds the next start, and what the next check is compared with. */
export async function storeConsequences(
  tx: Tx,
  type: TypeFile,
  aircraftId: string,
  entries: readonly Entry[],
): Promise<void> {
  for (const entry of entries) {
    if (isHeld(type, entry)) await insertExceedance(tx, aircraftId, entry);
    if (entry.kind === 'measured') await insertCheck(tx, aircraftId, new Date(entry.at), entry);
  }
}
