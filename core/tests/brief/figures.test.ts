import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  type Brief,
  type BriefContext,
  type BriefInput,
  briefOf,
  type Figure,
  known,
  NO_WIND,
} from '@rouse/core/brief';
import { contextOf, inputOf } from '../desk.ts';
import { fleet, typeOf } from '../fleet.ts';

const of = (id: string, input: Partial<BriefInput> = {}, context: Partial<BriefContext> = {}): Brief =>
  briefOf(inputOf(id, input), contextOf(id, context));
const ids = fc.constantFrom(...fleet.map((t) => t.id));
/** A piston's limit is a manifold pressure, which rises with the temperature for the same power. */
const turbines = fc.constantFrom(...fleet.filter((t) => t.performance.engine).map((t) => t.id));
const oat = fc.integer({ min: -15, max: 35 });
const value = (figure: Figure<number>): number => known(figure) ?? NaN;
/** Not more than, or one of them is not given. */
const notMore = (a: number, b: number): void => expect(a <= b + 1e-9 || Number.isNaN(a + b)).toBe(true);

describe('a worse day never looks better', () => {
  test('warmer', () => {
    fc.assert(
      fc.property(turbines, oat, (id, oat_C) => {
        const [here, warmer] = [of(id, { oat_C, dew_C: -20 }), of(id, { oat_C: oat_C + 5, dew_C: -20 })];
        expect(value(here.densityAltitude_ft)).toBeLessThanOrEqual(value(warmer.densityAltitude_ft));
        notMore(value(warmer.topLimit), value(here.topLimit));
        notMore(known(warmer.hoverOge)?.margin ?? NaN, (known(here.hoverOge)?.margin ?? NaN) + 0.11);
      }),
      { numRuns: 60 },
    );
  });

  test('higher', () => {
    fc.assert(
      fc.property(ids, oat, fc.integer({ min: 0, max: 4000 }), (id, oat_C, elev_ft) => {
        const at = (feet: number): Brief =>
          of(id, { oat_C, dew_C: -20 }, { site: { name: 'Hill', elev_ft: feet, variation_E_deg: -3 } });
        const [low, high] = [at(elev_ft), at(elev_ft + 500)];
        expect(value(high.pressureAltitude_ft)).toBeGreaterThan(value(low.pressureAltitude_ft));
        notMore(value(high.topLimit), value(low.topLimit));
      }),
      { numRuns: 60 },
    );
  });

  test('heavier', () => {
    for (const type of fleet) {
      const station = type.loading.stations.at(-1)!;
      let before = Infinity;
      for (let kg = 0; kg <= Math.min(station.max_kg, 120); kg += 20) {
        const brief = of(type.id, { load: { ...inputOf(type.id).load, [station.id]: kg } });
        const margin = known(brief.hoverIge)!.margin;
        expect(margin, type.id).toBeLessThanOrEqual(before);
        before = margin;
      }
    }
  });

  test('with less known', () => {
    for (const { id } of fleet) {
      const whole = of(id);
      for (const missing of [
        { oat_C: null },
        { qnh_hPa: null },
        { fuel_kg: null },
        { wind: NO_WIND },
        { heading_deg: null },
        { load: { ...inputOf(id).load, [typeOf(id).loading.stations[0]!.id]: null } },
      ]) {
        const brief = of(id, missing);
        expect(brief.clear, `${id} ${Object.keys(missing)[0]}`).toBe(false);
        expect(brief.objections.some((h) => !whole.objections.some((w) => w.id === h.id && w.title === h.title))).toBe(
          true,
        );
      }
      expect(known(of(id, { dew_C: null }).densityAltitude_ft)!).toBeGreaterThanOrEqual(
        known(whole.densityAltitude_ft)!,
      );
    }
  });
});

