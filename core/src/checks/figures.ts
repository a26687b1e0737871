import { type FigureSpec, Sensed } from '../aircraft/index.ts';
import { loadSteps } from '../electrical/index.ts';
import { median } from '../statistics/index.ts';
import { takePowerFigure } from './power-figures.ts';
import type { FigureReading, FigureSource } from './figure-source.ts';
import { fitLine, movingMeans } from './line-fit.ts';

/** Before a switch moves its hand is already on it: the baseline ends a moment earlier. */
const GUARD_S = 0.1;
/** Half of its readings may stray this far, in sigmas of a load's spread, until a tail's own is known. */
const UNLEARNED_SD = 0.04;
const LOAD_BEFORE_S = 2.5;
const LOAD_AFTER_S = 2.7;
/** A crossing is one when the quantity stays there for two readings. */
const STAYS = 2;

/** Reads one figure from the trace of its check. Never throws: what cannot be read is null. */
export function takeFigure(spec: FigureSpec, of: FigureSource): FigureReading {
  switch (spec.of) {
    case 'change':
      return takeChange(spec, of);
    case 'difference':
      return takeDifference(spec, of);
    case 'extreme':
      return takeExtreme(spec, of);
    case 'time-to':
      return takeTimeTo(spec, of);
    case 'elapsed': {
      const [from_s, to_s] = [markOf(of, spec.from), markOf(of, spec.to)];
      return Number.isNaN(to_s - from_s) ? none(of, from_s) : { value: to_s - from_s, from_s, to_s };
    }
    case 'value-when':
      return valueWhen(spec, of, markOf(of, spec.from));
    case 'hover':
    case 'assurance':
      return takePowerFigure(spec, of, markOf(of, spec.at));
    case 'bleed':
      return takeBleed(spec, of);
    case 'level':
      return takeLevel(spec, of);
    case 'time-within':
      return takeTimeWithin(spec, of);
    case 'load':
      return takeLoad(spec, of, markOf(of, spec.at));
  }
}

type SpecOf<K extends FigureSpec['of']> = Extract<FigureSpec, { of: K }>;

const markOf = (of: FigureSource, stage: string): number =>
  of.marks[of.check.stages.findIndex((s) => s.id === stage)] ?? NaN;
const none = (of: FigureSource, from_s: number, to_s = of.record.last_s): FigureReading => ({
  value: null,
  from_s,
  to_s,
});

/** More than a third of what was wanted is lost. */
const isMostlyLost = (values: readonly number[]): boolean =>
  values.filter((v) => Number.isNaN(v)).length > values.length / 3;

function takeChange(spec: SpecOf<'change'>, of: FigureSource): FigureReading {
  const [base_s, at_s] = [markOf(of, spec.baseline), markOf(of, spec.at)];
  const middle_s = at_s + spec.after_s + (spec.lag_s ?? 0);
  const [from_s, to_s] = [base_s - GUARD_S - spec.baseline_s, middle_s + spec.over_s / 2];
  if (!(to_s <= of.record.last_s + 1e-6)) return none(of, from_s);
  const low = of.record.read(spec.quantity, from_s, base_s - GUARD_S);
  const high = of.record.read(spec.quantity, middle_s - spec.over_s / 2, to_s);
  const before = fitLine(low.t_s, low.values, base_s);
  const after = fitLine(high.t_s, high.values, middle_s);
  if (!before || !after || 2 * Math.hypot(before.se, after.se) > spec.certainWithin) return none(of, from_s, to_s);
  const change = after.value - before.value;
  return { value: spec.falls ? -change : change, from_s, to_s };
}

function takeDifference(spec: SpecOf<'difference'>, of: FigureSource): FigureReading {
  const [a, b] = spec.between.map((id) => of.before.get(id));
  if (!a || !b) return none(of, of.record.last_s);
  const window = { from_s: Math.min(a.from_s, b.from_s), to_s: Math.max(a.to_s, b.to_s) };
  return { value: a.value === null || b.value === null ? null : Math.abs(a.value - b.value), ...window };
}

function takeExtreme(spec: SpecOf<'extreme'>, of: FigureSource): FigureReading {
  const end_s = of.record.last_s;
  const from_s = markOf(of, spec.from);
  const to_s = spec.until === undefined ? Math.min(end_s, from_s + (spec.until_s ?? Infinity)) : markOf(of, spec.until);
  if (!(to_s > from_s)) return none(of, from_s);
  const { t_s, values } = of.record.read(spec.quantity, from_s, to_s);
  const means = movingMeans(t_s, values, spec.smooth_s);
  if (means.length === 0 || isMostlyLost(values)) return none(of, from_s, to_s);
  const sign = spec.extreme === 'highest' ? 1 : -1;
  const most = means.reduce((best, m) => (sign * m.mean > sign * best.mean ? m : best));
  return { value: most.mean - (spec.over ?? 0), from_s, to_s };
}

function takeTimeTo(spec: SpecOf<'time-to'>, of: FigureSource): FigureReading {
  const from_s = markOf(of, spec.from);
  const { t_s, values } = of.record.read(spec.quantity, from_s, of.record.last_s);
  const { passes } = spec;
  const there = (v: number): boolean => ('above' in passes ? v > passes.above : v < passes.below);
  let run = 0;
  for (const [i, v] of values.entries()) {
    run = there(v) ? run + 1 : 0;
    if (run === STAYS) return { value: t_s[i - 1]! - from_s, from_s, to_s: t_s[i]! };
  }
  return none(of, from_s);
}

