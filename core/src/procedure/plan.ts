import type { Item, TypeFile } from '../aircraft/index.ts';
import { isBackground, isReachable, isShuttingDown, procedureOf, toPutBack, wayOf, workingList } from './list.ts';
import type { RunOutcome } from './entries.ts';
import { perState } from './per-state.ts';
import { itemState, type RunState } from './state.ts';

const isTodo = (state: RunState, item: Item): boolean => itemState(state, item.id).status === 'todo';

/** Waits that are running now beside the present item, and items that may be done meanwhile. */
export function meanwhileItems(type: TypeFile, state: RunState): Item[] {
  if (state.status !== 'open' || state.abort) return [];
  const present = presentItem(type, state);
  return procedureOf(type, state).filter(
    (item) =>
      item !== present &&
      isTodo(state, item) &&
      (isBackground(item) || item.meanwhile) &&
      isReachable(type, state, item),
  );
}

/**
 * The one item to look at now: what the pilot chose, else the first that can be done, else the wait that holds the rest.
 * @returns null when the list is finished, or held by a no-go fault
 */
export const presentItem = perState((type: TypeFile, state: RunState): Item | null => {
  if (state.status !== 'open') return null;
  const todo = workingList(type, state).filter((item) => isTodo(state, item));
  const chosen = todo.find((item) => item.id === state.chosen);
  if (chosen && (state.abort || isReachable(type, state, chosen))) return chosen;
  if (state.abort) return todo[0] ?? null;
  let waiting: Item | null = null;
  for (const item of todo) {
    if (!isReachable(type, state, item)) continue;
    if (!isBackground(item)) return item;
    waiting ??= item;
  }
  return waiting;
});

/** The items after the present one, in the order of the list. */
export function nextItems(type: TypeFile, state: RunState, count: number): Item[] {
  const present = presentItem(type, state);
  const list = workingList(type, state);
  const meanwhile = new Set(meanwhileItems(type, state).map((i) => i.id));
  return list
    .slice(present ? list.indexOf(present) + 1 : 0)
    .filter((item) => isTodo(state, item) && !meanwhile.has(item.id))
    .slice(0, count);
}

export interface FlowZone {
  leg: string;
  zone: string;
  /** every item of the leg that belongs to the zone, in list order */
  items: Item[];
}

/** The zones of a leg in the order in which its list first comes to them. */
export function zonesOf(type: TypeFile, state: RunState, leg: string): FlowZone[] {
  const zones = new Map<string, FlowZone>();
  for (const item of procedureOf(type, state)) {
    if (item.leg !== leg) continue;
    const known = zones.get(item.zone) ?? { leg, zone: item.zone, items: [] };
    known.items.push(item);
    zones.set(item.zone, known);
  }
  return [...zones.values()];
}

/** The zone to walk from memory now, where the operator flows first and reads the list after; null when there is none left. */
export function presentFlow(type: TypeFile, state: RunState): FlowZone | null {
  if (state.status !== 'open' || state.abort || wayOf(type, state, 'method') !== 'flow-then-verify') return null;
  const leg = type.legs.find((l) => l.id === presentItem(type, state)?.leg);
  if (!leg?.flow) return null;
  return zonesOf(type, state, leg.id).find((z) => state.flowed[`${leg.id}/${z.zone}`] === undefined) ?? null;
}

/** Whether an item was walked in a flow before it is verified. */
export function wasFlowed(state: RunState, item: Item): boolean {
  return state.flowed[`${item.leg}/${item.zone}`] !== undefined;
}

/** What the verification found otherwise than the flow had left it. */
export function differences(type: TypeFile, state: RunState): Item[] {
  return procedureOf(type, state).filter((item) => {
    const { status, differs } = itemState(state, item.id);
    return wasFlowed(state, item) && (differs || status === 'fault' || status === 'skipped');
  });
}

/** In two-crew work an item is first read by one and then answered by the other. @returns null in the other methods */
export function twoCrewTurn(
  type: TypeFile,
  state: RunState,
  item: Item,
): { reader: 'pilot' | 'second-crew'; answers: 'pilot' | 'second-crew'; turn: 'challenge' | 'response' } | null {
  if (wayOf(type, state, 'method') !== 'two-crew' || state.abort) return null;
  if (item.kind === 'wait' || item.kind === 'watch') return null;
  const reader = wayOf(type, state, 'reader') === 'pilot-reads' ? 'pilot' : 'second-crew';
  return {
    reader,
    answers: reader === 'pilot' ? 'second-crew' : 'pilot',
    turn: state.challenged[item.id] ? 'response' : 'challenge',
  };
}

/** Items that are late: not settled so long after what their deadline is counted from. */
export function lateItems(type: TypeFile, state: RunState, t_s: number): { item: Item; late_s: number }[] {
  return workingList(type, state).flatMap((item) => {
    if (!item.deadline || !isTodo(state, item)) return [];
    const since = itemState(state, item.deadline.since);
    const late_s = t_s - since.t_s - item.deadline.within_s;
    return since.status === 'done' && late_s > 0 ? [{ item, late_s }] : [];
  });
}

export interface LegState {
  id: string;
  label: string;
  status: 'done' | 'now' | 'ahead';
}

/** The passage of the run, leg by leg; legs without items are left out. */
export function passage(type: TypeFile, state: RunState): LegState[] {
  const list = procedureOf(type, state);
  // held by a no-go, the run stands where that is
  const unsettled = (i: Item): boolean => isTodo(state, i) || itemState(state, i.id).status === 'fault';
  const present = (state.abort ? null : presentItem(type, state)) ?? list.find(unsettled);
  const legs = type.legs.filter((leg) => list.some((i) => i.leg === leg.id));
  const flying = legs.findLastIndex((l) => state.begun[l.id] !== undefined);
  const over = state.outcome === 'ready' || state.outcome === 'shut-down';
  const at = over ? legs.length : present ? legs.findIndex((l) => l.id === present.leg) : flying;
  return legs.map(({ id, label }, i) => ({ id, label, status: i < at ? 'done' : i === at ? 'now' : 'ahead' }));
}

/** Whether the procedure has been worked to its end: nothing is left to do. */
export function isFinished(type: TypeFile, state: RunState): boolean {
  return (
    !state.abort &&
    toPutBack(type, state).length === 0 &&
    procedureOf(type, state).every((item) => {
      const { status } = itemState(state, item.id);
      return status === 'fault' ? item.failure !== 'no-go' : status !== 'todo';
    })
  );
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
    const settledAt = procedureOf(type, state)
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

/** How this run would be closed now: shut down, ready for lift, after its abort, or given up before. */
export function closingOutcome(type: TypeFile, state: RunState): RunOutcome {
  if (state.abort) return 'aborted';
  const finished = isFinished(type, state);
  if (isShuttingDown(type, state)) return finished ? 'shut-down' : 'given-up';
  return finished || Object.keys(state.begun).length > 0 ? 'ready' : 'given-up';
}
