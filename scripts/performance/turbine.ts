// Charts, hover model and referred power of a turbine type, from its own simulated plant.
import { airRatios } from '../../core/src/atmosphere/index.ts';
import { hoverPower } from '../../core/src/power/index.ts';
import type { EnginePower, HoverModel, PoweredAircraft } from '../../core/src/power/model.ts';
import { engineAt, hoverPower_kW, type Plant, type Rating } from './plant.ts';
import { fit } from './fit.ts';

const PA_FT = [0, 2000, 4000, 6000, 8000, 10_000, 12_000, 14_000];
const OAT_C = [-30, -20, -10, 0, 10, 20, 30, 40, 45];
/** The charts end this far above the standard temperature. */
const HOTTEST_ABOVE_ISA = 37;
const STEP = 0.1;
/** A torque this close to its limit is the limit: the steady state is found by bisection. */
const SAME_TORQUE = 0.15;
const HIGH_M = 200;

export interface Shape {
  nb: number;
  tail: { R_m: number; nb: number; chord_m: number; vtip_mps: number; arm_m: number; blockage: number };
  flatplate_m2: number;
  vy_kt: number;
  vtoss_kt: number;
  mtow_kg: number;
  empty_kg: number;
}

const floorTo = (v: number): number => Number((Math.floor(v / STEP + 1e-9) * STEP).toFixed(1));
const short = (v: number, digits = 5): number => Number(v.toPrecision(digits));

function chartOf(plant: Plant, rating: Rating): object {
  const values = PA_FT.map((pa_ft) =>
    OAT_C.map((oat_C) => {
      const isa = 15 - 0.0019812 * pa_ft;
      if (oat_C > isa + HOTTEST_ABOVE_ISA) return null;
      const { torque_pct } = engineAt(plant, pa_ft, oat_C, rating);
      return torque_pct > rating.tq_pct - SAME_TORQUE ? rating.tq_pct : floorTo(torque_pct);
    }),
  );
  return { pa_ft: PA_FT, oat_C: OAT_C, values, display_step: STEP };
}

/** Referred power against a limited temperature or speed, made a little pessimistic: it never promises more. */
function referred(
  plant: Plant,
  p100_kW: number,
  key: 'tot_c' | 'ng_pct',
  levels: readonly number[],
): { pref: number; ref: number; c: [number, number]; domain: [number, number]; worst_pct: number } {
  const points: { x: number; scaled: number }[] = [];
  const ref = key === 'tot_c' ? levels[Math.floor(levels.length / 2)]! + 273.15 : 100;
  for (const level of levels)
    for (const [pa_ft, oat_C] of [
      [0, -30],
      [0, 0],
      [0, 15],
      [0, 40],
      [4000, -20],
      [4000, 30],
      [8000, 0],
      [12_000, -20],
      [12_000, 10],
    ] as const) {
      const air = airRatios({ pa_ft, oat_C });
      const { torque_pct } = engineAt(plant, pa_ft, oat_C, { [key]: level });
      const x = key === 'tot_c' ? (level + 273.15) / air.theta / ref : level / Math.sqrt(air.theta) / ref;
      points.push({ x, scaled: ((torque_pct / 100) * p100_kW) / (air.delta * Math.sqrt(air.theta)) });
    }
  const model = (p: readonly number[], x: number): number => p[0]! * (1 + p[1]! * (x - 1) + p[2]! * (x - 1) ** 2);
  const p = fit([p100_kW * 1.3, 2.5, -2], (q) => points.map((pt) => model(q, pt.x) / pt.scaled - 1));
  const errors = points.map((pt) => model(p, pt.x) / pt.scaled - 1);
  const optimistic = Math.max(0, ...errors);
  const pref = p[0]! * (1 - optimistic / 2);
  const xs = points.map((pt) => pt.x);
  return {
    pref: short(pref),
    ref: short(ref, 6),
    c: [short(p[1]!), short(p[2]!)],
    domain: [short(Math.min(...xs) - 0.02, 4), short(Math.max(...xs), 4)],
    worst_pct: 100 * Math.max(...errors.map(Math.abs)),
  };
}

const RATING_NAMES = {
  take_off: 'TOP',
  continuous: 'MCP',
  oei_30s: 'OEI_30S',
  oei_2min: 'OEI_2MIN',
  oei_cont: 'OEI_CONT',
} as const;

