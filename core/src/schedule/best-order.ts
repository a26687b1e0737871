import { Refused } from '../quantity/index.ts';
import { medians, Network, type Step, TIE_s } from './network.ts';

const MOST_CREW_STEPS = 9;

export interface BestOrder {
  best_s: number;
  best_crew_order: string[];
  /** of the order as listed, null when it can't be done */
  given_s: number | null;
  saving_s: number | null;
  feasible_orders: number;
  rule_crew_order: string[];
  rule_s: number;
}

function timeOf(steps: readonly Step[], order: readonly string[]): number {
  return new Network(steps, order).run(medians(steps), new Float64Array(steps.length));
}

/** Everything that has to be done before each step, directly or not. */
function ancestors(steps: readonly Step[]): Map<string, Set<string>> {
  const byId = new Map(steps.map((s) => [s.id, s]));
  const known = new Map<string, Set<string>>();
  const of = (id: string): Set<string> => {
    const had = known.get(id);
    if (had) return had;
    const all = new Set<string>();
    known.set(id, all);
    for (const d of byId.get(id)!.deps) {
      all.add(d);
      for (const a of of(d)) all.add(a);
    }
    return all;
  };
  for (const s of steps) of(s.id);
  return known;
}

/** Tries every order of at most nine crew steps. @throws Refused TOO_LARGE, and as Network */
export function bestOrder(input: { steps: Step[] }): BestOrder {
  const { steps } = input;
  const crew = Array.isArray(steps) ? steps.filter((s) => s.kind === 'crew').map((s) => s.id) : [];
  if (crew.length > MOST_CREW_STEPS) throw new Refused('TOO_LARGE', 'steps');
  const rule_crew_order = largestDeliveryFirst(steps);
  const before = ancestors(steps);
  let best_s = Infinity;
  let best: string[] = [];
  let feasible_orders = 0;
  const chosen: string[] = [];
  const extend = (): void => {
    if (chosen.length === crew.length) {
      feasible_orders++;
      const time = timeOf(steps, chosen);
      if (time < best_s - TIE_s) {
        best_s = time;
        best = [...chosen];
      }
      return;
    }
    for (const id of crew) {
      if (chosen.includes(id)) continue;
      if (crew.some((other) => other !== id && !chosen.includes(other) && before.get(id)!.has(other))) continue;
      chosen.push(id);
      extend();
      chosen.pop();
    }
  };
  extend();
  let given_s: number | null = null;
  try {
    given_s = timeOf(steps, crew);
  } catch (error) {
    if (!(error instanceof Refused)) throw error;
  }
  return {
    best_s,
    best_crew_order: best,
    given_s,
    saving_s: given_s === null ? null : given_s - best_s,
    feasible_orders,
    rule_crew_order,
    rule_s: timeOf(steps, rule_crew_order),
  };
}

/**
 * An order of the crew steps by the rule "largest delivery time first": of those that can begin earliest, the one with
 * the longest path after it. @throws Refused as Network without an order
 */
export function largestDeliveryFirst(steps: readonly Step[]): string[] {
  const durations = medians(new Network(steps, topologicalCrew(steps)).steps);
  const index = new Map(steps.map((s, i) => [s.id, i]));
  const delivery = new Float64Array(steps.length).fill(-1);
  const deliver = (i: number): number => {
    if (delivery[i]! >= 0) return delivery[i]!;
    let after = 0;
    for (const [k, s] of steps.entries())
      if (s.deps.includes(steps[i]!.id)) after = Math.max(after, durations[k]! + deliver(k));
    delivery[i] = after;
    return after;
  };
  const finish = new Map<string, number>();
  const order: string[] = [];
  const waiting = new Set(steps.map((s) => s.id));
  let handsFree_s = 0;
  const ready = (s: Step): number | null =>
    s.deps.every((d) => finish.has(d)) ? Math.max(0, ...s.deps.map((d) => finish.get(d)!)) : null;
  while (waiting.size > 0) {
    for (let settled = true; settled;) {
      settled = false;
      for (const s of steps)
        if (waiting.has(s.id) && s.kind === 'wait') {
          const from = ready(s);
          if (from === null) continue;
          finish.set(s.id, from + durations[index.get(s.id)!]!);
          waiting.delete(s.id);
          settled = true;
        }
    }
    let next: { id: string; from_s: number; after_s: number } | null = null;
    for (const s of steps) {
      if (!waiting.has(s.id)) continue;
      const from = ready(s);
      if (from === null) continue;
      const option = { id: s.id, from_s: Math.max(from, handsFree_s), after_s: deliver(index.get(s.id)!) };
      if (
        !next ||
        option.from_s < next.from_s - TIE_s ||
        (option.from_s <= next.from_s + TIE_s && option.after_s > next.after_s + TIE_s)
      )
        next = option;
    }
    if (!next) break;
    handsFree_s = next.from_s + durations[index.get(next.id)!]!;
    finish.set(next.id, handsFree_s);
    waiting.delete(next.id);
    order.push(next.id);
  }
  return order;
}

/** Crew steps in some order that their dependencies permit. @throws Refused UNKNOWN_DEPENDENCY, DUPLICATE_ID, CYCLE */
function topologicalCrew(steps: readonly Step[]): string[] {
  const waitsOnly = new Network(
    steps.map((s) => ({ ...s, kind: 'wait' as const })),
    [],
  );
  const start = new Float64Array(steps.length);
  waitsOnly.run(new Float64Array(steps.length).fill(1), start);
  return steps
    .map((s, i) => ({ s, at: start[i]! }))
    .filter(({ s }) => s.kind === 'crew')
    .toSorted((a, b) => a.at - b.at)
    .map(({ s }) => s.id);
}
