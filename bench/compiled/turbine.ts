import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { SimulatorParameters } from '@rouse/core/aircraft';
import { ElectricalNetwork } from '../../core/src/simulator/electrical.ts';
import { Engine } from '../../core/src/simulator/engine.ts';
import { environmentOf } from '../../core/src/simulator/environment.ts';
import { coldControls } from '../../core/src/simulator/inputs.ts';
import { Rotor } from '../../core/src/simulator/rotor.ts';
import { best, type Line } from '../measure.ts';
import { turbineAsC } from './turbine-translate.ts';

const SIMULATED_S = 600;
const H_S = 0.005;
const AGREES_WITHIN = 1e-6;
const STARTER_OFF_n = 0.55;
const FUEL_FROM_n = 0.11;
const SELF_SUSTAINING_n = 0.5;
/** the compiler at run time needs some flights before its code is the one that stays */
const RUNS = 15;

/**
 * Bus, engine and rotor of a single-engine turbine at 200 Hz, worked by the same plain hand in both: starter until 55 %,
 * fuel by a line over speed. The control is left out: it runs once in four steps, and is no equation of the plant.
 * @returns null, with a word, where there is no compiler
 */
export function compiledTurbine(id: string, p: SimulatorParameters): Line | null {
  if (spawnSync('cc', ['--version']).status !== 0) return null;
  const dir = mkdtempSync(path.join(tmpdir(), 'rouse-c-'));
  writeFileSync(path.join(dir, 'plant.c'), program(p));
  execFileSync('cc', ['-O2', '-o', path.join(dir, 'plant'), path.join(dir, 'plant.c'), '-lm']);
  const runs = Array.from({ length: RUNS }, () => {
    const [seconds, n, nr, T45] = execFileSync(path.join(dir, 'plant'), { encoding: 'utf8' }).split(' ').map(Number);
    return { seconds: seconds!, n: n!, nr: nr!, T45: T45! };
  });
  rmSync(dir, { recursive: true });
  const compiled_s = Math.min(...runs.map((r) => r.seconds));
  let ours = fly(p);
  const ours_s = best(RUNS, () => (ours = fly(p)));
  const { n, nr, T45 } = runs[0]!;
  if (Math.abs(n - ours.n) > AGREES_WITHIN || Math.abs(nr - ours.nr) > AGREES_WITHIN || n < SELF_SUSTAINING_n)
    throw new Error(`not the same equations, or no start: ${n} against ${ours.n}, ${nr} against ${ours.nr}`);
  return {
    name: `simulator: plant of ${id} against the same equations compiled from C`,
    value: ours_s / compiled_s,
    unit: 'times its time',
    wanted: 'at most',
    target: 2.5,
    remark: `${(SIMULATED_S / compiled_s).toFixed(0)} times real time compiled; both end at ${(100 * n).toFixed(3)} % Ng, ${(100 * nr).toFixed(3)} % Nr, ${(T45 - 273.15).toFixed(1)} °C`,
  };
}

/** Fuel by speed: what the hand gives, kg/s. */
const FUEL = { base: 0.3, slope: 0.2 };

function parts(p: SimulatorParameters) {
  const air = { T_oat: 0, p_a: 0, rho: 0, wind_m_s: 0, tail_m_s: 0, p_in: 0, p_ex: 0 };
  environmentOf({ oat_c: 15, pa_m: 0, headwind_kt: 0, recirc: 1 }, p.aircraft.exhaust_wind_coeff, air);
  const engine = new Engine(p.engine, air.T_oat, air.T_oat, air.T_oat);
  const rotor = new Rotor(p.rotor, p.aircraft.mass_ref_kg, 0, 0, air.T_oat);
  const bus = new ElectricalNetwork(p.electrical, 1, 1);
  bus.battery_K = air.T_oat;
  bus.refreshBattery();
  const around = { boost: 1, bleed_frac: 0, bleed_kg_s: 0, recirc: 1, nr: 0, recirc_max: p.aircraft.recirc_max };
  const controls = { ...coldControls(p), battery: 1, boost: 1 };
  bus.setLoads(controls, 1);
  return { air, engine, rotor, bus, around, controls };
}

