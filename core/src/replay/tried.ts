import type { WatchedType } from '../aircraft/index.ts';
import type { Trace } from '../trace/index.ts';
import { Watch, type WatchEvent } from '../watch/index.ts';

/** One thing that a version of a type says to a recorded start. */
export interface TriedCall {
  t_s: number;
  /** it stops the start */
  stops: boolean;
  text: string;
}

/** One recorded start under two versions of its type. */
export interface TriedStart {
  outcome: 'as-before' | 'stopped' | 'no-longer-stopped' | 'told-otherwise';
  before: TriedCall[];
  after: TriedCall[];
}

/**
 * What a version of a type would have said to a recorded start: its stops, cautions and warnings in their order. By its
 * limits and deadlines alone, nothing learned of the tail: a habit stops nothing.
 * @param trace run clock in s; a channel that the type has and the recording lacks is unknown all along
 */
function callsOf(type: WatchedType, trace: Trace): TriedCall[] {
  const calls: TriedCall[] = [];
  const watch = new Watch(type, {}, (event) => calls.push(...callOf(event)));
  watch.replay(withColumns(type, trace));
  return calls;
}

/** A recorded start watched by the version that flies and by the one that is written. */
export function tryStart(released: WatchedType, draft: WatchedType, trace: Trace): TriedStart {
  const before = callsOf(released, trace);
  const after = callsOf(draft, trace);
  const stops = (calls: readonly TriedCall[]): boolean => calls.some((c) => c.stops);
  const said = (calls: readonly TriedCall[]): string => calls.map((c) => `${c.stops}${c.text}`).join('\n');
  const outcome =
    stops(after) !== stops(before)
      ? stops(after)
        ? 'stopped'
        : 'no-longer-stopped'
      : said(after) === said(before)
        ? 'as-before'
        : 'told-otherwise';
  return { outcome, before, after };
}

function callOf(event: WatchEvent): TriedCall[] {
  if (event.kind === 'abort') return [{ t_s: event.t_s, stops: true, text: event.text }];
  if (event.kind === 'cue' && event.severity !== 'call') return [{ t_s: event.t_s, stops: false, text: event.text }];
  return [];
}

/** The recording in the channel order of a type. */
function withColumns(type: WatchedType, { channels, t_s, columns }: Trace): Trace {
  const unknown = new Float64Array(t_s.length).fill(NaN);
  return {
    channels: type.channels.map((c) => c.id),
    t_s,
    columns: type.channels.map((c) => columns[channels.indexOf(c.id)] ?? unknown),
  };
}
