import { type KindModule, saysDone } from './kind.ts';
import { acceptSensed } from './sensed.ts';

/** Something is moved to where it belongs; sensors settle it where they see it. */
export const setKind: KindModule<'set'> = {
  ask: () => ({ kind: 'word', word: 'done' }),
  accept: acceptSensed,
  right: (item) => saysDone(item),
  hands_s: 4,
};
