import type { PracticeNow } from '@rouse/core/drill';
import type { RatingEvent } from '@rouse/core/ratings';

/** seconds left of a rating at which the time is said */
const SAID_AT_S = [60, 30, 20, 10, 5];

/**
 * What is said aloud: that a rating began or is used up, and the seconds that are left of it, each once.
 * @param said what has been said in this flight; it grows
 */
export function spokenOf(
  now: Pick<PracticeNow, 'ratings'>,
  events: readonly RatingEvent[],
  said: Set<string>,
): string[] {
  const out = events.flatMap((e): string[] => {
    if (e.ledger !== 'one-engine') return [];
    if (e.event === 'PERIOD_START') return [`${e.label}.`];
    if (e.event === 'PERIOD_EXPIRED') return [`${e.label} used up.`];
    return e.event === 'OVER_MAXIMUM' ? ['Above the maximum.'] : [];
  });
  for (const r of now.ratings) {
    if (!r.inUse || r.ledger !== 'one-engine') continue;
    for (const at of SAID_AT_S) {
      const key = `${r.engine} ${r.rating} ${r.uses} ${at}`;
      if (r.remaining_s > at || r.remaining_s < at - 1 || said.has(key)) continue;
      said.add(key);
      out.push(`${at}.`);
    }
  }
  return out;
}
