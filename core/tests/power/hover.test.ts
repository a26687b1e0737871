import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  groundEffect,
  hoverCeiling,
  hoverMargin,
  hoverPower,
  maxHoverMass,
  oeiMasses,
  oeiRequiredRating,
  oeiVerdict,
  powerAvailable,
  pistonHover,
  pistonMass,
  fullThrottle_inHg,
} from '@rouse/core/power';
import { attempt } from '@rouse/core/quantity';
import { typeOf } from '../fleet.ts';
import { references } from '../reference.ts';

const { REF1, REF2 } = references;
const pa = fc.double({ min: 0, max: 8000, noNaN: true });
const oat = fc.double({ min: -20, max: 35, noNaN: true });
const mass = fc.double({ min: 2600, max: 3900, noNaN: true });

describe('power of the hover', () => {
  test('heavier, higher or out of ground effect takes more', () => {
    fc.assert(
      fc.property(
        mass,
        fc.double({ min: 0, max: 6000, noNaN: true }),
        fc.double({ min: -20, max: 30, noNaN: true }),
        (mass_kg, pa_ft, oat_C) => {
          const power = (rest: object): number =>
            hoverPower(REF2, { mass_kg, pa_ft, oat_C, skid_height_ft: 5, ...rest }).P_shaft_kW;
          expect(power({ mass_kg: mass_kg + 50 })).toBeGreaterThan(power({}));
          expect(power({ skid_height_ft: null })).toBeGreaterThan(power({}));
          expect(power({ skid_height_ft: 15 })).toBeGreaterThan(power({}));
          expect(power({ headwind_kt: 15 })).toBeLessThan(power({}));
        },
      ),
    );
  });

  test('a mass that can’t be is refused by its name', () => {
    const at = { pa_ft: 0, oat_C: 15, skid_height_ft: 5 };
    expect(attempt(() => hoverPower(REF2, { ...at, mass_kg: 100 }))).toMatchObject({
      error: 'OUT_OF_RANGE',
      field: 'mass_kg',
    });
    expect(attempt(() => hoverPower(REF2, { ...at, mass_kg: NaN }))).toMatchObject({ error: 'NOT_A_NUMBER' });
    expect(attempt(() => hoverPower(REF2, { ...at, mass_kg: 3000, oat_C: 60 }))).toMatchObject({
      error: 'OUT_OF_DOMAIN',
    });
  });
});

describe('ground effect', () => {
  const share = (z_over_R: number, model: string): number => groundEffect(z_over_R, model).k_induced;

  test.each(['hayden', 'cb', 'conservative'])(
    '%s: nearer the ground it helps more, far from it not at all',
    (model) => {
      for (let z = 0.55; z < 1.95; z += 0.05) expect(share(z + 0.05, model)).toBeGreaterThanOrEqual(share(z, model));
      expect(share(0.6, model)).toBeLessThan(1);
      expect(share(3, model)).toBe(1);
      expect(attempt(() => groundEffect(0.4, model))).toMatchObject({ error: 'OUT_OF_DOMAIN' });
    },
  );

  test('the conservative model never helps more than any other', () => {
    for (let z = 0.55; z < 2; z += 0.1)
      expect(share(z, 'conservative')).toBeGreaterThanOrEqual(Math.max(share(z, 'hayden'), share(z, 'cb')));
  });
});

describe('power that there is', () => {
  test('bleed, heat and height take from it; the torque limit caps it', () => {
    fc.assert(
      fc.property(pa, oat, (pa_ft, oat_C) => {
        const at = (rest: object): number => powerAvailable(REF2, { rating: 'TOP', pa_ft, oat_C, ...rest }).P_total_kW;
        expect(at({ bleed: 'both' })).toBeLessThanOrEqual(at({}) + 1e-9);
        expect(at({ oat_C: oat_C + 5 })).toBeLessThanOrEqual(at({}) + 1e-9);
        expect(at({ pa_ft: pa_ft + 500 })).toBeLessThanOrEqual(at({}) + 1e-9);
        expect(at({})).toBeLessThanOrEqual(2 * REF2.engine.p100_kW * REF2.engine.ratings.TOP!.torque_pct * 0.01 + 1e-6);
      }),
    );
  });

  test('a rating that there is not has no figure', () => {
    expect(attempt(() => powerAvailable(REF2, { rating: 'MAX', pa_ft: 0, oat_C: 15 }))).toMatchObject({
      error: 'UNKNOWN_RATING',
    });
  });
});

describe('what can be lifted', () => {
  test('at the greatest mass the margin is nil, and above it negative', () => {
    fc.assert(
      fc.property(pa, oat, (pa_ft, oat_C) => {
        const { mass_power_kg } = maxHoverMass(REF2, { pa_ft, oat_C, rating: 'TOP', skid_height_ft: null });
        fc.pre(mass_power_kg > 2500 && mass_power_kg < 5500);
        const margin = (mass_kg: number): number =>
          hoverMargin(REF2, { pa_ft, oat_C, rating: 'TOP', skid_height_ft: null, mass_kg }).margin_pct;
        expect(margin(mass_power_kg)).toBeCloseTo(0, 6);
        expect(margin(mass_power_kg + 10)).toBeLessThan(0);
        expect(margin(mass_power_kg - 10)).toBeGreaterThan(0);
      }),
      { numRuns: 40 },
    );
  });

  test('the mass shown is never more than the mass that was found', () => {
    const { mass_kg, display } = maxHoverMass(REF2, { pa_ft: 4000, oat_C: 30, rating: 'TOP', skid_height_ft: 5 });
    expect(display.mass_kg).toBeLessThanOrEqual(mass_kg);
    expect(mass_kg).toBeLessThanOrEqual(REF2.mtow_kg);
  });

  test('below the ceiling it hovers, above it not', () => {
    const ceiling = hoverCeiling(REF2, { mass_kg: 3700, rating: 'TOP', isa_dev_C: 15, skid_height_ft: null });
    expect(ceiling.status).toBe('OK');
    const margin = (pa_ft: number): number =>
      hoverMargin(REF2, {
        pa_ft,
        oat_C: 15 + 15 - 0.0019812 * pa_ft,
        rating: 'TOP',
        skid_height_ft: null,
        mass_kg: 3700,
      }).margin_pct;
    expect(margin(ceiling.ceiling_ft! - 200)).toBeGreaterThan(0);
    expect(margin(ceiling.ceiling_ft! + 200)).toBeLessThan(0);
  });
});

