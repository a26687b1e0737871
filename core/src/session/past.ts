import type { TypeFile } from '../aircraft/index.ts';
import { learnCheckHabit, learnHoverOffset, type PastCheck } from '../health/index.ts';
import { type Learned, NOTHING_LEARNED } from '../procedure/index.ts';
import { type Corridors, learnCorridor, type LearnedStart } from '../watch/index.ts';

/** starts that a corridor is learned from */
export const CORRIDOR_STARTS = 40;

/** What the past of a tail says to a new run. */
export interface TailPast {
  corridors: Corridors;
  learned: Learned;
}

export const NO_PAST: TailPast = { corridors: {}, learned: NOTHING_LEARNED };

/**
 * What a tail has shown before, made ready for a session.
 * @param starts its last good starts by start watch, newest first
 * @param checks its last checks that passed, newest first
 */
export function pastOfTail(
  type: TypeFile,
  starts: Readonly<Record<string, readonly LearnedStart[]>>,
  checks: readonly PastCheck[],
): TailPast {
  const turbines = type.startWatches.filter((w) => w.kind === 'turbine');
  return {
    corridors: Object.fromEntries(turbines.map(({ id }) => [id, learnCorridor(starts[id] ?? [])])),
    learned: { checks: learnCheckHabit(type, checks), hoverOffset_pct: learnHoverOffset(type, checks) },
  };
}
