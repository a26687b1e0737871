import type { Stamper } from '../session/index.ts';

/** The run of every drill: no aircraft has one of this name. */
export const DRILL_RUN = '00000000-0000-7000-8000-000000000000';

/** Ids that count up from nothing: the same drill gives the same entries. */
export function countingStamp(): Stamper {
  let count = 0;
  return (t_s) => ({ id: `00000000-0000-7000-8000-${String(++count).padStart(12, '0')}`, at_ms: t_s * 1000 });
}
