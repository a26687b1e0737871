import type { TypeFile } from '../aircraft/index.ts';
import type { CheckHabit } from '../checks/index.ts';
import type { LearnedLoad } from '../electrical/index.ts';
import { median, spreadOf } from '../statistics/index.ts';
import { forecast } from './trend/forecast.ts';
import { type Usual, usualOf } from './usual.ts';

/** One check of earlier runs that passed: its figures by their ids. */
export interface PastCheck {
  check: string;
  /** with what was good that day, either end open where null */
  figures: readonly { id: string; value: number | null; good: readonly [number | null, number | null] }[];
}

/** What a figure of a check has been on this tail. */
export interface UsualFigure extends Usual {
  /** how far the last readings stand from the first of them, where that is more than their spread; else null */
  drift: number | null;
  /** checks until its trend leaves what is good, at the soonest; null without a trend that leads there */
  leavesGoodIn: number | null;
}

/** What the weaker engine has left to one that just meets its specification, by the check that read it last. */
export interface EngineMargin {
  margin_C: number;
  /** ISO 8601 */
  at: string;
}

/** Margin of the weaker engine in the newest check that read one of each. @param past any that ended, newest first */
export function latestMargin(type: TypeFile, past: readonly (PastCheck & { at: string })[]): EngineMargin | null {
  const margins = new Map(
    type.items.flatMap((item) => {
      const trace = item.kind === 'measure' ? item.trace : undefined;
      const ids = (trace?.figures ?? []).flatMap((f) =>
        f.of === 'assurance' && f.says === 'temperature' ? [f.id] : [],
      );
      return trace && ids.length > 0 ? [[trace.check, ids] as const] : [];
    }),
  );
  for (const { check, figures, at } of past) {
    const values = margins.get(check)?.map((id) => figures.find((f) => f.id === id)?.value ?? null) ?? [];
    if (values.length > 0 && !values.includes(null)) return { margin_C: Math.min(...(values as number[])), at };
  }
  return null;
}

/** More than this is no habit but a fault. */
const MOST_OFFSET_pct = 10;
/** A load is known after this many good steps. */
const KNOWN_LOAD = 5;
const DRIFT_ENDS = 5;
/** The ends of a series have drifted apart when they differ by this many spreads. */
const DRIFT_SIGMAS = 3;

/** Values of one figure of one check, newest first. */
function valuesOf(past: readonly PastCheck[], check: string, figure: string): number[] {
  return past
    .filter((p) => p.check === check)
    .flatMap((p) => p.figures.filter((f) => f.id === figure && f.value !== null).map((f) => f.value!));
}

/** What the figures of this tail's checks usually are, by "check/figure". @param past newest first */
export function usualFigures(past: readonly PastCheck[]): Record<string, UsualFigure> {
  const names = new Set(past.flatMap((p) => p.figures.map((f) => `${p.check}/${f.id}`)));
  const out: Record<string, UsualFigure> = {};
  for (const name of names) {
    const [check, figure] = name.split('/') as [string, string];
    const values = valuesOf(past, check, figure);
    const usual = usualOf(values);
    const good = past.find((p) => p.check === check)?.figures.find((f) => f.id === figure)?.good;
    if (usual) out[name] = { ...usual, drift: driftOf(values), leavesGoodIn: good ? leavesGoodIn(values, good) : null };
  }
  return out;
}

/** @param values newest first */
function leavesGoodIn(values: readonly number[], [low, high]: readonly [number | null, number | null]): number | null {
  if (values.length < 2 * DRIFT_ENDS) return null;
  const y = values.toReversed();
  const ends = { down: low, up: high };
  for (const direction of ['down', 'up'] as const) {
    const limit = ends[direction];
    if (limit === null) continue;
    const { status, display } = forecast({ y, limit, direction });
    if (status === 'OK' || status === 'AT_OR_BEYOND_LIMIT') return display.starts;
  }
  return null;
}

/** @param values newest first */
function driftOf(values: readonly number[]): number | null {
  if (values.length < 2 * DRIFT_ENDS) return null;
  const drift = median(values.slice(0, DRIFT_ENDS)) - median(values.slice(-DRIFT_ENDS));
  const steps = values.slice(1).map((v, i) => v - values[i]!);
  const noise = spreadOf(steps) / Math.SQRT2;
  return Math.abs(drift) > DRIFT_SIGMAS * Math.max(noise, 1e-3) ? drift : null;
}

/** A hover check is held against the tail's own once this many were good. */
const KNOWN_HOVER = 10;

/** Torque that the hovers of this tail took more than predicted, %; 0 while too few are known. @param past newest first */
export function learnHoverOffset(type: TypeFile, past: readonly PastCheck[]): number {
  const [hover] = type.items.flatMap((item) =>
    item.kind === 'measure' && item.trace
      ? item.trace.figures.flatMap((f) => (f.of === 'hover' && f.says === 'difference' ? [{ check: item.trace!.check, figure: f.id }] : [])) // oxfmt-ignore
      : [],
  );
  const values = hover ? valuesOf(past, hover.check, hover.figure) : [];
  return values.length < KNOWN_HOVER ? 0 : Math.max(-MOST_OFFSET_pct, Math.min(MOST_OFFSET_pct, median(values)));
}

/** What the next checks of this tail are compared with. @param past newest first */
export function learnCheckHabit(type: TypeFile, past: readonly PastCheck[]): CheckHabit {
  return { loads: learnLoads(type, past), usual: usualFigures(past) };
}

/** What each load of this tail draws by its own past, as the electrical ledger wants it. */
function learnLoads(type: TypeFile, past: readonly PastCheck[]): Record<string, LearnedLoad> {
  const out: Record<string, LearnedLoad> = {};
  for (const item of type.items) {
    if (item.kind !== 'measure' || !item.trace) continue;
    for (const figure of item.trace.figures) {
      if (figure.of !== 'load') continue;
      const values = valuesOf(past, item.trace.check, figure.id);
      if (values.length >= KNOWN_LOAD) out[figure.load] = { amps: median(values), sd: spreadOf(values) };
    }
  }
  return out;
}
