import { expect, test } from 'vitest';
import { accountsOf, bookOf, type BookEntry, type DueItem, dueState } from '@rouse/core/books';
import type { Booking } from '@rouse/core/shutdown';
import { fleet, typeOf } from '../fleet.ts';

const H9 = typeOf('H9');
const NOW = '2026-11-29T08:00:00Z';

const booking = (hours: number): Booking => ({
  engines: [
    { engine: 1, starts: 1, running_s: 3600 * hours },
    { engine: 2, starts: 2, running_s: 3600 * hours },
  ],
  flight_s: 1800,
  rotorCycles: 1,
  ratings: [{ engine: 1, rating: '30s', label: 'Thirty-second power', uses: 1, booked_s: 12, inspection: 'Borescope' }],
});
const entry = (of: Partial<BookEntry>): BookEntry => ({ id: 'x', kind: 'opening', account: 'engine-1-hours', amount: 0, reason: 'logbook 3, page 12', by: 'R. Vale', at: NOW, ...of }); // oxfmt-ignore
const runs = [
  { run: 'a', at: '2026-10-02T10:00:00Z', booking: booking(1) },
  { run: 'b', at: '2026-10-30T23:59:59Z', booking: booking(0.5) },
  { run: 'c', at: '2026-11-01T00:00:00Z', booking: booking(2) },
];
const line = (entries: BookEntry[], id: string) => bookOf(H9, runs, entries).lines.find((l) => l.account.id === id)!;

test('a total is what it began with, what was flown and what was corrected; each stays visible', () => {
  const entries = [entry({ amount: 1240.5 }), entry({ id: 'y', kind: 'correction', amount: -0.25 })];
  expect(line(entries, 'engine-1-hours')).toMatchObject({ opening: 1240.5, flown: 3.5, corrected: -0.25, total: 1243.75 });
  expect(line([], 'engine-1-hours')).toMatchObject({ opening: null, flown: 3.5, corrected: 0, total: 3.5 });
}); // oxfmt-ignore

test('months are those of the universal day, the newest first', () => {
  expect(line([], 'engine-2-starts').months).toEqual([
    { month: '2026-11', amount: 2 },
    { month: '2026-10', amount: 4 },
  ]);
  expect(line([], 'flight-hours').total).toBe(1.5);
});

test('what was counted under a name that the type has no more is not lost', () => {
  const old = entry({ account: 'hoist-lifts', amount: 31 });
  expect(line([old], 'hoist-lifts').total).toBe(31);
});

test('every type keeps hours and starts of each of its engines, under names of their own', () => {
  for (const type of fleet) {
    const ids = accountsOf(type).map((a) => a.id);
    expect(new Set(ids).size).toBe(ids.length);
    for (const { id } of type.engines) expect(ids).toEqual(expect.arrayContaining([`engine-${id}-hours`, `engine-${id}-starts`])); // oxfmt-ignore
  }
});

const due = (of: Partial<DueItem>): DueItem => ({ id: 'd', title: '100 hours', account: 'engine-1-hours', amount: 100, onDay: null, holds: true, setBy: 'R. Vale', setAt: NOW, ...of }); // oxfmt-ignore

test.each([
  ['far ahead', due({}), 'ahead', '96.5 h left'],
  ['near', due({ amount: 10 }), 'soon', '6.5 h left'],
  ['to the minute', due({ amount: 3.5 }), 'past', 'due now'],
  ['past', due({ amount: 3.3 }), 'past', '0.2 h over'],
  ['less than a tenth over is over', due({ amount: 3.46 }), 'past', '0.0 h over'],
  ['a number of times', due({ account: 'engine-2-starts', amount: 20 }), 'soon', '14 left'],
  ['on a day to come', due({ account: null, amount: null, onDay: '2027-03-01' }), 'ahead', 'in 92 days'],
  ['on this day', due({ account: null, amount: null, onDay: '2026-11-29' }), 'soon', 'today'],
  ['the day after', due({ account: null, amount: null, onDay: '2026-11-28' }), 'past', '1 day over'],
  ['whichever comes first', due({ onDay: '2026-11-01' }), 'past', '28 days over'],
  ['an account that is not there is unknown, never good', due({ account: 'gone' }), 'unknown', 'its account is not in the books'],
] as const)('an item that is due: %s', (_, item, state, words) => {
  expect(dueState(item, bookOf(H9, runs, []), NOW)).toEqual({ state, words });
}); // oxfmt-ignore
