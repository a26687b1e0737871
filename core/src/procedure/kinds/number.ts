import type { Item } from '../../aircraft/index.ts';
import { roundStep } from '../../quantity/index.ts';
import { type Acceptance, refuse } from '../acceptance.ts';
import { type Answering, done, expectedFigure, middle, type Quantity, remedyOf } from './kind.ts';

/** A figure that was read and typed: possible, good, and as the brief says. @param good null where any possible figure is */
export function acceptNumber(
  item: Item,
  quantity: Quantity,
  good: readonly [number, number] | null,
  { state, wanted }: Answering,
): Acceptance {
  const { label, unit, range, against } = quantity;
  const typed = wanted.value;
  if (typed === null) return refuse('not-so', `${item.challenge}: enter the ${label.toLowerCase()} in ${unit}`);
  const said = `${roundStep(typed, 0.1, 'nearest')} ${unit}`;
  if (typed < range[0] || typed > range[1])
    return refuse('not-so', `${item.challenge}: ${said} can't be; ${range[0]} to ${range[1]} can`);
  if (good && (typed < good[0] || typed > good[1]))
    return refuse('not-so', `${item.challenge}: ${said}; expected ${good[0]} to ${good[1]}. ${remedyOf(item)}`);
  const expected = against ? expectedFigure(state.brief, against.figure) : null;
  if (expected === null) return done(item, wanted, said, typed);
  if (Math.abs(typed - expected) > against!.within)
    return refuse(
      'not-so',
      `${item.challenge}: ${said}; the brief says ${Math.round(expected)}, within ${against!.within}. ${remedyOf(item)}`,
    );
  return done(item, wanted, `${said}, brief ${Math.round(expected)}`, typed);
}

/** What a gauge that is as it should be shows: what the brief says, else the middle of what can be. */
export function rightNumber({ against, range }: Quantity, brief: Parameters<typeof expectedFigure>[0]): number {
  return (against && expectedFigure(brief, against.figure)) ?? middle(range);
}
