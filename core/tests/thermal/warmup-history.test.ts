import { needWatched } from '@rouse/core/aircraft';
import { SimulatedCockpit } from '@rouse/core/simulator';
import { forecastWarmup, type PastWarmup, type WarmReadings, warmupIn } from '@rouse/core/thermal';
import { describe, expect, test } from 'vitest';
import { RUNNING } from '../checks/fly-check.ts';
import { typeOf } from '../fleet.ts';

const OIL_C = 42;
const EVERY_S = 5;

/** Oil of a trainer at the warm-up speed on one day until it is warm, a reading a second, from an engine that has just been started. */
function warmUp(oat: number, n = 0.62, seed = 1): WarmReadings {
  const type = needWatched(typeOf('T2'));
  const init = { Th: oat + 70, To: oat + 8, Tc: oat + 5, Tb: oat, gal: 1, pm: 35_000, phi: 1.1, film: 2, SOC: 0.95, we: n * 272.271, wr: (n * 272.271) / 5.25, x: 0.97, tensOK: 1 }; // oxfmt-ignore
  const cockpit = new SimulatedCockpit(type, { env: { oat, dew: oat - 12 }, init }, [], seed);
  for (const move of [...RUNNING, { control: 'pilotN', to: n }]) cockpit.move(move);
  const oil = type.channels.findIndex((c) => c.id === 'oil.1.temperature');
  const t_s: number[] = [];
  const values_C: number[] = [];
  let warm_s = 0;
  // what lies half a minute behind the end is not looked at
  for (let k = 1; k <= 1200 * 50 && (warm_s < 30 || t_s.length < 120); k++) {
    const values = cockpit.tick();
    if (k % 50 !== 0) continue;
    t_s.push(k / 50);
    values_C.push(values[oil]!);
    if (values[oil]! >= OIL_C) warm_s++;
  }
  return { t_s, values_C };
}

const curveOf = ({ values_C }: WarmReadings, oat: number, target_C: number): PastWarmup => {
  const end = values_C.findIndex((v) => v >= target_C) + 20;
  return {
    outsideAir_C: oat,
    every_s: EVERY_S,
    rise_K: values_C.filter((_, i) => i % EVERY_S === 0 && i <= end).map((v) => v - oat),
  };
};
const upTo = ({ t_s, values_C }: WarmReadings, to_s: number): WarmReadings => ({
  t_s: t_s.filter((t) => t <= to_s),
  values_C: values_C.filter((_, i) => t_s[i]! <= to_s),
});

const PAST = [9, 1, 7, 3, 12, 8, 5, -1].map((oat, i) => curveOf(warmUp(oat, 0.62, i), oat, OIL_C));

describe('time until warm, by how this tail warmed up before', () => {
  test('after 60 s within 15 % on days that it has not seen, and inside its own range', () => {
    for (const [i, oat] of [0, 2, 4, 6, 8, 10].entries()) {
      const run = warmUp(oat, 0.62, 50 + i);
      const left_s = run.t_s[run.values_C.findIndex((v) => v >= OIL_C)]! - 60;
      const forecast = forecastWarmup(upTo(run, 60), oat, OIL_C, PAST)!;
      expect(Math.abs(forecast.seconds - left_s) / left_s, `${oat} °C`).toBeLessThan(0.15);
      expect(forecast.low).toBeLessThanOrEqual(left_s);
      expect(forecast.high).toBeGreaterThanOrEqual(left_s);
      expect(forecast.curves).toBe(PAST.length);
    }
  });

  test('on days unlike any earlier one the range is wider, and holds', () => {
    const width = (oat: number, after_s: number): number => {
      const run = warmUp(oat, 0.62, 90);
      const left_s = run.t_s[run.values_C.findIndex((v) => v >= OIL_C)]! - after_s;
      const forecast = forecastWarmup(upTo(run, after_s), oat, OIL_C, PAST)!;
      expect(forecast.low, `${oat} °C after ${after_s} s`).toBeLessThanOrEqual(left_s);
      expect(forecast.high, `${oat} °C after ${after_s} s`).toBeGreaterThanOrEqual(left_s);
      return (forecast.high - forecast.low) / forecast.seconds;
    };
    for (const after_s of [15, 30]) {
      const usual = width(6, after_s);
      for (const oat of [-14, -8, 20, 26]) expect(width(oat, after_s)).toBeGreaterThan(usual);
    }
  });

  test('an earlier warm-up carried over to other air takes longer in the cold, and about as long as it does there', () => {
    const curve = PAST[0]!;
    const carried = [20, 10, 0, -10].map((oat) => warmupIn(curve, oat, OIL_C)!);
    for (const [i, s] of carried.slice(1).entries()) expect(s).toBeGreaterThan(carried[i]!);
    for (const oat of [0, 18]) {
      const { values_C } = warmUp(oat);
      const took_s = values_C.findIndex((v) => v >= OIL_C) + 1;
      expect(Math.abs(warmupIn(curve, oat, OIL_C)! - took_s) / took_s, `${oat} °C`).toBeLessThan(0.3);
    }
    expect(warmupIn({ every_s: 5, rise_K: [2, 2, 2, 2] }, 10, OIL_C)).toBeNull();
  });

  test('a faster warm-up than ever is followed at its own pace', () => {
    const run = warmUp(10, 0.72);
    const left_s = run.t_s[run.values_C.findIndex((v) => v >= OIL_C)]! - 60;
    const forecast = forecastWarmup(upTo(run, 60), 10, OIL_C, PAST)!;
    expect(Math.abs(forecast.seconds - left_s) / left_s).toBeLessThan(0.2);
  });

  test('colder than any earlier day, the curves go on beyond their end', () => {
    const forecast = forecastWarmup(upTo(warmUp(-2), 60), -2, OIL_C, PAST.slice(1, 4));
    expect(forecast!.seconds).toBeGreaterThan(60);
  });

  test('warm already is no wait; nothing known is no forecast', () => {
    expect(forecastWarmup({ t_s: [1, 2, 3], values_C: [50, 50, 50] }, 10, OIL_C, PAST)!.seconds).toBe(0);
    expect(forecastWarmup({ t_s: [1, 2, 3], values_C: [NaN, NaN, NaN] }, 10, OIL_C, PAST)).toBeNull();
    expect(forecastWarmup(upTo(warmUp(10), 60), NaN, OIL_C, PAST)).toBeNull();
    expect(forecastWarmup(upTo(warmUp(10), 60), 10, OIL_C, [])).toBeNull();
    expect(
      forecastWarmup(upTo(warmUp(10), 60), 10, OIL_C, [{ outsideAir_C: 10, every_s: 5, rise_K: [2, 2, 2, 2] }]),
    ).toBeNull();
  });
});
