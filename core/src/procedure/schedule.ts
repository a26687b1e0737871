import type { Item, TypeFile } from '../aircraft/index.ts';
import { median } from '../statistics/index.ts';
import { criticalPath, largestDeliveryFirst, lognormalFit, type Step, uncertainPlan } from '../schedule/index.ts';
import { OTHER_AIR, type WarmCurve, warmupIn } from '../thermal/index.ts';
import type { Entry } from './entries.ts';
import { handsOf } from './kinds/registry.ts';
import { meanwhileItems } from './plan.ts';
import { isBackground, isReachableIn, procedureOf } from './list.ts';
import { itemState, reduceRun, type RunState } from './state.ts';
import { warmTargets } from './warm-targets.ts';

/** How long a wait took in one earlier run, and in what air. */
export interface PastWait {
  item: string;
  took_s: number;
  oat_C: number | null;
  /** how its temperatures went, by channel, where they were seen */
  curves?: Readonly<Record<string, WarmCurve>> | undefined;
}

const USUAL_SPREAD = 0.25;
/** How many measurements the type's usual time is worth. */
const PRIOR_WEIGHT = 3;
/** Earlier waits count when the air was this near, K. */
const NEAR_K = 8;
const MOST_PAST = 30;
/** A wait that took a quarter or four times the usual was tapped in passing, or interrupted: nothing is learned from it. */
const PLAUSIBLE_FACTOR = 4;

/** What a hand needs to move what a stage of a check asks for, and the aircraft to follow, s. */
const STAGE_S = 4;

/** How long an item usually takes where that is more than hands: a wait's own time, a measured check's stages; null for others. */
function usualOf(item: Item): number | null {
  if (item.kind === 'wait' || item.kind === 'watch') return item.usual_s;
  if (item.kind !== 'measure' || !item.trace) return null;
  return item.trace.stages.reduce((sum, stage) => sum + STAGE_S + (stage.hold_s ?? 0), 0);
}

/** Against warm-ups of this tail the type's usual time is worth this many. */
const WARM_PRIOR_WEIGHT = 0.5;

/** How long this tail's earlier warm-ups would have taken in today's air, each with how unlike that day was, K. */
function warmedIn(
  type: TypeFile,
  item: Item,
  past: readonly PastWait[],
  oat_C: number,
): { took_s: number; off_K: number }[] {
  const targets = warmTargets(type, item);
  if (targets.length === 0) return [];
  const own = past.filter((p) => p.item === item.id && p.oat_C !== null && p.curves).slice(0, MOST_PAST);
  return own.flatMap(({ oat_C: then_C, curves }) => {
    const times = targets.map(({ channel, target_C }) => {
      const curve = curves?.[channel];
      return curve ? warmupIn(curve, oat_C, target_C) : null;
    });
    return times.includes(null)
      ? []
      : [{ took_s: Math.max(1, ...(times as number[])), off_K: Math.abs(then_C! - oat_C) }];
  });
}

/**
 * Duration of an item: the hands' usual; for a warm-up this tail's earlier ones, carried over to today's air; for another
 * wait or a measured check what this tail took near this temperature; with the type's as prior.
 */
export function durationOf(type: TypeFile, item: Item, past: readonly PastWait[], oat_C: number | null): Step['dur'] {
  if (item.kind === 'hold') return { fixed: item.hands_s ?? item.hold_s + 2 };
  const usual_s = usualOf(item);
  if (usual_s === null) return { fixed: handsOf(item) };
  const spread = ('spread' in item ? item.spread : undefined) ?? USUAL_SPREAD;
  const warmed = oat_C === null ? [] : warmedIn(type, item, past, oat_C);
  if (warmed.length > 0) {
    const { mu, sigma } = lognormalFit({
      durations_s: warmed.map((w) => w.took_s),
      prior: { median_s: usual_s, sigma: spread, n: WARM_PRIOR_WEIGHT },
    });
    return { mu, sigma: Math.hypot(sigma, OTHER_AIR * median(warmed.map((w) => w.off_K))) };
  }
  const near = past.filter(
    (p) =>
      p.item === item.id &&
      p.took_s >= usual_s / PLAUSIBLE_FACTOR &&
      p.took_s <= usual_s * PLAUSIBLE_FACTOR &&
      (oat_C === null || p.oat_C === null || Math.abs(p.oat_C - oat_C) <= NEAR_K),
  );
  const { mu, sigma } = lognormalFit({
    durations_s: near.slice(0, MOST_PAST).map((p) => p.took_s),
    prior: { median_s: usual_s, sigma: spread, n: PRIOR_WEIGHT },
  });
  return { mu, sigma };
}

export interface PlannedItem {
  item: Item;
  from_s: number;
  to_s: number;
  critical: boolean;
}

