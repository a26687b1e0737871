import { holdSeconds, type Item, stagesOf, type StandInAction, type TypeFile, type When } from '../aircraft/index.ts';
import { perState } from './per-state.ts';
import { itemState, type RunState } from './state.ts';

type Check = Extract<Item, { kind: 'measure' }>;

/** The answer to a choice in this run: this day's, else the operator's, else the type's usual one. */
export function wayOf(type: TypeFile, state: Pick<RunState, 'ways'>, choice: string): string | undefined {
  return state.ways[choice] ?? type.choices.find((c) => c.id === choice)?.usual;
}

function holdsFor(type: TypeFile, state: RunState, when: When): boolean {
  if ('check' in when) return when.found.some((cause) => state.measured[when.check]?.causes.includes(cause));
  const answer = 'choice' in when ? wayOf(type, state, when.choice) : state.decisions[when.decision];
  return answer !== undefined && [when.is].flat().includes(answer);
}

/** The procedure of this run: what the ways of working, the decisions and the findings so far leave of the type's items, in order. */
export const procedureOf = perState((type: TypeFile, state: RunState): readonly Item[] => {
  const short = type.turnRound && wayOf(type, state, 'list') === 'turn-round' ? new Set(type.turnRound.items) : null;
  const shortened = type.legs[0]!.id;
  const place = new Map(type.legs.map((leg, i) => [leg.id, i]));
  const latest = type.legs.findLastIndex((leg) => state.begun[leg.id] !== undefined);
  return type.items.filter(
    (item) =>
      isBegun(type.legs[place.get(item.leg)!]!, state) &&
      // what was left undone when a later leg was begun is behind, unless it has moved something
      (place.get(item.leg)! >= latest || hasBegun(state, item)) &&
      (!item.byHandOnly || state.source === 'by-hand') &&
      (!short || item.leg !== shortened || short.has(item.id)) &&
      (item.when ?? []).every((when) => holdsFor(type, state, when)),
  );
});

type Leg = TypeFile['legs'][number];

const isBegun = (leg: Leg, state: RunState): boolean => !leg.begins || state.begun[leg.id] !== undefined;

const hasBegun = (state: RunState, item: Item): boolean =>
  itemState(state, item.id).status !== 'todo' || (state.stages[item.id]?.length ?? 0) > 0;

/** The legs that may be begun now: after the list is done the next of them, once one was begun any that follows it. */
export function legsAhead(type: TypeFile, state: RunState): readonly Leg[] {
  const latest = type.legs.findLastIndex((leg) => state.begun[leg.id] !== undefined);
  return type.legs.filter((leg, i) => leg.begins && i > latest);
}

/** Whether the last leg of all, the way back to a quiet aircraft, has been begun. */
export function isShuttingDown(type: TypeFile, state: RunState): boolean {
  const last = type.legs[type.legs.length - 1]!;
  return last.begins !== undefined && state.begun[last.id] !== undefined;
}

/** The list that is being worked: the procedure, or the abort's own actions. */
export function workingList(type: TypeFile, state: RunState): readonly Item[] {
  return state.abort ? (abortPlan(type, state)?.actions ?? []) : procedureOf(type, state);
}

/** a hand lets go a moment after it was asked to hold */
const HAND_S = 0.2;

/** What the abort of this run is called, and what its type says to do. */
export function abortPlan(type: TypeFile, state: RunState): TypeFile['aborts']['pilot'] {
  const { abort } = state;
  const plan = abort ? (type.aborts[abort.reason] ?? type.aborts.pilot) : undefined;
  return plan && { ...plan, actions: plan.actions.filter((a) => !a.forWatch || a.forWatch === abort?.watch) };
}

/**
 * How many stages of a test, or moments of a watch, are done. A check that has ended and was not good goes on with the
 * stages that put back what it has moved, and begins anew when the last of them is done.
 */
export function stagesDone(state: RunState, item: Item): number {
  const stages = stagesOf(item);
  const done = Math.min(state.stages[item.id]?.length ?? 0, stages.length);
  if (item.kind !== 'measure' || itemState(state, item.id).status !== 'todo') return done;
  if (isPuttingBack(state, item)) return nextRestoring(item, done)!;
  return done === stages.length || hasEnded(state, item) ? 0 : done;
}

/** A check that is still to do has ended, and not everything that it moved is back. */
export const isPuttingBack = (state: RunState, item: Check): boolean =>
  itemState(state, item.id).status === 'todo' && hasEnded(state, item) && openCheck(state, item).length > 0;

/** Its stages are those of a flight of the check that has found something: another one has not begun. */
function hasEnded(state: RunState, item: Item): boolean {
  const [first_s] = state.stages[item.id] ?? [];
  const found = state.measured[item.id];
  return first_s !== undefined && found !== undefined && first_s <= found.t_s;
}

/** The next stage of a check that puts something back, after those that are done; null where everything is back. */
export function nextRestoring(item: Check, done: number): number | null {
  const at = (item.trace?.stages ?? []).findIndex((s, i) => i >= done && s.restores === true);
  return at < 0 ? null : at;
}

