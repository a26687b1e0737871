import { lessonsOf } from '@rouse/aircraft';
import { needWatched } from '@rouse/core/aircraft';
import { simulatedBrief } from '@rouse/core/brief';
import { badDaysOf, dealStart, DrillFlight, flyAsLearner, marksOf, truthOf, viewOf, whatIf } from '@rouse/core/drill';
import { conditionsOf, SimulatedCockpit, TICK_S } from '@rouse/core/simulator';
import { typeOf } from '../core/tests/fleet.ts';
import { best, type Line, many, ROOT, share } from './measure.ts';

const FLIGHT_s = 60;

/** What a drill costs: a control to its frame, marks, a replay with one change, and how honest the starts to judge are. */
export function* drill(): Generator<Line> {
  const type = needWatched(typeOf('C5'));
  const lesson = lessonsOf(ROOT, type).lessons.find((l) => l.id === 'recall-start')!;
  const options = { type, lesson, seed: 7, brief: simulatedBrief(type, type.standIn[0]!) };
  const flight = new DrillFlight(options);
  const reached: number[] = [];
  for (let i = 0; i < many(FLIGHT_s, 4) * 50; i++) {
    const since = performance.now();
    if (i % 10 === 0) flight.act({ kind: 'move', control: 'grip', to: (i % 40) / 400 });
    flight.step();
    if (i % 5 === 0) viewOf(flight);
    reached.push(performance.now() - since);
  }
  // the worker looks every 20 ms, and the screen paints every 17: what the machine adds is what is measured
  yield { name: 'drill: from a control to its frame, p95, with a beat of the worker and one of the screen', value: share(reached, 0.95) + 20 + 17, unit: 'ms', wanted: 'at most', target: 50 }; // oxfmt-ignore

  const whole = new DrillFlight(options);
  flyAsLearner(whole, { seed: 7 });
  const flown = whole.flown();
  yield { name: 'drill: marks of a whole lesson', value: 1000 * best(5, () => marksOf(flown, null)), unit: 'ms', wanted: 'at most', target: 200 }; // oxfmt-ignore
  const change = { act: Math.floor(flown.acts.length / 2), how: 'left-out' as const, by_s: 0 };
  yield { name: 'drill: a lesson flown again as it was and with one change', value: best(2, () => whatIf(options, flown.acts, flown.ended_s, change)), unit: 's', wanted: 'at most', target: 2 }; // oxfmt-ignore
  yield opened();
  for (const id of ['S7', 'C5', 'H9', 'X14', 'T2', 'T2i']) yield* dealt(id);
}

/** A lesson that begins after everything else was flown: a patient hand flies it up to there while the learner waits. */
function opened(): Line {
  const type = needWatched(typeOf('T2'));
  const lesson = lessonsOf(ROOT, type).lessons.find((l) => l.id === 'recall-shut-down')!;
  const preset = type.standIn.find((p) => p.id === lesson.day)!;
  const options = { type, lesson, seed: 7, brief: simulatedBrief(type, preset) };
  const { begun_s } = new DrillFlight(options);
  const opens_s = best(3, () => new DrillFlight(options));
  const flies_s = best(3, () => {
    const cockpit = new SimulatedCockpit(type, conditionsOf(type, preset), [], 7);
    for (let t_s = 0; t_s < begun_s; t_s += TICK_S) cockpit.tick();
  });
  const remark = `${begun_s.toFixed(0)} s of flight in ${opens_s.toFixed(2)} s`;
  return { name: 'drill: the last lesson opened, against the simulator alone for as long', value: opens_s / flies_s, unit: 'times', wanted: 'at most', target: 6, remark }; // oxfmt-ignore
}

function* dealt(id: string): Generator<Line> {
  const type = needWatched(typeOf(id));
  const bad = badDaysOf(type);
  const count = { starts: many(1000, 2), healthy: 0, wronged: 0, bad: 0, blind: 0 };
  for (let seed = 1; seed <= count.starts; seed++) {
    const deal = dealStart(type, bad, 40_000 + seed, (seed % 10) / 10);
    const truth = truthOf(type, deal);
    if (deal.wrong === null) count.healthy++;
    if (deal.wrong === null && truth.bad) count.wronged++;
    if (truth.bad) count.bad++;
    if (truth.bad && truth.tellable_s === null) count.blind++;
  }
  const remark = `of ${count.starts}, ${count.bad} to be stopped, ${count.healthy} healthy`;
  yield { name: `drill: ${id}, healthy starts that would have to be stopped`, value: count.wronged, unit: 'starts', wanted: 'at most', target: 0, remark }; // oxfmt-ignore
  yield { name: `drill: ${id}, bad starts that nobody could have told`, value: count.blind, unit: 'starts', wanted: 'at most', target: 0, remark }; // oxfmt-ignore
}
