import { describe, expect, test } from 'vitest';
import type { Payload } from '@rouse/core/procedure';
import type { RatingNow } from '@rouse/core/ratings';
import { type Booking, bookingOf } from '@rouse/core/shutdown';
import { typeOf } from '../fleet.ts';
import { journalOf } from '../skerry.ts';

const phase = (name: string): Payload => ({ kind: 'phase', phase: name });
const started = (engine: number): Payload => ({
  kind: 'start-done',
  verdict: 'good',
  watch: `engine-${engine}-start`,
  record: {},
});
const begun = (leg: string): Payload => ({ kind: 'leg-begun', leg, how: 'sensed' });
const closed: Payload = { kind: 'closed', outcome: 'shut-down' };
const book = (type: string, ratings: RatingNow[], ...written: [number, Payload][]): Booking =>
  bookingOf(typeOf(type), journalOf(written.map(([t_s, payload]) => ({ t_s, by: 'watch', payload }))), ratings);

describe('the books of a run', () => {
  test('engines run from their start until all stands still, the flight from the lift until the shut-down', () => {
    const booking = book('H9', [], [100, phase('start')], [140, started(1)], [200, started(2)], [400, begun('hover')], [1000, begun('shut-down')], [1100, phase('off')], [1160, closed]); // oxfmt-ignore
    expect(booking.engines).toEqual([
      { engine: 1, starts: 1, running_s: 960 },
      { engine: 2, starts: 1, running_s: 900 },
    ]);
    expect(booking).toMatchObject({ flight_s: 600, rotorCycles: 1 });
  });

  test('a start that was stopped is none, and nothing turned that counts', () => {
    const booking = book('S7', [], [100, phase('start')], [130, phase('off')], [131, closed]);
    expect(booking.engines).toEqual([{ engine: 1, starts: 0, running_s: 0 }]);
    expect(booking).toMatchObject({ flight_s: 0, rotorCycles: 0 });
  });

  test('stopped and started once more in one run: two starts, two cycles, and the pause is no running time', () => {
    const booking = book('S7', [], [40, started(1)], [100, phase('off')], [200, phase('start')], [240, started(1)], [300, phase('off')], [310, closed]); // oxfmt-ignore
    expect(booking.engines).toEqual([{ engine: 1, starts: 2, running_s: 120 }]);
    expect(booking.rotorCycles).toBe(2);
  });

  test('a run that is closed while it still turns has its hours so far and no cycle; a late note adds none', () => {
    const note: Payload = { kind: 'note', text: 'oil seen under the cowl' };
    const booking = book('T2', [], [40, started(1)], [400, begun('hover')], [520, phase('flight')], [521, closed], [9000, note]); // oxfmt-ignore
    expect(booking.engines[0]).toEqual({ engine: 1, starts: 1, running_s: 480 });
    expect(booking).toMatchObject({ flight_s: 120, rotorCycles: 0 });
  });

  test('a rating that was not used is not booked; what its use costs is', () => {
    const now = (rating: string, booked_s: number, maintenance: boolean): RatingNow => ({
      engine: 2,
      ledger: 'one-engine',
      rating,
      label: rating,
      inUse: false,
      uses: booked_s > 0 ? 1 : 0,
      booked_s,
      remaining_s: 0,
      periods_remaining: 2,
      maintenance,
      inspection: 'to the shop',
      unseen_s: 0,
    });
    const ratings = [now('30s', 12.4, true), now('2min', 20, false), now('cont', 0, false)];
    expect(book('H9', ratings, [40, started(2)]).ratings).toEqual([
      { engine: 2, rating: '30s', label: '30s', uses: 1, booked_s: 12.4, inspection: 'to the shop' },
      { engine: 2, rating: '2min', label: '2min', uses: 1, booked_s: 20, inspection: null },
    ]);
  });
});
