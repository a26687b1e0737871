import { type Card, createEmptyCard, fsrs, generatorParameters, type Grade, Rating } from 'ts-fsrs';

/** One time that a lesson was flown, or a round. */
export interface Practised {
  lesson: string;
  /** ISO 8601 */
  at: string;
  /** out of 100 */
  sum: number;
}

/** When a lesson is due again. */
export interface DueLesson {
  lesson: string;
  /** ISO 8601 */
  due: string;
  last: { at: string; sum: number };
}

const WELL = 92;
/** marks of 100 from which a lesson is passed */
export const PASSED = 80;
const BARELY = 60;
/** what is known is asked again when it would be remembered nine times of ten; fuzz would make two persons differ */
const scheduler = fsrs(
  generatorParameters({ request_retention: 0.9, maximum_interval: 365, enable_fuzz: false, enable_short_term: false }),
);

/** Marks as the package for spaced repetition grades what is remembered. */
function gradeOf(sum: number): Grade {
  if (sum >= WELL) return Rating.Easy;
  if (sum >= PASSED) return Rating.Good;
  return sum >= BARELY ? Rating.Hard : Rating.Again;
}

/** When each lesson that a person has flown is due again, the soonest first. @param practised in any order */
export function dueOf(practised: readonly Practised[]): DueLesson[] {
  const lessons = new Map<string, { card: Card; last: DueLesson['last'] }>();
  for (const { lesson, at, sum } of practised.toSorted((a, b) => a.at.localeCompare(b.at))) {
    const now = new Date(at);
    const card: Card = lessons.get(lesson)?.card ?? (createEmptyCard(now) as Card);
    lessons.set(lesson, { card: scheduler.next(card, now, gradeOf(sum)).card, last: { at, sum } });
  }
  return [...lessons]
    .map(([lesson, { card, last }]) => ({ lesson, due: card.due.toISOString(), last }))
    .toSorted((a, b) => a.due.localeCompare(b.due));
}
