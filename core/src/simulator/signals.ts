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

/** Reads one signal of the condition language: sensor signals are the samples of the last tick. @returns undefined for an unknown name */
export function readSignal(simulator: Simulator, name: string): SignalValue | undefined {
  switch (name) {
    case 't':
      return simulator.ticks / 50;
    case 'nr':
      return simulator.nr_pct;
    case 'volts':
      return simulator.volts;
    case 'ibat':
      return simulator.bus.battery_a;
    case 'h':
      return simulator.rotor.h_m;
    case 'coll':
      return simulator.rotor.c;
    case 'vz':
      return simulator.rotor.vz;
    case 'soc':
      return simulator.bus.soc;
    case 'mgb_t':
      return simulator.rotor.Tmgb - KELVIN;
    case 'mgb_p':
      return simulator.rotor.pmgb;
    case 'hyd1':
      return simulator.rotor.hyd1;
    case 'hyd2':
      return simulator.rotor.hyd2;
    case 'aligned':
      return simulator.inertial?.aligned ? 1 : 0;
    case 'align_state':
      return simulator.inertial?.aligned ? 2 : simulator.inertialOn ? 1 : 0;
    case 'align_resets':
      return simulator.inertial?.resets ?? 0;
    case 'oei':
      return (simulator.oneEngineOut?.lost ?? -1) >= 0 ? 1 : 0;
    default: {
      let parts = BLOCK_SIGNALS.get(name);
      if (!parts) BLOCK_SIGNALS.set(name, (parts = blockSignalOf(name)));
      const [block, signal] = parts;
      const i = block === 'apu' ? (simulator.apu ? simulator.engines.length : -1) : block;
      return i < 0 || (block !== 'apu' && i >= simulator.engines.length)
        ? undefined
        : blockSignal(simulator, i, signal);
    }
  }
}

/** Names of signals of one block, looked at once: which block, which signal. */
const BLOCK_SIGNALS = new Map<string, readonly [number | 'apu', string]>();

function blockSignalOf(name: string): readonly [number | 'apu', string] {
  const [block = '', signal = ''] = name.split('.');
  const match = /^e(\d+)$/.exec(block);
  return [block === 'apu' ? 'apu' : match ? Number(match[1]) - 1 : -1, signal];
}

function blockSignal(simulator: Simulator, i: number, signal: string): SignalValue | undefined {
  const e = simulator.blocks[i];
  const s = simulator.sensors[i];
  const unit = simulator.controlUnits[i];
  if (!e || !s || !unit) return undefined;
  switch (signal) {
    case 'ng':
      return s.ngA_pct || s.ngB_pct;
    case 'ng_true':
      return 100 * e.n;
    case 'tot':
      return s.totValid ? s.tot_C : NaN;
    case 'ttc':
      return e.Ttc - KELVIN;
    case 't45':
      return e.T45 - KELVIN;
    case 'tm':
      return e.Tm - KELVIN;
    case 'np':
      return s.np_pct;
    case 'tq':
      return s.tq_pct;
    case 'oil_p':
      return s.oil_bar;
    case 'oil_t':
      return e.Toil - KELVIN;
    case 'wf':
      return 1000 * e.wf;
    case 'pool':
      return 1000 * e.m_pool;
    case 'torch':
      return 1000 * e.torch_kg_s;
    case 'start_a':
      return e.starter_a;
    case 'start_air':
      return simulator.starterAir(i);
    case 'fire':
      return 1000 * e.torch_kg_s > FIRE_SEEN_G_S ? 1 : 0;
    case 'control_channels':
      return (e.faults.fadec_ch_a ? 0 : 1) + (e.faults.fadec_ch_b ? 0 : 1);
    case 'gen_a':
      return s.gen_a;
    case 'gen_trip':
      return e.gen_trip ? 1 : 0;
    case 'lit':
      return e.lit ? 1 : 0;
    case 'q_self':
      return e.q_self;
    case 'grip':
      return unit.grip;
    case 'mode':
      return unit.mode;
    case 'retries':
      return unit.retries;
    case 'causes':
      return unit.causes.join(',');
    case 'channel':
      return unit.channel;
    case 'lim':
      return unit.limitedBy;
    default:
      return undefined;
  }
}