describe('weights', () => {
  test('lift is what is loaded less what is burned, and landing less what is flown', () => {
    fc.assert(
      fc.property(ids, fc.integer({ min: 20, max: 60 }), (id, percent) => {
        const { fuel: tank, fuel_density_kgL, basic } = typeOf(id).loading;
        const fuel_kg = Math.round((percent / 100) * tank.max_L * fuel_density_kgL);
        const input = inputOf(id, { fuel_kg, flight_min: 5 });
        const brief = briefOf(input, contextOf(id));
        const load = Object.values(input.load).reduce<number>((sum, kg) => sum + (kg ?? 0), 0);
        const plan = known(brief.fuel)!;
        expect(known(brief.liftMass_kg)!).toBeCloseTo(basic.mass_kg + load + fuel_kg - plan.burn_kg, 6);
        expect(known(brief.landingFuel_kg)!).toBeLessThan(plan.takeoff_fuel_kg);
        expect(brief.record.expected.mass).toBeCloseTo(basic.mass_kg + load + fuel_kg, 6);
      }),
      { numRuns: 60 },
    );
  });

  test('the flight takes fuel by the minute, and too long a one is held', () => {
    const minutes = (flight_min: number): number => known(of('H9', { flight_min }).landingFuel_kg)!;
    expect(minutes(20)).toBeGreaterThan(minutes(40));
    expect(of('H9', { flight_min: 600 }).objections[0]).toMatchObject({ id: 'fuel-flight', severity: 'no-go' });
    const tight = Math.floor(
      (known(of('H9').fuel)!.endurance_to_dry_min + known(of('H9').fuel)!.endurance_to_reserve_min) / 2,
    );
    expect(of('H9', { flight_min: tight }).objections[0]).toMatchObject({ id: 'fuel-flight', severity: 'caution' });
  });
});

describe('the plan', () => {
  test('what the operator does and what this day does are told apart', () => {
    const day = of('H9', { ways: { doors: { to: 'open', reason: 'hot' } } });
    expect(day.record.overrides).toEqual([{ choice: 'doors', from: 'closed', to: 'open', reason: 'hot' }]);
    const asOperator = of('H9', {}, { operatorWays: { doors: 'open' } });
    expect(asOperator.record.overrides).toEqual([]);
    expect(asOperator.ways['doors']).toBe('open');
    expect(
      of('H9', { ways: { doors: { to: 'open', reason: '' } } }, { operatorWays: { doors: 'open' } }).objections,
    ).toEqual([]);
  });

  test('a turn-round is shorter, and is offered only soon after the last run', () => {
    const lastRunEndedAt = '2026-11-25T08:10:00Z';
    const ways = { list: { to: 'turn-round', reason: 'same crew' } };
    for (const type of fleet) {
      const turnRound = type.turnRound!.entry.filter((e) => e.withinMinutes === undefined).map((e) => e.id);
      const soon = of(type.id, { ways, turnRound }, { lastRunEndedAt });
      expect(
        soon.objections.filter((h) => h.id.startsWith('turn-round')),
        type.id,
      ).toEqual([]);
      expect(soon.schedule.ready_s, type.id).toBeLessThan(of(type.id).schedule.ready_s);
      const late = of(type.id, { ways, turnRound }, { lastRunEndedAt: '2026-11-24T08:10:00Z' });
      expect(
        late.objections.some((h) => h.id.startsWith('turn-round')),
        type.id,
      ).toBe(true);
      const unasked = of(type.id, { ways, turnRound: [] }, { lastRunEndedAt });
      expect(
        unasked.objections.filter((h) => h.id.startsWith('turn-round')),
        type.id,
      ).toHaveLength(turnRound.length);
    }
  });

  test('what its own waits took makes ready later', () => {
    const wait = typeOf('X14').items.find((i) => i.kind === 'wait' && i.usual_s > 40)!;
    if (wait.kind !== 'wait') throw new Error('no wait');
    const past = Array.from({ length: 20 }, () => ({ item: wait.id, took_s: wait.usual_s * 2, oat_C: 3 }));
    expect(of('X14', {}, { past }).schedule.ready_s).toBeGreaterThanOrEqual(of('X14').schedule.ready_s);
  });

  test('the same entries give the same brief', () => {
    for (const { id } of fleet) expect(of(id)).toEqual(of(id));
  });
});

describe('the wind', () => {
  test('from every side it is judged, and never better than the side it is worst from', () => {
    for (const type of fleet)
      for (let direction_deg = 0; direction_deg < 360; direction_deg += 15) {
        const wind = { ...NO_WIND, direction_deg, speed_kt: 18 };
        const judged = known(of(type.id, { wind }).rotorStart)!;
        const anywhere = known(of(type.id, { wind: { ...wind, direction_deg: null } }).rotorStart)!;
        expect(anywhere.limit_kt!).toBeLessThanOrEqual(judged.limit_kt!);
        expect(judged.wind_kt).toBe(18);
      }
  });

  test('calm has no components and no limit is near', () => {
    const calm = of('T2', { wind: { ...NO_WIND, speed_kt: 0 } });
    expect(known(calm.rotorStart)!.verdict).toBe('WITHIN');
    expect(calm.objections.filter((h) => h.id === 'wind')).toEqual([]);
  });
});
