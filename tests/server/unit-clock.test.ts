import { expect, test } from 'vitest';
import { UnitClock } from '../../server/src/live/unit-clock.ts';

const OPENED_ms = 1_700_000_000_000;

test('frames that come late and in heaps keep the distances that the unit gave them', () => {
  const clock = new UnitClock();
  const late_ms = [0, 40, 180, 130, 80, 310, 260, 20];
  const at = late_ms.map((late, i) => clock.at(7 + 0.05 * i, OPENED_ms + 50 * i + late, false));
  at.forEach((t, i) => expect(t - at[0]!).toBeCloseTo(50 * i, 3));
});

test.each([false, true])('a line that stood still for a second and a half has lost nothing, hurried: %s', (hurried) => {
  const clock = new UnitClock();
  const at = [0, 50, 100, 1600, 1600, 1600, 1610, 1620].map((now, i) =>
    clock.at(3 + 0.05 * i, OPENED_ms + now, hurried),
  );
  at.forEach((t, i) => expect(t - at[0]!).toBeCloseTo(50 * i, 3));
});

test('a line that held everything back for ten seconds gives it back in its order, and the next frames follow', () => {
  const clock = new UnitClock();
  const at = (unit_s: number, now_ms: number): number => clock.at(unit_s, OPENED_ms + now_ms, false) - OPENED_ms;
  at(3, 0);
  for (let i = 1; i <= 200; i++) expect(at(3 + 0.05 * i, 10_000)).toBeCloseTo(50 * i, 3);
  expect(at(13.05, 10_050)).toBeCloseTo(10_050, 3);
});

test('frames that come more than a minute late are taken as they come, not as they were', () => {
  const clock = new UnitClock();
  clock.at(3, OPENED_ms, false);
  expect(clock.at(3.05, OPENED_ms + 70_000, false)).toBe(OPENED_ms + 70_000);
});

test.each([false, true])('a unit that goes after for good is set right after a second, hurried: %s', (hurried) => {
  const clock = new UnitClock();
  const late_ms = (unit_s: number, now_ms: number): number => OPENED_ms + now_ms - clock.at(unit_s, OPENED_ms + now_ms, hurried); // oxfmt-ignore
  late_ms(3, 0);
  // 1.2 s of the unit's time are gone
  expect(late_ms(3.05, 1250)).toBeCloseTo(1200, 3);
  for (let t = 50; t < 950; t += 50) expect(late_ms(3.05 + t / 1000, 1250 + t)).toBeCloseTo(1200, 3);
  for (let t = 1050; t < 1500; t += 50) expect(late_ms(3.05 + t / 1000, 1250 + t)).toBeCloseTo(0, 3);
});

test('a unit that was without power begins anew at the moment at which it is heard again', () => {
  const clock = new UnitClock();
  clock.at(900, OPENED_ms, false);
  expect(clock.at(0.1, OPENED_ms + 12_000, false)).toBe(OPENED_ms + 12_000);
  expect(clock.at(0.6, OPENED_ms + 12_530, false)).toBe(OPENED_ms + 12_500);
});

test('a hurried unit runs ahead of the clock, frame by frame, and not by a leap', () => {
  const clock = new UnitClock();
  clock.at(1, OPENED_ms, true);
  let at_ms = NaN;
  for (let i = 1; i <= 100; i++) at_ms = clock.at(1 + 0.05 * i, OPENED_ms + 6 * i, true);
  expect(at_ms - OPENED_ms).toBeCloseTo(5000, 3);
  // the same distance in life is a clock that has gone wrong
  expect(clock.at(6.05, OPENED_ms + 606, false)).toBe(OPENED_ms + 606);
  expect(clock.at(60, OPENED_ms + 612, true)).toBe(OPENED_ms + 612);
});

test('a unit that is late for good, its frames in pairs, is set right all the same', () => {
  const clock = new UnitClock();
  clock.at(0, OPENED_ms, false);
  let late_ms = NaN;
  for (let t = 20; t < 2400; t += 20) {
    const now = OPENED_ms + 700 + Math.ceil(t / 40) * 40;
    late_ms = now - clock.at(t / 1000, now, false);
  }
  expect(Math.abs(late_ms)).toBeLessThan(100);
});
