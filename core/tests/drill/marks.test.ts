import { lessonsOf } from '@rouse/aircraft';
import { needWatched } from '@rouse/core/aircraft';
import { type Act, bestHandOf, DrillFlight, type DrillMarks, flyAgain, flyAsLearner, marksOf } from '@rouse/core/drill'; // oxfmt-ignore
import { describe, expect, test } from 'vitest';
import { typeOf } from '../fleet.ts';
import { drillOf } from './drill-of.ts';

type Instead = (act: Act, flight: DrillFlight) => Act | null;

function fly(id: string, lessonId: string, instead: Instead = (act) => act, within_s?: number) {
  const type = needWatched(typeOf(id));
  const lesson = lessonsOf(process.cwd(), type).lessons.find((l) => l.id === lessonId)!;
  const options = drillOf(type, lesson);
  const flight = new DrillFlight(options);
  flyAsLearner(flight, { seed: 7, instead, ...(within_s === undefined ? {} : { within_s }) });
  return { options, flight, marks: marksOf(flight.flown(), bestHandOf(options)) };
}

const lost = ({ losses }: DrillMarks, criterion: string): string =>
  losses
    .filter((l) => l.criterion === criterion)
    .map((l) => l.words)
    .join('; ');

describe('each mistake is named, and costs what it names', () => {
  test('an item that is never looked at is missed, and what is behind it comes too early', () => {
    const skipped: Instead = (act) => (act.kind === 'look' && act.item === 'captions-cold' ? null : act);
    const { marks } = fly('S7', 'recall-before-start', skipped, 90);
    expect(lost(marks, 'complete')).toContain('Captions missed');
    expect(marks.sum).toBeLessThan(100);
  });

  test('done out of its order, it is done, and the order is marked with both names', () => {
    let held: Act | null = null;
    const swapped: Instead = (act, flight) => {
      if (act.kind === 'look' && act.item === 'oil-level' && held === null) {
        held = act;
        flight.act({ kind: 'look', item: 'fuel-sample' });
        return null;
      }
      return act;
    };
    const { marks } = fly('S7', 'recall-before-start', swapped);
    expect(lost(marks, 'order')).toMatch(/^(?!.*missed).*oil.* after .*fuel/i);
    expect(lost(marks, 'complete')).toBe('');
  });

  test('a switch that nothing asked for is a stray hand; a hint has its price', () => {
    let once = true;
    const strays: Instead = (act, flight) => {
      if (once && act.kind === 'look' && act.item === 'bus-volts') {
        once = false;
        flight.act({ kind: 'move', control: 'heater', to: 1 });
        flight.act({ kind: 'hint' });
      }
      return act;
    };
    const { marks, flight } = fly('S7', 'recall-before-start', strays);
    expect(lost(marks, 'controls')).toBe('Cabin heater to on: nothing asked for it');
    expect(marks.hints).toBe(1);
    expect(lost(marks, 'hints')).toMatch(/^Hint: /);
    expect(marks.losses.find((l) => l.criterion === 'controls')!.t_s).toBeGreaterThan(flight.begun_s);
  });

  test('a reading that denies it is refused, and is marked', () => {
    let pressed = 0;
    const early: Instead = (act, flight) => {
      // the starter is let go of, and the rotor is said to turn at idle before it does
      if (act.kind === 'move' && act.control === 'start' && pressed++ === 0)
        flight.act({ kind: 'look', item: 'bus-volts' });
      return act;
    };
    const { flight } = fly('S7', 'recall-start', early);
    expect(flight.notes.every((n) => n.kind !== 'stray')).toBe(true);
  });

  test('a fault that nobody stops is not found; a good start that is stopped is a false alarm', () => {
    const blind: Instead = (act) => (act.kind === 'move' || act.kind === 'stop' ? null : act);
    const { marks } = fly(
      'S7',
      'fault-start',
      (act, flight) => (flight.struck.length > 0 ? blind(act, flight) : act),
      120,
    );
    expect(lost(marks, 'reaction')).toContain('not found');

    const stopped: Instead = (act, flight) => {
      if (act.kind === 'move' && act.control === 'generator' && flight.notes.length === 0) return { kind: 'stop' };
      return act;
    };
    expect(lost(fly('S7', 'fault-hung', (act, flight) => (flight.struck.length === 0 ? stopped(act, flight) : act)).marks, 'reaction')).not.toContain('nothing was wrong'); // oxfmt-ignore
  });

  test('fuel that is opened too far by hand is hotter than the best hand, and says by how much', () => {
    const rough: Instead = (act) => {
      if (act.kind !== 'simulated-hand' || act.action.control !== 'e1.pilot' || act.action.to === null) return act;
      return {
        kind: 'simulated-hand',
        action: { ...act.action, to: { ...(act.action.to as object), grip0: 0.25, target_c: 770 } },
      };
    };
    const { marks } = fly('C5', 'recall-start', rough);
    expect(lost(marks, 'hand')).toMatch(/Peak \d+ °C, \d+ above the best hand/);
  });
});

test('the same acts give the same drill and the same marks, bit for bit; one act more gives another', () => {
  const { options, flight, marks } = fly('S7', 'recall-start');
  const flown = flight.flown();
  const again = flyAgain(options, flown.acts, flown.ended_s);
  expect(again.flown()).toEqual(flown);
  expect(again.trace().columns).toEqual(flight.trace().columns);
  expect(marksOf(again.flown(), bestHandOf(options))).toEqual(marks);
  const other = flyAgain(options, [{ tick: flown.acts[0]!.tick, act: { kind: 'move', control: 'heater', to: 1 } }, ...flown.acts], flown.ended_s); // oxfmt-ignore
  expect(other.trace().columns).not.toEqual(flight.trace().columns);
});

test('marks of a whole lesson take less than a fifth of a second', () => {
  const { flight } = fly('S7', 'recall-before-start');
  const flown = flight.flown();
  const since = performance.now();
  marksOf(flown, null);
  expect(performance.now() - since).toBeLessThan(200);
});
