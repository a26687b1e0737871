import type { Scale } from '../scale.ts';

const LETTER_PX = 7;
const ROWS = 3;
const LONGEST = 18;

export interface Mark {
  t_s: number;
  words: string;
}

/** Words of marks in rows where they do not run into each other; what finds no room is left out. */
export function placeMarks(
  marks: readonly Mark[],
  x: Scale,
): { t_s: number; at: number; words: string | null; row: number }[] {
  const ends = Array.from({ length: ROWS }, () => -Infinity);
  return marks.map(({ t_s, words }) => {
    const at = x(t_s);
    const short = words.length > LONGEST ? `${words.slice(0, LONGEST - 1)}…` : words;
    const row = ends.findIndex((end) => end < at);
    if (row >= 0) ends[row] = at + LETTER_PX * short.length + 10;
    return { t_s, at, words: row < 0 ? null : short, row: Math.max(0, row) };
  });
}
