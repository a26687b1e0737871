import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { fuelPlan, type LoadItem, pointInPolygon, weightBalance } from '@rouse/core/loading';
import { attempt } from '@rouse/core/quantity';
import { fleet } from '../fleet.ts';
import { references } from '../reference.ts';

const { REF2 } = references;
const kg = fc.double({ min: 0, max: 300, noNaN: true });
const crew: LoadItem[] = [
  { name: 'pilot', mass_kg: 85, arm_long_m: 2.5, arm_lat_m: 0.4 },
  { name: 'second', mass_kg: 80, arm_long_m: 2.5, arm_lat_m: -0.4 },
];

describe('weight and balance', () => {
  test('masses add, and moments with them', () => {
    fc.assert(
      fc.property(fc.array(kg, { maxLength: 5 }), fc.double({ min: 0, max: 700, noNaN: true }), (loads, fuel_kg) => {
        const items = loads.map((mass_kg, i) => ({ name: `row ${i}`, mass_kg, arm_long_m: 3 + i / 2, arm_lat_m: 0 }));
        const { ramp, zero_fuel, moment_long_kgm } = weightBalance(REF2, { items, fuel_kg });
        const load = loads.reduce((a, b) => a + b, 0);
        expect(ramp.mass_kg).toBeCloseTo(REF2.basic.mass_kg + load + fuel_kg, 6);
        expect(zero_fuel.mass_kg).toBeCloseTo(REF2.basic.mass_kg + load, 6);
        expect(ramp.cg_long_m * ramp.mass_kg).toBeCloseTo(moment_long_kgm, 4);
      }),
    );
  });

  test('the order of the load does not matter', () => {
    fc.assert(
      fc.property(fc.shuffledSubarray(crew, { minLength: 2 }), (items) => {
        const a = weightBalance(REF2, { items, fuel_kg: 300 }).ramp;
        const b = weightBalance(REF2, { items: crew, fuel_kg: 300 }).ramp;
        expect(a.cg_long_m).toBeCloseTo(b.cg_long_m, 12);
        expect(a.status).toBe(b.status);
      }),
    );
  });

  test('mass in the nose moves the centre forward, mass on one side to that side', () => {
    const base = weightBalance(REF2, { items: crew, fuel_kg: 300 }).ramp;
    const nose = weightBalance(REF2, {
      items: [...crew, { name: 'nose', mass_kg: 60, arm_long_m: 1.2, arm_lat_m: 0.5 }],
      fuel_kg: 300,
    }).ramp;
    expect(nose.cg_long_m).toBeLessThan(base.cg_long_m);
    expect(nose.cg_lat_m).toBeGreaterThan(base.cg_lat_m);
  });

  test('too heavy is outside, near the edge is said, and burning fuel is looked at on its way', () => {
    const load = (mass_kg: number, arm_long_m: number) =>
      weightBalance(REF2, { items: [{ name: 'load', mass_kg, arm_long_m, arm_lat_m: 0 }], fuel_kg: 300, burn_kg: 10 });
    expect(load(1600, 4).ramp.status).toBe('OUTSIDE');
    expect(load(600, 4.1).ramp.status).toBe('INSIDE');
    expect(load(1310, 4).ramp.status).toBe('NEAR_EDGE');
    const worst = ['INSIDE', 'NEAR_EDGE', 'OUTSIDE'];
    for (const mass of [100, 600, 1200, 1310, 1600]) {
      const { ramp, takeoff, path_worst } = load(mass, 4);
      expect(worst.indexOf(path_worst.status)).toBeGreaterThanOrEqual(
        Math.max(worst.indexOf(takeoff.status), worst.indexOf(ramp.status) - 2),
      );
    }
  });

  test('fuel beyond the tank has no arm', () => {
    expect(attempt(() => weightBalance(REF2, { items: crew, fuel_kg: 800 }))).toMatchObject({ error: 'OUT_OF_CHART' });
    expect(attempt(() => weightBalance(REF2, { items: crew, fuel_kg: -1 }))).toMatchObject({ error: 'OUT_OF_RANGE' });
  });

  test('every shipped type stands inside its envelope with its usual load and half its fuel', () => {
    for (const type of fleet) {
      const { loading } = type;
      const fuel_kg = 0.5 * loading.fuel.max_L * loading.fuel_density_kgL;
      const items = loading.stations.map((s) => ({
        name: s.label,
        mass_kg: s.usual_kg,
        arm_long_m: s.arm_long_m,
        arm_lat_m: s.arm_lat_m,
      }));
      const balance = weightBalance({ ...loading, engines: type.engines.length }, { items, fuel_kg });
      expect(balance.ramp.status, type.id).not.toBe('OUTSIDE');
      expect(balance.path_worst.status, type.id).not.toBe('OUTSIDE');
    }
  });
});

