import type { WatchedType } from '../aircraft/index.ts';
import { columnOf, type Trace } from '../trace/index.ts';
import type { TimedAct } from './act.ts';
import type { DrillFlight } from './drill-flight.ts';
import type { DrillOptions } from './flown-drill.ts';
import { flyAgain } from './fly-again.ts';

/** One act of a drill done otherwise. */
export interface Change {
  /** its place among the acts */
  act: number;
  how: 'left-out' | 'earlier' | 'later';
  /** how much earlier or later, s */
  by_s: number;
}

/** A drill as it was and as it would have been. */
export interface WhatIf {
  /** what is looked at: the channel of the temperature, or of the speed where no temperature is watched */
  channel: string;
  was: Trace;
  would: Trace;
  /** run clock from which the two are not the same; null when they stay so */
  differs_s: number | null;
  words: string;
}

const TICKS_PER_S = 50;
/** what came of the change is shown for so long after the first drill ended, s */
const BEYOND_S = 15;

/** The acts with one of them left out, or done at another time. @throws RangeError for an act that is not there */
export function withChange(acts: readonly TimedAct[], { act, how, by_s }: Change): TimedAct[] {
  const changed = acts[act];
  if (!changed) throw new RangeError(`there is no act ${act}`);
  const others = acts.filter((_, i) => i !== act);
  if (how === 'left-out') return others;
  const shift = Math.round(by_s * TICKS_PER_S) * (how === 'earlier' ? -1 : 1);
  const moved = { ...changed, tick: Math.max(0, changed.tick + shift) };
  return [...others, moved].toSorted((a, b) => a.tick - b.tick);
}

/** Flies a drill again, as it was and with one act done otherwise, and says what came of it. */
export function whatIf(options: DrillOptions, acts: readonly TimedAct[], ended_s: number, change: Change): WhatIf {
  const first = flyAgain(options, acts, ended_s + BEYOND_S);
  const other = flyAgain(options, withChange(acts, change), ended_s + BEYOND_S);
  const channel = shownChannel(options.type);
  const [was, would] = [first.trace(), other.trace()];
  return { channel, was, would, differs_s: differsFrom(was, would), words: sayDifference(options.type, channel, first, other) }; // oxfmt-ignore
}

function shownChannel({ startWatches, channels }: WatchedType): string {
  const main = startWatches.find((w) => w.engine !== 0);
  if (main?.kind === 'turbine') return main.channels.temperature;
  return main?.channels.speed ?? channels[0]!.id;
}

function differsFrom(was: Trace, would: Trace): number | null {
  const rows = Math.min(was.t_s.length, would.t_s.length);
  for (let i = 0; i < rows; i++) if (was.columns.some((column, c) => !Object.is(column[i], would.columns[c]![i]))) return was.t_s[i]!; // oxfmt-ignore
  return null;
}

/** How a drill ended for its engine: stopped and why, started, or neither. */
function outcomeOf({ session }: DrillFlight): string {
  const abort = session.entries.find((e) => e.kind === 'abort');
  if (abort) return abort.text;
  return session.entries.some((e) => e.kind === 'start-done') ? 'it starts and comes to idle' : 'no start is done';
}

function sayDifference(type: WatchedType, channel: string, first: DrillFlight, other: DrillFlight): string {
  const spec = type.channels.find((c) => c.id === channel)!;
  const most = (flight: DrillFlight): string | null => {
    let peak = -Infinity;
    const trace = flight.trace();
    const column = columnOf(trace, channel);
    for (let i = 0; i < column.length; i++) if (trace.t_s[i]! >= first.begun_s && column[i]! > peak) peak = column[i]!;
    return peak === -Infinity ? null : peak.toFixed(spec.decimals);
  };
  const [was, would] = [most(first), most(other)];
  const unknown = was === null || would === null;
  const peaks = unknown ? `${spec.label} is not known` : was === would ? `${spec.label} comes to ${was} ${spec.unit} either way` : `${spec.label} comes to ${would} instead of ${was} ${spec.unit}`; // oxfmt-ignore
  const [before, after] = [outcomeOf(first), outcomeOf(other)];
  return before === after ? `${peaks}; ${after}` : `${peaks}; ${after}, where it was: ${before}`;
}
