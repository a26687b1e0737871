import type { Criterion } from './lesson.ts';

/** What one thing has cost, with the moment that shows it. */
export interface Loss {
  criterion: Criterion | 'hints';
  /** of the points of its criterion */
  points: number;
  words: string;
  t_s: number;
  /** the item, or the control, that it is about */
  of: string;
}
