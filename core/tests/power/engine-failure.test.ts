import { expect, test } from 'vitest';
import {
  AFTER_FAILURE,
  assuranceMargin,
  oeiMasses,
  oeiRequiredRating,
  OEI_RATINGS,
  oneEngineBoard,
  type OeiRatingId,
  wornBy,
} from '@rouse/core/power';
import { poweredOf, type SimulatorParameters } from '@rouse/core/aircraft';
import { coldControls, type FailurePoint, flyEngineFailure, Simulator, TICK_S } from '@rouse/core/simulator';
import { typeOf } from '../fleet.ts';
import { WHOLE } from '../whole.ts';

const FT_m = 0.3048;
const HIGH_m = 250;
const LOW_ft = 5;
const NAMES = { OEI_CONT: 'cont', OEI_2MIN: '2min', OEI_30S: '30s' } as const;

/** Predicted against flown over weight and temperature. @returns shares of agreement, and points where the word was better than the flight */
function compare(
  id: string,
  rating: OeiRatingId,
  height: 'low' | 'high',
  steps: number,
  pa_m: number,
): { agreed: number; unsafe: string[] } {
  const type = typeOf(id);
  const aircraft = poweredOf(type)!;
  const enough = OEI_RATINGS.slice(0, OEI_RATINGS.indexOf(rating) + 1);
  const lightest_kg = 1.1 * aircraft.empty_kg;
  let agreed = 0;
  const unsafe: string[] = [];
  for (let i = 0; i < steps; i++)
    for (let k = 0; k < steps; k++) {
      const oat_C = -20 + (60 * i) / (steps - 1);
      const mass_kg = lightest_kg + ((aircraft.mtow_kg - lightest_kg) * k) / (steps - 1);
      const height_m = height === 'high' ? HIGH_m : LOW_ft * FT_m;
      const flown = flyEngineFailure(type.simulator as SimulatorParameters, {
        mass_kg,
        oat_C,
        pa_m,
        height_m,
        rating: NAMES[rating],
      });
      const hover = { pa_ft: pa_m / FT_m, oat_C, mass_kg, skid_height_ft: height === 'high' ? null : LOW_ft };
      const need = oeiRequiredRating(aircraft, hover, AFTER_FAILURE).rating;
      const predicted = need !== 'NONE' && enough.includes(need);
      if (predicted === flown.holds) agreed++;
      else if (predicted) unsafe.push(`${mass_kg.toFixed(0)} kg ${oat_C.toFixed(0)} °C`);
    }
  return { agreed: agreed / steps ** 2, unsafe };
}

test.each(['H9', 'X14'])(
  'one engine of %s holds or descends as it was predicted, and never falls where it was said to hold',
  (id) => {
    const { agreed, unsafe } = compare(id, 'OEI_30S', 'high', WHOLE ? 20 : 11, 0);
    expect(unsafe).toEqual([]);
    expect(agreed).toBeGreaterThanOrEqual(0.95);
  },
);

test.each<[string, OeiRatingId, 'low' | 'high', number]>([
  ['H9', 'OEI_2MIN', 'high', 600],
  ['H9', 'OEI_CONT', 'high', 0],
  ['H9', 'OEI_30S', 'low', 600],
  ['X14', 'OEI_2MIN', 'high', 600],
  ['X14', 'OEI_30S', 'low', 0],
])('%s on %s, %s, at %i m: safe everywhere', (id, rating, height, pa_m) => {
  const { agreed, unsafe } = compare(id, rating, height, 8, pa_m);
  expect(unsafe).toEqual([]);
  expect(agreed).toBeGreaterThanOrEqual(0.85);
});

/** Temperature margin that a power assurance reads of engines worn so, in a hover on a warm day. */
function assured(id: string, worn: NonNullable<FailurePoint['worn']>): number {
  const type = typeOf(id);
  const parameters = type.simulator as SimulatorParameters;
  const hover = { mass_kg: 0.9 * type.loading.mtow_kg, height_m: 1.5, running: { coll: 0.5 }, env: { oat_c: 20 } };
  const simulator = new Simulator(parameters, hover, 1);
  for (const engine of simulator.engines) Object.assign(engine.faults, worn);
  const controls = coldControls(parameters);
  Object.assign(controls, { battery: 1, boost: 1, flight: 1, coll: 0.5, coll_mode: 'hover', h_ref: 1.5 });
  for (const lever of controls.engines) Object.assign(lever, { mode: 'FLY', gen: 1 });
  for (let i = 0; i < 60 / TICK_S; i++) simulator.tick(controls);
  const { ngA_pct, tot_C, tq_pct, np_pct } = simulator.sensors[0]!;
  const point = { pa_ft: 0, oat_C: 20, ng_pct: ngA_pct, tot_C, torque_pct: tq_pct, n2_pct: np_pct };
  return assuranceMargin(poweredOf(type)!.engine.assurance, point).tot_margin_C;
}

