import { needWatched, type WatchedType } from '@rouse/core/aircraft';
import { type Corridors, type DayAir, Watch, type WatchEvent } from '@rouse/core/watch';
import type { Trace } from '@rouse/core/trace';
import { interpolate } from '../../src/simulator/physics.ts';
import { typeOf } from '../fleet.ts';

/** A reading over time: straight between its points, held before the first and after the last. */
type Course = readonly (readonly [t_s: number, value: number])[];
/** What a channel reads: one value, a course, or what is made of the ordinary reading. */
export type Reading = number | Course | ((t_s: number, ordinary: number) => number);
export type Readings = Readonly<Record<string, Reading>>;

export interface Told {
  readonly type: WatchedType;
  readonly watch: Watch;
  readonly events: readonly WatchEvent[];
  /** the frames that came */
  readonly trace: Trace;
}

export interface HowTold {
  readonly seconds?: number;
  /** frames that come; all where nothing is said */
  readonly seen?: (t_s: number) => boolean;
  readonly corridors?: Corridors;
  readonly air?: DayAir;
  readonly step_s?: number;
  /** what else is done, before the frame of a time */
  readonly before?: (t_s: number, watch: Watch) => void;
}

/** when the starter is engaged, s */
const ENGAGED_S = 10;

const along = (course: Course, t_s: number): number =>
  interpolate(t_s, course.map(([at_s]) => at_s), course.map(([, value]) => value)); // oxfmt-ignore

/** From a moment on another value, the ordinary one before. */
export const since =
  (at_s: number, value: number): Reading =>
  (t_s, ordinary) =>
    t_s >= at_s ? value : ordinary;

/** as much fuel as makes this heat in the air that flows at this speed, kg/h */
function fuelFor(type: WatchedType, speed_pct: number, temperature_C: number): number {
  const spec = type.startWatches.find((w) => w.kind === 'turbine')!;
  const { flowA0, fuelRise_K, heatOfFuel } = spec.lag;
  const n = Math.max(0.05, speed_pct / 100);
  const [at30, at55] = heatOfFuel!;
  const share = at30 + ((at55 - at30) * (Math.max(30, speed_pct) - 30)) / 25;
  return ((temperature_C - 15) * n * (flowA0 + (1 - flowA0) * n * n)) / (fuelRise_K * share);
}

const TURBINE: Record<'S7' | 'C5', { speed: Course; temperature: Course; letsGo_s: number; fuelFrom_s: number }> = {
  S7: {
    speed: [[10, 0], [14, 16], [34, 66], [35, 67]],
    temperature: [[16, 20], [26, 620], [36, 480]],
    letsGo_s: 29.8,
    fuelFrom_s: 14,
  },
  C5: {
    speed: [[10, 0], [14, 16], [31, 58]],
    temperature: [[16, 20], [26, 620], [36, 480]],
    letsGo_s: 29.3,
    fuelFrom_s: 14,
  },
}; // oxfmt-ignore

/** What the channels of a good start read. */
const ORDINARY: Readonly<Record<string, (type: WatchedType) => Readings>> = {
  S7: (type) => turbine(type, TURBINE.S7, { 'engine.1.selector': [[9.9, 0], [10, 1]], 'control.1.channels': 2 }), // oxfmt-ignore
  C5: (type) => turbine(type, TURBINE.C5, { 'engine.1.grip': [[13.9, 0], [14, 30]] }), // oxfmt-ignore
  T2: () => ({
    // no engine turns so evenly that its tachometer stands
    'engine.rpm': (t_s) => along([[10, 0], [11, 8], [13, 8], [15, 50]], t_s) + (t_s > 15 ? 0.2 * Math.sin(9 * t_s) : 0),
    'bus.volts': [[9.9, 12.6], [10, 10.4], [13.4, 10.6], [14, 12.4], [20, 13.8]],
    'starter.1': (t_s) => (t_s >= 10 && t_s < 13.5 ? 1 : 0),
    'battery.amps': [[14, -8], [18, 12]],
    'oil.1.pressure': [[13, 0], [19, 3]],
    'outside.air': 15,
    'fuel.valve': 1,
    magnetos: 3,
    mixture: 1,
  }), // oxfmt-ignore
};