export interface RunSchedule {
  /** seconds until everything before lift is done, median durations */
  ready_s: number;
  /** what of 100 runs 80 need at most, seconds; null when no wait is uncertain */
  p80_s: number | null;
  /** the longest wait on the critical path, else the first thing to do */
  heldBy: Item | null;
  /** in the order of the list */
  planned: PlannedItem[];
  /** of the items that may be begun now out of their turn, those that start the longest wait first */
  beginFirst: Item[];
}

export interface ScheduleInput {
  /** how long the waits took in earlier runs, newest first */
  past?: readonly PastWait[] | undefined;
  /** seconds that a running wait or watch still needs, by item id; null where that is not known */
  remaining_s?: ((id: string) => number | null) | undefined;
  /** runs drawn for the spread; 0 leaves it out */
  draws?: number | undefined;
}

/**
 * When the run will be ready and what holds it: the rest of the list as a network of hands and waits. The hands work in
 * list order; what may be done meanwhile floats, the one with the longest wait behind it first.
 */
export function scheduleOf(type: TypeFile, state: RunState, input: ScheduleInput = {}): RunSchedule {
  const list = procedureOf(type, state);
  const todo = list.filter((item) => itemState(state, item.id).status === 'todo');
  const reachable = new Set(todo.filter((item) => isReachableIn(list, type, state, item)).map((i) => i.id));
  const steps = stepsOf(type, state, todo, reachable, input);
  const order = largestDeliveryFirst(steps);
  const path = criticalPath({ steps, crew_order: order });
  const critical = new Set(path.critical);
  const byId = new Map(todo.map((i) => [i.id, i]));
  const length = ({ id }: Item): number => path.finish[id]! - path.start[id]!;
  const [holding] = todo
    .filter((i) => (i.kind === 'wait' || i.kind === 'watch') && critical.has(i.id))
    .toSorted((a, b) => length(b) - length(a));
  const uncertain = (input.draws ?? 0) > 0 && steps.some((s) => !('fixed' in s.dur));
  return {
    ready_s: path.ready_s,
    p80_s: uncertain ? uncertainPlan({ steps, crew_order: order, n: input.draws!, seed: 1 }).p80 : null,
    heldBy: holding ?? todo[0] ?? null,
    planned: todo.map((item) => ({
      item,
      from_s: path.start[item.id]!,
      to_s: path.finish[item.id]!,
      critical: critical.has(item.id),
    })),
    beginFirst: order.flatMap((id) => {
      const item = byId.get(id)!;
      return item.meanwhile && reachable.has(id) ? [item] : [];
    }),
  };
}

/** What is open beside the present item: the waits that run, then what may be done meanwhile, the one that shortens the run most first. */
export function offeredItems(type: TypeFile, state: RunState, input: ScheduleInput = {}): Item[] {
  const open = meanwhileItems(type, state);
  const order = scheduleOf(type, state, input).beginFirst.map((i) => i.id);
  const place = (item: Item): number => (isBackground(item) ? -1 : order.indexOf(item.id));
  return open.toSorted((a, b) => place(a) - place(b));
}

function stepsOf(
  type: TypeFile,
  state: RunState,
  todo: readonly Item[],
  reachable: ReadonlySet<string>,
  input: ScheduleInput,
): Step[] {
  const ids = new Set(todo.map((i) => i.id));
  const gates = new Set(type.legs.filter((l) => l.gate).map((l) => l.id));
  let before: string | null = null;
  return todo.map((item): Step => {
    const deps = (item.needs ?? []).filter((n) => ids.has(n));
    if (gates.has(item.leg)) deps.push(...todo.filter((i) => !gates.has(i.leg)).map((i) => i.id));
    const wait = isBackground(item);
    if (!wait && !item.meanwhile) {
      if (before !== null) deps.push(before);
      before = item.id;
    }
    // a wait that has not begun has no trend worth following
    const left = reachable.has(item.id) ? (input.remaining_s?.(item.id) ?? null) : null;
    const dur =
      left === null
        ? durationOf(type, item, input.past ?? [], state.brief?.oat_C ?? null)
        : { fixed: Math.max(0, left) };
    return { id: item.id, kind: wait ? 'wait' : 'crew', deps: [...new Set(deps)], dur };
  });
}

/** How long each wait and each measured check of a finished run took: from when it could begin to when it was over. */
export function waitsOf(type: TypeFile, entries: readonly Entry[], oat_C: number | null): PastWait[] {
  const state = reduceRun(entries);
  const items = procedureOf(type, state);
  const settled = items.map((i) => itemState(state, i.id)).flatMap((s) => (s.status === 'done' ? [s.t_s] : []));
  return items.flatMap((item): PastWait[] => {
    const done = itemState(state, item.id);
    if (usualOf(item) === null || done.status !== 'done') return [];
    // a check is begun by the hand that has settled what came before it
    const before =
      item.kind === 'measure'
        ? settled.filter((t_s) => t_s < done.t_s)
        : (item.needs ?? []).map((need) => itemState(state, need).t_s);
    const begun_s = Math.max(0, ...before);
    return [{ item: item.id, took_s: done.t_s - begun_s, oat_C }];
  });
}
