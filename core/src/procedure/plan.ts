import type { Item, TypeFile } from '../aircraft/index.ts';
import { itemState, type RunState, workingList } from './state.ts';

/** An item is out of the way when it is done, skipped with a reason, or a recorded fault that is not a no-go. */
function settled(type: TypeFile, state: RunState, id: string): boolean {
  const { status } = itemState(state, id);
  if (status !== 'fault') return status !== 'todo';
  return type.items.find((i) => i.id === id)?.failure !== 'no-go';
}

export function isReachable(type: TypeFile, state: RunState, item: Item): boolean {
  return (item.needs ?? []).every((need) => settled(type, state, need));
}

function isBackground(item: Item): boolean {
  return item.kind === 'wait' && item.background === true;
}

/** Waits that are running now beside the present item, and items that may be done meanwhile. */
export function meanwhileItems(type: TypeFile, state: RunState): Item[] {
  if (state.status !== 'open' || state.abort) return [];
  const present = presentItem(type, state);
  return type.items.filter(
    (item) =>
      item !== present &&
      itemState(state, item.id).status === 'todo' &&
      (isBackground(item) || item.meanwhile) &&
      isReachable(type, state, item),
  );
}

/**
 * The one item to look at now: what the pilot chose, else the first that can be done, else the wait that holds the rest.
 * @returns null when the list is finished, or held by a no-go fault
 */
export function presentItem(type: TypeFile, state: RunState): Item | null {
  if (state.status !== 'open') return null;
  const list = workingList(type, state);
  const todo = list.filter((item) => itemState(state, item.id).status === 'todo');
  const chosen = todo.find((item) => item.id === state.chosen);
  if (chosen) return chosen;
  if (state.abort) return todo[0] ?? null;
  const reachable = todo.filter((item) => isReachable(type, state, item));
  return reachable.find((item) => !isBackground(item)) ?? reachable[0] ?? null;
}

/** The items after the present one, in the order of the list. */
export function nextItems(type: TypeFile, state: RunState, count: number): Item[] {
  const present = presentItem(type, state);
  const list = workingList(type, state);
  const meanwhile = new Set(meanwhileItems(type, state).map((i) => i.id));
  return list
    .slice(present ? list.indexOf(present) + 1 : 0)
    .filter((item) => itemState(state, item.id).status === 'todo' && !meanwhile.has(item.id))
    .slice(0, count);
}

export interface OpenLoop {
  item: Item;
  words: string;
}

/** What was moved for a purpose and is not back in its place yet. */
export function stillOpen(type: TypeFile, state: RunState): OpenLoop[] {
  return workingList(type, state).flatMap((item) => {
    if (item.kind !== 'set' || !item.opens || itemState(state, item.id).status !== 'done') return [];
    return itemState(state, item.opens.closedBy).status === 'done' ? [] : [{ item, words: item.opens.words }];
  });
}

/** Items that were not done as written: shown before lift. */
export function notDone(type: TypeFile, state: RunState): { item: Item; words: string; status: 'fault' | 'skipped' }[] {
  return type.items.flatMap((item) => {
    const { status, words } = itemState(state, item.id);
    return status === 'fault' || status === 'skipped' ? [{ item, words, status }] : [];
  });
}

export interface LegState {
  id: string;
  label: string;
  status: 'done' | 'now' | 'ahead';
}

/** The passage of the run, leg by leg. */
export function passage(type: TypeFile, state: RunState): LegState[] {
  const present = state.abort
    ? type.items.find((i) => itemState(state, i.id).status === 'todo')
    : presentItem(type, state);
  const at = state.outcome === 'ready' ? type.legs.length : type.legs.findIndex((l) => l.id === present?.leg);
  return type.legs.map((leg, i) => ({ ...leg, status: i < at ? 'done' : i === at ? 'now' : 'ahead' }));
}

const HANDS_S: Record<Item['kind'], number> = { set: 4, check: 4, call: 5, count: 6, wait: 0, watch: 0 };

/** Seconds that an item usually takes when its turn has come. */
function usualSeconds(item: Item): number {
  return item.kind === 'wait' || item.kind === 'watch' ? item.usual_s : HANDS_S[item.kind];
}

/**
 * When the run will be ready and what holds it.
 * @param remaining_s seconds that a running wait or watch still needs, by item id; the usual time where it is silent or has not begun
 */
export function readyIn(
  type: TypeFile,
  state: RunState,
  remaining_s: (id: string) => number | null,
): { seconds: number; heldBy: Item | null } {
  const finish = new Map<string, number>();
  let hands = 0;
  let heldBy: Item | null = null;
  for (const item of type.items) {
    if (itemState(state, item.id).status !== 'todo') continue;
    const needs = item.needs ?? [];
    const free = Math.max(0, ...needs.map((need) => finish.get(need) ?? 0));
    // a wait that has not begun has no trend worth following
    const takes = (isReachable(type, state, item) ? remaining_s(item.id) : null) ?? usualSeconds(item);
    if (isBackground(item)) {
      finish.set(item.id, free + takes);
      continue;
    }
    if (free > hands) {
      const last = needs.find((need) => finish.get(need) === free);
      heldBy = type.items.find((i) => i.id === last) ?? heldBy;
      hands = free;
    }
    hands += takes;
    finish.set(item.id, hands);
  }
  return { seconds: hands, heldBy: heldBy ?? presentItem(type, state) };
}

export interface LegSpan {
  id: string;
  label: string;
  from_s: number;
  to_s: number;
}

/** When each leg of a run began and ended: a leg ends with the last of its items that was settled. */
export function legSpans(type: TypeFile, state: RunState, end_s: number): LegSpan[] {
  const spans: LegSpan[] = [];
  let from_s = 0;
  for (const leg of type.legs) {
    const settledAt = type.items
      .filter((i) => i.leg === leg.id)
      .map((i) => itemState(state, i.id))
      .filter((i) => i.status !== 'todo')
      .map((i) => i.t_s);
    if (settledAt.length === 0) break;
    const to_s = Math.max(from_s, ...settledAt);
    if (to_s > from_s) spans.push({ id: leg.id, label: leg.label, from_s, to_s });
    from_s = to_s;
  }
  if (state.abort && end_s > from_s) spans.push({ id: 'abort', label: 'Abort', from_s, to_s: end_s });
  return spans;
}
