import { isPiston, type StandInAction, type StandInPreset, type WatchedType } from '../aircraft/index.ts';
import type { SimulatedAircraft } from './aircraft.ts';
import { Instruments, PANEL } from './instruments.ts';
import { PistonAircraft, type PistonConditions } from './piston/aircraft.ts';
import { NormalSource } from './random.ts';
import type { SignalValue } from './signals.ts';
import type { Conditions } from './simulator.ts';
import { TurbineAircraft } from './turbine-aircraft.ts';

type When = NonNullable<StandInAction['when']>;

/** A simulated aircraft with somebody's hands in it: conditions chosen beforehand, faults that strike by themselves, switches that are let go. */
export class SimulatedCockpit {
  readonly aircraft: SimulatedAircraft;
  private readonly instruments: Instruments;
  private readonly panel = new Map<string, number>();
  private readonly faults: StandInPreset['faults'];
  /** moves that the hands will make when their time, or what they wait for, has come */
  private readonly later: { at_s: number; when: When | undefined; control: string; to: StandInAction['to'] }[] = [];

  /** @param conditions of a turbine, or of a piston trainer, by what the type is */
  constructor(
    type: WatchedType,
    conditions: Conditions | PistonConditions,
    faults: StandInPreset['faults'],
    seed: number,
  ) {
    const { simulator } = type;
    this.aircraft = isPiston(simulator)
      ? new PistonAircraft(simulator, conditions as PistonConditions)
      : new TurbineAircraft(simulator, conditions as Conditions, seed);
    this.instruments = new Instruments(type, new NormalSource(seed ^ 0x9a06e));
    this.faults = [...faults];
  }

  get t_s(): number {
    return this.aircraft.t_s;
  }

  /** Moves one control, now or when what it waits for has come. @throws RangeError for a control that this cockpit does not have */
  move(action: StandInAction): void {
    const { control, to, release_s, when, after_s } = action;
    // a hand that does something else with a control no longer waits to move it
    for (let i = this.later.length - 1; i >= 0; i--)
      if (this.later[i]!.control === control && !when && after_s === undefined) this.later.splice(i, 1);
    if (when || after_s !== undefined) this.later.push({ at_s: this.t_s + (after_s ?? 0), when, control, to });
    else this.set(control, to);
    if (release_s !== undefined) this.later.push({ at_s: this.t_s + release_s, when: undefined, control, to: 0 });
  }

  /** One control period of 20 ms. @returns the frame that an engine data unit would send */
  tick(): Float64Array {
    for (let i = this.later.length - 1; i >= 0; i--) {
      const { at_s, when, control, to } = this.later[i]!;
      if (this.t_s < at_s - 1e-9 || (when && !this.holds(when))) continue;
      this.later.splice(i, 1);
      this.set(control, to);
    }
    for (let i = this.faults.length - 1; i >= 0; i--) {
      const fault = this.faults[i]!;
      if (fault.when && !this.holds(fault.when)) continue;
      for (const [key, value] of Object.entries(fault.set)) this.aircraft.set(key, value);
      this.faults.splice(i, 1);
    }
    this.aircraft.tick();
    return this.instruments.read(this.aircraft, this.panel);
  }

  /** Switches of the panel that nothing in the physics hangs on keep their own position. */
  private set(control: string, to: StandInAction['to']): void {
    if (control.startsWith(PANEL)) this.panel.set(control, Number(to));
    else this.aircraft.set(control, to);
  }

  private holds({ sig, op, val }: When): boolean {
    const value: SignalValue | undefined = this.aircraft.signal(sig);
    if (typeof val === 'string') return value === val;
    const number = Number(value);
    return op === '>=' ? number >= val : op === '<=' ? number <= val : number === val;
  }
}

/** The conditions of a stand-in preset in the simulator's own terms. */
export function conditionsOf(type: WatchedType, preset: StandInPreset): Conditions | PistonConditions {
  return isPiston(type.simulator)
    ? { init: preset.init, env: preset.env }
    : { ...(preset.init as Conditions), env: preset.env };
}
