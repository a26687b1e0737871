import type { FlownDrill } from './flown-drill.ts';
import type { Criterion, WayOfPractice } from './lesson.ts';
import type { Loss } from './loss.ts';
import { handOf, type HandStart } from './marks-hand.ts';
import { completeOf, orderOf } from './marks-list.ts';
import { reactionOf } from './marks-met.ts';
import { roomOf } from './marks-room.ts';

export interface CriterionMark {
  criterion: Criterion;
  got: number;
  of: number;
}

export interface DrillMarks {
  /** out of 100 */
  sum: number;
  criteria: CriterionMark[];
  /** everything that was lost, what cost most first */
  losses: Loss[];
  hints: number;
}

/** What each way of practice is marked by, where its lesson does not say. */
const USUAL: Readonly<Record<WayOfPractice, Partial<Record<Criterion, number>>>> = {
  learn: { order: 20, complete: 30, controls: 20, room: 30 },
  recall: { order: 20, complete: 25, controls: 10, hand: 15, room: 30 },
  faults: { order: 10, complete: 20, room: 30, reaction: 40 },
  'abort-or-go': { reaction: 100 },
  'one-engine': { room: 100 },
};
const HINT_COSTS = 2;
const STRAY_COSTS = 2;
const REFUSED_COSTS = 1;

/**
 * Marks a drill by rule, from its journal, its trace and what was noted of its acts: two drills with the same acts get
 * the same marks. A criterion that this lesson has nothing to show for is left out of the sum.
 * @param best what the best hand made of the same start, null where no hand works the fuel
 * @param soFar while it is flown nothing is missed yet
 */
export function marksOf(flown: FlownDrill, best: HandStart | null, { soFar = false } = {}): DrillMarks {
  const weights = flown.lesson.marks ?? USUAL[flown.lesson.way];
  const of: Readonly<Record<Criterion, (drill: FlownDrill) => readonly Loss[] | null>> = {
    order: orderOf,
    complete: completeOf,
    controls: controlsOf,
    hand: (drill) => handOf(drill, best),
    room: roomOf,
    reaction: reactionOf,
  };
  const criteria: CriterionMark[] = [];
  const losses: Loss[] = [];
  for (const [name, worth] of Object.entries(weights)) {
    const criterion = name as Criterion;
    const lost = soFar && criterion === 'complete' ? null : of[criterion](flown);
    if (lost === null) continue;
    const points = lost.reduce((sum, loss) => sum + loss.points, 0);
    criteria.push({ criterion, got: Math.max(0, worth - points), of: worth });
    losses.push(...lost);
  }
  const hints = flown.notes.filter((n) => n.kind === 'hint');
  for (const { t_s, of: item, words } of hints)
    losses.push({ criterion: 'hints', points: HINT_COSTS, words: `Hint: ${words}`, t_s, of: item });
  const worth = criteria.reduce((sum, c) => sum + c.of, 0);
  const got = criteria.reduce((sum, c) => sum + c.got, 0);
  const sum = worth === 0 ? 0 : Math.round((100 * got) / worth) - HINT_COSTS * hints.length;
  return {
    sum: Math.max(0, sum),
    criteria,
    losses: losses.toSorted((a, b) => b.points - a.points || a.t_s - b.t_s),
    hints: hints.length,
  };
}

/** Controls that nothing asked for, and answers that the readings denied. */
function controlsOf({ notes }: FlownDrill): Loss[] {
  return notes.flatMap(({ kind, words, t_s, of }): Loss[] => {
    if (kind === 'stray')
      return [{ criterion: 'controls', points: STRAY_COSTS, words: `${words}: nothing asked for it`, t_s, of }];
    return kind === 'refused' ? [{ criterion: 'controls', points: REFUSED_COSTS, words, t_s, of }] : [];
  });
}
