import type { EngineFirst } from '../aircraft/index.ts';
import type { WindSide } from '../weather/index.ts';

export interface StartOrder {
  first: 1 | 2;
  reason: string;
}

const SIDE_WORDS = { HEAD: 'ahead', RIGHT: 'the right', TAIL: 'behind', LEFT: 'the left' } as const;

/**
 * Which engine of a twin is started first, and why. Engine 1 is on the left.
 * @param side where the wind comes from, null when it is not known
 * @param day day of the month
 * @param starts good starts of engine 1 and 2
 */
export function startOrder(
  rule: EngineFirst,
  side: WindSide | null,
  day: number,
  starts: readonly number[],
): StartOrder {
  switch (rule) {
    case 'always-1':
      return { first: 1, reason: 'The operator always starts engine 1 first.' };
    case 'always-2':
      return { first: 2, reason: 'The operator always starts engine 2 first.' };
    case 'date-parity':
      return byDate(day);
    case 'fewest-starts': {
      const [one = 0, two = 0] = starts;
      if (one === two)
        return { ...byDate(day), reason: `Both have ${one} starts on record; ${lower(byDate(day).reason)}` };
      return {
        first: one < two ? 1 : 2,
        reason: `Engine 1 has ${one} starts on record, engine 2 has ${two}.`,
      };
    }
    case 'wind-side': {
      const from = side?.determinate ? side.primary : null;
      if (from === 'LEFT' || from === 'RIGHT')
        return {
          first: from === 'LEFT' ? 2 : 1,
          reason: `The wind comes from ${SIDE_WORDS[from]}, so the ${from === 'LEFT' ? 'right' : 'left'} engine is the sheltered one.`,
        };
      const why = !side
        ? 'The wind is not known'
        : from === 'HEAD' || from === 'TAIL'
          ? `The wind is from ${SIDE_WORDS[from]} and shelters neither side`
          : side.primary === 'CALM'
            ? 'It is calm'
            : side.reason === 'LIGHT_WIND'
              ? 'The wind is light'
              : 'The wind names no side';
      return { ...byDate(day), reason: `${why}; ${lower(byDate(day).reason)}` };
    }
  }
}

function byDate(day: number): StartOrder {
  return day % 2 === 1
    ? { first: 1, reason: `Odd day of the month, ${day}: engine 1.` }
    : { first: 2, reason: `Even day of the month, ${day}: engine 2.` };
}

const lower = (text: string): string => text.charAt(0).toLowerCase() + text.slice(1);
