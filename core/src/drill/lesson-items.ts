import type { Item, WatchedType } from '../aircraft/index.ts';
import { itemState, procedureOf, type RunState, workingList } from '../procedure/index.ts';
import type { Lesson } from './lesson.ts';

/** The items of a lesson in the order of the list; after a stopped start the actions that follow it are part of it. */
export function itemsOfLesson({ type, lesson, state }: { type: WatchedType; lesson: Lesson; state: RunState }): Item[] {
  const list = procedureOf(type, state);
  const at = (id: string | undefined, otherwise: number): number => {
    const found = id === undefined ? -1 : list.findIndex((i) => i.id === id);
    return found < 0 ? otherwise : found;
  };
  const own = list.slice(at(lesson.from, 0), at(lesson.until, list.length - 1) + 1);
  if (!state.abort) return own;
  // a start that was stopped ends the list: what comes after it is not to be done any more
  return [...own.filter((i) => itemState(state, i.id).status !== 'todo'), ...workingList(type, state)];
}
