import { needNumber, Refused } from '../quantity/index.ts';
import { MEDIAN_EFFICIENCY, median } from '../statistics/index.ts';
import { noiseOf_A } from './ammeter.ts';

/** What one consumer draws by its own past. */
export interface LearnedLoad {
  amps: number;
  sd: number;
  /** how long after its switch its current has settled */
  settle_s?: number | undefined;
}

export interface SwitchEvent {
  t: number;
  load: string;
  action: 'on' | 'off';
}

/** A current against time, evenly sampled. */
export interface Currents {
  t0: number;
  dt: number;
  amps: readonly number[];
}

const STEP_VERDICTS = [
  'OK',
  'NOT_DETECTABLE',
  'EXCESS',
  'WRONG_SIGN',
  'MISSING',
  'LOW',
  'NOT_LEARNED',
  'NO_WINDOW',
] as const;
export type StepVerdict = (typeof STEP_VERDICTS)[number];

export interface LoadStep {
  /** of the first switch of the group */
  t: number;
  loads: string[];
  grouped: boolean;
  step_A: number | null;
  /** standard uncertainty of the step */
  u_A: number | null;
  expected_A: number | null;
  tol_A: number | null;
  verdict: StepVerdict;
}

export const WINDOW_S = 2;
const GUARD_S = 0.2;
const SETTLE_S = 0.5;
const FEWEST = 5;
const SAME_TIME_S = 1e-9;
const LEAST_TOLERANCE_A = 0.5;
const TOLERANCE_SHARE = 0.15;
const MISSING_BELOW = 0.3;

/**
 * The step that each switch made in a current, against what its consumer always draws.
 * @source docs/calculations.md, electrical ledger
 * @throws Refused INSUFFICIENT_DATA without events, BAD_OPTION for an action that is neither on nor off
 */
export function loadSteps(
  input: Currents & { events: readonly SwitchEvent[]; learned: Readonly<Record<string, LearnedLoad>> },
): LoadStep[] {
  const { learned } = input;
  needCurrents(input);
  if (!Array.isArray(input.events) || input.events.length === 0) throw new Refused('INSUFFICIENT_DATA', 'events');
  for (const { action, t } of input.events) {
    if (action !== 'on' && action !== 'off') throw new Refused('BAD_OPTION', 'action');
    needNumber(t, 'events');
  }
  const all = input.events.toSorted((a, b) => a.t - b.t);
  const end_s = input.t0 + (input.amps.length - 1) * input.dt;
  const isInside = ({ t }: SwitchEvent): boolean => t >= input.t0 - SAME_TIME_S && t <= end_s + SAME_TIME_S;
  const outside = all.filter((e) => !isInside(e)).map((e) => judge([e], learned, [], []));
  const events = all.filter(isInside);
  const settled_s = (e: SwitchEvent): number => e.t + (learned[e.load]?.settle_s ?? SETTLE_S);
  const groups: SwitchEvent[][] = [];
  for (const event of events) {
    const last = groups[groups.length - 1]?.at(-1);
    if (last && between(input, settled_s(last), event.t - GUARD_S).length < FEWEST)
      groups[groups.length - 1]!.push(event);
    else groups.push([event]);
  }
  const inside = groups.map((group, i) => {
    const before = groups[i - 1]?.at(-1);
    const after = groups[i + 1]?.[0];
    const first = group[0]!;
    const from_s = Math.max(first.t - GUARD_S - WINDOW_S, before ? settled_s(before) : -Infinity);
    const settles_s = Math.max(...group.map(settled_s));
    const low = between(input, from_s, first.t - GUARD_S);
    const high = between(input, settles_s, Math.min(settles_s + WINDOW_S, after ? after.t - GUARD_S : Infinity));
    return judge(group, learned, low, high);
  });
  return [...inside, ...outside].toSorted((a, b) => a.t - b.t);
}

export function needCurrents({ t0, dt, amps }: Currents): void {
  needNumber(t0, 't0');
  needNumber(dt, 'dt');
  if (dt <= 0) throw new Refused('OUT_OF_RANGE', 'dt');
  if (!Array.isArray(amps)) throw new Refused('MISSING', 'amps');
}

function between({ t0, dt, amps }: Currents, from_s: number, to_s: number): readonly number[] {
  const first = Math.max(0, Math.ceil((from_s - t0 - SAME_TIME_S) / dt));
  const last = Math.min(amps.length - 1, Math.floor((to_s - t0 + SAME_TIME_S) / dt));
  return amps.slice(first, Math.max(first, last + 1));
}

function judge(
  group: readonly SwitchEvent[],
  learned: Readonly<Record<string, LearnedLoad>>,
  low: readonly number[],
  high: readonly number[],
): LoadStep {
  const loads = group.map((e) => e.load);
  const head = { t: group[0]!.t, loads, grouped: group.length > 1 };
  if (low.length < FEWEST || high.length < FEWEST)
    return { ...head, step_A: null, u_A: null, expected_A: null, tol_A: null, verdict: 'NO_WINDOW' };
  const step_A = median(high) - median(low);
  const u_A = stepUncertainty_A(low, high);
  const known = group.map((e) => learned[e.load]);
  if (known.some((k) => k === undefined))
    return { ...head, step_A, u_A, expected_A: null, tol_A: null, verdict: 'NOT_LEARNED' };
  let expected_A = 0;
  let size_A = 0;
  let variance = u_A * u_A;
  for (const [i, { action }] of group.entries()) {
    const { amps, sd } = known[i]!;
    expected_A += action === 'on' ? amps : -amps;
    size_A += Math.abs(amps);
    variance += sd * sd;
  }
  const tol_A = Math.max(3 * Math.sqrt(variance), LEAST_TOLERANCE_A, TOLERANCE_SHARE * size_A);
  return { ...head, step_A, u_A, expected_A, tol_A, verdict: verdictOf(step_A, expected_A, tol_A) };
}

/** Standard uncertainty of the difference of two medians. */
function stepUncertainty_A(low: readonly number[], high: readonly number[]): number {
  return MEDIAN_EFFICIENCY * Math.sqrt(noiseOf_A(low) ** 2 / low.length + noiseOf_A(high) ** 2 / high.length);
}

function verdictOf(step_A: number, expected_A: number, tol_A: number): StepVerdict {
  const size_A = Math.abs(expected_A);
  if (Math.abs(step_A - expected_A) <= tol_A) return size_A <= tol_A ? 'NOT_DETECTABLE' : 'OK';
  if (size_A <= tol_A) return 'EXCESS';
  const along_A = step_A * Math.sign(expected_A);
  if (along_A < -tol_A) return 'WRONG_SIGN';
  if (along_A < MISSING_BELOW * size_A) return 'MISSING';
  return along_A < size_A ? 'LOW' : 'EXCESS';
}
