import type { CheckSnapshot } from '../checks/index.ts';
import type { Quality } from '../format/index.ts';
import type { Dwell, Entry } from '../procedure/index.ts';
import type { RatingNow } from '../ratings/index.ts';
import type { Pace } from './stand-in.ts';
import type { WatchSnapshot } from '../watch/index.ts';

/** Is there data: frames are coming, they have stopped, or nothing is connected. */
export type SourceState = 'live' | 'lost' | 'none';

/** Text messages from the server to a page that follows a run. Frames come beside them as binary: see `packFrame`. */
export type LiveMessage =
  | { kind: 'hello'; run: string; t_s: number; entries: Entry[] }
  | { kind: 'entries'; entries: Entry[] }
  | {
      kind: 'status';
      t_s: number;
      source: SourceState;
      /** null while no line has come */
      quality: Quality | null;
      storedTo_s: number | null;
      /** how many times faster than life a simulated aircraft lives */
      pace: Pace;
      watch: WatchSnapshot | null;
      /** the check that is being measured */
      check: CheckSnapshot | null;
      /** items that settle themselves when what is seen has lasted */
      dwells: Dwell[];
      /** what has been used of the ratings of each engine */
      ratings: RatingNow[];
    };

/** Binary frame: run clock, the unit's own clock, then one 64-bit float per channel, in the machine's order. */
export const FRAME_HEADER = 2;

/** Fills `into`, which is as long as the channels and the header together. */
export function packFrame(into: Float64Array, t_s: number, unit_s: number, values: Float64Array): void {
  into[0] = t_s;
  into[1] = unit_s;
  into.set(values, FRAME_HEADER);
}