describe('a point and a polygon', () => {
  const square: [number, number][] = [
    [0, 0],
    [0, 10],
    [10, 10],
    [10, 0],
  ];

  test('inside, on the edge and outside are told apart', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -5, max: 15, noNaN: true }),
        fc.double({ min: -5, max: 15, noNaN: true }),
        (x, y) => {
          const { where } = pointInPolygon(square, x, y);
          const inside = x > 1e-6 && x < 10 - 1e-6 && y > 1e-6 && y < 10 - 1e-6;
          const outside = x < -1e-6 || x > 10 + 1e-6 || y < -1e-6 || y > 10 + 1e-6;
          const possible = inside ? ['inside'] : outside ? ['outside'] : ['inside', 'edge', 'outside'];
          expect(possible).toContain(where);
        },
      ),
    );
    for (const [x, y] of [...square, [5, 0], [0, 5]] as [number, number][])
      expect(pointInPolygon(square, x, y).where).toBe('edge');
  });

  test('turned round it is the same polygon, and a line is none', () => {
    expect(pointInPolygon(square.toReversed(), 5, 5).where).toBe('inside');
    expect(attempt(() => pointInPolygon(square.slice(0, 2), 5, 5))).toMatchObject({ error: 'BAD_TABLE' });
    expect(attempt(() => pointInPolygon([[0, 0], [1, 1], [2, 2]], 1, 1))).toMatchObject({ error: 'BAD_TABLE' }); // oxfmt-ignore
  });
});

describe('fuel', () => {
  const ground = [{ phase: 'ground_idle', min: 6 }];

  test('more fuel flies longer; more time on the ground shorter', () => {
    fc.assert(
      fc.property(fc.double({ min: 100, max: 700, noNaN: true }), fc.integer({ min: 0, max: 30 }), (fuel_kg, min) => {
        const plan = (kilos: number, minutes: number) =>
          fuelPlan(REF2, { fuel_kg: kilos, ground: [{ phase: 'ground_idle', min: minutes }] });
        const here = plan(fuel_kg, min);
        expect(plan(fuel_kg + 10, min).endurance_to_dry_min).toBeGreaterThan(here.endurance_to_dry_min);
        expect(plan(fuel_kg, min + 1).takeoff_fuel_kg).toBeLessThan(here.takeoff_fuel_kg);
        expect(here.endurance_to_reserve_min).toBeLessThanOrEqual(here.endurance_to_dry_min);
      }),
    );
  });

  test('a density that nobody knows is taken on the side that is safe', () => {
    const unknown = fuelPlan(REF2, { fuel_L: 600, ground });
    for (const density_kgL of [0.775, 0.8, 0.84]) {
      const known = fuelPlan(REF2, { fuel_L: 600, density_kgL, ground });
      expect(unknown.ramp_mass_fuel_kg).toBeGreaterThanOrEqual(known.ramp_mass_fuel_kg - 1e-9);
      expect(unknown.endurance_to_dry_min).toBeLessThanOrEqual(known.endurance_to_dry_min + 1e-9);
    }
  });

  test('little is below the reserve, and less does not leave the ground', () => {
    expect(fuelPlan(REF2, { fuel_kg: 300, ground }).status).toBe('OK');
    expect(fuelPlan(REF2, { fuel_kg: 60, ground }).status).toBe('BELOW_RESERVE');
    expect(fuelPlan(REF2, { fuel_kg: 12, ground }).status).toBe('NOT_ENOUGH_FOR_GROUND');
  });

  test('mass and volume together contradict, and one is asked for', () => {
    expect(attempt(() => fuelPlan(REF2, { fuel_kg: 300, fuel_L: 300, ground }))).toMatchObject({
      error: 'INCONSISTENT',
    });
    expect(attempt(() => fuelPlan(REF2, { ground }))).toMatchObject({ error: 'MISSING' });
    expect(attempt(() => fuelPlan(REF2, { fuel_L: 5000, ground }))).toMatchObject({ error: 'OUT_OF_RANGE' });
  });
});
