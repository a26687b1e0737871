import { lessonsOf } from '@rouse/aircraft';
import { needWatched } from '@rouse/core/aircraft';
import { DrillFlight } from '@rouse/core/drill';
import { expect, test } from 'vitest';
import { typeOf } from '../fleet.ts';
import { drillOf } from './drill-of.ts';

const type = needWatched(typeOf('S7'));
const lesson = lessonsOf(process.cwd(), type).lessons.find((l) => l.id === 'recall-start')!;
/** what a hand does without waiting for any sensor */
const [BATTERY, BEACON] = [
  { kind: 'move', control: 'battery', to: 1 },
  { kind: 'move', control: 'beacon', to: 1 },
] as const;
const earlyAfter = (acts: readonly Parameters<DrillFlight['act']>[0][], wait_s: number): string[] => {
  const flight = new DrillFlight(drillOf(type, lesson));
  for (const act of acts) flight.act(act);
  for (let i = 0; i < wait_s * 50; i++) flight.step();
  return flight.notes.filter((n) => n.kind === 'early').map((n) => n.of);
};

test('a hand that is quicker than the sensor of what it did before is not early', () => {
  expect(earlyAfter([BATTERY, BEACON], 1)).toEqual([]);
});

test('what is really begun too early is noted, with its own moment, when no sensor can say otherwise any more', () => {
  expect(earlyAfter([BEACON], 0.2)).toEqual([]);
  expect(earlyAfter([BEACON], 1)).toEqual(['beacon-on']);
});