function turbine(type: WatchedType, { speed, temperature, letsGo_s, fuelFrom_s }: (typeof TURBINE)['S7'], more: Readings): Readings {
  return {
    'ng.1': speed,
    'tot.1': temperature,
    'fuel.1.flow': (t_s) =>
      t_s < fuelFrom_s ? 0 : Math.max(6, fuelFor(type, along(speed, t_s), along(temperature, t_s))),
    nr: [[18, 0], [34, 60]],
    'oil.1.pressure': [[16, 0], [24, 4]],
    'bus.volts': [[9.9, 24.8], [10, 17], [letsGo_s, 22], [letsGo_s + 1, 25]],
    'starter.1.amps': (t_s) => (t_s >= ENGAGED_S && t_s < letsGo_s ? 600 - 10 * (t_s - ENGAGED_S) : 0),
    'outside.air': 15,
    'fire.1': 0,
    ...more,
  };
} // oxfmt-ignore

/**
 * A start told by its readings, eight a second: no engine is flown, so that a moment can be moved by an eighth and nothing
 * else moves with it. What is not named is read by nobody.
 */
export function tell(id: 'S7' | 'C5' | 'T2', changed: Readings = {}, how: HowTold = {}): Told {
  const type = needWatched(typeOf(id));
  const ordinary = ORDINARY[id]!(type);
  const read = (reading: Reading, t_s: number, before: number): number =>
    typeof reading === 'number' ? reading : typeof reading === 'function' ? reading(t_s, before) : along(reading, t_s);
  const columns = type.channels.map(({ id: channel }) => [ordinary[channel] ?? NaN, changed[channel]] as const);
  const events: WatchEvent[] = [];
  const watch = new Watch(type, how.corridors ?? {}, (e) => events.push(e));
  if (how.air) watch.airIs(how.air);
  const values = new Float64Array(columns.length);
  const times_s: number[] = [];
  const frames: Float64Array[] = [];
  const step_s = how.step_s ?? 0.125;
  for (let k = 0; k <= Math.round((how.seconds ?? 45) / step_s); k++) {
    const t_s = k * step_s;
    if (how.seen && !how.seen(t_s)) continue;
    columns.forEach(([usual, instead], c) => {
      const before = read(usual, t_s, NaN);
      values[c] = instead === undefined ? before : read(instead, t_s, before);
    });
    how.before?.(t_s, watch);
    watch.step(t_s, values);
    times_s.push(t_s);
    frames.push(values.slice());
  }
  const trace = {
    channels: type.channels.map((c) => c.id),
    t_s: Float64Array.from(times_s),
    columns: columns.map((_, c) => Float64Array.from(frames, (frame) => frame[c]!)),
  };
  return { type, watch, events, trace };
}

/** What was said, with its time: calls by their code, cautions and warnings with their severity. */
export const saidIn = ({ events }: Told): string[] =>
  events.flatMap((e) =>
    e.kind === 'cue' ? [`${e.t_s} ${e.severity === 'call' ? '' : `${e.severity} `}${e.code}`] : [],
  );
export const statesIn = ({ events }: Told): string[] =>
  events.flatMap((e) => (e.kind === 'state' ? [`${e.t_s} ${e.state}`] : []));
export const stopsIn = ({ events }: Told): string[] =>
  events.flatMap((e) => (e.kind === 'abort' ? [`${e.t_s} ${e.reason}: ${e.text}`] : []));
export const doneIn = ({ events }: Told): Extract<WatchEvent, { kind: 'start-done' }>[] =>
  events.filter((e) => e.kind === 'start-done');
/** texts of one code */
export const textsOf = ({ events }: Told, code: string): string[] =>
  events.flatMap((e) => (e.kind === 'cue' && e.code === code ? [e.text] : []));
