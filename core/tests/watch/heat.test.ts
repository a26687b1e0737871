import { describe, expect, test } from 'vitest';
import type { Limit, TurbineStart } from '@rouse/core/aircraft';
import type { Corridor, StartDay } from '@rouse/core/watch';
import { FuelFall } from '../../src/watch/fuel-fall.ts';
import { FuelHeat } from '../../src/watch/fuel-heat.ts';
import { HabitCaution } from '../../src/watch/habit-caution.ts';
import { HeatAlarm } from '../../src/watch/heat-alarm.ts';
import { Oscillation } from '../../src/watch/oscillation.ts';
import { PeakPredictor } from '../../src/watch/predictor.ts';
import { StuckReading } from '../../src/watch/stuck-reading.ts';
import { skerry } from '../skerry.ts';

const spec = skerry.startWatches.find((w): w is TurbineStart => w.kind === 'turbine')!;
const limit = skerry.limits.find((l) => l.id === 'tot-start')!;

/** A predictor that says what it is told. */
const saying = (
  says: Partial<Pick<PeakPredictor, 'gas_C' | 'peak_C' | 'speedRate_pct_s' | 'rate_K_s' | 'Tf_C'>> & { carried_K?: number },
): PeakPredictor => ({ gas_C: 0, peak_C: 0, speedRate_pct_s: 2, rate_K_s: 0, Tf_C: 0, ...says, carried_K: () => says.carried_K ?? 0, peakWhenFuelFalls_C: (share: number) => (says.peak_C ?? 0) - 100 * share }) as unknown as PeakPredictor; // oxfmt-ignore
/** How many frames until it says so, null where it never does. */
function framesUntil(says: () => unknown, most = 100): number | null {
  for (let k = 1; k <= most; k++) if (says()) return k;
  return null;
}

