import type { StandInAction, TurbineStart, WatchedType } from '@rouse/core/aircraft';
import { SimulatedCockpit } from '@rouse/core/simulator';
import type { Circumstances } from './populations.ts';

/** when the start is pressed, s */
const START_S = 3;
/** an auxiliary unit needs so long before it gives air */
const AIR_AFTER_S = 60;
const LONGEST_S = 75;
const TICKS_PER_S = 50;

/** A fault that strikes when the engine has come to a speed. */
export interface Fault {
  above_pct: number;
  set: Record<string, number>;
}

/** What really happened to the engine, whatever its sensors said. */
export interface Truth {
  good: boolean;
  /** when the band that is allowed for a few seconds was entered, and the never-exceed line passed; null when not */
  band_s: number | null;
  never_s: number | null;
  /** a band was used up, or the never-exceed line passed */
  harmed: boolean;
  voltsLow: boolean;
  idle: boolean;
  /** its fuel has burned */
  lit: boolean;
}

export interface StartOptions {
  type: WatchedType;
  circumstances: Circumstances;
  seed: number;
  faults?: readonly Fault[];
  /** each control period after the start was pressed */
  every?: (since_s: number, ng_pct: number, move: (control: string, to: number) => void) => void;
  /** changes the readings on their way to the watch */
  readings?: (since_s: number, values: Float64Array) => void;
  /** every frame that the watch is given */
  onFrame: (t_s: number, values: Float64Array) => void;
  /** called after each frame: true shuts the fuel by hand */
  cut?: (t_s: number) => boolean;
}

export function mainStart(type: WatchedType): TurbineStart {
  const spec = type.startWatches.find((w) => w.engine === 1);
  if (spec?.kind !== 'turbine') throw new RangeError(`${type.id} has no turbine to start`);
  return spec;
}

/** Flies one start of engine 1 on the simulator. @returns what really happened */
export function flyStart(options: StartOptions): Truth {
  const { type, circumstances, seed, faults = [], onFrame, cut, every, readings } = options;
  const spec = mainStart(type);
  const cockpit = new SimulatedCockpit(noisy(type, circumstances.noise), circumstances.conditions, [], seed);
  const judge = new TruthOf(type, spec, (name) => Number(cockpit.simulation.signal(name)));
  moveAll(cockpit, { battery: 1, 'load.base_bus': 1, 'load.anticollision': 1, boost: 1, ...circumstances.set });
  let waiting = faults;
  const byAir = type.startWatches.some((w) => w.engine === 0);
  const begin_s = byAir ? START_S + AIR_AFTER_S : START_S;
  const end_s = begin_s + LONGEST_S;
  let sent = 0;
  for (let k = 1; k <= end_s * TICKS_PER_S; k++) {
    const t_s = k / TICKS_PER_S;
    if (byAir && k === START_S * TICKS_PER_S) for (const action of AUXILIARY) cockpit.move(action);
    if (k === begin_s * TICKS_PER_S) for (const action of handsOf(type, circumstances)) cockpit.move(action);
    const values = cockpit.tick();
    if (t_s > begin_s) readings?.(t_s - begin_s, values);
    const ng_pct = Number(cockpit.simulation.signal('e1.ng_true'));
    if (t_s > begin_s) waiting = strike(waiting, ng_pct, (set) => moveAll(cockpit, set));
    if (t_s > begin_s) every?.(t_s - begin_s, ng_pct, (control, to) => cockpit.move({ control, to }));
    judge.step(t_s, begin_s);
    const due = Math.floor(t_s * circumstances.rate_hz + 1e-9);
    if (due > sent) {
      sent = due;
      onFrame(t_s, values);
    }
    if (cut?.(t_s)) shutFuel(cockpit);
    if (judge.settled(t_s)) break;
  }
  return judge.truth();
}

function moveAll(cockpit: SimulatedCockpit, set: Readonly<Record<string, number>>): void {
  for (const [control, to] of Object.entries(set)) cockpit.move({ control, to });
}

function shutFuel(cockpit: SimulatedCockpit): void {
  cockpit.move({ control: 'e1.pilot', to: null });
  cockpit.move({ control: 'e1.grip', to: 0 });
  cockpit.move({ control: 'e1.mode', to: 'OFF' });
}

/** Strikes the faults whose speed has come. @returns those that still wait */
function strike(waiting: readonly Fault[], ng_pct: number, by: (set: Fault['set']) => void): readonly Fault[] {
  const due = waiting.filter((f) => ng_pct >= f.above_pct);
  for (const { set } of due) by(set);
  return due.length === 0 ? waiting : waiting.filter((f) => !due.includes(f));
}

const AUXILIARY: readonly StandInAction[] = [
  { control: 'apu.mode', to: 'FLY' },
  { control: 'apu.start', to: 1, release_s: 2 },
  { control: 'apu.gen', to: 1, when: { sig: 'apu.mode', op: '==', val: 'RUN' } },
];

