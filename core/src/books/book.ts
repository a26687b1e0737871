import type { TypeFile } from '../aircraft/index.ts';
import type { Booking } from '../shutdown/index.ts';
import { type Account, accountsOf, amountsOf } from './accounts.ts';

/** What one run booked. */
export interface BookedRun {
  run: string;
  /** ISO 8601 */
  at: string;
  booking: Booking;
}

/** What the books began with, or what was put right since. */
export interface BookEntry {
  id: string;
  kind: 'opening' | 'correction';
  account: string;
  /** added to the account; a correction may take away */
  amount: number;
  reason: string;
  by: string;
  at: string;
}

/** One account with where its total comes from. */
interface BookLine {
  account: Account;
  opening: number | null;
  flown: number;
  corrected: number;
  total: number;
  /** months in which something was flown, as YYYY-MM, newest first */
  months: { month: string; amount: number }[];
}

export interface Book {
  lines: BookLine[];
  runs: number;
}

/** The books of one aircraft: opening values, what its runs added, corrections. An account without an opening begins at nothing. */
export function bookOf(type: TypeFile, runs: readonly BookedRun[], entries: readonly BookEntry[]): Book {
  const flown = runs.map((r) => ({ month: r.at.slice(0, 7), amounts: amountsOf(r.booking) }));
  const known = accountsOf(type);
  // what was counted under an earlier version of the type is not lost
  const others = [...new Set([...flown.flatMap((f) => Object.keys(f.amounts)), ...entries.map((e) => e.account)])]
    .filter((id) => !known.some((a) => a.id === id))
    .map((id): Account => ({ id, label: id, unit: id.endsWith('hours') ? 'h' : '' }));
  const lines = [...known, ...others].map((account): BookLine => {
    const months = new Map<string, number>();
    for (const { month, amounts } of flown) {
      const amount = amounts[account.id] ?? 0;
      if (amount !== 0) months.set(month, (months.get(month) ?? 0) + amount);
    }
    const of = (kind: BookEntry['kind']): number[] => entries.filter((e) => e.kind === kind && e.account === account.id).map((e) => e.amount); // oxfmt-ignore
    const sum = (values: Iterable<number>): number => [...values].reduce((a, b) => a + b, 0);
    const opening = of('opening');
    const corrected = sum(of('correction'));
    const added = sum(months.values());
    return {
      account,
      opening: opening[0] ?? null,
      flown: added,
      corrected,
      total: sum(opening) + added + corrected,
      months: [...months].map(([month, amount]) => ({ month, amount })).toSorted((a, b) => b.month.localeCompare(a.month)),
    };
  }); // oxfmt-ignore
  return { lines, runs: runs.length };
}