function enginePower(plant: Plant, say: (line: string) => void): EnginePower {
  const p100_kW = plant.engine.tq_ref_w / 1000;
  const ratings: EnginePower['ratings'] = {};
  for (const [name, id] of Object.entries(RATING_NAMES)) {
    const r = plant.rating[name];
    if (!r) continue;
    const kind = id.startsWith('OEI') ? ('OEI' as const) : ('AEO' as const);
    ratings[id] = { torque_pct: r.tq_pct, tot_C: r.tot_c, ng_pct: r.ng_pct, kind };
  }
  const used = Object.values(ratings);
  const tots = used.map((r) => r.tot_C);
  const ngs = used.map((r) => r.ng_pct);
  const spread = (values: number[]): number[] => {
    const [low, high] = [Math.min(...values), Math.max(...values)];
    return [low - 0.03 * low, (low + high) / 2, high];
  };
  const hot = referred(plant, p100_kW, 'tot_c', spread(tots));
  const fast = referred(plant, p100_kW, 'ng_pct', spread(ngs));
  say(
    `  referred power: temperature within ${hot.worst_pct.toFixed(1)} %, speed within ${fast.worst_pct.toFixed(1)} %`,
  );
  const limit = { tot_c: plant.rating['take_off']!.tot_c };
  const clean = engineAt(plant, 6000, 20, limit).torque_pct;
  const loss = (bleed: number): number =>
    Number((1 - engineAt(plant, 6000, 20, limit, bleed).torque_pct / clean).toFixed(3));
  const { bleed_heat, bleed_anti_ice } = plant.engine;
  return {
    p100_kW,
    pref_temp_kW: hot.pref,
    tref_K: hot.ref,
    ft: hot.c,
    ft_domain: hot.domain,
    pref_ng_kW: fast.pref,
    ngref_pct: fast.ref,
    fn: fast.c,
    fn_domain: fast.domain,
    install_loss: 0,
    inlet_rise_K: 0,
    inlet_ploss: 0,
    bleed_loss: {
      none: 0,
      heater: loss(bleed_heat),
      antiice: loss(bleed_anti_ice),
      both: loss(bleed_heat + bleed_anti_ice),
    },
    ratings,
  };
}

function hoverModel(plant: Plant, shape: Shape, engine: EnginePower, say: (line: string) => void): HoverModel {
  const { rotor } = plant;
  const model = (p: readonly number[]): PoweredAircraft => ({
    main: {
      R_m: rotor.radius_m,
      nb: shape.nb,
      chord_m: short((rotor.solidity * Math.PI * rotor.radius_m) / shape.nb),
      vtip_mps: rotor.tip_speed_m_s,
      cd0: p[1]!,
      kappa: p[0]!,
      ct_sigma_max: 0.125,
      hub_above_skid_m: rotor.hub_height_m,
    },
    tail: { ...shape.tail, cd0: 0.012, kappa: p[2]! },
    download: rotor.download_frac,
    eta: 0.98,
    accessory_kW: p[3]!,
    flatplate_m2: shape.flatplate_m2,
    vy_kt: shape.vy_kt,
    vtoss_kt: shape.vtoss_kt,
    engines: plant.n_engines,
    mtow_kg: shape.mtow_kg,
    empty_kg: shape.empty_kg,
    engine,
  });
  const points = (masses: number[], airs: [number, number][]): { m: number; pa: number; oat: number; kW: number }[] =>
    masses.flatMap((f) =>
      airs.map(([pa, oat]) => {
        const m = f * shape.mtow_kg;
        return { m, pa, oat, kW: hoverPower_kW(plant, m, pa, oat, HIGH_M) };
      }),
    );
  const used = points(
    [0.65, 0.78, 0.9, 1],
    [
      [0, -15],
      [0, 15],
      [2000, 30],
      [6000, 10],
      [9000, 0],
    ],
  );
  const off = (aircraft: PoweredAircraft, pt: (typeof used)[number]): number =>
    hoverPower(aircraft, { mass_kg: pt.m, pa_ft: pt.pa, oat_C: pt.oat }).P_shaft_kW / pt.kW - 1;
  // accessories are drawn toward what the plant drives
  const driven = (rotor.acc_w + rotor.mgb_windage_w + rotor.mgb_coul_w) / 1000;
  const p = fit([1.15, 0.011, 1.25, driven], (q) => {
    const aircraft = model(q);
    return [...used.map((pt) => off(aircraft, pt)), 0.02 * (q[2]! - 1.25), 0.01 * (q[3]! / driven - 1)];
  });
  const fitted = model(p.map((v) => short(v)));
  const fresh = points(
    [0.7, 0.85, 0.97],
    [
      [1000, 5],
      [3000, 25],
      [7500, 5],
    ],
  );
  const worst = Math.max(...fresh.map((pt) => Math.abs(off(fitted, pt))));
  say(`  hover: within ${(100 * worst).toFixed(2)} % of the power on ${fresh.length} points not used in the fit`);
  const { main, tail, download, eta, accessory_kW, flatplate_m2, vy_kt, vtoss_kt } = fitted;
  return { main, tail, download, eta, accessory_kW, flatplate_m2, vy_kt, vtoss_kt };
}

export function turbinePerformance(plant: Plant, shape: Shape, say: (line: string) => void): object {
  const engine = enginePower(plant, say);
  return {
    chart: {
      quantity: 'Torque',
      unit: '%',
      edition: 1,
      TOP: chartOf(plant, plant.rating['take_off']!),
      MCP: chartOf(plant, plant.rating['continuous']!),
    },
    hover: hoverModel(plant, shape, engine, say),
    engine,
  };
}
