import { describe, expect, test } from 'vitest';
import {
  AFTER_FAILURE,
  assuranceMargin,
  type AssuranceBaseline,
  type BoardInput,
  correctEngine,
  fullThrottle_inHg,
  groundEffect,
  hoverCeiling,
  hoverCheck,
  hoverMargin,
  hoverPower,
  maxHoverMass,
  oeiMasses,
  oeiRequiredRating,
  oeiVerdict,
  OEI_RATINGS,
  oneEngineBoard,
  pistonHover,
  powerAvailable,
  wornBy,
} from '@rouse/core/power';
import { poweredOf } from '@rouse/core/aircraft';
import { attempt } from '@rouse/core/quantity';
import { typeOf } from '../fleet.ts';
import { references } from '../reference.ts';

const { REF1, REF2 } = references;
const up = (v: number): number => Math.ceil(v * 10 - 1e-9) / 10;
const down = (v: number): number => Math.floor(v * 10 + 1e-9) / 10;

describe('power assurance', () => {
  const baseline: AssuranceBaseline = { tot_poly: [600], ng_poly: [95], pwr_domain: [60, 110], tot_exp: 1, ng_exp: 0.5 }; // oxfmt-ignore
  /** the standard day at sea level: readings are what they refer to */
  const point = { pa_ft: 0, oat_C: 15, ng_pct: 90, tot_C: 500, torque_pct: 80 };

  test.each([
    [600, 90, 'WATCH'],
    [600.1, 90, 'FAIL'],
    [590.1, 90, 'WATCH'],
    [590, 90, 'PASS'],
    [500, 95, 'WATCH'],
    [500, 95.1, 'FAIL'],
    [500, 94.6, 'WATCH'],
    [500, 94.5, 'PASS'],
    [601, 96, 'FAIL'],
  ])('%f °C and %f %%: %s', (tot_C, ng_pct, verdict) => {
    const margin = assuranceMargin(baseline, { ...point, tot_C, ng_pct });
    expect(margin).toMatchObject({ verdict, tot_baseline_C: 600, ng_baseline_pct: 95 });
    expect(margin.tot_margin_C).toBeCloseTo(600 - tot_C, 9);
    expect(margin.ng_margin_pct).toBeCloseTo(95 - ng_pct, 9);
  });

  test('its ends are in it, beyond them it says nothing', () => {
    const at = (torque_pct: number) => attempt(() => assuranceMargin(baseline, { ...point, torque_pct }));
    for (const torque_pct of [60, 110]) expect(at(torque_pct)).toMatchObject({ verdict: 'PASS' });
    for (const torque_pct of [59.9, 110.1])
      expect(at(torque_pct)).toEqual({ error: 'OUT_OF_DOMAIN', field: 'torque_pct' });
    expect(attempt(() => assuranceMargin(undefined, point))).toEqual({ error: 'BAD_TABLE', field: 'aircraft' });
  });

  test('an exponent that is given is taken, else that of the baseline', () => {
    const hot = { ...point, oat_C: 45 };
    const referred = (over: object, exponents: object): number =>
      assuranceMargin({ ...baseline, ...exponents }, { ...hot, ...over }).tot_ref_C;
    expect(referred({}, { tot_exp: 0.8 })).toBeCloseTo(correctEngine({ ...hot, tot_exp: 0.8 }).tot_ref_C, 9);
    expect(referred({ tot_exp: 1.2 }, { tot_exp: 0.8 })).toBeCloseTo(
      correctEngine({ ...hot, tot_exp: 1.2 }).tot_ref_C,
      9,
    );
    expect(correctEngine({ ...hot, tot_exp: 1.2 }).tot_ref_C).toBeLessThan(
      correctEngine({ ...hot, tot_exp: 0.8 }).tot_ref_C,
    );
    const speed = (over: object, ng_exp: number): number =>
      assuranceMargin({ ...baseline, ng_exp }, { ...hot, ...over }).ng_ref_pct;
    expect(speed({}, 0.45)).toBeCloseTo(correctEngine({ ...hot, ng_exp: 0.45 }).ng_ref_pct, 9);
    expect(speed({ ng_exp: 0.55 }, 0.45)).toBeCloseTo(correctEngine({ ...hot, ng_exp: 0.55 }).ng_ref_pct, 9);
  });

  test('a cold engine has readings too', () => {
    expect(correctEngine({ ...point, tot_C: -60 }).tot_ref_C).toBeCloseTo(-60, 9);
    expect(correctEngine({ ...point, tot_C: 20 }).tot_ref_C).toBeCloseTo(20, 9);
    expect(attempt(() => correctEngine({ ...point, tot_C: -60.1 }))).toMatchObject({ field: 'tot_C' });
  });

  test('what the weaker engine has lost takes from both of its limits; what is not known counts as all of it', () => {
    const h9 = poweredOf(typeOf('H9'))!;
    const fresh = { tot_margin_C: 20, ng_margin_pct: 1 };
    const aircraft = { ...h9, engine: { ...h9.engine, assurance: { ...h9.engine.assurance!, fresh } } };
    const wear = (margin_C: number | null) => wornBy(aircraft, margin_C).engine.wear;
    expect(wear(null)).toEqual({ tot_C: 20, ng_pct: 1 });
    expect(wear(5)).toEqual({ tot_C: 15, ng_pct: 0.75 });
    expect(wear(20)).toEqual({ tot_C: 0, ng_pct: 0 });
    expect(wear(30)).toEqual({ tot_C: 0, ng_pct: 0 });
    expect(wornBy(aircraft, 5).mtow_kg).toBe(aircraft.mtow_kg);
    expect(wornBy(REF2, 5)).toBe(REF2);
    const at = { rating: 'OEI_30S', pa_ft: 4000, oat_C: 35 };
    const [fit, worn] = [powerAvailable(wornBy(aircraft, 20), at), powerAvailable(wornBy(aircraft, 5), at)];
    expect(worn.P_temp_kW).toBeLessThan(fit.P_temp_kW);
    expect(worn.P_ng_kW).toBeLessThan(fit.P_ng_kW);
    expect(worn.P_torque_kW).toBe(fit.P_torque_kW);
  });
});