describe('a predictor of the peak', () => {
  const lag = { tauRef_s: 0.3, tauRatioMax: 5, flowA0: 0.5, fuelRise_K: 3.14 };
  /** Speed and temperature that rise evenly, ten a second. */
  function rising(
    tot_K_s: number,
    ng_pct_s: number,
    seconds: number,
    from = { tot_C: 100, ng_pct: 20 },
  ): PeakPredictor {
    const predictor = new PeakPredictor(lag);
    for (let k = 0; k <= seconds * 10; k++)
      predictor.update(0.1, from.ng_pct + (ng_pct_s * k) / 10, from.tot_C + (tot_K_s * k) / 10);
    return predictor;
  }

  test('of an even rise knows its rate, and the gas that is ahead of the gauge', () => {
    const predictor = rising(50, 2, 20);
    expect(predictor.rate_K_s).toBeCloseTo(50, 3);
    expect(predictor.speedRate_pct_s).toBeCloseTo(2, 3);
    expect(predictor.Tf_C).toBeCloseTo(1100 - 50 * 0.06, 3); // its filter is 0.06 s behind
    const flow = 0.6 * (0.5 + 0.5 * 0.36);
    expect(predictor.gas_C).toBeCloseTo(predictor.Tf_C + (0.3 / Math.sqrt(flow)) * 50, 2);
    expect(predictor.carried_K(40)).toBeCloseTo((3.14 * 40) / flow, 6);
  });

  test('foretells where a lag would turn, while the gas cools as its air grows', () => {
    const predictor = rising(50, 2, 20);
    const fall_K_s = ((predictor.gas_C - 80) * 1.3 * 2) / 60;
    const tau_s = (predictor.gas_C - predictor.Tf_C) / 50;
    // flown in small steps: a gauge that follows a gas which falls
    let [tot_C, t_s] = [predictor.Tf_C, 0];
    for (const step_s = 1e-4; predictor.gas_C - fall_K_s * t_s > tot_C; t_s += step_s)
      tot_C += ((predictor.gas_C - fall_K_s * t_s - tot_C) / tau_s) * step_s;
    expect(predictor.peak_C).toBeCloseTo(tot_C, 1);
    expect(predictor.peakIn_s).toBeCloseTo(t_s, 2);
  });

  test('of a gauge that falls, or stands, says the gauge', () => {
    const falling = rising(-10, 1, 20, { tot_C: 700, ng_pct: 30 });
    expect(falling.peakIn_s).toBe(0);
    expect(falling.peak_C).toBe(falling.Tf_C);
    expect(rising(0, 1, 5).peak_C).toBe(100);
  });

  test('the air of a spool that stands, or races, is bounded; one that hardly turns has no pace', () => {
    const still = rising(10, 0, 20, { tot_C: 100, ng_pct: 1 });
    expect(still.speedRate_pct_s).toBe(0);
    expect(still.carried_K(1)).toBeCloseTo(3.14 / (0.05 * (0.5 + 0.5 * 0.0025)), 6);
    expect(still.gas_C - still.Tf_C).toBeCloseTo(0.3 * 5 * 10, 2); // as slow as it can be
    expect(rising(10, 0, 2, { tot_C: 100, ng_pct: 120 }).carried_K(1)).toBeCloseTo(3.14 / (1.1 * (0.5 + 0.5 * 1.21)), 6); // oxfmt-ignore
    expect(rising(10, 0, 2, { tot_C: 100, ng_pct: 4.9 }).carried_K(1)).toBe(still.carried_K(1));
  });

  test('a sample without a reading is bridged by the next, whichever is lost', () => {
    for (const lost of ['speed', 'temperature']) {
      const predictor = rising(50, 2, 20);
      const { gas_C, Tf_C } = predictor;
      predictor.update(0.1, lost === 'speed' ? NaN : 60.2, lost === 'speed' ? 1105 : NaN);
      expect([predictor.gas_C, predictor.Tf_C]).toEqual([gas_C, Tf_C]);
      predictor.update(0.1, 60.4, 1110);
      expect(predictor.rate_K_s).toBeCloseTo(50, 2);
      expect(predictor.speedRate_pct_s).toBeCloseTo(2, 2);
    }
  });

  test('is the same for frames that come unevenly', () => {
    const predictor = new PeakPredictor(lag);
    let t_s = 0;
    for (let k = 0; k < 200; k++) {
      predictor.update(k % 2 === 0 ? 0.05 : 0.15, 20 + 2 * t_s, 100 + 50 * t_s);
      t_s += k % 2 === 0 ? 0.15 : 0.05;
    }
    expect(predictor.rate_K_s).toBeCloseTo(50, 1);
    expect(predictor.speedRate_pct_s).toBeCloseTo(2, 2);
  });

  test('a spool that hardly turns has no pace, one that turns a little more has', () => {
    expect(rising(10, 0.5, 1.9, { tot_C: 100, ng_pct: 1 }).speedRate_pct_s).toBe(0);
    expect(rising(10, 0.5, 2.1, { tot_C: 100, ng_pct: 1 }).speedRate_pct_s).toBeGreaterThan(0);
  });

  test('forgets all of it when a new start begins', () => {
    const predictor = rising(50, 2, 20);
    predictor.reset();
    expect([predictor.gas_C, predictor.Tf_C, predictor.rate_K_s, predictor.speedRate_pct_s]).toEqual([NaN, NaN, 0, 0]);
    predictor.update(0.1, 20, 300);
    expect([predictor.gas_C, predictor.Tf_C]).toEqual([300, 300]);
    expect(predictor.carried_K(1)).toBeNaN();
  });
});

