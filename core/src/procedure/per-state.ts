import type { TypeFile } from '../aircraft/index.ts';
import type { RunState } from './state.ts';

/**
 * What follows from a type and a state alone is found once for them, however often it is asked: at every frame, in every
 * part of a page. An entry makes a new state; nothing changes one.
 */
export function perState<Found>(
  find: (type: TypeFile, state: RunState) => Found,
): (type: TypeFile, state: RunState) => Found {
  const known = new WeakMap<RunState, { type: TypeFile; found: Found }>();
  return (type, state) => {
    const before = known.get(state);
    if (before?.type === type) return before.found;
    const found = find(type, state);
    known.set(state, { type, found });
    return found;
  };
}
