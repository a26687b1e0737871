import { refuse } from '../acceptance.ts';
import { done, type KindModule, remedyOf, saysDone } from './kind.ts';

/** What two places show is compared: neither is believed by itself. */
export const compareKind: KindModule<'compare'> = {
  ask: (item) => ({ kind: 'pair', between: item.between }),
  accept(item, { wanted }) {
    const [a, b] = [wanted.read?.[0].trim() ?? '', wanted.read?.[1].trim() ?? ''];
    const missing = a === '' ? item.between[0] : b === '' ? item.between[1] : null;
    if (missing !== null) return refuse('not-so', `${item.challenge}: enter what ${missing} shows`);
    if (a.toUpperCase() === b.toUpperCase()) return done(item, wanted, `both ${a}`, null, [a, b]);
    const shown = `${item.between[0]} shows ${a}, ${item.between[1]} shows ${b}`;
    return refuse('not-so', `${item.challenge}: ${shown}. ${remedyOf(item)}`);
  },
  right: (item) => ({ ...saysDone(item), read: ['A7', 'A7'] }),
  hands_s: 8,
};
