import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { RatingBooks, type RatingEvent, type RatingNow } from '@rouse/core/ratings';
import { typeOf } from '../fleet.ts';

const type = typeOf('H9');
const torque = [1, 2].map((e) => type.channels.findIndex((c) => c.id === `tq.${e}`));

interface Stretch {
  seconds: number;
  /** of either engine, % */
  tq: readonly [number, number];
}
const stretch = fc.record({
  seconds: fc.integer({ min: 1, max: 60 }),
  tq: fc.tuple(fc.constantFrom(0, 40, 70, 85, 95), fc.constantFrom(0, 60, 100, 112, 125, 135, 150)),
});

/** Torques at 5 Hz, the other readings unknown. */
function fly(stretches: readonly Stretch[], books: RatingBooks, seen?: (now: RatingNow[], t_s: number) => void): void {
  const values = new Float64Array(type.channels.length).fill(NaN);
  let t_s = 0;
  for (const { seconds, tq } of stretches)
    for (let i = 0; i < seconds * 5; i++) {
      tq.forEach((v, k) => (values[torque[k]!] = v));
      books.step((t_s += 0.2), values);
      if (i % 5 === 0) seen?.(books.now(), t_s);
    }
}

describe('the ledgers of a running twin', () => {
  test('whatever is flown, what is booked only grows, is no longer than the flight, and uses are never given back', () => {
    fc.assert(
      fc.property(fc.array(stretch, { minLength: 1, maxLength: 6 }), (stretches) => {
        const before = new Map<string, RatingNow>();
        fly(stretches, new RatingBooks(type, null), (now, t_s) => {
          for (const r of now) {
            const key = `${r.ledger}/${r.engine}/${r.rating}`;
            const was = before.get(key) ?? r;
            expect(r.booked_s).toBeLessThanOrEqual(t_s + 1e-6);
            expect(r.remaining_s).toBeGreaterThanOrEqual(0);
            expect(r.booked_s).toBeGreaterThanOrEqual(was.booked_s - 1e-9);
            expect(r.uses).toBeGreaterThanOrEqual(was.uses);
            expect(was.maintenance && !r.maintenance).toBe(false);
            before.set(key, r);
          }
        });
      }),
      { numRuns: 15 },
    );
  });

  test('a reading that is lost beside others leaves a doubt, not an all clear', () => {
    const books = new RatingBooks(type, null);
    const values = new Float64Array(type.channels.length).fill(NaN);
    const column = (id: string): number => type.channels.findIndex((c) => c.id === id);
    const measured = type.ratings!.ledgers.flatMap((l) => l.measures.flatMap((m) => m.channels)).map(column);
    for (const i of measured) values[i] = 40;
    for (const id of ['ng.1', 'ng.2', 'nr']) values[column(id)] = 95;
    const unseen = (): number => Math.max(...books.now().map((r) => r.unseen_s));
    for (let k = 1; k <= 50; k++) books.step(k / 5, values);
    expect(unseen()).toBe(0);
    values[column('tot.1')] = NaN;
    for (let k = 51; k <= 100; k++) books.step(k / 5, values);
    const doubted = books.now().filter((r) => r.unseen_s > 0);
    expect(doubted.every((r) => r.engine === 1)).toBe(true);
    expect(unseen()).toBeCloseTo(10, 6);
  });

  test('the same torques give the same books and the same events', () => {
    fc.assert(
      fc.property(fc.array(stretch, { minLength: 1, maxLength: 6 }), (stretches) => {
        const told: RatingEvent[][] = [[], []];
        const [a, b] = told.map((events) => new RatingBooks(type, null, (e) => events.push(e)));
        fly(stretches, a!);
        fly(stretches, b!);
        expect(a!.now()).toEqual(b!.now());
        expect(told[0]).toEqual(told[1]);
      }),
      { numRuns: 15 },
    );
  });

  test('an engine below continuous power uses nothing of its ratings, however long', () => {
    const books = new RatingBooks(type, null);
    fly([{ seconds: 600, tq: [60, 60] }], books);
    expect(books.now().filter((r) => r.booked_s > 0 || r.uses > 0)).toEqual([]);
  });

  test('time that stands still or runs back is not booked twice', () => {
    const books = new RatingBooks(type, null);
    const values = new Float64Array(type.channels.length).fill(NaN);
    [values[torque[0]!], values[torque[1]!]] = [0, 135];
    for (const t of [10, 11, 12, 12, 11, 12, 13]) books.step(t, values);
    const thirty = books.now().find((r) => r.engine === 2 && r.rating === '30s')!;
    expect(thirty.booked_s).toBeCloseTo(3, 6);
    expect(thirty.uses).toBe(1);
  });
});
