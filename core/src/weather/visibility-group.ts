import { convert } from '../quantity/index.ts';

export interface Visibility {
  m: number;
  at_least: boolean;
  less_than: boolean;
  cavok: boolean;
  min_m: number | null;
  min_dir: string | null;
}

interface VisibilityRead {
  visibility: Visibility | null;
  /** tokens used */
  took: number;
  warning?: 'VISIBILITY_MISSING' | 'VISIBILITY_DIRECTION_FIRST';
}

const of = (m: number, rest: Partial<Visibility> = {}): Visibility => ({
  m,
  at_least: false,
  less_than: false,
  cavok: false,
  min_m: null,
  min_dir: null,
  ...rest,
});

/** Reads a visibility group, which in miles may be two tokens. @returns null for another group */
export function readVisibility(
  token: string,
  following: string | undefined,
  before: Visibility | null,
): VisibilityRead | null {
  if (token === 'CAVOK') return { visibility: of(10_000, { at_least: true, cavok: true }), took: 1 };
  if (token === '////') return { visibility: null, took: 1, warning: 'VISIBILITY_MISSING' };
  const metric = /^(\d{4})(NDV|N|NE|E|SE|S|SW|W|NW)?$/.exec(token);
  if (metric) return metres(Number(metric[1]), metric[2], before);
  const whole = /^(\d{1,2})$/.exec(token);
  if (whole && following !== undefined) {
    const part = /^(\d{1,2})\/(\d{1,2})SM$/.exec(following);
    if (part && part[2] !== '0')
      return { visibility: miles(Number(whole[1]) + Number(part[1]) / Number(part[2]), ''), took: 2 };
  }
  const sm = /^([MP]?)(\d{1,3})(?:\/(\d{1,2}))?SM$/.exec(token);
  if (!sm || sm[3] === '0') return null;
  return { visibility: miles(Number(sm[2]) / Number(sm[3] ?? 1), sm[1]!), took: 1 };
}

function metres(value: number, direction: string | undefined, before: Visibility | null): VisibilityRead {
  const seen = value === 9999 ? of(10_000, { at_least: true }) : value === 0 ? of(50, { less_than: true }) : of(value);
  if (direction === undefined || direction === 'NDV') return { visibility: seen, took: 1 };
  if (!before) return { visibility: seen, took: 1, warning: 'VISIBILITY_DIRECTION_FIRST' };
  return { visibility: { ...before, min_m: seen.m, min_dir: direction }, took: 1 };
}

/** 10 miles is the most such a report can say. */
function miles(value: number, prefix: string): Visibility {
  return of(convert(value, 'SM', 'm'), { at_least: prefix === 'P' || value >= 10, less_than: prefix === 'M' });
}
