import { expect, test } from 'vitest';
import { needWatched } from '@rouse/core/aircraft';
import { flyPractice } from '@rouse/core/drill';
import { RatingBooks, type RatingEvent } from '@rouse/core/ratings';
import { typeOf } from '../fleet.ts';

test.each(['T2', 'T2i', 'C5', 'S7', 'H9'])('a start of %s is no use of power, whatever its gauges show', (id) => {
  const started = needWatched(typeOf(id));
  // two hundred metres below the sea: the air in a manifold at rest is denser than any rating
  const conditions = { env: { oat_c: -5, pa_m: -200 } };
  const run = flyPractice({ type: started, conditions, faults: [], corridors: {}, seed: 4 });
  const seen: RatingEvent[] = [];
  const books = new RatingBooks(started, [24, 26], (e) => seen.push(e));
  const row = new Float64Array(started.channels.length);
  const idleAt_s = run.entries.findLast((e) => e.kind === 'start-done')!.t;
  run.trace.t_s.forEach((t_s, i) => {
    if (t_s > idleAt_s) return;
    run.trace.columns.forEach((column, k) => (row[k] = column[i]!));
    books.step(t_s, row);
  });
  expect(seen.map((e) => `${e.event} at ${e.t_s.toFixed(1)} s`)).toEqual([]);
});
