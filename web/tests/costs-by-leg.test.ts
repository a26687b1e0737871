import { needWatched } from '@rouse/core/aircraft';
import { expect, test } from 'vitest';
import { skerry } from '../../tests/skerry.ts';
import { costsByLeg } from '../src/features/drill/costs-by-leg.ts';

const type = needWatched(skerry);

test('what drills have cost comes by leg, the dearest first; controls stand apart, what is gone is left out', () => {
  const [first, second] = [type.items[0]!, type.items.find((i) => i.leg !== type.items[0]!.leg)!];
  const control = type.cockpit!.find((c) => !type.items.some((i) => i.id === c.id))!;
  const costs = [
    { of: second.id, times: 3, points: 9 },
    { of: first.id, times: 1, points: 5 },
    { of: control.id, times: 2, points: 4 },
    { of: first.id, times: 1, points: 6 },
    { of: 'item-of-an-older-version', times: 9, points: 90 },
  ];
  const legs = costsByLeg(type, costs);
  const named = (leg: string): string => type.legs.find((l) => l.id === leg)!.label;
  expect(legs.map((l) => [l.label, l.points])).toEqual([[named(first.leg), 11], [named(second.leg), 9], ['Anywhere', 4]]); // oxfmt-ignore
  expect(legs[0]!.items.map((i) => i.label)).toEqual([first.challenge, first.challenge]);
  expect(costsByLeg(type, [])).toEqual([]);
});
