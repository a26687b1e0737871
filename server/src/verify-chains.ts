import { checkChain, type Entry, hashOf, parseEntry } from '@rouse/core/procedure';
import type pg from 'pg';

export interface Verified {
  runs: number;
  entries: number;
  /** what is not as it was written, in words */
  broken: string[];
}

/** Reads the journal of every run of every operator and checks its chain. @param client one that sees all of them */
export async function verifyChains(client: pg.ClientBase): Promise<Verified> {
  const found: Verified = { runs: 0, entries: 0, broken: [] };
  const { rows: runs } = await client.query<{ operator: string; run: string }>(
    'SELECT operator_id AS operator, run_id AS run FROM run ORDER BY 1, 2',
  );
  for (const { operator, run } of runs) {
    const { rows } = await client.query<{ entry: unknown; hash: string }>(
      'SELECT entry, hash FROM run_entry WHERE operator_id = $1 AND run_id = $2 ORDER BY seq',
      [operator, run],
    );
    const entries = rows.map((r): Entry => parseEntry(r.entry));
    const fault = checkChain(entries);
    if (fault) found.broken.push(`run ${run}: ${fault.message}`);
    // the last one has no other after it
    const last = entries.at(-1);
    if (last && hashOf(last) !== rows.at(-1)!.hash) found.broken.push(`run ${run}: entry ${last.seq} was changed`);
    found.runs += 1;
    found.entries += entries.length;
  }
  return found;
}
