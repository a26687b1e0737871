import { describe, expect, test } from 'vitest';
import { dayOf, learnCorridor, type LearnedStart, type StartDay, widenFor } from '@rouse/core/watch';
import { quantile } from '../../src/watch/corridor.ts';
import { blankRecord } from '../../src/watch/events.ts';
import { idleWindow } from '../../src/watch/idle-window.ts';
import { sayUnseen, verdictOf } from '../../src/watch/seen.ts';
import { binOf, ProfileBuilder } from '../../src/watch/start-profile.ts';
import { typeOf } from '../fleet.ts';
import { skerry } from '../skerry.ts';

const DAY: StartDay = { outsideAir_C: 12, pressureAltitude_ft: 0, tailwind_kt: 0, residual_C: 12, crankVolts_V: 18 };

/** A start that showed these readings. */
function shown(readings: readonly (readonly [ng_pct: number, tot_C: number, pace_pct_s: number])[]): LearnedStart {
  const builder = new ProfileBuilder();
  for (const reading of readings) builder.add(...reading);
  return { profile: builder.profile(), day: DAY };
}

describe('the profile of a start', () => {
  test('keeps the hottest, the coolest and the slowest of each per cent of speed', () => {
    const { profile } = shown([[40.4, 601.26, 2.126], [39.6, 590.04, 3], [40, 595, NaN], [41, NaN, 1]]); // oxfmt-ignore
    expect([profile.totMax_C[40], profile.totMin_C[40], profile.paceMin_pct_s[40]]).toEqual([601.3, 590, 2.13]);
    expect([profile.totMax_C[41], profile.totMin_C[41], profile.paceMin_pct_s[41]]).toEqual([NaN, NaN, 1]);
    expect(profile.totMax_C.filter((v) => !Number.isNaN(v))).toHaveLength(1);
    expect(profile.totMax_C).toHaveLength(111);
  });
  test('begins anew', () => {
    const builder = new ProfileBuilder();
    builder.add(40, 600, 2);
    builder.reset();
    expect(Object.values(builder.profile()).flat().every(Number.isNaN)).toBe(true);
  });
  test('speeds outside of it count at its ends', () => {
    expect([binOf(-3), binOf(0.4), binOf(0.5), binOf(110.4), binOf(200)]).toEqual([0, 0, 1, 110, 110]);
  });
});

describe('a corridor', () => {
  const eight = (tot_C: (k: number) => number, ng_pct = 40): LearnedStart[] =>
    Array.from({ length: 8 }, (_, k) => shown([[ng_pct, tot_C(k), 2 + k / 10]]));

  test('is learned from eight starts on', () => {
    expect(learnCorridor(eight(() => 600).slice(1))).toBeNull();
    expect(learnCorridor(eight(() => 600))).toMatchObject({ starts: 8, days: Array.from({ length: 8 }, () => DAY) });
  });
  test('reaches one per cent of speed beyond what was shown, and no further', () => {
    const corridor = learnCorridor(eight((k) => 600 + 10 * k))!;
    expect(corridor.upperTot_C.slice(38, 43)).toEqual([NaN, 670, 670, 670, NaN]);
    expect(corridor.lowerTot_C.slice(38, 43)).toEqual([NaN, 600, 600, 600, NaN]);
    expect(corridor.lowerPace_pct_s.slice(38, 43)).toEqual([NaN, 2, 2, 2, NaN]);
    const low = learnCorridor(eight((k) => 600 + 10 * k, 0))!;
    expect([low.upperTot_C[0], low.upperTot_C[1], low.upperTot_C[2]]).toEqual([670, 670, NaN]);
  });
  test('is drawn as nested shares of the middles', () => {
    const starts = Array.from({ length: 9 }, (_, k) => shown([[40, 590 + 10 * k, 2], [40, 610 + 10 * k, 2]])); // oxfmt-ignore
    const { contours } = learnCorridor(starts)!;
    expect(contours.map((c) => c.share)).toEqual([0.98, 0.8, 0.5]);
    const at40 = contours.flatMap((c) => [c.low_C[40]!, c.high_C[40]!]);
    [600.8, 679.2, 608, 672, 620, 660].forEach((v, i) => expect(at40[i]).toBeCloseTo(v, 6));
    expect(contours[0]!.low_C[41]).toBeNaN();
  });
  test('its quantiles are linear between ranks', () => {
    const sorted = [10, 20, 40];
    expect([0, 0.25, 0.5, 0.75, 1].map((p) => quantile(sorted, p))).toEqual([10, 15, 20, 30, 40]);
    expect(quantile([], 0.5)).toBeNaN();
    expect(quantile([7], 0.9)).toBe(7);
  });
});