describe('the board of one engine', () => {
  const input: BoardInput = { pa_ft: 2000, oat_C: 20, mass_kg: 3000, skid_height_ft: 30, headwind_kt: 0, hoist_kg: null, fuel_kgph: 240, obstacle_clear: true, landing_ok: true }; // oxfmt-ignore

  test('its lines are this hover low, here, high, and with somebody on the hoist', () => {
    const lines = (over: Partial<BoardInput>) => oneEngineBoard(REF2, { ...input, ...over }).lines;
    expect(lines({}).map((l) => [l.id, l.label, l.mass_kg])).toEqual([
      ['low', 'In ground effect, 5 ft', 3000],
      ['here', 'Here, 30 ft', 3000],
      ['high', 'Out of ground effect', 3000],
    ]);
    expect(lines({ hoist_kg: 95 })[3]).toMatchObject({
      id: 'hoist',
      label: 'A person of 95 kg on the hoist',
      mass_kg: 3095,
    });
  });

  test('each says what holds it, what that takes, what there is, and what has to go for the next', () => {
    const seen = new Set<string>();
    for (let mass_kg = 2400; mass_kg <= 4100; mass_kg += 50)
      for (const line of oneEngineBoard(REF2, { ...input, mass_kg, headwind_kt: 25 }).lines) {
        const skid_height_ft = { low: 5, here: 30, high: null, hoist: null }[line.id];
        const hover = { ...input, mass_kg, skid_height_ft };
        const { rating, P_required_kW } = oeiRequiredRating(REF2, hover, AFTER_FAILURE);
        seen.add(`${line.id} ${rating}`);
        expect(line.holds).toBe(rating);
        expect(line.needed_pct).toBeCloseTo(up((100 * P_required_kW) / REF2.engine.p100_kW), 9);
        for (const r of OEI_RATINGS)
          expect(line.given_pct[r]).toBeCloseTo(
            down(powerAvailable(REF2, { ...input, rating: r }).torque_limit_pct),
            9,
          );
        const order = [...OEI_RATINGS, 'NONE'];
        const next = order[order.indexOf(rating) - 1];
        expect(line.better?.rating).toBe(next);
        expect(order.indexOf(line.inWind)).toBeLessThanOrEqual(order.indexOf(rating));
        if (line.inWind !== rating) seen.add('helped by wind');
        const held = (kg: number) =>
          order.indexOf(oeiRequiredRating(REF2, { ...hover, mass_kg: kg }, AFTER_FAILURE).rating);
        const shed_kg = line.better?.shed_kg ?? 0;
        expect(held(mass_kg - shed_kg)).toBeLessThanOrEqual(order.indexOf(next ?? rating));
        expect(held(mass_kg - Math.max(0, shed_kg - 10))).toBe(shed_kg > 0 ? order.indexOf(rating) : held(mass_kg));
        expect(line.better?.burn_min).toBe(next && Math.ceil((60 * shed_kg) / 240 - 1e-9));
      }
    for (const rating of ['OEI_CONT', 'OEI_2MIN', 'OEI_30S', 'NONE']) expect(seen).toContain(`high ${rating}`);
    expect(seen).toContain('helped by wind');
  });

  test('without wind the wind changes nothing', () => {
    for (let mass_kg = 2400; mass_kg <= 4100; mass_kg += 50)
      for (const line of oneEngineBoard(REF2, { ...input, mass_kg }).lines) expect(line.inWind).toBe(line.holds);
  });

  test('after a failure a hover needs more than it took, most of all where the torque is the limit and the ground far', () => {
    expect(AFTER_FAILURE('TORQUE', true)).toBe(0.02);
    expect(AFTER_FAILURE('TORQUE', false)).toBe(0.05);
    expect(AFTER_FAILURE('TEMPERATURE', true)).toBe(0.01);
    expect(AFTER_FAILURE('NG', false)).toBe(0.03);
    const air = { pa_ft: 2000, oat_C: 20 };
    const near = oeiMasses(REF2, air, (_, inGround) => (inGround ? 0.05 : 0));
    const far = oeiMasses(REF2, air, (_, inGround) => (inGround ? 0 : 0.05));
    const none = oeiMasses(REF2, air);
    expect(near.OEI_30S.ige_kg).toBeLessThan(none.OEI_30S.ige_kg);
    expect(near.OEI_30S.oge_kg).toBe(none.OEI_30S.oge_kg);
    expect(far.OEI_30S.ige_kg).toBe(none.OEI_30S.ige_kg);
    expect(far.OEI_30S.oge_kg).toBeLessThan(none.OEI_30S.oge_kg);
    // an engine whose gas producer is at its limit first
    const fast = { ...REF2, engine: { ...REF2.engine, pref_ng_kW: 0.6 * REF2.engine.pref_ng_kW } };
    expect(oeiMasses(fast, air).OEI_CONT.limiter).toBe('NG');
    expect(oeiMasses(fast, air, (limiter) => (limiter === 'NG' ? 0.1 : 0)).OEI_CONT.oge_kg).toBeLessThan(
      oeiMasses(fast, air).OEI_CONT.oge_kg,
    );
  });

  test('where there is neither a place to land nor height, nothing is safe; the words say why', () => {
    const verdict = (over: object) =>
      oeiVerdict(REF2, { ...input, mass_kg: 4000, skid_height_ft: 40, landing_ok: false, ...over });
    expect(verdict({})).toMatchObject({
      verdict: 'NOT_ACCEPTABLE',
      after: 'NOTHING_SAFE',
      required_rating: 'NONE',
      reasons: ['CANNOT_HOLD_HOVER', expect.any(String), 'NO_LANDING_AREA', 'HEIGHT_BELOW_FLYAWAY_LOSS'],
    });
  });
});

