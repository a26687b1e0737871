import { done, type KindModule, saysDone } from './kind.ts';

/** What is said to those on board, or to oneself. */
export const briefKind: KindModule<'brief'> = {
  ask: () => ({ kind: 'word', word: 'said' }),
  accept: (item, { wanted }) => done(item, wanted, '', null),
  right: (item) => saysDone(item),
  hands_s: 20,
};
