import type { StartWatch, WatchedType } from '@rouse/core/aircraft';
import { presentItem, type RunState } from '@rouse/core/procedure';
import type { StartSnapshot, WatchSnapshot } from '@rouse/core/watch';

/** The engine start that the screen is about: that of the present item, else the one that goes on or did last. */
export function shownStart(
  type: WatchedType,
  state: RunState,
  watch: WatchSnapshot | null | undefined,
): { spec: StartWatch; start: StartSnapshot | undefined } {
  const item = presentItem(type, state);
  const named = item?.kind === 'watch' ? type.startWatches.findIndex((w) => w.id === item.watch) : -1;
  const at = named >= 0 ? named : (watch?.leading ?? 0);
  return { spec: type.startWatches[at]!, start: watch?.starts[at] };
}
