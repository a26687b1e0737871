import { type KindModule, saysDone } from './kind.ts';
import { acceptSensed } from './sensed.ts';

/** The captions that are lit are counted against those that should be. */
export const countKind: KindModule<'count'> = {
  ask: () => ({ kind: 'word', word: 'seen' }),
  accept: acceptSensed,
  right: (item) => saysDone(item),
  hands_s: 6,
};
