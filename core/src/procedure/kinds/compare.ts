import type { Item } from '../../aircraft/index.ts';
import { type Acceptance, refuse } from '../acceptance.ts';
import { type Answering, done, type KindModule, middle, remedyOf, saysDone } from './kind.ts';

type Compared = Extract<Item, { kind: 'compare' }>;
type Read = [string, string];

/** What two places show is compared: neither is believed by itself. */
export const compareKind: KindModule<'compare'> = {
  ask: (item) => ({ kind: 'pair', between: item.between, unit: item.apart?.unit ?? null }),
  accept(item, answering) {
    const { wanted } = answering;
    const read: Read = [wanted.read?.[0].trim() ?? '', wanted.read?.[1].trim() ?? ''];
    const missing = read.indexOf('');
    if (missing >= 0) return refuse('not-so', `${item.challenge}: enter what ${item.between[missing]} shows`);
    if (item.apart) return acceptFigures(item, item.apart, answering, read);
    if (read[0].toUpperCase() === read[1].toUpperCase()) return done(item, wanted, `both ${read[0]}`, null, read);
    return refuse('not-so', `${item.challenge}: ${shown(item, read)}. ${remedyOf(item)}`);
  },
  right(item) {
    const same = item.apart ? String(Math.round(middle(item.apart.range))) : 'A7';
    return { ...saysDone(item), read: [same, same] };
  },
  hands_s: 8,
};

const shown = ({ between }: Compared, [a, b]: Read, unit = ''): string =>
  `${between[0]} shows ${a}${unit}, ${between[1]} shows ${b}${unit}`;

function acceptFigures(
  item: Compared,
  { most, unit, range, circle }: NonNullable<Compared['apart']>,
  { wanted }: Answering,
  read: Read,
): Acceptance {
  const figures = read.map(Number);
  const odd = figures.findIndex((v) => !(v >= range[0] && v <= range[1]));
  if (odd >= 0)
    return refuse(
      'not-so',
      `${item.challenge}: ${item.between[odd]} cannot show ${read[odd]}; ${range[0]} to ${range[1]} ${unit} can`,
    );
  const straight = Math.abs(figures[0]! - figures[1]!);
  const apart = circle === undefined ? straight : Math.min(straight % circle, circle - (straight % circle));
  const words = `${Math.round(apart * 10) / 10} ${unit} apart`;
  if (apart <= most) return done(item, wanted, words, apart, read);
  return refuse(
    'not-so',
    `${item.challenge}: ${shown(item, read, ` ${unit}`)}, ${words}; at most ${most} is good. ${remedyOf(item)}`,
  );
}
