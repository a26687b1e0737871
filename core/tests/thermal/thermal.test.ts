import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { attempt } from '@rouse/core/quantity';
import { batteryCold, oilPressureExpect, oilPressureLearn, oilViscosity, warmupPredict } from '@rouse/core/thermal';
import { fleet } from '../fleet.ts';
import { references } from '../reference.ts';

const { REF2 } = references;
const cold = fc.double({ min: -29, max: 44, noNaN: true });

describe('oil', () => {
  test('it has its two given viscosities and thins with heat', () => {
    expect(oilViscosity(REF2.oil, 40).nu_cSt).toBeCloseTo(REF2.oil.nu40_cSt, 6);
    expect(oilViscosity(REF2.oil, 100).nu_cSt).toBeCloseTo(REF2.oil.nu100_cSt, 6);
    for (let t = -40; t < 130; t += 5)
      expect(oilViscosity(REF2.oil, t + 5 > 130 ? 130 : t + 5).nu_cSt).toBeLessThan(oilViscosity(REF2.oil, t).nu_cSt);
    expect(attempt(() => oilViscosity(REF2.oil, 131))).toMatchObject({ error: 'OUT_OF_DOMAIN' });
  });

  test('pressure that was made by the law is learned back, and a drop is seen', () => {
    const law = (temp_C: number, ng_pct: number): number =>
      Math.exp(0.6 + 0.2 * Math.log(oilViscosity(REF2.oil, temp_C).nu_cSt) + 0.5 * Math.log(ng_pct / 100));
    const rows: [number, number, number][] = [];
    for (const t of [20, 40, 60, 80, 95]) for (const ng of [62, 70, 85]) rows.push([t, ng, law(t, ng)]);
    const model = oilPressureLearn(REF2.oil, rows);
    expect(model.a).toBeCloseTo(0.6, 6);
    expect(model.b).toBeCloseTo(0.2, 6);
    expect(model.c).toBeCloseTo(0.5, 6);
    const at = (observed_bar: number) => oilPressureExpect(REF2.oil, { model, temp_C: 70, ng_pct: 80, observed_bar });
    expect(at(law(70, 80)).verdict).toBe('AS_EXPECTED');
    expect(at(0.6 * law(70, 80)).verdict).toBe('LOW');
    expect(at(1.3 * law(70, 80)).verdict).toBe('HIGH');
    expect(attempt(() => oilPressureLearn(REF2.oil, rows.slice(0, 5)))).toMatchObject({ error: 'INSUFFICIENT_DATA' });
  });
});

describe('the battery in the cold', () => {
  test('colder, emptier or older it holds less', () => {
    fc.assert(
      fc.property(cold, fc.double({ min: 0.3, max: 0.95, noNaN: true }), (temp_C, soc) => {
        const volts = (rest: object): number => batteryCold(REF2, { temp_C, soc, ...rest }).v_crank_V;
        expect(volts({ temp_C: temp_C + 5 })).toBeGreaterThanOrEqual(volts({}));
        expect(volts({ soc: soc + 0.05 })).toBeGreaterThanOrEqual(volts({}));
        expect(volts({ r_ratio: 2 })).toBeLessThanOrEqual(volts({}));
      }),
    );
  });

  test('below its limit the answer is ground power and no start', () => {
    const dead = batteryCold(REF2, { temp_C: -30, soc: 0.2, r_ratio: 3 });
    expect(dead).toMatchObject({ verdict: 'USE_GROUND_POWER', starts: 0 });
    const fine = batteryCold(REF2, { temp_C: 20 });
    expect(fine.verdict).toBe('GOOD');
    expect(fine.starts).toBeGreaterThan(1);
  });

  test('a warm battery in a cold engine is its own case', () => {
    const both = batteryCold(REF2, { temp_C: -20 });
    const warm = batteryCold(REF2, { temp_C: 15, oil_temp_C: -20 });
    expect(warm.i_crank_A).toBeCloseTo(both.i_crank_A, 9);
    expect(warm.v_crank_V).toBeGreaterThan(both.v_crank_V);
  });

  test('every shipped type starts on a mild day with a charged battery', () => {
    for (const { thermal, id } of fleet)
      expect(batteryCold(thermal!, { temp_C: 12, soc: 0.95 }).verdict, id).not.toBe('USE_GROUND_POWER');
  });
});

describe('minutes to green', () => {
  /** A clean warm-up towards `end` with time constant `tau`. */
  const samples = (end_C: number, tau_s: number, until_s: number, from_C = 5): [number, number][] =>
    Array.from({ length: Math.floor(until_s / 5) }, (_, i) => [
      i * 5,
      end_C + (from_C - end_C) * Math.exp((-i * 5) / tau_s),
    ]);

  test('a clean curve is followed to its end', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 70, max: 95, noNaN: true }),
        fc.double({ min: 120, max: 400, noNaN: true }),
        (end, tau) => {
          const seen = samples(end, tau, 0.6 * tau);
          const { eta_s, eta_high_s, status } = warmupPredict(REF2.warmup, { samples: seen });
          const now_s = seen.at(-1)![0];
          const true_s = tau * Math.log((end - 5) / (end - REF2.warmup.green_C)) - now_s;
          fc.pre(true_s > 5);
          expect(status).toBe('OK');
          expect(eta_s!).toBeGreaterThan(0.9 * true_s);
          expect(eta_s!).toBeLessThan(1.1 * true_s);
          expect(eta_high_s ?? Infinity).toBeGreaterThanOrEqual(eta_s! - 1e-6);
        },
      ),
      { numRuns: 40 },
    );
  });

  test('a straight line would be too early', () => {
    const seen = samples(80, 260, 150);
    const [[t0, y0], [t1, y1]] = [seen.at(-4)!, seen.at(-1)!];
    const straight_s = (REF2.warmup.green_C - y1) / ((y1 - y0) / (t1 - t0));
    expect(warmupPredict(REF2.warmup, { samples: seen }).eta_s!).toBeGreaterThan(straight_s);
  });

  test('already green, not warming, never there, and too little to tell', () => {
    expect(warmupPredict(REF2.warmup, { samples: samples(80, 200, 100, 55) }).status).toBe('ALREADY_GREEN');
    expect(warmupPredict(REF2.warmup, { samples: samples(45, 200, 500) }).status).toBe(
      'TARGET_NOT_REACHED_AT_THIS_POWER',
    );
    expect(warmupPredict(REF2.warmup, { samples: samples(5, 200, 100, 20) }).status).toBe('NOT_WARMING');
    expect(attempt(() => warmupPredict(REF2.warmup, { samples: samples(80, 200, 20) }))).toMatchObject({
      error: 'INSUFFICIENT_DATA',
    });
    const back = [...samples(80, 200, 100)].toReversed();
    expect(attempt(() => warmupPredict(REF2.warmup, { samples: back }))).toMatchObject({ error: 'BAD_SERIES' });
  });

  test('with little of the curve seen it is preliminary, and wide', () => {
    const early = warmupPredict(REF2.warmup, { samples: samples(80, 260, 40) });
    expect(early.status).toBe('PRELIMINARY');
    expect(early.tau_source).toBe('PRIOR');
  });
});