/** Switches that are on at a stage though the air of the brief has none of it; null where one is lost or nothing is briefed. */
function takeBleed(spec: SpecOf<'bleed'>, of: FigureSource): FigureReading {
  const at_s = markOf(of, spec.at);
  const on = (channel: string): number =>
    of.record.read({ plus: [channel] }, at_s, at_s + 1).values.find((v) => !Number.isNaN(v)) ?? NaN;
  const briefed = of.situation?.bleed;
  if (briefed === undefined) return none(of, at_s);
  const beyond = (['heater', 'antiice'] as const)
    .filter((consumer) => briefed !== 'both' && briefed !== consumer)
    .reduce((sum, consumer) => sum + on(spec[consumer]), 0);
  return { value: Number.isNaN(beyond) ? null : beyond, from_s: at_s, to_s: at_s + 1 };
}

function takeLevel(spec: SpecOf<'level'>, of: FigureSource): FigureReading {
  const from_s = markOf(of, spec.at) + spec.after_s;
  const to_s = from_s + spec.over_s;
  if (!(to_s <= of.record.last_s + 1e-6)) return none(of, from_s);
  const { t_s, values } = of.record.read(spec.quantity, from_s, to_s);
  const value = fitLine(t_s, values, (from_s + to_s) / 2)?.value ?? null;
  if (!spec.goodBy) return { value, from_s, to_s };
  const by = of.record.read({ plus: [spec.goodBy.channel] }, from_s, to_s);
  const at = fitLine(by.t_s, by.values, (from_s + to_s) / 2);
  return at ? { value, from_s, to_s, good: bandAt(spec.goodBy.table, at.value) } : none(of, from_s, to_s);
}

function takeTimeWithin(spec: SpecOf<'time-within'>, of: FigureSource): FigureReading {
  const from_s = markOf(of, spec.from);
  const end_s = of.record.last_s;
  const { t_s, values } = of.record.read(spec.quantity, from_s, end_s);
  if (isMostlyLost(values)) return none(of, from_s);
  let inside_s = 0;
  for (let i = 1; i < values.length; i++)
    if (values[i]! >= spec.between[0] && values[i]! <= spec.between[1]) inside_s += t_s[i]! - t_s[i - 1]!;
  return { value: inside_s, from_s, to_s: end_s };
}

/** The band of a table at x: straight between its rows, held at its ends. */
function bandAt(table: readonly (readonly [number, number, number])[], x: number): readonly [number, number] {
  const above = table.findIndex(([at]) => at >= x);
  if (above <= 0) {
    const [, low, high] = table[above === 0 ? 0 : table.length - 1]!;
    return [low, high];
  }
  const [a, b] = [table[above - 1]!, table[above]!];
  const share = (x - a[0]) / (b[0] - a[0]);
  return [a[1] + share * (b[1] - a[1]), a[2] + share * (b[2] - a[2])];
}

function valueWhen(spec: Extract<FigureSpec, { of: 'value-when' }>, of: FigureSource, from_s: number): FigureReading {
  const sensed = new Sensed(spec.when, of.type.channels);
  const frame = new Float64Array(of.type.channels.length).fill(NaN);
  for (let row = of.record.indexAt(from_s); row < of.record.rows; row++) {
    of.record.frameAt(row, frame);
    const t_s = of.record.timeAt(row);
    if (sensed.update(t_s, frame) !== true) continue;
    const { t_s: times, values } = of.record.read(spec.quantity, t_s - 0.25, t_s + 0.25);
    return { value: fitLine(times, values, t_s)?.value ?? null, from_s, to_s: t_s };
  }
  return { value: null, from_s, to_s: of.record.last_s };
}

/** The step of one switch by the electrical ledger, which wants its readings evenly spaced. */
function takeLoad(spec: Extract<FigureSpec, { of: 'load' }>, of: FigureSource, at_s: number): FigureReading {
  const [from_s, to_s] = [at_s - LOAD_BEFORE_S, at_s + LOAD_AFTER_S];
  const { t_s, values } = of.record.read(spec.quantity, from_s, Math.min(to_s, of.record.last_s));
  const known = values.flatMap((v, i) => (Number.isNaN(v) ? [] : [[t_s[i]!, v] as const]));
  const nominal = of.type.electricalLoads.find((l) => l.id === spec.load);
  if (Number.isNaN(at_s) || known.length < (2 / 3) * values.length || known.length < 10 || !nominal)
    return { value: null, from_s, to_s };
  const dt = median(known.slice(1).map(([t], i) => t - known[i]![0]));
  const learned = of.habit.loads[spec.load] ?? { amps: nominal.amps, sd: UNLEARNED_SD * nominal.amps };
  const [step] = loadSteps({
    t0: known[0]![0],
    dt,
    amps: known.map(([, v]) => v),
    events: [{ t: at_s, load: spec.load, action: 'on' }],
    learned: { [spec.load]: learned },
  });
  const expected = { amps: learned.amps, tolerance: step!.tol_A ?? NaN, verdict: step!.verdict };
  return { value: step!.step_A, from_s, to_s, expected };
}
