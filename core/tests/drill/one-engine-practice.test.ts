import { describe, expect, test } from 'vitest';
import { needWatched } from '@rouse/core/aircraft';
import { OneEnginePractice, type PracticeStart } from '@rouse/core/drill';
import { typeOf } from '../fleet.ts';

const haugh = needWatched(typeOf('H9'));
const start: PracticeStart = { mass_kg: 2650, oat_C: 15, pa_m: 19, height_m: 60 };
const fly = (flight: OneEnginePractice, seconds: number): void => {
  for (let i = 0; i < seconds * 50; i++) flight.tick();
};
const rating = (flight: OneEnginePractice, engine: number, id: string) =>
  flight.now().ratings.find((r) => r.engine === engine && r.rating === id)!;

describe('practice of one engine out', () => {
  test('it begins in a steady hover that somebody else holds', () => {
    const flight = new OneEnginePractice(haugh, start, 1);
    fly(flight, 5);
    const now = flight.now();
    expect(Math.abs(now.height_m - 60)).toBeLessThan(1.5);
    expect(Math.abs(now.climb_mps)).toBeLessThan(0.3);
    expect([now.failed, now.training, now.handFlown, now.ended]).toEqual([null, false, false, null]);
  });

  test('training mode shares the limit between both engines and uses nothing up', () => {
    const flight = new OneEnginePractice(haugh, { ...start, mass_kg: 2850 }, 1);
    flight.setLimiter('2min');
    flight.setTraining(true);
    flight.moveCollective(0.1);
    fly(flight, 2);
    const { torque_pct, nr_pct, ratings } = flight.now();
    for (const tq of torque_pct) expect(tq).toBeLessThan(67);
    expect(nr_pct).toBeLessThan(100);
    expect(ratings.every((r) => r.booked_s === 0)).toBe(true);
  });

  test('an engine that fails is gone, the other takes thirty-second power, and its time runs', () => {
    const events: string[] = [];
    const flight = new OneEnginePractice(haugh, start, 1, (e) => events.push(`${e.event} ${e.engine} ${e.rating}`));
    flight.fail(1);
    flight.fail(2);
    fly(flight, 10);
    const now = flight.now();
    expect(now.failed).toBe(1);
    expect(now.torque_pct[0]).toBeLessThan(2);
    expect(now.torque_pct[1]).toBeGreaterThan(125);
    expect(rating(flight, 2, '30s')).toMatchObject({ inUse: true, uses: 1, maintenance: true });
    expect(rating(flight, 2, '30s').remaining_s).toBeLessThan(26);
    expect(events).toContain('PERIOD_START 2 30s');
    expect(now.nrLeast_pct).toBeLessThan(100);
  });

  test('the two-minute setting keeps the thirty seconds; overridden, the maximum is passed and said', () => {
    const careful = new OneEnginePractice(haugh, { ...start, mass_kg: 2900 }, 1);
    careful.setLimiter('2min');
    careful.fail(1);
    fly(careful, 8);
    expect(rating(careful, 2, '2min').inUse).toBe(true);
    expect(rating(careful, 2, '30s').booked_s).toBeLessThan(1.5);

    const events: string[] = [];
    const reckless = new OneEnginePractice(haugh, { ...start, mass_kg: 2900 }, 1, (e) => events.push(e.event));
    reckless.setLimiter('override');
    reckless.setCollective(0.85);
    reckless.fail(1);
    fly(reckless, 8);
    expect(reckless.now().torque_pct[1]).toBeGreaterThan(careful.now().torque_pct[1] + 10);
    expect(events).toContain('OVER_MAXIMUM');
  });

  test('hands that leave the collective up lose the rotor; hands that lower it keep it, and come down', () => {
    const held = new OneEnginePractice(haugh, { ...start, mass_kg: 2900, oat_C: 35 }, 1);
    held.moveCollective(0);
    held.fail(2);
    fly(held, 4);
    const lowered = new OneEnginePractice(haugh, { ...start, mass_kg: 2900, oat_C: 35 }, 1);
    lowered.fail(2);
    lowered.moveCollective(-0.2);
    fly(lowered, 4);
    expect(lowered.now().nrLeast_pct).toBeGreaterThan(held.now().nrLeast_pct + 2);
    expect(lowered.now().climb_mps).toBeLessThan(0);
    fly(lowered, 40);
    expect(lowered.now().ended).toMatch(/landed|hard/);
    expect(lowered.tick()).toBe(false);
  });

  test('given back, the height of that moment is held again, and the same hands fly the same flight', () => {
    const run = (): OneEnginePractice => {
      const flight = new OneEnginePractice(haugh, start, 4);
      flight.setCollective(0.72);
      fly(flight, 2);
      flight.handBack();
      fly(flight, 12);
      return flight;
    };
    const [a, b] = [run(), run()];
    expect(a.now()).toEqual(b.now());
    expect(Math.abs(a.now().climb_mps)).toBeLessThan(0.4);
    expect(a.now().handFlown).toBe(false);
  });
});
