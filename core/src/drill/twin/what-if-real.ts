import type { WatchedType } from '../../aircraft/index.ts';
import type { Trace } from '../../trace/index.ts';
import type { Change } from '../what-if.ts';
import { errorOf, sayError, type TwinFit } from './fit-twin.ts';
import type { RecordedAct, RecordedStart } from './recorded-start.ts';
import { flyTwin, seenOf } from './twin-flight.ts';

/** A real start as it was, as its twin flies it, and as the twin would have flown it with one act done otherwise. */
export interface RealWhatIf {
  channel: string;
  recorded: Trace;
  was: Trace;
  would: Trace;
  /** an estimate, and how far it may be off */
  words: string;
}

/** a start that its own twin misses by more than this had something in it that the twin does not have */
const STRANGE = { peak_C: 40, time_s: 2.5 };

/** The acts of a start with one of them left out, or done at another time. @throws RangeError for an act that is not there */
export function withActChanged(acts: readonly RecordedAct[], { act, how, by_s }: Change): RecordedAct[] {
  const changed = acts[act];
  if (!changed) throw new RangeError(`there is no act ${act}`);
  const others = acts.filter((_, i) => i !== act);
  if (how === 'left-out') return [...others, { ...changed, moves: undone(changed, acts, act) }];
  const shift_s = how === 'earlier' ? -by_s : by_s;
  // how a lever stood when it began is no move
  const moves = changed.moves.map((m) => (m.t_s === 0 && changed.moves.length > 2 ? m : { ...m, t_s: Math.max(0, m.t_s + shift_s) })); // oxfmt-ignore
  return [...others, { ...changed, t_s: Math.max(0, changed.t_s + shift_s), moves }];
}

/** What stood so from the beginning is off instead; what was moved later just stays as it was. */
function undone(changed: RecordedAct, acts: readonly RecordedAct[], at: number): RecordedAct['moves'] {
  if (changed.t_s > 0) return [];
  const first = changed.moves[0]!;
  const other = acts.find((a, i) => i !== at && a.moves[0]?.control === first.control)?.moves[0]?.to;
  const off = typeof first.to === 'string' ? other : 0;
  return off === undefined ? [] : changed.moves.map((m) => ({ ...m, to: off }));
}

/**
 * What if I had not? On the twin of the aircraft, beside the record.
 * @throws RangeError where the twin cannot answer, in words
 */
export function whatIfReal(type: WatchedType, { figures, error }: TwinFit, start: RecordedStart, change: Change): RealWhatIf {
  const acts = withActChanged(start.acts, change);
  const own = errorOf(type, [start], figures);
  if (!(own.peak_C <= STRANGE.peak_C && own.time_s <= STRANGE.time_s))
    throw new RangeError(`in this start something was at work that its twin does not have: left as it was, the twin is off by ${Number.isFinite(own.peak_C + own.time_s) ? sayError(own) : 'more than can be said'}`);
  const [was, would] = [flyTwin(type, start, figures), flyTwin(type, start, figures, acts)];
  const channel = start.watch.channels.temperature;
  const spec = type.channels.find((c) => c.id === channel)!;
  const said = (trace: Trace): string => seenOf(start, trace).peak_C.toFixed(spec.decimals);
  const [a, b] = [said(was), said(would)];
  const peaks = a === b ? `${spec.label} comes to ${a} ${spec.unit} either way` : `${spec.label} would have come to about ${b} instead of ${a} ${spec.unit}`;
  const idles = [was, would].map((t) => Number.isFinite(seenOf(start, t).times_s.at(-1)!));
  const came = idles[0] && !idles[1] ? '; it would not have come up to idle' : !idles[0] && idles[1] ? '; it would have come up to idle' : '';
  return { channel, recorded: start.trace, was, would, words: `${peaks}${came}. An estimate, by a twin that is off by ${sayError(error)} on starts that it was not fitted to` };
} // oxfmt-ignore
