import { KELVIN } from './physics.ts';
import type { Simulator } from './simulator.ts';
import type { Controls, EngineSelector, ManualPilotPlan } from './inputs.ts';

/** flame out of the engine that its detector sees */
const FIRE_SEEN_G_S = 1.5;

export type SignalValue = number | string;
/** A control's position; a plan puts a test pilot's hand on it, null takes it off. */
export type InputValue = SignalValue | ManualPilotPlan | null;

/** Sets one named input of the scenario language: a control, a load, a fault, the air or the mass. @throws RangeError for an unknown name */
export function setInput(simulator: Simulator, controls: Controls, key: string, value: InputValue): void {
  const path = key.split('.');
  const number = Number(value);
  if (path[0] === 'load' && path[1] !== undefined && path[1] in controls.loads) {
    controls.loads[path[1]] = number;
    return;
  }
  if (path[0] === 'env' && path[1] !== undefined && path[1] in simulator.env) {
    (simulator.env as unknown as Record<string, number>)[path[1]] = number;
    simulator.refreshAir();
    return;
  }
  if (path[0] === 'fault' && setFault(simulator, controls, path, number)) return;
  if (key === 'mass_kg') {
    simulator.rotor.mass_kg = number;
    return;
  }
  if (setLever(simulator, controls, path, value)) return;
  const word = typeof value === 'object' ? '' : String(value);
  if (key === 'coll_mode') {
    if (!['manual', 'hold', 'hover', 'hover_nr'].includes(word)) throw new RangeError(`coll_mode cannot be ${word}`);
    controls.coll_mode = word as Controls['coll_mode'];
    return;
  }
  if (key === 'rating') {
    controls.rating = word;
    return;
  }
  if (path.length === 1 && typeof (controls as unknown as Record<string, unknown>)[key] === 'number') {
    (controls as unknown as Record<string, number>)[key] = number;
    return;
  }
  throw new RangeError(`there is no input named ${key}`);
}

/** @returns whether the path names a lever of an engine, or of the auxiliary unit */
function setLever(simulator: Simulator, controls: Controls, path: readonly string[], value: InputValue): boolean {
  const [of, name] = path;
  const lever = of === 'apu' ? controls.apu : controls.engines[blockIndex(simulator, of)];
  if (!lever || name === undefined || !(name in lever)) return false;
  if (name === 'mode') lever.mode = value as EngineSelector;
  else if (name === 'pilot') lever.pilot = value as ManualPilotPlan | null;
  else (lever as unknown as Record<string, number>)[name] = Number(value);
  return true;
}

/** @returns whether the path names a fault */
function setFault(simulator: Simulator, controls: Controls, path: readonly string[], number: number): boolean {
  const [, of, name] = path;
  if (name === undefined) return false;
  if (of === 'load' && name in controls.loads) {
    simulator.bus.loadShare[name] = number;
    return true;
  }
  const target = of === 'ac' ? simulator.faults : simulator.blocks[blockIndex(simulator, of)]?.faults;
  if (!target || !(name in target)) return false;
  (target as unknown as Record<string, number>)[name] = number;
  return true;
}

/** Place of e1, e2 or apu among the blocks of the simulator; -1 for none. */
function blockIndex(simulator: Simulator, name: string | undefined): number {
  if (name === 'apu') return simulator.apu ? simulator.engines.length : -1;
  const match = /^e(\d+)$/.exec(name ?? '');
  const index = match ? Number(match[1]) - 1 : -1;
  return index < simulator.engines.length ? index : -1;
}

/** One engine, or the auxiliary unit, with what reads and controls it. */
interface Block {
  readonly engine: Simulator['blocks'][number];
  readonly sensed: Simulator['sensors'][number];
  readonly unit: Simulator['controlUnits'][number];
  readonly simulator: Simulator;
  readonly index: number;
}

const OF_AIRCRAFT = new Map(
  Object.entries<(simulator: Simulator) => SignalValue>({
    t: (s) => s.ticks / 50,
    nr: (s) => s.nr_pct,
    volts: (s) => s.volts,
    ibat: (s) => s.bus.battery_a,
    h: (s) => s.rotor.h_m,
    coll: (s) => s.rotor.c,
    vz: (s) => s.rotor.vz,
    soc: (s) => s.bus.soc,
    mgb_t: (s) => s.rotor.Tmgb - KELVIN,
    mgb_p: (s) => s.rotor.pmgb,
    hyd1: (s) => s.rotor.hyd1,
    hyd2: (s) => s.rotor.hyd2,
    aligned: (s) => (s.inertial?.aligned ? 1 : 0),
    align_state: (s) => (s.inertial?.aligned ? 2 : s.inertialOn ? 1 : 0),
    align_resets: (s) => s.inertial?.resets ?? 0,
    oei: (s) => ((s.oneEngineOut?.lost ?? -1) >= 0 ? 1 : 0),
  }),
);

const OF_BLOCK = new Map(
  Object.entries<(block: Block) => SignalValue>({
    ng: ({ sensed }) => sensed.ngA_pct || sensed.ngB_pct,
    ng_true: ({ engine }) => 100 * engine.n,
    tot: ({ sensed }) => (sensed.totValid ? sensed.tot_C : NaN),
    ttc: ({ engine }) => engine.Ttc - KELVIN,
    t45: ({ engine }) => engine.T45 - KELVIN,
    tm: ({ engine }) => engine.Tm - KELVIN,
    np: ({ sensed }) => sensed.np_pct,
    tq: ({ sensed }) => sensed.tq_pct,
    oil_p: ({ sensed }) => sensed.oil_bar,
    oil_t: ({ engine }) => engine.Toil - KELVIN,
    wf: ({ engine }) => 1000 * engine.wf,
    pool: ({ engine }) => 1000 * engine.m_pool,
    torch: ({ engine }) => 1000 * engine.torch_kg_s,
    start_a: ({ engine }) => engine.starter_a,
    start_air: ({ simulator, index }) => simulator.starterAir(index),
    fire: ({ engine }) => (1000 * engine.torch_kg_s > FIRE_SEEN_G_S ? 1 : 0),
    control_channels: ({ engine }) => (engine.faults.fadec_ch_a ? 0 : 1) + (engine.faults.fadec_ch_b ? 0 : 1),
    gen_a: ({ sensed }) => sensed.gen_a,
    gen_trip: ({ engine }) => (engine.gen_trip ? 1 : 0),
    lit: ({ engine }) => (engine.lit ? 1 : 0),
    q_self: ({ engine }) => engine.q_self,
    grip: ({ unit }) => unit.grip,
    mode: ({ unit }) => unit.mode,
    retries: ({ unit }) => unit.retries,
    causes: ({ unit }) => unit.causes.join(','),
    channel: ({ unit }) => unit.channel,
    lim: ({ unit }) => unit.limitedBy,
  }),
);

/**
 * How one signal of the condition language is read: sensor signals are the samples of the last tick.
 * @returns undefined for a name that this aircraft does not have
 */
export function signalReader(simulator: Simulator, name: string): (() => SignalValue) | undefined {
  const ofAircraft = OF_AIRCRAFT.get(name);
  if (ofAircraft) return () => ofAircraft(simulator);
  const [at, signal = ''] = name.split('.');
  const index = blockIndex(simulator, at);
  const engine = simulator.blocks[index];
  const sensed = simulator.sensors[index];
  const unit = simulator.controlUnits[index];
  const ofBlock = OF_BLOCK.get(signal);
  if (!engine || !sensed || !unit || !ofBlock) return undefined;
  const block: Block = { engine, sensed, unit, simulator, index };
  return () => ofBlock(block);
}
