import { describe, expect, test } from 'vitest';
import type { RatingEvent, RatingNow } from '@rouse/core/ratings';
import { spokenOf } from '../src/features/drill/one-engine/spoken.ts';

const thirty = (remaining_s: number, change: Partial<RatingNow> = {}): RatingNow => ({
  ledger: 'one-engine',
  engine: 2,
  rating: '30s',
  label: 'Thirty-second power',
  inUse: true,
  booked_s: 30 - remaining_s,
  uses: 1,
  remaining_s,
  periods_remaining: 2,
  maintenance: true,
  inspection: null,
  unseen_s: 0,
  ...change,
});
const event = (what: RatingEvent['event'], ledger: RatingEvent['ledger'] = 'one-engine'): RatingEvent => ({
  kind: 'rating',
  t_s: 10,
  event: what,
  ledger,
  engine: 2,
  rating: '30s',
  label: 'Thirty-second power',
});

/** Everything that is said while a use runs down, looked at every 0.1 s. */
function whole(ratingAt: (left_s: number) => RatingNow, from_s: number, said = new Set<string>()): string[] {
  const out: string[] = [];
  for (let left = from_s; left >= 0; left -= 0.1) out.push(...spokenOf({ ratings: [ratingAt(left)] }, [], said));
  return out;
}

describe('timers aloud', () => {
  test('the seconds that are left are said once each, and again in the next use', () => {
    const said = new Set<string>();
    expect(whole(thirty, 30, said)).toEqual(['30.', '20.', '10.', '5.']);
    expect(whole(thirty, 30, said)).toEqual([]);
    expect(whole((left) => thirty(left, { uses: 2 }), 30, said)).toEqual(['30.', '20.', '10.', '5.']);
  });

  test('a page that looks late says no time that has gone by', () => {
    expect(spokenOf({ ratings: [thirty(18)] }, [], new Set())).toEqual([]);
    expect(spokenOf({ ratings: [thirty(19.4)] }, [], new Set())).toEqual(['20.']);
  });

  test('what is not in use, and take-off power, are not counted down aloud', () => {
    expect(whole((left) => thirty(left, { inUse: false }), 30)).toEqual([]);
    expect(whole((left) => thirty(left, { ledger: 'take-off' }), 30)).toEqual([]);
  });

  test('a use is said as it begins and as it is used up, and what passes the maximum', () => {
    const say = (...events: RatingEvent[]): string[] => spokenOf({ ratings: [] }, events, new Set());
    expect(say(event('PERIOD_START'), event('PERIOD_EXPIRED'))).toEqual([
      'Thirty-second power.',
      'Thirty-second power used up.',
    ]);
    expect(say(event('OVER_MAXIMUM'))).toEqual(['Above the maximum.']);
    expect(say(event('PERIOD_START', 'take-off'), event('GAP_ESTIMATED'))).toEqual([]);
  });
});