test('what may be lifted says what holds it back', () => {
  const air = { pa_ft: 0, oat_C: 15, rating: 'TOP', skid_height_ft: null };
  const weak = { ...REF2, main: { ...REF2.main, ct_sigma_max: 0.06 } };
  const mass = maxHoverMass(weak, air);
  expect(mass).toMatchObject({ limited_by: 'BLADE_LOADING', mass_kg: mass.mass_blade_kg });
  expect(hoverPower(weak, { ...air, mass_kg: mass.mass_kg + 20 }).warnings).toEqual(['BLADE_LOADING']);
  expect(hoverPower(weak, { ...air, mass_kg: mass.mass_kg - 20 }).warnings).toEqual([]);
  // a rotor that turns faster carries more
  expect(maxHoverMass(weak, { ...air, nr_frac: 1.05 }).mass_kg / mass.mass_kg).toBeCloseTo(1.05 ** 2, 9);
  expect(hoverMargin(REF2, { ...air, mass_kg: 3000, nr_frac: 1.02 }).torque_available_pct).toBeCloseTo(
    (100 * powerAvailable(REF2, { ...air, nr_frac: 1.02 }).P_kW) / (REF2.engine.p100_kW * 1.02),
    9,
  );
  expect(powerAvailable(REF2, { ...air, nr_frac: 1.02 }).P_torque_kW).toBeCloseTo(
    1.02 * powerAvailable(REF2, air).P_torque_kW,
    9,
  );
});