function handsOf(type: WatchedType, { hand }: Circumstances): readonly StandInAction[] {
  const spec = mainStart(type);
  if (spec.fuelBy === 'pilot')
    return [
      { control: 'e1.starter_sw', to: 1 },
      { control: 'e1.pilot', to: hand as never },
      { control: 'e1.starter_sw', to: 0, when: { sig: 'e1.ng', op: '>=', val: spec.starterRelease_pct } },
    ];
  const air: StandInAction[] = type.startWatches.some((w) => w.engine === 0) ? [{ control: 'apu_bleed', to: 1 }] : [];
  return [...air, { control: 'e1.mode', to: 'IDLE' }, { control: 'e1.start', to: 1, release_s: 2 }];
}

const noisyTypes = new WeakMap<WatchedType, Map<number, WatchedType>>();

/** The same type with louder sensors. */
function noisy(type: WatchedType, times: number): WatchedType {
  if (times === 1) return type;
  const made = noisyTypes.get(type) ?? new Map<number, WatchedType>();
  noisyTypes.set(type, made);
  let louder = made.get(times);
  if (!louder) {
    louder = structuredClone(type);
    const { sensors } = louder.simulator as unknown as { sensors: { ng_noise_pct: number; tot_noise_c: number } };
    sensors.ng_noise_pct *= times;
    sensors.tot_noise_c *= times;
    made.set(times, louder);
  }
  return louder;
}

/** Judges the true temperature, the true volts and the true speed by the type's limits. */
class TruthOf {
  private readonly bands: { above: number; for_s: number; in_s: number }[];
  private readonly floor: { below: number; back: number; for_s: number; in_s: number };
  private readonly spec: TurbineStart;
  private readonly signal: (name: string) => number;
  private readonly entered: (number | null)[];
  private harmed = false;
  private voltsLow = false;
  private lit = false;
  private idle_s = 0;
  private idleAt_s: number | null = null;
  private begun_s = NaN;

  constructor(type: WatchedType, spec: TurbineStart, signal: (name: string) => number) {
    this.spec = spec;
    this.signal = signal;
    const limit = type.limits.find((l) => l.channel === spec.channels.temperature && l.phases.includes('start'))!;
    this.bands = limit.bands.map((b) => ({ above: 'above' in b ? b.above : NaN, for_s: b.forSeconds, in_s: 0 }));
    this.entered = this.bands.map(() => null);
    const floor = type.limits.find((l) => l.channel === spec.channels.volts && l.phases.includes('start'))!;
    const volts = floor.bands[0]!;
    const below = 'below' in volts ? volts.below : NaN;
    this.floor = { below, back: below + floor.hysteresis, for_s: volts.forSeconds, in_s: 0 };
  }

  step(t_s: number, begin_s: number): void {
    if (t_s <= begin_s) return;
    this.begun_s = begin_s;
    const dt_s = 1 / TICKS_PER_S;
    if (this.signal('e1.lit') > 0) this.lit = true;
    const ttc = this.signal('e1.ttc');
    for (let i = 0; i < this.bands.length; i++) {
      const band = this.bands[i]!;
      if (!(ttc > band.above)) {
        band.in_s = 0;
        continue;
      }
      this.entered[i] ??= t_s;
      band.in_s += dt_s;
      if (band.in_s > band.for_s) this.harmed = true;
    }
    // a bus is below its floor until it has come back over it by the hysteresis
    const bus_V = this.signal('volts');
    const low = bus_V < (this.floor.in_s > 0 ? this.floor.back : this.floor.below);
    this.floor.in_s = low ? this.floor.in_s + dt_s : 0;
    if (this.floor.in_s >= this.floor.for_s) this.voltsLow = true;
    const ng = this.signal('e1.ng_true');
    // the control's own idle depends on the height: what counts is that it settles near it
    this.idle_s = ng >= this.spec.idle_pct[0] - 1 ? this.idle_s + dt_s : 0;
    if (this.idle_s >= this.spec.idleFor_s) this.idleAt_s ??= t_s;
  }

  settled(t_s: number): boolean {
    return this.idleAt_s !== null && t_s > this.idleAt_s + 4;
  }

  truth(): Truth {
    const idle = this.idleAt_s !== null && this.idleAt_s - this.begun_s <= this.spec.idleWithin_s + this.spec.idleFor_s;
    return {
      good: !this.harmed && !this.voltsLow && idle,
      band_s: this.entered[this.entered.length - 2] ?? null,
      never_s: this.entered[this.entered.length - 1] ?? null,
      harmed: this.harmed,
      voltsLow: this.voltsLow,
      idle,
      lit: this.lit,
    };
  }
}
