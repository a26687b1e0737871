import { Refused } from '../quantity/index.ts';
import { type Currents, needCurrents, type SwitchEvent, WINDOW_S } from './load-steps.ts';
import { MEDIAN_EFFICIENCY, median, spreadOf } from '../statistics/index.ts';
import { NOISE_FLOOR_A } from './ammeter.ts';

export interface Unexplained {
  noise_A: number;
  threshold_A: number;
  unexplained: { t: number; step_A: number }[];
}

const LEAST_STEP_A = 2;
const SIGMAS = 5;
const SETTLE_S = 0.5;
const FEWEST_IN_WINDOW = 3;

/** Steps of a current that nobody commanded. @source docs/calculations.md, electrical ledger */
export function unexplainedSteps(input: Currents & { events?: readonly SwitchEvent[] | undefined }): Unexplained {
  needCurrents(input);
  const { t0, dt, amps } = input;
  const w = Math.floor(WINDOW_S / dt + 0.5);
  if (w < FEWEST_IN_WINDOW || amps.length < 2 * w + 1) throw new Refused('INSUFFICIENT_DATA', 'amps');
  const differences = amps.slice(1).map((a, i) => a - amps[i]!);
  const noise_A = Math.max(NOISE_FLOOR_A, spreadOf(differences) / Math.SQRT2);
  const threshold_A = Math.max(SIGMAS * MEDIAN_EFFICIENCY * noise_A * Math.sqrt(2 / w), LEAST_STEP_A);
  const steps = amps.map((_, i) =>
    i < w || i + w > amps.length ? 0 : median(amps.slice(i, i + w)) - median(amps.slice(i - w, i)),
  );
  const far = (i: number): boolean =>
    (input.events ?? []).every((e) => Math.abs(t0 + i * dt - e.t) > WINDOW_S + SETTLE_S);
  const unexplained: Unexplained['unexplained'] = [];
  for (const run of runsOf(
    steps.flatMap((d, i) => (Math.abs(d) > threshold_A && far(i) ? [i] : [])),
    steps,
    w,
  )) {
    const top = run.reduce((best, i) => (Math.abs(steps[i]!) > Math.abs(steps[best]!) ? i : best), run[0]!);
    const tall = run.filter((i) => Math.abs(steps[i]!) > Math.abs(steps[top]!) / 2);
    unexplained.push({ t: t0 + ((tall[0]! + tall[tall.length - 1]!) / 2) * dt, step_A: steps[top]! });
  }
  return { noise_A, threshold_A, unexplained };
}

/** Candidates of one sign whose gaps are no longer than a window belong together. */
function runsOf(candidates: readonly number[], steps: readonly number[], w: number): number[][] {
  const runs: number[][] = [];
  for (const i of candidates) {
    const run = runs[runs.length - 1];
    const last = run?.[run.length - 1];
    if (last !== undefined && i - last <= w && Math.sign(steps[i]!) === Math.sign(steps[last]!)) run!.push(i);
    else runs.push([i]);
  }
  return runs;
}