test('a ceiling above or below everything is none', () => {
  const at = { rating: 'TOP', isa_dev_C: 0, skid_height_ft: null };
  const strong = { ...REF2, mtow_kg: 9000, main: { ...REF2.main, ct_sigma_max: 1 }, engine: { ...REF2.engine, p100_kW: 9000, pref_temp_kW: 9000, pref_ng_kW: 9000 } }; // oxfmt-ignore
  expect(hoverCeiling(strong, { ...at, mass_kg: 2500 })).toEqual({ ceiling_ft: null, status: 'ABOVE_RANGE' });
  expect(hoverCeiling(REF2, { ...at, mass_kg: 1.5 * REF2.mtow_kg })).toEqual({
    ceiling_ft: null,
    status: 'BELOW_RANGE',
  });
  const weak = { ...REF2, main: { ...REF2.main, ct_sigma_max: 0.09 } };
  const blades = hoverCeiling(weak, { ...at, mass_kg: 3000 });
  const held = hoverPower(weak, { pa_ft: blades.ceiling_ft!, oat_C: 15 - 0.0019812 * blades.ceiling_ft!, skid_height_ft: null, mass_kg: 3000 }); // oxfmt-ignore
  expect(held.ct_sigma).toBeCloseTo(0.09, 4);
});

describe('ground effect', () => {
  test('each model has its own figure, and none two radii up', () => {
    const cb = 1 - 1 / 16;
    const hayden = 1 / (0.9926 + 0.0379 * 4);
    expect(groundEffect(1, 'cb').k_induced).toBeCloseTo(cb, 12);
    expect(groundEffect(1, 'hayden').k_induced).toBeCloseTo(hayden, 12);
    expect(groundEffect(1, 'conservative').k_induced).toBeCloseTo(Math.max(cb, hayden), 12);
    expect(groundEffect(0.5, 'conservative').k_induced).toBeCloseTo(1 - 1 / 4, 12);
    expect(groundEffect(2, 'cb').k_induced).toBe(1);
  });

  test('nearer than half a radius nothing is known', () => {
    const at = (hub_above_skid_m: number) => attempt(() => hoverPower({ ...REF2, main: { ...REF2.main, hub_above_skid_m } }, { pa_ft: 0, oat_C: 15, mass_kg: 3000, skid_height_ft: 0 })); // oxfmt-ignore
    expect(at(0.5 * REF2.main.R_m)).toMatchObject({ z_over_R: 0.5 });
    expect(at(0.49 * REF2.main.R_m)).toEqual({ error: 'OUT_OF_DOMAIN', field: 'skid_height_ft' });
  });

  test('a figure of merit is of a hover without ground or wind', () => {
    const at = { pa_ft: 0, oat_C: 15, mass_kg: 3000, skid_height_ft: null };
    expect(hoverPower(REF2, at).fom).toBeGreaterThan(0.5);
    expect(hoverPower(REF2, { ...at, skid_height_ft: 5 }).fom).toBeNull();
    expect(hoverPower(REF2, { ...at, headwind_kt: 10 }).fom).toBeNull();
    expect(hoverPower(REF2, at).P_parasite_kW).toBe(0);
  });
});

