import { lessonsOf } from '@rouse/aircraft';
import { needWatched } from '@rouse/core/aircraft';
import { DrillFlight, flyAsLearner, whatIf, withChange } from '@rouse/core/drill';
import { columnOf } from '@rouse/core/trace';
import { expect, test } from 'vitest';
import { typeOf } from '../fleet.ts';
import { drillOf } from './drill-of.ts';

const fly = (typeId: string, id: string) => {
  const type = needWatched(typeOf(typeId));
  const options = drillOf(
    type,
    lessonsOf(process.cwd(), type).lessons.find((l) => l.id === id)!,
  );
  const flight = new DrillFlight(options);
  flyAsLearner(flight, { seed: 7 });
  return { options, flight, flown: flight.flown() };
};

test('with one act otherwise it is what is really flown with that act otherwise, and the same before it', () => {
  const { options, flown } = fly('S7', 'recall-start');
  const boost = flown.acts.findIndex(({ act }) => act.kind === 'move' && act.control === 'boost');
  const { was, would, differs_s, words } = whatIf(options, flown.acts, flown.ended_s, { act: boost, how: 'left-out', by_s: 0 }); // oxfmt-ignore
  expect(differs_s).toBeCloseTo((flown.acts[boost]!.tick + 1) / 50, 6);
  const real = new DrillFlight(options);
  const acts = withChange(flown.acts, { act: boost, how: 'left-out', by_s: 0 });
  for (let next = 0; real.t_s < 60 && !real.over; real.step())
    while (next < acts.length && acts[next]!.tick <= real.tick) real.act(acts[next++]!.act);
  const mine = columnOf(real.trace(), 'tot.1');
  expect(columnOf(would, 'tot.1').slice(0, mine.length)).toEqual(mine);
  expect(columnOf(was, 'switch.boost').at(-1)).toBe(1);
  expect(columnOf(would, 'switch.boost').at(-1)).toBe(0);
  expect(words).toMatch(/Turbine outlet temperature comes to \d+ instead of \d+ °C/);
});

test('a hot start that is stopped later becomes hotter, and the sentence says by how much', () => {
  const { options, flown } = fly('C5', 'fault-start');
  const off = flown.acts.findIndex(({ act }) => act.kind === 'move' && act.control === 'grip' && act.to === 0);
  const { words } = whatIf(options, flown.acts, flown.ended_s, { act: off, how: 'later', by_s: 2 });
  const [, would, was] = /comes to (\d+) instead of (\d+) °C/.exec(words)!;
  expect(Number(would)).toBeGreaterThan(Number(was) + 20);
});

test('an act that is not there is refused', () => {
  expect(() => withChange([], { act: 0, how: 'left-out', by_s: 0 })).toThrow('there is no act 0');
});
