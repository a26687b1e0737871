import { needNumber, numberOr, roundStep } from '../quantity/index.ts';
import { Generator } from './generator.ts';
import { medians, Network, type Step } from './network.ts';

export interface UncertainPlan {
  mean: number;
  p10: number;
  p50: number;
  p80: number;
  p90: number;
  p95: number;
  /** how often each step is on a critical path */
  criticality: Record<string, number>;
  n: number;
  display: { p80_min: number };
}

/** Hyndman-Fan type 7 of a rising array. */
function percentile(sorted: Float64Array, p: number): number {
  const at = (sorted.length - 1) * p;
  const i = Math.floor(at);
  const next = sorted[Math.min(i + 1, sorted.length - 1)]!;
  return sorted[i]! + (at - i) * (next - sorted[i]!);
}

/**
 * The plan with durations drawn from their spread: one normal number per uncertain step, in list order, per run.
 * @param input.n at least 100; 2000 give the median within 1 %
 * @throws Refused OUT_OF_RANGE, and as Network
 */
export function uncertainPlan(input: {
  steps: Step[];
  crew_order?: string[] | null | undefined;
  n?: number | undefined;
  seed?: number | undefined;
}): UncertainPlan {
  const n = numberOr(input.n, 2000, 'n', 100, 1_000_000);
  const seed = needNumber(input.seed ?? 1, 'seed', 0, 2 ** 32 - 1);
  const network = new Network(input.steps, input.crew_order);
  const { steps } = network;
  const generator = new Generator(seed);
  const durations = medians(steps);
  const drawn = steps.flatMap((s, i) => ('fixed' in s.dur ? [] : [{ i, mu: s.dur.mu, sigma: s.dur.sigma }]));
  const start = new Float64Array(steps.length);
  const critical = new Uint8Array(steps.length);
  const counts = new Uint32Array(steps.length);
  const ends = new Float64Array(n);
  let sum = 0;
  for (let run = 0; run < n; run++) {
    for (const { i, mu, sigma } of drawn) durations[i] = Math.exp(mu + sigma * generator.normal());
    const end = network.run(durations, start);
    ends[run] = end;
    sum += end;
    network.markCritical(durations, start, end, critical);
    for (let i = 0; i < critical.length; i++) counts[i]! += critical[i]!;
  }
  ends.sort();
  const p80 = percentile(ends, 0.8);
  return {
    mean: sum / n,
    p10: percentile(ends, 0.1),
    p50: percentile(ends, 0.5),
    p80,
    p90: percentile(ends, 0.9),
    p95: percentile(ends, 0.95),
    criticality: Object.fromEntries(steps.map((s, i) => [s.id, counts[i]! / n])),
    n,
    display: { p80_min: roundStep(p80 / 60, 1, 'ceil') },
  };
}
