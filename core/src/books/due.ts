import type { Book } from './book.ts';

/** Something that falls due by an account of the books, by a day, or by whichever comes first. */
export interface DueItem {
  id: string;
  title: string;
  account: string | null;
  /** total of the account at which it is due */
  amount: number | null;
  /** YYYY-MM-DD */
  onDay: string | null;
  /** once it is past, it holds the next start */
  holds: boolean;
  setBy: string;
  setAt: string;
}

export interface DueState {
  /** soon: worth planning; past: over */
  state: 'ahead' | 'soon' | 'past' | 'unknown';
  /** what is left of whichever comes first */
  words: string;
}

const DAY_MS = 86_400_000;
/** so near it is worth a word on Today */
const SOON_DAYS = 14;
const SOON_HOURS = 10;
const SOON_TIMES = 15;

/** How near an item is. An account that the books do not have leaves it unknown, which is never good. @param now ISO 8601 */
export function dueState(item: DueItem, book: Book, now: string): DueState {
  const parts: DueState[] = [];
  if (item.amount !== null) parts.push(byAccount(item.account!, item.amount, book));
  if (item.onDay !== null) {
    const days = Math.ceil((Date.parse(`${item.onDay}T23:59:59Z`) - Date.parse(now)) / DAY_MS) - 1;
    const words = days < 0 ? `${-days} ${days === -1 ? 'day' : 'days'} over` : days === 0 ? 'today' : `in ${days} ${days === 1 ? 'day' : 'days'}`; // oxfmt-ignore
    parts.push({ state: days < 0 ? 'past' : days <= SOON_DAYS ? 'soon' : 'ahead', words });
  }
  const worst = (s: DueState): number => ['ahead', 'soon', 'unknown', 'past'].indexOf(s.state);
  return parts.toSorted((a, b) => worst(b) - worst(a))[0]!;
}

function byAccount(id: string, amount: number, book: Book): DueState {
  const line = book.lines.find((l) => l.account.id === id);
  if (!line) return { state: 'unknown', words: 'its account is not in the books' };
  const left = amount - line.total;
  const hours = line.account.unit === 'h';
  // rounded the safe way: less is left
  const shown = hours ? `${(Math.floor(Math.abs(left) * 10) / 10).toFixed(1)} h` : `${Math.floor(Math.abs(left))}`;
  if (left <= 0) return { state: 'past', words: left === 0 ? 'due now' : `${shown} over` };
  return { state: left <= (hours ? SOON_HOURS : SOON_TIMES) ? 'soon' : 'ahead', words: `${shown} left` };
}