describe('heat by its fuel', () => {
  /** 1000 K of fuel; at 30 % the type makes 0.91 of it */
  const burning = (gas_C: number): PeakPredictor => saying({ gas_C, carried_K: 1000 });
  const begun = (oat_C = 15, pressureAltitude_ft = 0, collected_s = NaN): FuelHeat => {
    const heat = new FuelHeat(spec);
    heat.begin(oat_C, { pressureAltitude_ft, tailwind_kt: 0 }, collected_s);
    return heat;
  };
  const side = (heat: FuelHeat, gas_C: number, ng_pct = 30, dt_s = 0.125): [string | null, number] => {
    for (let k = 1; k <= 60; k++) {
      const found = heat.update(dt_s, burning(gas_C), ng_pct, 50);
      if (found !== null) return [found, k];
    }
    return [null, 0];
  };

  test('is low below 0.84 of what the fuel makes, high above 1.4, for longer than a second', () => {
    expect(side(begun(), 15 + 910 * 0.85)).toEqual([null, 0]);
    // four frames until the flame is whole, then more than a second
    expect(side(begun(), 15 + 910 * 0.83)).toEqual(['low', 13]);
    expect(side(begun(), 15 + 910 * 1.39)).toEqual([null, 0]);
    expect(side(begun(), 15 + 910 * 1.41)).toEqual(['high', 13]);
  });
  test('what the type makes of it grows with the speed', () => {
    expect(side(begun(), 15 + 1160 * 0.85, 55)).toEqual([null, 0]);
    expect(side(begun(), 15 + 1160 * 0.83, 55)[0]).toBe('low');
    expect(side(begun(), 15 + 1035 * 0.83, 42.5)[0]).toBe('low');
    expect(side(begun(), 15 + 1035 * 0.85, 42.5)[0]).toBeNull();
  });
  test('in the first seconds only half of it is plainly wrong', () => {
    expect(side(begun(), 15 + 510, 25)).toEqual([null, 0]);
    expect(side(begun(), 15 + 490, 25)).toEqual(['low', 9]);
  });
  test('fuel that collected before a late light burns, too: no more is unexplained until it has', () => {
    expect(side(begun(15, 0, 4), 15 + 910 * 1.41)).toEqual(['high', 32 + 9]);
    expect(side(begun(15, 0, 4), 15 + 910 * 0.83)).toEqual(['low', 13]);
  });
  test('thin and warm air make more of the same fuel', () => {
    const thinner = Math.sqrt((35 + 273.15) / 288.15) / Math.pow(1 - 2.25577e-5 * 8000 * 0.3048, 5.25588);
    expect(side(begun(35, 8000), 35 + 910 * thinner * 0.85)).toEqual([null, 0]);
    expect(side(begun(35, 8000), 35 + 910 * thinner * 0.83)[0]).toBe('low');
    expect(side(begun(35, 8000), 35 + 910 * thinner * 1.41)[0]).toBe('high');
  });
  test('without a height nothing is too hot; without an outside air it is a standard day', () => {
    expect(side(begun(15, NaN), 15 + 910 * 3)).toEqual([null, 0]);
    expect(side(begun(15, NaN), 15 + 910 * 0.8)[0]).toBe('low');
    expect(side(begun(NaN), 15 + 910 * 0.83)[0]).toBe('low');
    expect(side(begun(NaN), 15 + 910 * 0.85)[0]).toBeNull();
  });
  test('is not judged without fuel, or by readings too far apart; a good moment in between counts anew', () => {
    const heat = begun();
    expect(heat.update(5, burning(20), 40, NaN)).toBeNull();
    expect(heat.update(5, burning(20), 40, 1)).toBeNull();
    expect(side(begun(), 20, 40, 0.31)).toEqual([null, 0]);
    expect(side(begun(), 20, 40, 0.3)[0]).toBe('low');
    const wavers = begun();
    const found = Array.from({ length: 40 }, (_, k) => wavers.update(0.125, burning(k % 8 === 0 ? 925 : 600), 30, 50));
    expect(found.every((f) => f === null)).toBe(true);
  });
  test('a type that does not say what its fuel makes is not judged by it', () => {
    const heat = new FuelHeat({ ...spec, lag: { ...spec.lag, heatOfFuel: undefined } });
    heat.begin(15, { pressureAltitude_ft: 0, tailwind_kt: 0 }, NaN);
    expect(side(heat, 20)).toEqual([null, 0]);
  });
});

