import type { Item } from '@rouse/core/aircraft';
import { itemState, presentFlow, presentItem, workingList } from '@rouse/core/procedure';
import type { FollowedRun } from '../../run/run-slice.ts';

/** The note that the pilot is typing. It stays with its item, also when a sensor settles that item meanwhile. */
export type Asking = { note: 'fault' | 'skip'; item: Item } | null;

/** The item that the card shows on its own; null while it shows a flow, items seen again, or the end. */
function itemOnCard({ type, state }: FollowedRun): Item | null {
  return state.seeAgain.length > 0 || presentFlow(type, state) ? null : presentItem(type, state);
}

/** Opens a note for the item on the card. */
export function askOf(run: FollowedRun, note: 'fault' | 'skip'): Asking {
  const item = itemOnCard(run);
  return item ? { note, item } : null;
}

/** @returns the note, as long as its item is on the list that is worked and the note is not yet in the journal */
export function stillAsked(asking: Asking, run: FollowedRun): Asking {
  if (!asking || !itemOnCard(run)) return null;
  const { status } = itemState(run.state, asking.item.id);
  const written = status === 'fault' || status === 'skipped';
  return !written && workingList(run.type, run.state).some((i) => i.id === asking.item.id) ? asking : null;
}
