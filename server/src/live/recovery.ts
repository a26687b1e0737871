import type { Entry } from '@rouse/core/procedure';
import type { RatingBooks, RatingEvent } from '@rouse/core/ratings';
import type { Trace } from '@rouse/core/trace';
import type { WatchEvent } from '@rouse/core/watch';

/** Feeds a ledger with what was recorded: a hole in the record is a hole in the ledger. */
export function replayRatings(ratings: RatingBooks, trace: Trace): void {
  const frame = new Float64Array(trace.columns.length);
  for (let i = 0; i < trace.t_s.length; i++) {
    for (let k = 0; k < frame.length; k++) frame[k] = trace.columns[k]![i]!;
    ratings.step(trace.t_s[i]!, frame);
  }
}

/** a journalled time is rounded to the millisecond, a replayed one is not */
const SAME_MOMENT_S = 0.01;

/** Whether the journal holds what this replayed event of a ledger says. */
export function isBooked(event: RatingEvent, entries: readonly Entry[]): boolean {
  return entries.some(
    (e) =>
      e.kind === 'rating' &&
      e.event === event.event &&
      e.ledger === event.ledger &&
      e.engine === event.engine &&
      e.rating === event.rating &&
      Math.abs(e.t - event.t_s) < SAME_MOMENT_S,
  );
}

/** Whether the journal holds what this replayed event says. */
export function isWritten(event: WatchEvent, entries: readonly Entry[]): boolean {
  if (event.kind === 'abort') return entries.some((e) => e.kind === 'abort');
  return entries.some((e) => {
    if (Math.abs(e.t - event.t_s) > SAME_MOMENT_S) return false;
    switch (event.kind) {
      case 'state':
        return e.kind === 'start-state' && e.state === event.state;
      case 'cue':
        return e.kind === 'cue' && e.code === event.code;
      case 'exceedance':
        return e.kind === 'exceedance' && e.limit === event.exceedance.limit && e.band === event.exceedance.band;
      default:
        return e.kind === event.kind;
    }
  });
}
