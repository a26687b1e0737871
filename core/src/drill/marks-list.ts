import { type Item, stagesOf } from '../aircraft/index.ts';
import { isBackground, type ItemState, itemState, sayClock, stillOpen } from '../procedure/index.ts';
import type { FlownDrill } from './flown-drill.ts';
import { itemsOfLesson } from './lesson-items.ts';
import type { Loss } from './loss.ts';

const LATE_COSTS = 2;
const OUT_OF_ORDER = { 'no-go': 4, caution: 2, note: 1 } as const;
const MISSED = { 'no-go': 8, caution: 4, note: 2 } as const;
const OPEN_COSTS = 4;

/** An item of the lesson and what became of it. */
interface Marked {
  item: Item;
  state: ItemState;
}

const itemsOf = (flown: FlownDrill): Marked[] =>
  itemsOfLesson(flown)
    .map((item) => ({ item, state: itemState(flown.state, item.id) }))
    .filter((m) => m.state.status === 'todo' || m.state.t_s >= flown.begun_s);

/** whether an item has a place in the order: what waits by itself, and what may be done meanwhile, has none */
const hasPlace = ({ item }: Marked): boolean => item.kind !== 'wait' && item.kind !== 'watch' && !item.meanwhile;

/** Items that were done after what comes behind them, that had to wait for what they need, or that were late. */
export function orderOf(flown: FlownDrill): Loss[] {
  const items = itemsOf(flown).filter((m) => hasPlace(m) && m.state.status !== 'todo');
  const losses: Loss[] = [];
  items.forEach(({ item, state }, i) => {
    const overtaking = items.slice(i + 1).find((later) => later.state.seq < state.seq);
    if (overtaking)
      losses.push({
        criterion: 'order',
        points: OUT_OF_ORDER[item.failure],
        words: `${item.challenge} after ${overtaking.item.challenge}`,
        t_s: state.t_s,
        of: item.id,
      });
  });
  for (const { item, state } of items) {
    const since = item.deadline && itemState(flown.state, item.deadline.since);
    const late_s = since?.status === 'done' ? state.t_s - since.t_s - item.deadline!.within_s : 0;
    if (late_s > 0)
      losses.push({ criterion: 'order', points: LATE_COSTS, words: `${item.challenge} ${sayClock(late_s)} late`, t_s: state.t_s, of: item.id }); // oxfmt-ignore
  }
  const early = flown.notes.filter((n) => n.kind === 'early');
  for (const of of new Set(early.map((n) => n.of))) {
    const { words, t_s } = early.find((n) => n.of === of)!;
    losses.push({ criterion: 'order', points: LATE_COSTS, words, t_s, of });
  }
  return losses;
}

/** Items that were left out, and what was left out of its place at the end. */
export function completeOf(flown: FlownDrill): Loss[] {
  const missed = itemsOf(flown)
    // what waits by itself goes on after the lesson
    .filter(({ item, state }) => !isBackground(item) && (state.status === 'todo' || state.status === 'skipped'))
    .map(({ item }): Loss => {
      const [done, all] = [flown.state.stages[item.id]?.length ?? 0, stagesOf(item).length];
      const begun = done > 0 && all > 0 ? `: ${done} of ${all} stages` : '';
      return { criterion: 'complete', points: MISSED[item.failure], words: `${item.challenge} missed${begun}`, t_s: flown.ended_s, of: item.id }; // oxfmt-ignore
    });
  const own = new Set(itemsOf(flown).map((m) => m.item.id));
  // what a later lesson puts back is not open in this one
  const open = stillOpen(flown.type, flown.state)
    .filter((loop) => own.has(loop.item.id) && !endsWith(flown, loop.item) && (loop.item.kind !== 'set' || own.has(loop.item.opens!.closedBy)))
    .map((loop): Loss => ({ criterion: 'complete', points: OPEN_COSTS, words: `Left: ${loop.words}`, t_s: flown.ended_s, of: loop.item.id })); // oxfmt-ignore
  return [...missed, ...open];
}

/** A check that is written down as not good ends its lesson where it stands. */
const endsWith = ({ lesson, state }: FlownDrill, { id }: Item): boolean =>
  id === lesson.until && itemState(state, id).status === 'fault';
