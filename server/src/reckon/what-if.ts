import type { WatchedType } from '@rouse/core/aircraft';
import type { Curve, WhatIfAnswer, WhatIfAsked } from '@rouse/core/contract';
import { fitTwin, type RecordedStart, recordedStart, type StartDay, type TwinFit, whatIfReal } from '@rouse/core/drill';
import { columnOf, type Trace } from '@rouse/core/trace';

/** One start as it is stored. */
export interface StoredStart {
  run: string;
  trace: Trace;
  starterAt_s: number;
  day: StartDay;
}

/** The start that is asked about, and those of the same aircraft that its twin is fitted to, newest first. */
export interface StartsOfTail {
  type: WatchedType;
  watch: string;
  own: StoredStart;
  others: readonly StoredStart[];
}

/** twins are kept for as many aircraft as are asked about at a time */
const KEPT_TWINS = 12;
const twins = new Map<string, TwinFit>();

/** What if I had not? @returns the curves with their words, or why it cannot be said */
export function answerWhatIf(starts: StartsOfTail, asked: WhatIfAsked): WhatIfAnswer | { refused: string } {
  const { type, watch, own } = starts;
  try {
    const start = recordedStart(type, own.trace, watch, own.starterAt_s, own.day);
    const { channel, recorded, was, would, words } = whatIfReal(type, twinOf(starts), start, asked);
    const { label, unit } = type.channels.find((c) => c.id === channel)!;
    return { label, unit, words, recorded: curve(recorded, channel), was: curve(was, channel), would: curve(would, channel) }; // oxfmt-ignore
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    return { refused: error.message };
  }
}

function twinOf({ type, watch, others }: StartsOfTail): TwinFit {
  const key = [type.id, type.version, watch, ...others.map((o) => o.run)].join('/');
  const known = twins.get(key);
  if (known) return known;
  const fit = fitTwin(
    type,
    others.flatMap((o) => cut(type, watch, o) ?? []),
  );
  for (const oldest of twins.keys()) if (twins.size >= KEPT_TWINS) twins.delete(oldest);
  twins.set(key, fit);
  return fit;
}

/** A start whose day is not known, or whose frames are not kept, says nothing of its aircraft. */
function cut(type: WatchedType, watch: string, { trace, starterAt_s, day }: StoredStart): RecordedStart | null {
  try {
    return recordedStart(type, trace, watch, starterAt_s, day);
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    return null;
  }
}

/** ten points a second are enough for any screen */
const EVERY = 5;

function curve(trace: Trace, channel: string): Curve {
  const at = (column: Float64Array): number[] => Array.from(column.filter((_, i) => i % EVERY === 0));
  return {
    t_s: at(trace.t_s),
    values: at(columnOf(trace, channel)).map((v) => (Number.isNaN(v) ? null : v)),
  };
}
