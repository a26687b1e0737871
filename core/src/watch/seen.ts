import type { StartRecord } from './events.ts';

/** frames further apart than this are a hole; a recorder of one frame a second has none */
export const HOLE_S = 1.1;
/** what may be unseen of a start that is called good: less than any band allows above its edge */
const MOST_UNSEEN_S = 1.5;

/** A start is good only when it was seen: what happened in a hole, or behind a reading that stood still, nobody knows. */
export function verdictOf({ unseen_s, doubted_s }: StartRecord): 'good' | 'unknown' {
  return unseen_s <= MOST_UNSEEN_S && doubted_s === 0 ? 'good' : 'unknown';
}

/** What of a start is not known, as part of a sentence. */
export function sayUnseen({ unseen_s, doubted_s }: StartRecord): string {
  const unseen = unseen_s > MOST_UNSEEN_S ? [`${unseen_s.toFixed(0)} s of it were not seen`] : [];
  const doubted = doubted_s > 0 ? [`for ${doubted_s.toFixed(0)} s a reading could not be believed`] : [];
  return [...unseen, ...doubted].join(' and ');
}
