import type { SimulatorParameters } from '../aircraft/index.ts';
import type { Engine } from './engine.ts';
import { KELVIN } from './physics.ts';
import type { NormalSource } from './random.ts';

/** What the sensors of one engine read at the last tick. */
export interface EngineSensors {
  ngA_pct: number;
  ngB_pct: number;
  tot_C: number;
  totValid: boolean;
  np_pct: number;
  tq_pct: number;
  oil_bar: number;
  oil_C: number;
  gen_a: number;
  starter_a: number;
}

export function coldSensors(oat_C: number): EngineSensors {
  return {
    ngA_pct: 0,
    ngB_pct: 0,
    tot_C: oat_C,
    totValid: true,
    np_pct: 0,
    tq_pct: 0,
    oil_bar: 0,
    oil_C: oat_C,
    gen_a: 0,
    starter_a: 0,
  };
}

/** Writes to `s` what the sensors of one engine read now: noise, dead pickups, an open thermocouple (docs/physics.md 14). */
export function sampleEngine(
  e: Engine,
  sensing: SimulatorParameters['sensors'],
  oat_C: number,
  noise: NormalSource | null,
  s: EngineSensors,
): void {
  const f = e.faults;
  const ng = 100 * e.n + (noise ? sensing.ng_noise_pct * noise.normal() : 0);
  const read = ng < 1.5 ? 0 : ng;
  s.ngA_pct = f.ng_pickup_a ? 0 : read;
  s.ngB_pct = f.ng_pickup_b ? 0 : read;
  const deviation = noise ? sensing.tot_noise_c * noise.normal() : 0;
  s.totValid = !f.tc_open;
  s.tot_C = f.tc_open ? sensing.tc_open_reads_c : oat_C + f.tc_gain * (e.Ttc - KELVIN + deviation - oat_C);
  s.np_pct = e.np < 0.015 ? 0 : 100 * e.np;
  s.tq_pct = (100 * e.q_sh) / e.p.tq_ref_w;
  s.oil_bar = e.poil;
  s.oil_C = e.Toil - KELVIN;
  s.gen_a = e.gen_a;
  s.starter_a = e.starter_a;
}