export interface OpenLoop {
  item: Item;
  words: string;
  /** the leg in which it is put back, where another item does that */
  closedIn?: string;
}

/** What was moved for a purpose and is not back in its place yet. */
export function stillOpen(type: TypeFile, state: RunState): OpenLoop[] {
  return workingList(type, state).flatMap((item): OpenLoop[] => {
    if (item.kind === 'test') {
      const done = stagesDone(state, item);
      const restored = item.stages.findLastIndex((s) => s.restores === true) < done;
      return done > 0 && !restored ? [{ item, words: item.opens }] : [];
    }
    if (item.kind === 'measure') return openCheck(state, item);
    if (item.kind !== 'set' || !item.opens || itemState(state, item.id).status !== 'done') return [];
    const { words, closedBy } = item.opens;
    if (itemState(state, closedBy).status === 'done') return [];
    const closing = type.items.find((i) => i.id === closedBy);
    return [{ item, words, ...(closing && { closedIn: closing.leg }) }];
  });
}

/** What is out of its place and should not be any more when a leg begins: what this leg or a later one puts back may be. */
export function openBefore(type: TypeFile, state: RunState, leg: string): OpenLoop[] {
  const placeOf = (id: string): number => type.legs.findIndex((l) => l.id === id);
  return stillOpen(type, state).filter(({ closedIn }) => closedIn === undefined || placeOf(closedIn) < placeOf(leg));
}

/** What has to be put back before the list as it stands is at its end: what a leg puts back that has not begun is not on it. */
export function toPutBack(type: TypeFile, state: RunState): OpenLoop[] {
  const legs = new Set(workingList(type, state).map((i) => i.leg));
  return stillOpen(type, state).filter(({ closedIn }) => closedIn === undefined || legs.has(closedIn));
}

/** A check that has moved something and has not put it back, or was given up before it had. */
function openCheck(state: RunState, item: Check): OpenLoop[] {
  const { stages = [], opens } = item.trace ?? {};
  if (!opens) return [];
  const done = Math.min(state.stages[item.id]?.length ?? 0, stages.length);
  const from = stages.findIndex((s) => s.id === opens.from);
  // a check that has ended while the switch was on its way may have moved it
  const moved = from < done || (from === done && hasEnded(state, item));
  return moved && nextRestoring(item, done) !== null ? [{ item, words: opens.words }] : [];
}

/** Faults that forbid to go on. */
export function noGoFaults(type: TypeFile, state: RunState): Item[] {
  return procedureOf(type, state).filter(
    (item) => item.failure === 'no-go' && itemState(state, item.id).status === 'fault',
  );
}

/** Items that were not done as written: shown before lift. */
export function notDone(type: TypeFile, state: RunState): { item: Item; words: string; status: 'fault' | 'skipped' }[] {
  return procedureOf(type, state).flatMap((item) => {
    const { status, words } = itemState(state, item.id);
    return status === 'fault' || status === 'skipped' ? [{ item, words, status }] : [];
  });
}

/** An item is out of the way when it is done, skipped with a reason, or a recorded fault that is not a no-go. */
function isOutOfTheWay(state: RunState, item: Item): boolean {
  const { status } = itemState(state, item.id);
  return status === 'fault' ? item.failure !== 'no-go' : status !== 'todo';
}

/**
 * May an item be begun? What it needs is out of the way, as far as it is on the list; and a gate, such as the lift,
 * opens only when nothing is out of its place and no no-go stands.
 */
export function isReachable(type: TypeFile, state: RunState, item: Item): boolean {
  return isReachableIn(procedureOf(type, state), type, state, item);
}

/** As {@link isReachable}, for who asks for many items of one list. @param list the procedure of this run */
export function isReachableIn(list: readonly Item[], type: TypeFile, state: RunState, item: Item): boolean {
  const needed = (item.needs ?? []).every((need) => {
    const before = list.find((i) => i.id === need);
    return !before || isOutOfTheWay(state, before);
  });
  if (!needed) return false;
  const leg = type.legs.find((l) => l.id === item.leg);
  if (!leg?.gate) return true;
  return (
    openBefore(type, state, leg.id).length === 0 && list.every((i) => i.leg === item.leg || isOutOfTheWay(state, i))
  );
}

export function isBackground(item: Item): boolean {
  return item.kind === 'wait' && item.background === true;
}

/** What is moved on a stand-in for this item, or for the present stage of it; a hold lasts as long as the air of the brief asks. */
export function standInActions(item: Item, state: RunState): StandInAction[] {
  const stage = stagesOf(item)[stagesDone(state, item)];
  if (item.kind !== 'watch' && stage?.standIn) return stage.standIn;
  return (item.standIn ?? []).map((action) =>
    item.kind === 'hold' && action.release_s !== undefined
      ? { ...action, release_s: holdSeconds(item, state.brief?.oat_C ?? null) + HAND_S }
      : action,
  );
}
