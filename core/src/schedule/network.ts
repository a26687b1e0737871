import { needNumber, needOption, Refused } from '../quantity/index.ts';
import type { Lognormal } from './durations.ts';

/** A step of a plan. Crew steps share one pair of hands; a wait begins by itself when what it needs is done. */
export interface Step {
  id: string;
  kind: 'crew' | 'wait';
  deps: string[];
  dur: { fixed: number } | Lognormal;
}

/** Steps by number, checked and in an order in which every predecessor comes first. */
export class Network {
  readonly steps: readonly Step[];
  /** position of each crew step in the order of the hands */
  readonly crew: readonly number[];
  private readonly predecessors: number[][];
  private readonly order: number[];

  /**
   * @param crewOrder ids of every crew step; as listed when missing
   * @throws Refused DUPLICATE_ID, UNKNOWN_DEPENDENCY, CYCLE, ORDER_IMPOSSIBLE
   */
  constructor(steps: readonly Step[], crewOrder?: readonly string[] | null) {
    this.steps = steps;
    const index = indexSteps(steps);
    const deps = steps.map((s) => s.deps.map((d) => index.get(d)!));
    if (!topological(deps)) throw new Refused('CYCLE', 'steps');
    const listed = steps.flatMap((s, i) => (s.kind === 'crew' ? [i] : []));
    const crew = crewOrder?.map((id) => index.get(id) ?? -1) ?? listed;
    if (crew.length !== listed.length || crew.toSorted((a, b) => a - b).some((c, i) => c !== listed[i]))
      throw new Refused('ORDER_IMPOSSIBLE', 'crew_order');
    this.crew = crew;
    this.predecessors = deps.map((d) => [...d]);
    for (let i = 1; i < crew.length; i++) this.predecessors[crew[i]!]!.push(crew[i - 1]!);
    const order = topological(this.predecessors);
    if (!order) throw new Refused('ORDER_IMPOSSIBLE', 'crew_order');
    this.order = order;
  }

  /** Start of every step for given durations, into `start`. @returns when the last is done */
  run(durations: Float64Array, start: Float64Array): number {
    let end = 0;
    for (const i of this.order) {
      let from = 0;
      for (const p of this.predecessors[i]!) from = Math.max(from, start[p]! + durations[p]!);
      start[i] = from;
      end = Math.max(end, from + durations[i]!);
    }
    return end;
  }

  /** Marks every step on a way back from the end without slack; ties are all marked. */
  markCritical(durations: Float64Array, start: Float64Array, end: number, critical: Uint8Array): void {
    critical.fill(0);
    for (let k = this.order.length - 1; k >= 0; k--) {
      const i = this.order[k]!;
      if (!critical[i] && Math.abs(start[i]! + durations[i]! - end) <= TIE_s) critical[i] = 1;
      if (!critical[i]) continue;
      for (const p of this.predecessors[i]!)
        if (Math.abs(start[p]! + durations[p]! - start[i]!) <= TIE_s) critical[p] = 1;
    }
  }

  /** How much later each step could end without making the whole later. */
  slack(durations: Float64Array, start: Float64Array, end: number): Float64Array {
    const latest = new Float64Array(this.steps.length).fill(end);
    for (let k = this.order.length - 1; k >= 0; k--) {
      const i = this.order[k]!;
      const begin = latest[i]! - durations[i]!;
      for (const p of this.predecessors[i]!) latest[p] = Math.min(latest[p]!, begin);
    }
    return latest.map((l, i) => l - (start[i]! + durations[i]!));
  }
}

export const TIE_s = 1e-9;

function indexSteps(steps: readonly Step[]): Map<string, number> {
  if (!Array.isArray(steps)) throw new Refused('MISSING', 'steps');
  const index = new Map<string, number>();
  for (const [i, step] of steps.entries()) {
    needOption(step.kind, ['crew', 'wait'], 'kind');
    if (index.has(step.id)) throw new Refused('DUPLICATE_ID', step.id);
    index.set(step.id, i);
    if ('fixed' in step.dur) needNumber(step.dur.fixed, 'dur.fixed', 0);
    else {
      needNumber(step.dur.mu, 'dur.mu');
      needNumber(step.dur.sigma, 'dur.sigma', 0);
    }
  }
  for (const step of steps) for (const d of step.deps) if (!index.has(d)) throw new Refused('UNKNOWN_DEPENDENCY', d);
  return index;
}

/** Every step after its predecessors, the first in the list first; null when they go in a circle. */
function topological(predecessors: readonly (readonly number[])[]): number[] | null {
  const done = predecessors.map(() => false);
  const order: number[] = [];
  for (let added = true; added && order.length < predecessors.length;) {
    added = false;
    for (const [i, before] of predecessors.entries())
      if (!done[i] && before.every((p) => done[p])) {
        done[i] = true;
        order.push(i);
        added = true;
      }
  }
  return order.length === predecessors.length ? order : null;
}

/** Fixed durations, or the median of uncertain ones. */
export function medians(steps: readonly Step[]): Float64Array {
  return Float64Array.from(steps, (s) => ('fixed' in s.dur ? s.dur.fixed : Math.exp(s.dur.mu)));
}

export interface CriticalPath {
  ready_s: number;
  start: Record<string, number>;
  finish: Record<string, number>;
  slack: Record<string, number>;
  critical: string[];
}

/** The critical path with median durations (calculator `cpm`). @throws Refused as Network */
export function criticalPath(input: { steps: Step[]; crew_order?: string[] | null | undefined }): CriticalPath {
  const network = new Network(input.steps, input.crew_order);
  const { steps } = network;
  const durations = medians(steps);
  const start = new Float64Array(steps.length);
  const critical = new Uint8Array(steps.length);
  const ready_s = network.run(durations, start);
  network.markCritical(durations, start, ready_s, critical);
  const slack = network.slack(durations, start, ready_s);
  const named = (of: (i: number) => number): Record<string, number> =>
    Object.fromEntries(steps.map((s, i) => [s.id, of(i)]));
  return {
    ready_s,
    start: named((i) => start[i]!),
    finish: named((i) => start[i]! + durations[i]!),
    slack: named((i) => slack[i]!),
    critical: steps.filter((_, i) => critical[i]).map((s) => s.id),
  };
}