describe('what a day adds to a habit', () => {
  const by = skerry.startWatches.find((w) => w.kind === 'turbine')!.corridor.widen;
  const widened = (day: Partial<StartDay>, learned: readonly Partial<StartDay>[] = [{}]): { by_K: number; why: string[] } =>
    widenFor(learned.map((d) => ({ ...DAY, ...d })), { ...DAY, ...day }, by); // oxfmt-ignore

  test.each<[Partial<StartDay>, number, string[]]>([
    [{}, 0, []],
    [{ outsideAir_C: 2 }, 10 * by.colder_K, ['colder']],
    [{ outsideAir_C: 22 }, 10 * by.warmer_K, ['warmer']],
    [{ pressureAltitude_ft: 4000 }, 4 * by.higher_K, ['higher']],
    [{ tailwind_kt: 10 }, 10 * by.tailwind_K, ['wind from behind']],
    [{ tailwind_kt: -10 }, 0, []],
    [{ residual_C: 112 }, 100 * by.residual_K, ['heat left']],
    [{ residual_C: 5 }, 0, []],
    [{ crankVolts_V: 16 }, 2 * by.crankVolt_K, ['fewer volts']],
    [{ crankVolts_V: 20 }, 0, []],
    [{ outsideAir_C: 12.5 }, 0.5 * by.warmer_K, []],
    [{ pressureAltitude_ft: NaN }, 10 * by.higher_K, ['higher', 'height unknown']],
    [{ tailwind_kt: NaN }, 15 * by.tailwind_K, ['wind from behind', 'wind unknown']],
    [{ outsideAir_C: NaN, residual_C: NaN, crankVolts_V: NaN }, 0, []],
  ])('%o', (day, by_K, why) => {
    const found = widened(day);
    expect(found.by_K).toBeCloseTo(by_K, 9);
    expect(found.why).toEqual(why);
  });

  test('is measured from the middle of the days that were learned, and named beyond the strangest of them', () => {
    const days = [10, 20, 30].map((kt) => ({ tailwind_kt: kt }));
    expect(widened({ tailwind_kt: 28 }, days)).toEqual({ by_K: expect.closeTo(8 * by.tailwind_K, 9), why: [] });
    expect(widened({ tailwind_kt: 31 }, days).why).toEqual(['wind from behind']);
    expect(widened({ tailwind_kt: 5 }, days).by_K).toBe(0);
  });
  test('a day that was learned without height or wind counts as calm at the sea', () => {
    expect(widened({ tailwind_kt: 10 }, [{ tailwind_kt: NaN }]).by_K).toBeCloseTo(10 * by.tailwind_K, 9);
    for (const [today, then] of [
      [{ outsideAir_C: 32 }, { outsideAir_C: NaN }],
      [{ crankVolts_V: 14 }, { crankVolts_V: NaN }],
    ])
      // oxfmt-ignore
      expect(widened(today!, [then!])).toEqual({ by_K: 0, why: [] });
  });
  test('cold, heat and wind count only beyond what is mild', () => {
    expect(widened({ outsideAir_C: 22 }, [{ outsideAir_C: 2 }])).toEqual({ by_K: expect.closeTo(10 * by.warmer_K, 9), why: ['warmer'] }); // oxfmt-ignore
    expect(widened({ residual_C: 32 }, [{ residual_C: 2 }]).by_K).toBeCloseTo(20 * by.residual_K, 9);
    expect(widened({ tailwind_kt: 4 }, [{ tailwind_kt: -20 }]).by_K).toBeCloseTo(4 * by.tailwind_K, 9);
  });
  test('comes from the record', () => {
    const record = { ...blankRecord(1), outsideAir_C: 3, pressureAltitude_ft: 900, tailwind_kt: 4, residual_C: 80, voltsMin_V: 17 }; // oxfmt-ignore
    expect(dayOf(record)).toEqual({ outsideAir_C: 3, pressureAltitude_ft: 900, tailwind_kt: 4, residual_C: 80, crankVolts_V: 17 }); // oxfmt-ignore
  });
});

describe('what was seen of a start', () => {
  const of = (unseen_s: number, doubted_s = 0): ReturnType<typeof blankRecord> => ({ ...blankRecord(1), unseen_s, doubted_s }); // oxfmt-ignore
  test('is enough up to a second and a half', () => {
    expect([verdictOf(of(1.5)), verdictOf(of(1.6)), verdictOf(of(0, 0.1))]).toEqual(['good', 'unknown', 'unknown']);
  });
  test('is said', () => {
    expect(sayUnseen(of(3.2))).toBe('3 s of it were not seen');
    expect(sayUnseen(of(1.5, 4))).toBe('for 4 s a reading could not be believed');
    expect(sayUnseen(of(3, 4))).toBe('3 s of it were not seen and for 4 s a reading could not be believed');
  });
});

test('idle is faster in thin air where no governor holds it, and as fast as high up where nobody knows the height', () => {
  const spec = typeOf('C5').startWatches.find((w) => w.kind === 'turbine')!;
  const at = (pressureAltitude_ft: number): number[] => idleWindow(spec, { ...blankRecord(1), pressureAltitude_ft });
  const [low, high] = spec.idle_pct;
  const rise = spec.idleRise_pct_kft!;
  expect(at(5000)).toEqual([low, expect.closeTo(high + 5 * rise, 9)]);
  expect(at(-500)).toEqual([low, high]);
  expect(at(NaN)).toEqual([low, expect.closeTo(high + 10 * rise, 9)]);
  const { idleRise_pct_kft: _, ...governed } = spec;
  expect(idleWindow(governed, { ...blankRecord(1), pressureAltitude_ft: 9000 })).toEqual([low, high]);
});