describe('fuel that is taken back', () => {
  const shareAfter = (flows: readonly number[], dt_s = 0.02): number => {
    const fall = new FuelFall();
    for (const flow of flows) fall.update(dt_s, flow);
    return fall.share_per_s;
  };
  const even = (from: number, by: number): number[] => Array.from({ length: 50 }, (_, k) => from + by * k);

  test('is a share of the flow a second, and nothing while it rises or stands', () => {
    expect(shareAfter(even(40, -0.2))).toBeCloseTo(10 / 31.2, 1);
    expect(shareAfter(even(40, -2), 0.2)).toBeGreaterThan(0.25);
    expect([shareAfter([]), shareAfter([40]), shareAfter(even(40, 0)), shareAfter(even(40, 0.2))]).toEqual([
      0, 0, 0, 0,
    ]);
  });
  test('is not lost with a reading, nor by a frame that comes twice', () => {
    const flows = even(40, -0.2);
    const holed = flows.map((flow, k) => (k % 7 === 3 ? NaN : flow));
    expect(shareAfter(holed)).toBeCloseTo(shareAfter(flows), 3);
    expect(shareAfter([40, 40], 0)).toBe(0);
  });
  test('turns the gas back sooner', () => {
    const predictor = new PeakPredictor(spec.lag);
    for (let k = 0; k < 100; k++) predictor.update(0.02, 20 + 0.05 * k, 100 + 4 * k);
    expect(predictor.peakWhenFuelFalls_C(0)).toBe(predictor.peak_C);
    const [a, b] = [0.2, 0.4].map((share) => predictor.peakWhenFuelFalls_C(share));
    expect(a).toBeLessThan(predictor.peak_C - 20);
    expect(b).toBeLessThan(a! - 10);
    expect(b).toBeGreaterThan(predictor.Tf_C);
  });
});

describe('an alarm of heat', () => {
  const risesAt = (says: Parameters<typeof saying>[0], fuel_kg_h = 50, dt_s = 0.02): number | null => {
    const alarm = new HeatAlarm(limit);
    return framesUntil(() => alarm.rises(dt_s, saying(says), fuel_kg_h));
  };

  test('needs the gas above the short band, and fuel or a peak that say that it does not turn back', () => {
    // 835 °C short, 770 mildest: fuel from 915 K on, a peak from 880 °C on
    expect(risesAt({ gas_C: 836, carried_K: 920 })).toBe(3);
    expect(risesAt({ gas_C: 836, carried_K: 914 })).toBeNull();
    expect(risesAt({ gas_C: 836, peak_C: 881 })).toBe(3);
    expect(risesAt({ gas_C: 836, peak_C: 879 })).toBeNull();
    expect(risesAt({ gas_C: 834, carried_K: 2000, peak_C: 2000 })).toBeNull();
  });
  test('where the fuel is not sensed, a peak above the mildest band is enough', () => {
    expect(risesAt({ gas_C: 836, peak_C: 771 }, NaN)).toBe(3);
    expect(risesAt({ gas_C: 836, peak_C: 769 }, NaN)).toBeNull();
  });
  test('a peak counts as it will be with the fuel that is taken back', () => {
    const alarm = new HeatAlarm(limit);
    const risesWith = (flow: (t_s: number) => number): number | null => {
      alarm.reset();
      let k = 0;
      return framesUntil(() => alarm.rises(0.02, saying({ gas_C: k < 40 ? 800 : 900, peak_C: 905 }), flow(0.02 * k++)));
    };
    expect(risesWith(() => 50)).toBe(43);
    expect(risesWith((t_s) => 50 + 20 * t_s)).toBe(43);
    // a third of it a second is taken back; 33 K less is below the margin
    expect(risesWith((t_s) => 50 - 15 * t_s)).toBeNull();
  });
  test('one frame of a slow unit is enough, and it is called once', () => {
    expect(risesAt({ gas_C: 836, carried_K: 920 }, 50, 0.25)).toBe(1);
    const alarm = new HeatAlarm(limit);
    const hot = saying({ gas_C: 900, carried_K: 1000 });
    expect([1, 2, 3].map(() => alarm.rises(0.1, hot, 50))).toEqual([true, false, false]);
    alarm.reset();
    expect(alarm.rises(0.1, hot, 50)).toBe(true);
  });
  test('a moment that is not hot begins anew', () => {
    const alarm = new HeatAlarm(limit);
    const frames = [900, 900, 800, 900, 900, 800].map((gas_C) => alarm.rises(0.02, saying({ gas_C, carried_K: 1000 }), 50)); // oxfmt-ignore
    expect(frames).not.toContain(true);
  });
  test('by the fuel alone it must last longer, and needs no gauge', () => {
    const alarm = new HeatAlarm(limit);
    expect(framesUntil(() => alarm.risesByFuel(0.125, saying({ carried_K: 920 }), 50))).toBe(3);
    expect(alarm.risesByFuel(0.125, saying({ carried_K: 920 }), 50)).toBe(false);
    const cool = new HeatAlarm(limit);
    expect(framesUntil(() => cool.risesByFuel(0.125, saying({ carried_K: 914 }), 50))).toBeNull();
  });
  test('a frame without the fuel takes nothing of its time away', () => {
    const alarm = new HeatAlarm(limit);
    const flows = [50, 50, NaN, 50];
    expect(flows.map((flow) => alarm.risesByFuel(0.125, saying({ carried_K: flow * 20 }), flow))).toEqual([false, false, false, true]); // oxfmt-ignore
  });
  test('says what is seen and what it is going to pass', () => {
    const alarm = new HeatAlarm(limit);
    expect(alarm.words(702.4, saying({ gas_C: 861.6, rate_K_s: 190.4 }))).toBe(
      'TOT 702 °C rising 190 °C a second, its gas at 862 °C: it is going to pass 835 °C',
    );
    expect(alarm.fuelWords(31.4, 50.2)).toBe(
      '50 kg/h of fuel at 31 % Ng carry the gas past 835 °C, whatever the gauge says',
    );
  });
  test('without a limit nothing is hot; with one band that is both', () => {
    expect(framesUntil(() => new HeatAlarm(undefined).rises(1, saying({ gas_C: 5000, carried_K: 5000 }), 50), 3)).toBeNull(); // oxfmt-ignore
    const one: Limit = { ...limit, bands: [limit.bands[0]!] };
    expect(new HeatAlarm(one).rises(1, saying({ gas_C: 771, peak_C: 900 }), 50)).toBe(true);
    expect(new HeatAlarm(one).rises(1, saying({ gas_C: 769, peak_C: 900 }), 50)).toBe(false);
  });
});

