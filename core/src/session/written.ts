import type { Entry } from '../procedure/index.ts';
import type { RatingEvent } from '../ratings/index.ts';
import type { WatchEvent } from '../watch/index.ts';

/** a journalled time is rounded to the millisecond, a replayed one is not */
const SAME_MOMENT_S = 0.01;
/** a stopped start is stopped once, wherever a replay finds the reason */
const SAME_START_S = 60;

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
  if (event.kind === 'abort')
    return entries.some(
      (e) => e.kind === 'abort' && e.watch === event.watch && Math.abs(e.t - event.t_s) < SAME_START_S,
    );
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
