import { lessonsOf } from '@rouse/aircraft';
import { needWatched } from '@rouse/core/aircraft';
import { bestHandOf, DrillFlight, flyAsLearner, type Lesson, lessonOf, marksOf, readLesson, writeLesson } from '@rouse/core/drill'; // oxfmt-ignore
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
  expect(lessonOf(type, bad).problems.join(' ')).toMatch(
    /no condition named rain.*until: it stands before from.*name a fault/,
  );
});

test('a type that nobody has written lessons for has each leg with its list and without', () => {
  const { lessons } = lessonsOf(ROOT, { ...typeOf('S7'), id: 'Z9' });
  expect(lessons.length).toBe(2 * typeOf('S7').legs.length);
  expect(lessons.flatMap((l) => lessonOf(typeOf('S7'), l).problems)).toEqual([]);
});

test('a lesson that a person writes is read; what is wrong is told with its place, and nothing else comes of it', () => {
  const type = typeOf('S7');
  const [shipped] = lessonsOf(ROOT, type).lessons;
  const text = writeLesson({ ...shipped!, id: 'own-one' });
  expect(readLesson(type, text)).toEqual({ lesson: { ...shipped, id: 'own-one' }, problems: [] });
  const told = (written: string): string => {
    const { lesson, problems } = readLesson(type, written);
    expect(lesson).toBeNull();
    return problems.join('; ');
  };
  expect(told(text.replace('way: learn', 'way: guess'))).toMatch(/^way: /);
  expect(told(`${text}\nprice: 3`)).toMatch(/price/);
  expect(told('title: "no end\nway: learn')).toMatch(/line \d/);
  expect(told('')).toMatch(/the lesson/);
  expect(told('- a\n- b')).toMatch(/the lesson/);
  expect(told(text.replace(/day: .*/, 'day: rain'))).toMatch(/no condition named rain; name one/);
});

test('an instructor sets the weather: the gauge shows it, the drill notes it, and a piston engine has no wind', () => {
  const fly = (id: string) => {
    const type = needWatched(typeOf(id));
    const flight = new DrillFlight(drillOf(type, lessonsOf(ROOT, type).lessons[0]!));
    flight.act({ kind: 'weather', air_C: 31, headwind_kt: -12, by: 'T. Brae' });
    for (let i = 0; i < 100; i++) flight.step();
    const gauge = type.channels.findIndex((c) => c.simulated?.signal.startsWith('env.oat'));
    return { gauge: flight.frame[gauge]!, words: flight.notes.at(-1)!.words };
  };
  const turbine = fly('S7');
  expect(turbine.gauge).toBeCloseTo(31, 0);
  expect(turbine.words).toBe('31 °C, tailwind 12 kt');
  expect(fly('T2').words).toBe('31 °C');
});