describe('a habit', () => {
  const bins = (value: number): number[] => Array.from({ length: 111 }, () => value);
  const usual: StartDay = {
    outsideAir_C: 12,
    pressureAltitude_ft: 0,
    tailwind_kt: 0,
    residual_C: 12,
    crankVolts_V: 18,
  };
  const corridor = (starts: number, days = [usual]): Corridor => ({
    starts,
    upperTot_C: bins(650),
    lowerTot_C: bins(500),
    lowerPace_pct_s: bins(2),
    contours: [],
    days,
  });
  const margin_K = spec.corridor.margin_K;
  const hotter = (by_K: number, starts = 40, day = usual): number | null => {
    const habit = new HabitCaution(spec.corridor, 700);
    const learned = corridor(starts);
    habit.begin(learned, day);
    return framesUntil(() => habit.rises(0.02, learned, 40, 650 + by_K, saying({})));
  };

  test('is left by more than its margin; where few starts are known, by up to twice as much', () => {
    expect(hotter(margin_K + 1)).toBe(3);
    expect(hotter(margin_K - 1)).toBeNull();
    expect(hotter(margin_K * 1.5 + 1, 20)).toBe(3);
    expect(hotter(margin_K * 1.5 - 1, 20)).toBeNull();
    expect(hotter(margin_K + 1, 80)).toBe(3);
  });
  test('a day that is strange in one way widens it by that, in several by more', () => {
    const { warmer_K, residual_K } = spec.corridor.widen;
    const warm = { ...usual, outsideAir_C: 32 };
    expect(hotter(margin_K + 20 * warmer_K - 1, 40, warm)).toBeNull();
    expect(hotter(margin_K + 20 * warmer_K + 1, 40, warm)).toBe(3);
    const both = { ...warm, residual_C: 92 };
    const widened_K = 1.4 * (20 * warmer_K + 80 * residual_K);
    expect(hotter(margin_K + widened_K - 1, 40, both)).toBeNull();
    expect(hotter(margin_K + widened_K + 1, 40, both)).toBe(3);
  });
  test('cranked more slowly than ever, it lights two percent earlier, and shows there what it always showed later', () => {
    const learned = { ...corridor(40), upperTot_C: Array.from({ length: 111 }, (_, ng) => (ng < 42 ? 300 : 650)) };
    const above_C = (ng_pct: number, crankVolts_V: number, tot_C: number): number | null => {
      const habit = new HabitCaution(spec.corridor, 700);
      habit.begin(learned, { ...usual, crankVolts_V });
      return framesUntil(() => habit.rises(0.02, learned, ng_pct, tot_C, saying({})));
    };
    const widened_K = margin_K + 2 * spec.corridor.widen.crankVolt_K;
    expect(above_C(40, 18, 300 + margin_K + 300)).toBe(3);
    expect(above_C(40, 16, 650 + widened_K - 1)).toBeNull();
    expect(above_C(40, 16, 650 + widened_K + 1)).toBe(3);
    expect(above_C(39, 16, 650 + widened_K - 1)).toBe(3);
  });
  test('far from any limit it says nothing, unless the gas is there', () => {
    const cool = { ...corridor(40), upperTot_C: bins(400) };
    const says = (gas_C: number, tot_C: number): number | null => {
      const habit = new HabitCaution(spec.corridor, 700);
      habit.begin(cool, usual);
      return framesUntil(() => habit.rises(0.02, cool, 40, tot_C, saying({ gas_C })));
    };
    expect(says(650, 599)).toBeNull();
    expect(says(650, 601)).toBe(3);
    expect(says(701, 599)).toBe(3);
  });
  test('says it once, and why where its pace says why', () => {
    const learned = corridor(40);
    const said = (pace_pct_s: number, seconds: number): [string, string] => {
      const habit = new HabitCaution(spec.corridor, 700);
      habit.begin(learned, usual);
      for (let t_s = 0; t_s < seconds; t_s += 0.125) habit.rises(0.125, learned, 40, 600, saying({ speedRate_pct_s: pace_pct_s })); // oxfmt-ignore
      expect(habit.rises(0.125, learned, 40, 800, saying({ speedRate_pct_s: 3 }))).toBe(true);
      expect(habit.rises(0.125, learned, 40, 800, saying({ speedRate_pct_s: 3 }))).toBe(false);
      const { code, text } = habit.finding(learned, 40, 800, 1.44);
      return [code, text];
    };
    expect(said(3, 2)).toEqual([
      'hotter-than-usual',
      'Hotter than usual for this day: TOT 800 °C at 40 % Ng, 150 °C above the last 40 starts of this aircraft. Be ready to stop',
    ]);
    expect(said(1.9, 1)).toEqual([
      'sluggish',
      'Slower than usual for this day, and so hotter: 1.4 % a second where 2.0 was the slowest; TOT 800 °C at 40 % Ng, 150 °C above the last 40 starts of this aircraft. Be ready to stop',
    ]);
    expect(said(1.9, 0.875)[0]).toBe('hotter-than-usual');
    expect(said(1.95, 4)[0]).toBe('hotter-than-usual');
  });
  test('of a day that it was not learned on names what is strange, and what that is worth', () => {
    const learned = corridor(40);
    const habit = new HabitCaution(spec.corridor, 700);
    habit.begin(learned, { ...usual, outsideAir_C: 32, pressureAltitude_ft: NaN, tailwind_kt: NaN });
    expect(habit.finding(learned, 40, 800, 3).text).toMatch(
      /; learned on other days \(warmer, higher, wind from behind, height unknown, wind unknown\), so \d+ °C are allowed for\. Be ready/,
    );
    habit.reset();
    habit.begin(learned, usual);
    expect(habit.finding(learned, 40, 800, 3).text).not.toContain('other days');
  });
});