function fly(p: SimulatorParameters): { n: number; nr: number } {
  const { air, engine, rotor, bus, around, controls } = parts(p);
  const e = engine.p;
  const engines = [engine];
  let cranking = true;
  for (let k = 0; k < SIMULATED_S / H_S; k++) {
    if (k % 4 === 0) {
      if (engine.n > STARTER_OFF_n) cranking = false;
      engine.starter = engine.spark = cranking;
      engine.fuelValve = engine.n > FUEL_FROM_n || !cranking;
      engine.wf_cmd = e.wf_ref_kg_s * (FUEL.base * engine.n + FUEL.slope * engine.n * engine.n);
      engine.refreshViscosity();
      rotor.refreshViscosity();
      bus.refreshBattery();
    }
    const w = engine.n * e.starter_w_ref_rad_s;
    const s = bus.starters[0]!;
    s.on = engine.starter;
    s.source_v = e.starter_ksh * w;
    s.resistance_ohm = e.starter_r_ohm * (1 + 0.0039 * engine.dTst) + e.starter_lead_r_ohm + e.starter_kse * w;
    bus.solve(controls, 1, air.T_oat);
    around.nr = rotor.nr;
    engine.evaluate(air, around, bus.volts, s.current_a, 0, 0);
    rotor.evaluate(air, engines, 0, 0, 0, 0, 0, 0);
    bus.integrate(H_S);
    engine.integrate(H_S);
    rotor.integrate(H_S, engines);
  }
  return { n: engine.n, nr: rotor.nr };
}

/** The whole program: shapes and values as they stand after building, the equations, and the same flight. */
function program(p: SimulatorParameters): string {
  const { air, engine, rotor, bus, around, controls } = parts(p);
  const numbers = (of: object): [string, number][] =>
    Object.entries(of).flatMap(([k, v]) =>
      typeof v === 'number' || typeof v === 'boolean' ? [[k, Number(v)] as [string, number]] : [],
    );
  const shape = (name: string, of: object, more = ''): string =>
    `typedef struct { ${numbers(of).map(([k]) => `double ${k};`).join(' ')} ${more} } ${name};`; // oxfmt-ignore
  const value = (v: number): string => (v === Infinity ? 'INFINITY' : String(v));
  const set = (to: string, of: object): string => numbers(of).map(([k, v]) => `${to}${k} = ${value(v)};`).join(' '); // oxfmt-ignore
  const branch = bus.starters[0]!;
  return `#include <math.h>
#include <stdio.h>
#include <time.h>
${shape('Air', air)}
${shape('Around', around)}
${shape('Cockpit', controls)}
${shape('Branch', branch)}
${shape('BusP', p.electrical)}
${shape('EngineP', engine.p)}
${shape('EngineF', engine.faults)}
${shape('RotorP', p.rotor)}
${shape('Bus', bus, 'BusP *p; Branch starters[1], generators[1];')}
${shape('Engine', engine, 'EngineP *p; EngineF faults;')}
${shape('Rotor', rotor, 'RotorP *p;')}
${turbineAsC()}
int main(void) {
  static Air air; static Around around; static Cockpit c; static BusP bp; static EngineP ep; static RotorP rp;
  static Bus bus; static Engine e; static Rotor r;
  ${set('air.', air)} ${set('around.', around)} ${set('c.', controls)} ${set('bp.', p.electrical)} ${set('ep.', engine.p)}
  ${set('rp.', p.rotor)} ${set('bus.', bus)} ${set('e.', engine)} ${set('e.faults.', engine.faults)} ${set('r.', rotor)}
  ${set('bus.starters[0].', branch)} ${set('bus.generators[0].', branch)}
  bus.p = &bp; e.p = &ep; r.p = &rp;
  int cranking = 1;
  struct timespec a, b;
  clock_gettime(CLOCK_MONOTONIC, &a);
  for (long k = 0; k < ${SIMULATED_S / H_S}; k++) {
    if (k % 4 == 0) {
      if (e.n > ${STARTER_OFF_n}) cranking = 0;
      e.starter = e.spark = cranking;
      e.fuelValve = e.n > ${FUEL_FROM_n} || !cranking;
      e.wf_cmd = ep.wf_ref_kg_s * (${FUEL.base} * e.n + ${FUEL.slope} * e.n * e.n);
      Engine_refreshViscosity(&e); Rotor_refreshViscosity(&r); Bus_refreshBattery(&bus);
    }
    double w = e.n * ep.starter_w_ref_rad_s;
    Branch *s = &bus.starters[0];
    s->on = e.starter;
    s->source_v = ep.starter_ksh * w;
    s->resistance_ohm = ep.starter_r_ohm * (1 + 0.0039 * e.dTst) + ep.starter_lead_r_ohm + ep.starter_kse * w;
    Bus_solve(&bus, &c, 1, air.T_oat);
    around.nr = r.nr;
    Engine_evaluate(&e, &air, &around, bus.volts, s->current_a, 0, 0);
    Rotor_evaluate(&r, &air, &e, 0, 0, 0, 0, 0, 0);
    Bus_integrate(&bus, ${H_S}); Engine_integrate(&e, ${H_S}); Rotor_integrate(&r, ${H_S}, &e);
  }
  clock_gettime(CLOCK_MONOTONIC, &b);
  printf("%.9f %.12f %.12f %.6f\\n", (double)(b.tv_sec - a.tv_sec) + 1e-9 * (double)(b.tv_nsec - a.tv_nsec), e.n, r.nr, e.T45);
  return 0;
}
`;
}
