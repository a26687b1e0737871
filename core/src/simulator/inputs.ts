import type { SimulatorParameters } from '../aircraft/index.ts';

export type EngineSelector = 'OFF' | 'IDLE' | 'FLY';

/** What the pilot's hands can move on one engine. */
export interface EngineControls {
  mode: EngineSelector;
  start: number;
  starter_sw: number;
  /** igniters alone, manual control */
  ign_sw: number;
  /** twist-grip of a manual control, 0…1 */
  grip: number;
  gen: number;
  /** the fuel valve in front of the control; closed, the engine starves */
  fuel_valve: number;
  /** 2 stops motoring during the automatic vent */
  abort: number;
  /** hands on the grip of a manual control; null leaves it to the caller */
  pilot: ManualPilotPlan | null;
}

/** How a test pilot works a twist-grip through a start (docs/physics.md 19.1). */
export interface ManualPilotPlan {
  fuel_ng: number;
  grip0: number;
  delay_s: number;
  fixed?: number | undefined;
  sched_ng?: number[] | undefined;
  sched_grip?: number[] | undefined;
  target_c?: number | undefined;
  gain?: number | undefined;
  lead_s?: number | undefined;
  open_rate?: number | undefined;
  close_rate?: number | undefined;
}

/** The cockpit of the simulated aircraft (docs/physics.md 3). */
export interface Controls {
  battery: number;
  ext: number;
  boost: number;
  loads: Record<string, number>;
  engines: EngineControls[];
  /** the auxiliary unit, on aircraft that have one */
  apu: EngineControls | null;
  /** air of the auxiliary unit to the starters */
  apu_bleed: number;
  rotor_brake: number;
  coll: number;
  anti_ice: number;
  bleed_heat: number;
  hyd_test: number;
  /** who holds the collective: the caller, or a test pilot that keeps h_ref (and nr_min, a fraction) */
  coll_mode: 'manual' | 'hold' | 'hover' | 'hover_nr';
  h_ref: number;
  nr_min: number;
  /** these five act on aircraft with two engines or an inertial platform only; every cockpit of the language has them */
  bus_tie: number;
  flight: number;
  training: number;
  ins: number;
  rating: string;
}

export interface EngineFaults {
  igniter_fail: number;
  fuel_bias: number;
  wf_stuck_kg_s: number;
  fuel_cut: number;
  comp_eff: number;
  comp_flow: number;
  turb_eff: number;
  bleed_stuck: number;
  oil_pump_fail: number;
  tc_gain: number;
  tc_open: number;
  ng_pickup_a: number;
  ng_pickup_b: number;
  fadec_ch_a: number;
  fadec_ch_b: number;
  gen_fail: number;
  starter_drop: number;
  starter_r_mult: number;
  gg_drag_w: number;
  overboard_drain_block: number;
}

export interface AircraftFaults {
  hyd1_fail: number;
  hyd2_fail: number;
  mgb_pump_fail: number;
  bat_r_mult: number;
}

function coldLever(): EngineControls {
  return { mode: 'OFF', start: 0, starter_sw: 0, ign_sw: 0, grip: 0, gen: 0, fuel_valve: 1, abort: 0, pilot: null };
}

export function coldControls(parameters: SimulatorParameters): Controls {
  const loads: Record<string, number> = {};
  for (const name of Object.keys(parameters.electrical.loads_a)) loads[name] = 0;
  return {
    battery: 0,
    ext: 0,
    boost: 0,
    loads,
    engines: Array.from({ length: parameters.n_engines }, coldLever),
    apu: parameters.apu ? coldLever() : null,
    apu_bleed: 0,
    rotor_brake: 0,
    coll: 0,
    anti_ice: 0,
    bleed_heat: 0,
    hyd_test: 0,
    bus_tie: 1,
    coll_mode: 'manual',
    h_ref: 0,
    nr_min: 0.97,
    flight: 0,
    training: 0,
    ins: 0,
    rating: 'AUTO',
  };
}

export function noEngineFaults(): EngineFaults {
  return {
    igniter_fail: 0,
    fuel_bias: 1,
    wf_stuck_kg_s: -1,
    fuel_cut: 0,
    comp_eff: 1,
    comp_flow: 1,
    turb_eff: 1,
    bleed_stuck: 0,
    oil_pump_fail: 0,
    tc_gain: 1,
    tc_open: 0,
    ng_pickup_a: 0,
    ng_pickup_b: 0,
    fadec_ch_a: 0,
    fadec_ch_b: 0,
    gen_fail: 0,
    starter_drop: 0,
    starter_r_mult: 1,
    gg_drag_w: 0,
    overboard_drain_block: 0,
  };
}

export function noAircraftFaults(): AircraftFaults {
  return { hyd1_fail: 0, hyd2_fail: 0, mgb_pump_fail: 0, bat_r_mult: 1 };
}
