import { type KindModule, saysDone } from './kind.ts';
import { acceptNumber, rightNumber } from './number.ts';

/** A figure is read and typed. */
export const enterKind: KindModule<'enter'> = {
  ask: (item) => ({ kind: 'number', quantity: item.enters }),
  accept: (item, answering) => acceptNumber(item, item.enters, null, answering),
  right: (item, { state }) => saysDone(item, rightNumber(item.enters, state.brief)),
  hands_s: 8,
};