describe('the hover check', () => {
  type Checked = Extract<ReturnType<typeof hoverCheck>, { status: 'OK' }>;
  const air = { pa_ft: 0, oat_C: 15, mass_kg: 3000 };
  const bands = { low: -5, ok: 3, caution: 6 };
  const check = (over: object): ReturnType<typeof hoverCheck> =>
    hoverCheck(REF2, { ...air, torque_pct: [60, 60], ...over });
  const predicted = (check({}) as { predicted_pct: number }).predicted_pct;
  /** so far off the prediction, %; halves are exact in binary */
  const off = (delta: number, over: object = {}) =>
    check({ torque_pct: [predicted + delta, predicted + delta], ...over }) as Checked;

  test.each([
    [-5.01, 'LOWER_THAN_EXPECTED', 'RECHECK_INPUTS'],
    [-4.99, 'AS_PREDICTED', 'OGE_OK'],
    [2.99, 'AS_PREDICTED', 'OGE_OK'],
    [3.01, 'HIGH', 'OGE_OK'],
    [5.99, 'HIGH', 'OGE_OK'],
    [6.01, 'STOP', 'NO_GO'],
  ])('%f %% off', (delta, band, departure) => {
    const found = off(delta, { bands });
    expect(found.band).toBe(band);
    expect(found.delta_pct).toBeCloseTo(delta, 9);
    expect(found.departure).toBe(departure);
    expect(off(delta).band).toBe(band);
  });

  test('what is left decides the departure', () => {
    const { margin_oge_pct, margin_ige_pct } = off(0);
    const least = (min_margin_pct: number): string => off(0, { min_margin_pct }).departure;
    expect(least(Math.floor(margin_oge_pct))).toBe('OGE_OK');
    expect(least(Math.ceil(margin_oge_pct))).toBe('OGE_MARGINAL');
    expect(margin_ige_pct).toBeGreaterThan(margin_oge_pct);
    // heavy: out of ground effect there is nothing left
    const at = { pa_ft: 5000, oat_C: 35, mass_kg: 3750 };
    const hover = hoverPower(REF2, { ...at, skid_height_ft: 5 }).torque_pct;
    const ige = (min_margin_pct: number): Checked => hoverCheck(REF2, { ...at, torque_pct: [hover, hover], min_margin_pct }) as Checked; // oxfmt-ignore
    expect(ige(0).margin_oge_pct).toBeLessThan(0);
    expect(ige(0).margin_ige_pct).toBeGreaterThan(0);
    expect(ige(Math.floor(ige(0).margin_ige_pct)).departure).toBe('IGE_ONLY');
    expect(ige(Math.ceil(ige(0).margin_ige_pct)).departure).toBe('NO_GO');
  });

  test('an offset that is learned is no mass', () => {
    const [plain, learned] = [off(0), off(2, { learned_offset_pct: 2 })];
    expect(learned.delta_pct).toBeCloseTo(0, 9);
    expect(learned.effective_mass_kg).toBeCloseTo(plain.effective_mass_kg, 6);
    expect(learned.oge_required_pct).toBeCloseTo(plain.oge_required_pct + 2, 6);
    expect(off(-2, { learned_offset_pct: -2 }).oge_required_pct).toBeCloseTo(plain.oge_required_pct, 6);
    expect(plain.effective_mass_kg).toBeCloseTo(3000, 6);
  });

  test('a split, a strong wind, and bands that cross are said', () => {
    expect(check({ headwind_kt: 15 }).status).toBe('OK');
    expect(check({ headwind_kt: 15.1 })).toEqual({ status: 'INVALID', reasons: ['HEADWIND_TOO_STRONG'] });
    expect(check({ torque_pct: [60, 65] })).toMatchObject({ notes: [] });
    expect(check({ torque_pct: [60, 65.1] })).toMatchObject({ notes: ['TORQUE_SPLIT'] });
    expect(attempt(() => check({ torque_pct: undefined }))).toEqual({ error: 'MISSING', field: 'torque_pct' });
    expect(attempt(() => check({ torque_pct: [60] }))).toEqual({ error: 'INCONSISTENT', field: 'torque_pct' });
    expect(check({ bands: { low: -5, ok: 6, caution: 6 } }).status).toBe('OK');
    expect(attempt(() => check({ bands: { low: -5, ok: 6, caution: 5.9 } }))).toEqual({ error: 'INCONSISTENT', field: 'bands.caution' }); // oxfmt-ignore
  });

  test('what a hover shows at another rotor speed is the mass that it was', () => {
    for (const nr_frac of [0.98, 1, 1.02]) {
      const at = { ...air, nr_frac };
      const shown = hoverPower(REF2, { ...at, skid_height_ft: 5, ge_model: REF2.ge_model ?? 'hayden' }).torque_pct;
      const found = hoverCheck(REF2, { ...at, torque_pct: [shown, shown] }) as Checked;
      expect(found.effective_mass_kg).toBeCloseTo(3000, 6);
      expect(found.delta_pct).toBeCloseTo(0, 9);
    }
  });
});

