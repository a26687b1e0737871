import { dueOf } from '@rouse/core/drill';
import { expect, test } from 'vitest';

const DAY_MS = 86_400_000;
const at = (day: number): string => new Date(Date.UTC(2026, 0, 1) + day * DAY_MS).toISOString();
const daysUntil = (due: string, from: string): number => (Date.parse(due) - Date.parse(from)) / DAY_MS;

test('what went well comes back later each time, what failed comes back soon', () => {
  const well = [0, 3, 17].map((day) => ({ lesson: 'start', at: at(day), sum: 85 }));
  const first = dueOf(well.slice(0, 1))[0]!;
  const third = dueOf(well)[0]!;
  expect(daysUntil(first.due, at(0))).toBeGreaterThanOrEqual(2);
  expect(daysUntil(third.due, at(17))).toBeGreaterThan(3 * daysUntil(first.due, at(0)));
  const failed = dueOf([...well, { lesson: 'start', at: at(74), sum: 40 }])[0]!;
  expect(daysUntil(failed.due, at(74))).toBeLessThan(5);
  expect(failed.last).toEqual({ at: at(74), sum: 40 });
});

test('the order in which they are given changes nothing, and the soonest stands first', () => {
  const practised = [
    { lesson: 'hot', at: at(0), sum: 95 },
    { lesson: 'hung', at: at(1), sum: 50 },
    { lesson: 'hot', at: at(9), sum: 90 },
  ];
  const due = dueOf(practised);
  expect(dueOf(practised.toReversed())).toEqual(due);
  expect(due.map((d) => d.lesson)).toEqual(['hung', 'hot']);
});