/** Of the line out of ground effect on thirty seconds, as a share of the points: given away, and unsafe. */
function windyBoard(id: string, headwind_kt: number, worn: NonNullable<FailurePoint['worn']>): [number, string[]] {
  const type = typeOf(id);
  const aircraft = wornBy(poweredOf(type)!, assured(id, worn));
  const lightest_kg = 1.1 * aircraft.empty_kg;
  const unsafe: string[] = [];
  let away = 0;
  for (let i = 0; i < 9; i++)
    for (let k = 0; k < 9; k++) {
      const oat_C = -20 + 7.5 * i;
      const mass_kg = lightest_kg + ((aircraft.mtow_kg - lightest_kg) * k) / 8;
      const at = { mass_kg, oat_C, pa_m: 0, height_m: HIGH_m, rating: '30s', headwind_kt, worn } as const;
      const flown = flyEngineFailure(type.simulator as SimulatorParameters, at);
      const air = { pa_ft: 0, oat_C, mass_kg, skid_height_ft: 30, headwind_kt };
      const { lines } = oneEngineBoard(aircraft, { ...air, hoist_kg: null, fuel_kgph: 200, obstacle_clear: true, landing_ok: true }); // oxfmt-ignore
      const says = lines.find((l) => l.id === 'high')!.inWind !== 'NONE';
      if (says && !flown.holds) unsafe.push(`${mass_kg.toFixed(0)} kg ${oat_C.toFixed(0)} °C`);
      if (!says && flown.holds) away++;
    }
  return [away / 81, unsafe];
}

test.each([
  ['H9', 15, {}],
  ['H9', 0, { comp_eff: 0.98, turb_eff: 0.98 }],
  ['H9', 0, { turb_eff: 0.98 }],
  ['X14', 15, {}],
  ['X14', 10, { comp_eff: 0.98, turb_eff: 0.98 }],
])(
  '%s in a headwind of %i kt with engines of %o: none falls that was said to hold, little is given away',
  (id, headwind_kt, worn) => {
    const [away, unsafe] = windyBoard(id, headwind_kt, worn);
    expect(unsafe).toEqual([]);
    expect(away).toBeLessThanOrEqual(0.08);
  },
);

test('engines whose margin nobody knows are counted as just meeting their specification, and a better margin is never worse', () => {
  const aircraft = poweredOf(typeOf('H9'))!;
  const held = (margin_C: number | null): number =>
    oeiMasses(wornBy(aircraft, margin_C), { pa_ft: 0, oat_C: 30 }).OEI_30S.oge_kg;
  expect(held(null)).toBe(held(0));
  for (const margin_C of [-20, -5, 0, 10, 20]) expect(held(margin_C + 5)).toBeGreaterThan(held(margin_C));
  expect(held(60)).toBe(oeiMasses(aircraft, { pa_ft: 0, oat_C: 30 }).OEI_30S.oge_kg);
});

const haugh = poweredOf(typeOf('H9'))!;
const board = (over: Partial<Parameters<typeof oneEngineBoard>[1]> = {}): ReturnType<typeof oneEngineBoard> =>
  oneEngineBoard(haugh, {
    pa_ft: 100,
    oat_C: 15,
    mass_kg: 2600,
    skid_height_ft: 30,
    headwind_kt: 0,
    hoist_kg: 95,
    fuel_kgph: 200,
    obstacle_clear: true,
    landing_ok: true,
    ...over,
  });

test('each line of the board says what has to go for the next gentler rating, and with that gone it holds on it', () => {
  const lines = [2200, 2450, 2600, 2750, 2900].flatMap((mass_kg) => board({ mass_kg }).lines);
  expect(lines.filter((l) => l.better === null).every((l) => l.holds === 'OEI_CONT')).toBe(true);
  for (const { id, mass_kg, better } of lines.filter((l) => l.better !== null)) {
    const skid_height_ft = id === 'low' ? 5 : id === 'here' ? 30 : null;
    const lighter = { pa_ft: 100, oat_C: 15, mass_kg: mass_kg - better!.shed_kg, skid_height_ft };
    const after = oeiRequiredRating(haugh, lighter, AFTER_FAILURE).rating;
    expect(after).not.toBe('NONE');
    expect(OEI_RATINGS.indexOf(after as OeiRatingId)).toBeLessThanOrEqual(OEI_RATINGS.indexOf(better!.rating));
    expect(better!.burn_min).toBeGreaterThanOrEqual((60 * better!.shed_kg) / 200);
  }
});

test('a person on the hoist is never easier, the ground never harder, and wind never counts in the verdict', () => {
  const order = [...OEI_RATINGS, 'NONE'];
  for (const oat_C of [-10, 10, 25, 35]) {
    const { lines, verdict } = board({ oat_C });
    const [low, here, high, hoist] = lines.map((l) => order.indexOf(l.holds)) as [number, number, number, number];
    expect(low).toBeLessThanOrEqual(here);
    expect(here).toBeLessThanOrEqual(high);
    expect(high).toBeLessThanOrEqual(hoist);
    const windy = board({ oat_C, headwind_kt: 25 });
    expect(windy.verdict).toEqual(verdict);
    windy.lines.forEach((l, i) => {
      expect(l.holds).toBe(lines[i]!.holds);
      expect(order.indexOf(l.inWind)).toBeLessThanOrEqual(order.indexOf(l.holds));
    });
  }
});

test('the flown failure is the same each time, and droops as far as the type does', () => {
  const at = { mass_kg: 2650, oat_C: 15, pa_m: 0, height_m: 250, rating: '30s' } as const;
  const parameters = typeOf('H9').simulator as SimulatorParameters;
  const flown = flyEngineFailure(parameters, at);
  expect(flyEngineFailure(parameters, at)).toEqual(flown);
  expect(flown.nrMin_pct).toBeGreaterThan(94);
  expect(flown.nrMin_pct).toBeLessThan(98.5);
  expect(flown.lost_m).toBeGreaterThan(5);
});

test('a hover that both engines cannot keep is none that one could hold', () => {
  const parameters = typeOf('H9').simulator as SimulatorParameters;
  const flown = flyEngineFailure(parameters, { mass_kg: 3300, oat_C: 40, pa_m: 2500, height_m: 250, rating: 'cont' });
  expect(flown.holds).toBe(false);
});
