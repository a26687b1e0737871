import type { Quality } from '../format/index.ts';
import type { Entry } from '../procedure/index.ts';
import type { SessionView } from '../session/index.ts';
import type { Pace } from './stand-in.ts';

/** Is there data: frames are coming, they have stopped, or nothing is connected. */
export type SourceState = 'live' | 'lost' | 'none';

/** Text messages from the server to a page that follows a run. Frames come beside them as binary, one or several in a message, one behind the other: see `packFrame`. */
export type LiveMessage =
  | { kind: 'hello'; run: string; t_s: number; entries: Entry[] }
  /** told in the turn in which it happened; `kept` says when it is on the disk */
  | { kind: 'entries'; entries: Entry[]; provisional: true }
  | { kind: 'kept'; seq: number }
  | ({
      kind: 'status';
      t_s: number;
      source: SourceState;
      /** null while no line has come */
      quality: Quality | null;
      /** names that the unit sends and the type does not know */
      unknown: string[];
      /** run clock up to which frames are on the server's disk */
      keptTo_s: number | null;
      /** what is kept there and not in the database yet: entries, for how long the database has been away, and what the disk says */
      outbox: { waiting: number; away_s: number; disk: string | null };
      /** how many times faster than life a simulated aircraft lives */
      pace: Pace;
    } & SessionView);

/** Binary frame: run clock, the unit's own clock, then one 64-bit float per channel, in the machine's order. */
export const FRAME_HEADER = 2;

/** Fills `into`, which is as long as the channels and the header together. */
export function packFrame(into: Float64Array, t_s: number, unit_s: number, values: Float64Array): void {
  into[0] = t_s;
  into[1] = unit_s;
  into.set(values, FRAME_HEADER);
}