describe('one engine out', () => {
  test('a shorter rating holds more, ground effect holds more, a margin holds less', () => {
    fc.assert(
      fc.property(pa, oat, (pa_ft, oat_C) => {
        const { OEI_CONT, OEI_2MIN, OEI_30S } = oeiMasses(REF2, { pa_ft, oat_C });
        expect(OEI_2MIN.oge_kg).toBeGreaterThanOrEqual(OEI_CONT.oge_kg);
        expect(OEI_30S.oge_kg).toBeGreaterThanOrEqual(OEI_2MIN.oge_kg);
        expect(OEI_CONT.ige_kg).toBeGreaterThan(OEI_CONT.oge_kg);
        expect(oeiMasses(REF2, { pa_ft, oat_C }, () => 0.02).OEI_CONT.oge_kg).toBeLessThan(OEI_CONT.oge_kg);
      }),
      { numRuns: 40 },
    );
  });

  test('heavier never needs a gentler rating', () => {
    const order = ['OEI_CONT', 'OEI_2MIN', 'OEI_30S', 'NONE'];
    let before = 0;
    for (let mass_kg = 2300; mass_kg <= 4200; mass_kg += 25) {
      const { rating } = oeiRequiredRating(REF2, { pa_ft: 2000, oat_C: 20, mass_kg, skid_height_ft: null });
      expect(order.indexOf(rating)).toBeGreaterThanOrEqual(before);
      before = order.indexOf(rating);
    }
    expect(before).toBe(3);
  });

  test('a single has none, and a safety question wants its answer', () => {
    expect(attempt(() => oeiMasses(REF1, { pa_ft: 0, oat_C: 15 }))).toMatchObject({ error: 'NOT_MULTI_ENGINE' });
    const hover = { pa_ft: 0, oat_C: 15, mass_kg: 3000, skid_height_ft: 30 };
    expect(attempt(() => oeiVerdict(REF2, { ...hover, landing_ok: true } as never))).toMatchObject({
      error: 'MISSING',
      field: 'obstacle_clear',
    });
    expect(attempt(() => oeiVerdict(REF2, { ...hover, obstacle_clear: true } as never))).toMatchObject({
      error: 'MISSING',
      field: 'landing_ok',
    });
  });

  test('no place to land is never better than one', () => {
    const worse = ['ACCEPTABLE', 'TIME_LIMITED', 'LAND_ONLY', 'NOT_ACCEPTABLE'];
    for (let mass_kg = 2400; mass_kg <= 4100; mass_kg += 100)
      for (const skid_height_ft of [5, 40, 200])
        for (const obstacle_clear of [true, false]) {
          const verdict = (landing_ok: boolean): number =>
            worse.indexOf(
              oeiVerdict(REF2, { pa_ft: 2000, oat_C: 20, mass_kg, skid_height_ft, obstacle_clear, landing_ok }).verdict,
            );
          expect(verdict(false)).toBeGreaterThanOrEqual(verdict(true));
        }
  });
});

describe('a piston', () => {
  const { performance, loading } = typeOf('T2');
  const piston = {
    ...performance.hover!,
    mtow_kg: loading.mtow_kg,
    empty_kg: loading.empty_kg,
    piston: performance.piston!,
    charts: { TOP: performance.chart.TOP, MCP: performance.chart.MCP },
  };
  const air = { pa_ft: 500, oat_C: 15, bleed: 'none' };

  test('the throttle gives less with height and is not drawn beyond its table', () => {
    expect(fullThrottle_inHg(piston.piston, 4000)).toBeLessThan(fullThrottle_inHg(piston.piston, 1000));
    expect(attempt(() => fullThrottle_inHg(piston.piston, 40_000))).toMatchObject({ error: 'OUT_OF_CHART' });
  });

  test('the greatest mass is where the margin is nil', () => {
    const mass_kg = pistonMass(piston, { ...air, skid_height_ft: 5 });
    expect(pistonHover(piston, { ...air, skid_height_ft: 5, mass_kg }).margin_inHg).toBeCloseTo(0, 6);
    expect(pistonMass(piston, { ...air, skid_height_ft: null })).toBeLessThan(mass_kg);
  });

  test('more mass takes more, and what is shown is rounded the safe way', () => {
    for (let mass_kg = 480; mass_kg <= 620; mass_kg += 20) {
      const at = pistonHover(piston, { ...air, skid_height_ft: 5, mass_kg });
      expect(at.display.required_inHg).toBeGreaterThanOrEqual(at.required_inHg - 1e-9);
      expect(at.display.margin_inHg).toBeLessThanOrEqual(at.margin_inHg + 1e-9);
      expect(at.can_hover).toBe(at.margin_inHg >= 0);
    }
  });
});
