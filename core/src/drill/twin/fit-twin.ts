import type { WatchedType } from '../../aircraft/index.ts';
import { solve } from '../../statistics/index.ts';
import type { RecordedStart } from './recorded-start.ts';
import { AS_NEW, flyTwin, seenOf, type StartSeen, type TwinFigures } from './twin-flight.ts';

/** How far a twin is off on starts that it was not fitted to, root mean square. */
export interface TwinError {
  starts: number;
  peak_C: number;
  time_s: number;
  volts_V: number;
}

/** The twin of one aircraft. */
export interface TwinFit {
  figures: TwinFigures;
  /** starts that it was fitted to */
  fitted: number;
  error: TwinError;
}

/** fewer are not an aircraft's habit, but its luck */
const LEAST_STARTS = 6;
/** a twin that is further off than this says nothing */
const MOST_OFF = { peak_C: 25, time_s: 1.5 };

type Figure = keyof TwinFigures;
/** what each figure may differ by from aircraft to aircraft (one sigma), and the step that its slope is taken over */
const SPREAD: Readonly<Record<Figure, number>> = { battery: 0.4, turbine: 0.025, fuel: 0.04, friction_W: 300 };
const STEP: Readonly<Record<Figure, number>> = { battery: 0.05, turbine: 0.005, fuel: 0.01, friction_W: 60 };
const NAMES = Object.keys(SPREAD) as Figure[];
/** what a start differs by from the next of the same aircraft (one sigma) */
const SCATTER = { volts_V: 0.12, peak_C: 6, time_s: 0.15 };
const ROUNDS = 3;

/**
 * Fits battery, turbine, fuel and friction of one aircraft to its own starts: least squares about the type's figures
 * (Gauss-Newton), to every second of them; the others say how far it is off.
 * @param starts good ones, newest first
 * @throws RangeError where there are too few, or the twin is too far off, in words
 */
export function fitTwin(type: WatchedType, starts: readonly RecordedStart[]): TwinFit {
  if (starts.length < LEAST_STARTS) throw new RangeError(`only ${starts.length} good starts of this aircraft are kept with their frames; a twin wants ${LEAST_STARTS}`); // oxfmt-ignore
  const fitted = starts.filter((_, i) => i % 2 === 0);
  const heldOut = starts.filter((_, i) => i % 2 === 1);
  let figures = AS_NEW;
  for (let round = 0; round < ROUNDS; round++) figures = nearer(type, fitted, figures);
  const error = errorOf(type, heldOut, figures);
  const off = `on ${error.starts} starts that it was not fitted to it is off by ${sayError(error)}`;
  if (!(error.peak_C <= MOST_OFF.peak_C && error.time_s <= MOST_OFF.time_s)) throw new RangeError(`the twin of this aircraft is not good enough: ${off}`); // oxfmt-ignore
  return { figures, fitted: fitted.length, error };
}

/** "14 °C at the peak and 0.3 s on the way". */
export const sayError = ({ peak_C, time_s }: Pick<TwinError, 'peak_C' | 'time_s'>): string =>
  `${Math.ceil(peak_C)} °C at the peak and ${(Math.ceil(time_s * 10) / 10).toFixed(1)} s on the way up`;

/** How far the twin is off one start, in the order of its figures; what was not seen on either side is left out. */
function offBy(was: StartSeen, twin: StartSeen): { volts_V: number; peak_C: number; times_s: number[] } {
  return {
    volts_V: twin.volts_V - was.volts_V,
    peak_C: twin.peak_C - was.peak_C,
    times_s: twin.times_s.map((t, i) => t - was.times_s[i]!),
  };
}

/** The same in units of what starts scatter by; what is not known is null. */
function residuals(type: WatchedType, starts: readonly RecordedStart[], figures: TwinFigures): (number | null)[] {
  const known = (v: number): number | null => (Number.isFinite(v) ? v : null);
  return starts.flatMap((start) => {
    const off = offBy(seenOf(start, start.trace), seenOf(start, flyTwin(type, start, figures)));
    return [off.volts_V / SCATTER.volts_V, off.peak_C / SCATTER.peak_C, ...off.times_s.map((t) => t / SCATTER.time_s)].map(known); // oxfmt-ignore
  });
}

/** One round: the figures that the slopes at these ones lead to. */
function nearer(type: WatchedType, starts: readonly RecordedStart[], at: TwinFigures): TwinFigures {
  const here = residuals(type, starts, at);
  const slopes = NAMES.map((name) => {
    const there = residuals(type, starts, { ...at, [name]: at[name] + STEP[name] });
    return there.map((r, i) => (r === null || here[i] === null ? 0 : (r - here[i]!) / STEP[name]));
  });
  const normal = NAMES.map((a, i) =>
    NAMES.map((_, j) => dot(slopes[i]!, slopes[j]!) + (i === j ? 1 / SPREAD[a] ** 2 : 0)),
  );
  const right = NAMES.map((name, i) => -dot(slopes[i]!, here.map((r) => r ?? 0)) - (at[name] - AS_NEW[name]) / SPREAD[name] ** 2); // oxfmt-ignore
  // the figures are of very different size: solved in units of their spread
  const scaled = normal.map((row, i) => row.map((v, j) => v * SPREAD[NAMES[i]!] * SPREAD[NAMES[j]!]));
  const by = solve(scaled, right.map((v, i) => v * SPREAD[NAMES[i]!])); // oxfmt-ignore
  if (!by) return at;
  const moved = (name: Figure, i: number): number => at[name] + clamp(by[i]!) * SPREAD[name];
  return Object.fromEntries(NAMES.map((name, i) => [name, moved(name, i)])) as unknown as TwinFigures;
}

/** no round goes further than two spreads: slopes hold only near by */
const clamp = (by: number): number => Math.min(2, Math.max(-2, by));
const dot = (a: readonly number[], b: readonly number[]): number => a.reduce((sum, v, i) => sum + v * b[i]!, 0);

/** Root mean squares over some starts. What came on one side only counts as far off. */
export function errorOf(type: WatchedType, starts: readonly RecordedStart[], figures: TwinFigures): TwinError {
  const off = starts.map((start) => offBy(seenOf(start, start.trace), seenOf(start, flyTwin(type, start, figures))));
  const rms = (of: readonly number[]): number => Math.sqrt(dot(of, of) / of.length);
  return {
    starts: starts.length,
    volts_V: rms(off.map((o) => o.volts_V)),
    peak_C: rms(off.map((o) => o.peak_C)),
    time_s: rms(off.flatMap((o) => o.times_s)),
  };
}
