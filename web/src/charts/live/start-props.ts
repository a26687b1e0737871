import type { StartWatch } from '@rouse/core/aircraft';
import type { StartSnapshot } from '@rouse/core/watch';
import type { WatchedRun } from '../../run/run-slice.ts';

/** What the live drawings of one engine start take. */
export interface LiveStartProps<Spec extends StartWatch> {
  followed: WatchedRun;
  spec: Spec;
  start: StartSnapshot | undefined;
}
