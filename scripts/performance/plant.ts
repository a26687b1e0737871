// Steady states of the simulated plant: what an engine gives at a limit, what a hover takes.
import type { RotorParameters, TurbineParameters } from '../../core/src/aircraft/index.ts';
import { Engine } from '../../core/src/simulator/engine.ts';
import { type Environment, environmentOf } from '../../core/src/simulator/environment.ts';
import { Rotor } from '../../core/src/simulator/rotor.ts';

export interface Rating {
  tq_pct: number;
  tot_c: number;
  ng_pct: number;
}

export interface Plant {
  n_engines: number;
  engine: TurbineParameters;
  aircraft: { mass_ref_kg: number; exhaust_wind_coeff: number; recirc_max: number };
  rotor: RotorParameters;
  rating: Record<string, Rating>;
}

const OIL_K = 358.15;
const FT_M = 0.3048;
/** Share of the generator's rated current in an ordinary hover. */
const GENERATOR_LOAD = 0.4;

export function airAt(pa_ft: number, oat_C: number): Environment {
  const air = { T_oat: 0, p_a: 0, rho: 0, wind_m_s: 0, tail_m_s: 0, p_in: 0, p_ex: 0 };
  environmentOf({ oat_c: oat_C, pa_m: pa_ft * FT_M, headwind_kt: 0, recirc: 0 }, 0, air);
  return air;
}

export interface EngineState {
  torque_pct: number;
  tot_C: number;
  ng_pct: number;
}

/** An engine held at a gas-generator speed until its metal is as hot as it gets. */
function settle(plant: Plant, air: Environment, n: number, bleed_frac: number): EngineState {
  const p = plant.engine;
  const engine = new Engine(p, air.T_oat, air.T_oat, OIL_K);
  const gen_a = GENERATOR_LOAD * p.gen_i_rated_a;
  const around = { boost: 1, bleed_frac, recirc_max: 0, recirc: 0, nr: 1 };
  const hold = (wf: number): void => {
    engine.n = n;
    engine.np = 1;
    engine.wf = wf;
    engine.m_man = p.manifold_kg;
    engine.m_pool = 0;
    engine.b = 1;
    engine.lit = true;
    engine.fuelValve = true;
    engine.wf_cmd = wf;
    engine.Toil = OIL_K;
  };
  engine.Tm = 1050;
  let [low, high] = [0, p.fuel_pump_cap_kg_s];
  for (let pass = 0; pass < 60; pass++) {
    // the metal settles while the fuel is sought: both at once
    const wf = (low + high) / 2;
    hold(wf);
    engine.evaluate(air, around, p.gen_v_set_v, 0, gen_a);
    const q_g = (p.gen_v_set_v * gen_a) / p.gen_eff / n;
    if (engine.q_self - q_g > 0) high = wf;
    else low = wf;
    if (pass % 20 === 19 && pass < 59) {
      for (let i = 0; i < 80; i++) {
        hold(wf);
        engine.evaluate(air, around, p.gen_v_set_v, 0, gen_a);
        engine.integrate(0.5);
      }
      [low, high] = [wf * 0.9, Math.min(p.fuel_pump_cap_kg_s, wf * 1.1)];
    }
  }
  const wf = (low + high) / 2;
  for (let i = 0; i < 80; i++) {
    hold(wf);
    engine.evaluate(air, around, p.gen_v_set_v, 0, gen_a);
    engine.integrate(0.5);
  }
  hold(wf);
  engine.evaluate(air, around, p.gen_v_set_v, 0, gen_a);
  const q_sh = engine.q_p * plant.rotor.gb_eff - p.pt_drag_w;
  return { torque_pct: (100 * q_sh) / p.tq_ref_w, tot_C: engine.Ttc - 273.15, ng_pct: 100 * n };
}

/** The most an engine gives inside some limits, rotor at 100 %. A limit that is left out does not hold. */
export function engineAt(
  plant: Plant,
  pa_ft: number,
  oat_C: number,
  limits: Partial<Rating>,
  bleed_frac = 0,
): EngineState {
  const air = airAt(pa_ft, oat_C);
  let [low, high] = [0.7, 1.12];
  let best = settle(plant, air, low, bleed_frac);
  for (let i = 0; i < 26; i++) {
    const n = (low + high) / 2;
    const state = settle(plant, air, n, bleed_frac);
    const over =
      state.torque_pct > (limits.tq_pct ?? Infinity) ||
      state.tot_C > (limits.tot_c ?? Infinity) ||
      state.ng_pct > (limits.ng_pct ?? Infinity);
    if (over) high = n;
    else [low, best] = [n, state];
  }
  return best;
}

/** Shaft power of a steady hover, all engines together, kW. */
export function hoverPower_kW(plant: Plant, mass_kg: number, pa_ft: number, oat_C: number, height_m: number): number {
  const air = airAt(pa_ft, oat_C);
  const rotor = new Rotor(plant.rotor, mass_kg, height_m, 0.5, 353.15);
  let [low, high] = [0, 1];
  rotor.vi = 10;
  for (let i = 0; i < 40; i++) {
    const c = (low + high) / 2;
    for (let k = 0; k < 60; k++) {
      Object.assign(rotor, { nr: 1, c, h_m: height_m, vz: 0 });
      rotor.evaluate(air, [], c, 0, 0, 0, 0, 0);
      if (k < 59) rotor.integrate(0.05, []);
    }
    if (rotor.Fz > 0) high = c;
    else low = c;
  }
  return (-rotor.d_nr * 2 * plant.rotor.ke_ref_j) / 1000;
}