describe('a temperature that swings', () => {
  const swings = (amplitude: number, period_s: number, seconds: number): number | null => {
    const oscillation = new Oscillation();
    for (let k = 0; k <= seconds * 10; k++)
      if (oscillation.update(k / 10, 600 + amplitude * Math.sin((2 * Math.PI * k) / 10 / period_s))) return k / 10;
    return null;
  };
  test('is found by five turns in five seconds, each of more than 25 K', () => {
    expect(swings(30, 2, 20)).toBeCloseTo(4.9, 0);
    expect(swings(12, 2, 20)).toBeNull();
    expect(swings(30, 3, 20)).toBeNull();
  });
  test('one that only rises, or falls, does not swing; a new start begins anew', () => {
    const oscillation = new Oscillation();
    for (let k = 0; k < 100; k++) expect(oscillation.update(k / 10, 300 + 5 * k)).toBe(false);
    for (let k = 100; k < 200; k++) expect(oscillation.update(k / 10, 800 - 4 * (k - 100))).toBe(false);
    const again = new Oscillation();
    const turn = (k: number): boolean => again.update(k, k % 2 === 0 ? 600 : 660);
    expect([0, 1, 2, 3, 4].map(turn)).not.toContain(true);
    again.reset();
    expect([5, 6, 7, 8, 9].map(turn)).not.toContain(true);
    expect(turn(10)).toBe(true);
  });
});