describe('a piston', () => {
  const { performance, loading } = typeOf('T2');
  const piston = {
    ...performance.hover!,
    mtow_kg: loading.mtow_kg,
    empty_kg: loading.empty_kg,
    piston: { ...performance.piston!, full_throttle: [[-1000, 30], [2000, 27], [8000, 22.5]] as [number, number][] }, // oxfmt-ignore
    charts: { TOP: performance.chart.TOP, MCP: performance.chart.MCP },
  };

  test.each([
    [-1000, 30],
    [0, 29],
    [2000, 27],
    [4000, 25.5],
    [8000, 22.5],
  ])('at %i ft the open throttle gives %f inHg', (pa_ft, inHg) => {
    expect(fullThrottle_inHg(piston.piston, pa_ft)).toBeCloseTo(inHg, 9);
  });

  test.each([-1001, 8001])('at %i ft nothing is known', (pa_ft) => {
    expect(attempt(() => fullThrottle_inHg(piston.piston, pa_ft))).toEqual({ error: 'OUT_OF_CHART', field: 'pa_ft' });
  });

  test('the lower of chart and throttle is the limit, and what is missing is no hover', () => {
    const hover = (full: number, mass_kg = 560) =>
      pistonHover(
        { ...piston, piston: { ...piston.piston, full_throttle: [[-1000, full], [8000, full]] } },
        { pa_ft: 500, oat_C: 15, skid_height_ft: 5, mass_kg },
      ); // oxfmt-ignore
    const wide = hover(40);
    expect(wide).toMatchObject({ limiter: 'CHART', can_hover: true });
    const chart_inHg = wide.available_inHg;
    expect(hover(chart_inHg)).toMatchObject({ limiter: 'CHART', available_inHg: chart_inHg });
    expect(hover(chart_inHg - 1)).toMatchObject({ limiter: 'FULL_THROTTLE', available_inHg: chart_inHg - 1 });
    expect(hover(wide.required_inHg)).toMatchObject({ can_hover: true, margin_inHg: 0 });
    expect(hover(wide.required_inHg - 0.1)).toMatchObject({ can_hover: false });
    // the two charts are the two powers
    const { TOP_kW, MCP_kW } = piston.piston;
    const slope = (hover(40, 580).required_inHg - hover(40, 540).required_inHg) / (power(580) - power(540));
    expect(slope).toBeCloseTo((chart_inHg - continuous()) / (TOP_kW - MCP_kW), 6);
    function power(mass_kg: number): number {
      return hoverPower(
        { ...REF1, ...piston, engine: REF1.engine } as never,
        { pa_ft: 500, oat_C: 15, skid_height_ft: 5, mass_kg, ge_model: 'conservative' },
      ).P_shaft_kW; // oxfmt-ignore
    }
    function continuous(): number {
      // what MCP takes on the line through the two: the hover whose power is MCP
      return wide.required_inHg - ((power(560) - MCP_kW) * (chart_inHg - wide.required_inHg)) / (TOP_kW - power(560));
    }
  });
});
