import type { TypeFile } from '../aircraft/index.ts';
import { nextTry, type NextTry, type StartSnapshot } from '../watch/index.ts';
import { type Acceptance, refuse } from './acceptance.ts';
import type { Entry } from './entries.ts';
import { abortPlan, procedureOf } from './list.ts';
import { conditionOf, readItem } from './reading.ts';
import { itemState, type RunState } from './state.ts';

/** how far before the abort an exceedance still belongs to the start that it stopped, s */
const LOOK_BACK_S = 60;

export interface Around {
  entries: readonly Entry[];
  /** as the watch has them, null where nothing is sensed */
  starts: readonly StartSnapshot[] | null;
}

/** Whether the start that was stopped may be tried again in this run; null while none was stopped. */
export function anotherTry(type: TypeFile, state: RunState, { entries, starts }: Around): NextTry | null {
  const { abort } = state;
  const plan = abortPlan(type, state);
  if (!abort || !plan) return null;
  const at = type.startWatches.findIndex((w) => w.id === abort.watch);
  const passed = entries.filter((e) => e.kind === 'exceedance').filter((e) => e.end_s >= abort.t_s - LOOK_BACK_S);
  const worked = plan.actions.every((a) => itemState(state, a.id).status !== 'todo');
  return nextTry(plan, starts?.[at] ?? null, passed, worked);
}

/**
 * What is done once more before a start is tried again: what the type names for this start, and every switch set before
 * it that is no longer so, in list order.
 */
function itemsToRepeat(type: TypeFile, state: RunState, watch: string, values: ArrayLike<number> | null): string[] {
  const list = procedureOf(type, state);
  const start = list.findIndex((i) => i.kind === 'watch' && i.watch === watch);
  const named = new Set(type.startWatches.find((w) => w.id === watch)?.again);
  return list.slice(0, start + 1).flatMap((item, i) => {
    if (i === start || named.has(item.id)) return [item.id];
    if (item.kind !== 'set' || itemState(state, item.id).status !== 'done' || !conditionOf(item)) return [];
    return readItem(type, item, values)?.verdict === false ? [item.id] : [];
  });
}

/** A person wants to try again: open only when the plan of the abort allows it, its actions are done and its gates hold. */
export function acceptAnotherTry(
  type: TypeFile,
  state: RunState,
  values: ArrayLike<number> | null,
  around: Around,
): Acceptance {
  const { abort } = state;
  const next = anotherTry(type, state, around);
  if (!abort || !next) return refuse('not-so', 'No start was stopped: there is nothing to try again');
  if (next.verdict !== 'open' && next.verdict !== 'by-eye') return refuse('not-so', next.words);
  const items = itemsToRepeat(type, state, abort.watch, values);
  return { ok: true, payload: { kind: 'try-again', watch: abort.watch, items } };
}