describe('a reading that stands', () => {
  const stands = (dt_s: number, value: (k: number) => number, other: (k: number) => number, within = 0.3): number | null => {
    const stuck = new StuckReading(within);
    for (let k = 0; k < 200; k++) if (stuck.update(dt_s, value(k), other(k), 5)) return k;
    return null;
  }; // oxfmt-ignore
  test('for three seconds and ten samples, while the other has gone far enough', () => {
    expect(stands(0.125, () => 612, (k) => 30 + k)).toBe(24); // oxfmt-ignore
    expect(
      stands(
        1,
        () => 612,
        (k) => 30 + k,
      ),
    ).toBe(10);
    expect(stands(0.125, () => 612, (k) => 30 + Math.min(k, 4))).toBeNull(); // oxfmt-ignore
    expect(stands(0.125, () => 612, (k) => 30 - k)).toBe(24); // oxfmt-ignore
    expect(stands(0.125, () => 612, (k) => 30 + k / 8)).toBe(40); // oxfmt-ignore
  });
  test('may tremble by as much as it is told', () => {
    expect(
      stands(
        0.125,
        (k) => 612 + (k % 2) * 0.25,
        (k) => 30 + k,
      ),
    ).toBe(24);
    expect(
      stands(
        0.125,
        (k) => 612 + (k % 2) * 0.35,
        (k) => 30 + k,
      ),
    ).toBeNull();
    expect(
      stands(
        0.125,
        (k) => 612 + (k % 2) * 0.25,
        (k) => 30 + k,
        0,
      ),
    ).toBeNull();
  });
  test('is found though the other was missing when it began to stand', () => {
    expect(stands(0.125, () => 612, (k) => (k % 5 === 0 ? NaN : 30 + k))).toBe(24); // oxfmt-ignore
  });
  test('moves, and is believed at once; lost, it does not stand', () => {
    const stuck = new StuckReading(0);
    for (let k = 0; k < 30; k++) stuck.update(0.125, 612, 30 + k, 5);
    expect(stuck.update(0.125, 613, 60, 5)).toBe(false);
    expect(stuck.update(0.125, 613, 90, 5)).toBe(false);
    for (let k = 0; k < 30; k++) expect(stuck.update(0.125, NaN, 30 + k, 5)).toBe(false);
    for (let k = 0; k < 30; k++) stuck.update(0.125, 700, 30 + k, 5);
    stuck.reset();
    expect(stuck.update(0.125, 700, 99, 5)).toBe(false);
  });
});
