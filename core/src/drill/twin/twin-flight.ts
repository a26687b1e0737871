import type { WatchedType } from '../../aircraft/index.ts';
import { higherOf, lowerOf } from '../../statistics/index.ts';
import { type Trace, TraceBuilder, columnOf } from '../../trace/index.ts';
import { DealtStart } from '../starts/dealt-start.ts';
import { conditionsOfDay, type RecordedAct, type RecordedStart } from './recorded-start.ts';

/** What is fitted: how one aircraft differs from its type. */
export interface TwinFigures {
  /** resistance of the battery, 1 as new */
  battery: number;
  /** efficiency of the turbine, 1 as new */
  turbine: number;
  /** fuel that comes for what is metered, 1 as set */
  fuel: number;
  /** drag of the gas generator beyond the type's, W */
  friction_W: number;
}

/** An aircraft as its type describes it. */
export const AS_NEW: TwinFigures = { battery: 1, turbine: 1, fuel: 1, friction_W: 0 };

/** charge that a battery in service has before a start; what it lacks is fitted as resistance */
const CHARGE = 0.88;

/** Flies a recorded start on a twin. @param acts what is done, those of the record when missing */
export function flyTwin(type: WatchedType, start: RecordedStart, twin: TwinFigures, acts: readonly RecordedAct[] = start.acts): Trace {
  const { env, init } = conditionsOfDay(start, type);
  const fault = `fault.e${type.engines[0]!.id}`;
  const figures = { [`${fault}.turb_eff`]: twin.turbine, [`${fault}.fuel_bias`]: twin.fuel, [`${fault}.gg_drag_w`]: twin.friction_W }; // oxfmt-ignore
  const flight = new DealtStart(type, { seed: 0, init: { ...init, soc: CHARGE, batt_age: twin.battery }, env, faults: [{ set: figures }] }); // oxfmt-ignore
  const moves = acts.flatMap((a) => a.moves).toSorted((a, b) => a.t_s - b.t_s);
  const builder = new TraceBuilder(type.channels.map((c) => c.id), 4096); // oxfmt-ignore
  const ended_s = start.trace.t_s.at(-1)!;
  for (let next = 0; flight.t_s < ended_s; ) {
    while (next < moves.length && moves[next]!.t_s <= flight.t_s) flight.move(moves[next++]!);
    const frame = flight.tick();
    builder.push(flight.t_s, frame);
  }
  return builder.toTrace();
} // oxfmt-ignore

/** What of a start is compared between the record and the twin; NaN where it never came, or was not seen. */
export interface StartSeen {
  /** deepest dip, V */
  volts_V: number;
  /** hottest, °C */
  peak_C: number;
  /** from its first movement to each of `SPEEDS_pct`, s */
  times_s: readonly number[];
}

/** The gas generator turns from here on. */
const TURNS_pct = 4;
const SPEEDS_pct = [20, 35, 50];

/** Looks at one start. */
export function seenOf({ watch: { channels } }: RecordedStart, trace: Trace): StartSeen {
  const began_s = passes_s(trace, channels.speed, TURNS_pct);
  return {
    volts_V: columnOf(trace, channels.volts).reduce(lowerOf, NaN),
    peak_C: columnOf(trace, channels.temperature).reduce(higherOf, NaN),
    times_s: SPEEDS_pct.map((pct) => passes_s(trace, channels.speed, pct) - began_s),
  };
}

/** When a column first comes to a figure, between its rows; NaN when it does not. */
function passes_s(trace: Trace, channel: string, figure: number): number {
  const column = columnOf(trace, channel);
  for (let i = 1; i < column.length; i++) {
    const [a, b] = [column[i - 1]!, column[i]!];
    if (a < figure && b >= figure) return trace.t_s[i - 1]! + ((figure - a) / (b - a)) * (trace.t_s[i]! - trace.t_s[i - 1]!);
  }
  return NaN;
} // oxfmt-ignore
