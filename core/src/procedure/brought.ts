import type { TypeFile } from '../aircraft/index.ts';
import { checkChain } from './chain.ts';
import type { Entry } from './entries.ts';
import { reduceRun } from './state.ts';

/** Whose journal it is to be, and of what. */
export interface BroughtTo {
  type: Pick<TypeFile, 'id' | 'version'>;
  tail: string;
  run: string;
  /** whoever hands it over */
  by: string;
}

/**
 * Looks at a journal that was written where no server was.
 * @returns why it cannot be taken as it is, in words that a person can act on; null when it can
 */
export function whyNotBrought(entries: readonly Entry[], { type, tail, run, by }: BroughtTo): string | null {
  const [first] = entries;
  if (first?.kind !== 'run-opened') return 'It does not begin with a run that was opened';
  const fault = checkChain(entries);
  if (fault) return `Its chain is broken: ${fault.message}`;
  if (entries.some((e) => e.run !== run)) return 'Entries of another run are among it';
  if (first.type !== type.id || first.typeVersion !== type.version || first.tail !== tail)
    return `It is of ${first.tail}, ${first.type} version ${first.typeVersion}, and handed over as ${tail}, ${type.id} version ${type.version}`;
  if (first.source !== 'by-hand') return 'Only what was worked by hand is written without a server';
  if (entries.some((e) => e.by !== by)) return 'It was written by somebody else: whoever wrote it signs in and hands it over'; // oxfmt-ignore
  if (entries.some((e, i) => i > 0 && e.t < entries[i - 1]!.t)) return 'Its times go back';
  return reduceRun(entries).status === 'open' ? 'It is not closed' : null;
}
