import { lessonsOf } from '@rouse/aircraft';
import { needWatched } from '@rouse/core/aircraft';
import { bestHandOf, checkLesson, DrillFlight, flyAsLearner, type Lesson, marksOf } from '@rouse/core/drill'; // prettier-ignore
import { describe, expect, test } from 'vitest';
import { fleet, typeOf } from '../fleet.ts';
import { drillOf } from './drill-of.ts';

const ROOT = process.cwd();
/** what a lesson with its list asks of the hand is what the one without asks; what lies long after the start is flown where it is shortest */
const isFlown = (type: string, { id, way }: Lesson): boolean =>
  way === 'faults' || (way === 'recall' && (type === 'S7' || type === 'T2' || /start/.test(id)));

test.each(fleet.map((t) => t.id))('%s: twelve lessons or more, in every way of practice, and all of them fit', (id) => {
  const type = typeOf(id);
  const { lessons, problems } = lessonsOf(ROOT, type);
  expect(problems).toEqual([]);
  expect(lessons.length).toBeGreaterThanOrEqual(12);
  expect(new Set(lessons.map((l) => l.id)).size).toBe(lessons.length);
  const ways = ['abort-or-go', 'faults', 'learn', 'recall', ...(type.ratings?.oneEngine ? ['one-engine'] : [])];
  expect([...new Set(lessons.map((l) => l.way))].toSorted()).toEqual(ways.toSorted());
});

describe.each(fleet.map((t) => t.id))('%s, flown by a learner who does everything right', (id) => {
  const type = needWatched(typeOf(id));
  const lessons = lessonsOf(ROOT, type).lessons.filter((l) => isFlown(id, l));

  test.each(lessons.map((l) => [l.id, l] as const))('%s: full marks', (_, lesson) => {
    const options = drillOf(type, lesson);
    const flight = new DrillFlight(options);
    flyAsLearner(flight, { seed: 7 });
    expect(flight.over).toBe(true);
    const { sum, losses } = marksOf(flight.flown(), bestHandOf(options));
    expect(losses).toEqual([]);
    expect(sum).toBe(100);
    expect(flight.struck.length).toBe(lesson.faults.length);
  });
});

test('a lesson that does not fit its type is told with its remedy', () => {
  const type = typeOf('S7');
  const [lesson] = lessonsOf(ROOT, type).lessons;
  const bad: Lesson = { ...lesson!, day: 'rain', from: 'beacon-off', until: 'papers', way: 'faults' };
  expect(checkLesson(type, bad).join(' ')).toMatch(
    /no condition named rain.*until: it stands before from.*name a fault/,
  );
});

test('a type that nobody has written lessons for has each leg with its list and without', () => {
  const { lessons } = lessonsOf(ROOT, { ...typeOf('S7'), id: 'Z9' });
  expect(lessons.length).toBe(2 * typeOf('S7').legs.length);
  expect(lessons.flatMap((l) => checkLesson(typeOf('S7'), l))).toEqual([]);
});
