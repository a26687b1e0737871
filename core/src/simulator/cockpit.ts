import { isPiston, type StandInAction, type StandInPreset, type WatchedType } from '../aircraft/index.ts';
import { createSimulator, type Simulation } from './create-simulator.ts';
import type { PistonConditions } from './piston/aircraft.ts';
import { type Conditions, TICK_S } from './simulator.ts';

type When = NonNullable<StandInAction['when']>;

const NOTHING_MOVED = {};

/** A simulated aircraft with somebody's hands in it: conditions chosen beforehand, faults that strike by themselves, switches that are let go. */
export class SimulatedCockpit {
  readonly simulation: Simulation;
  private readonly frame: Float64Array;
  private readonly isPiston: boolean;
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
    this.simulation = createSimulator(type, conditions, seed);
    this.isPiston = isPiston(type.simulator);
    this.frame = new Float64Array(type.channels.length);
    this.faults = [...faults];
  }

  get t_s(): number {
    return this.simulation.t_s;
  }

  /** Moves one control, now or when what it waits for has come. @throws RangeError for a control that this cockpit does not have */
  move(action: StandInAction): void {
    const { control, to, release_s, when, after_s } = action;
    // a hand that does something else with a control no longer waits to move it
    for (let i = this.later.length - 1; i >= 0; i--)
      if (this.later[i]!.control === control && !when && after_s === undefined) this.later.splice(i, 1);
    if (when || after_s !== undefined) this.later.push({ at_s: this.t_s + (after_s ?? 0), when, control, to });
    else this.simulation.step({ [control]: to }, 0);
    if (release_s !== undefined) this.later.push({ at_s: this.t_s + release_s, when: undefined, control, to: 0 });
  }

  /** One control period of 20 ms. @returns the frame that an engine data unit would send */
  tick(): Float64Array {
    for (let i = this.later.length - 1; i >= 0; i--) {
      const { at_s, when, control, to } = this.later[i]!;
      if (this.t_s < at_s - 1e-9 || (when && !this.holds(when))) continue;
      this.later.splice(i, 1);
      this.simulation.step({ [control]: to }, 0);
    }
    for (let i = this.faults.length - 1; i >= 0; i--) {
      const fault = this.faults[i]!;
      if (fault.when && !this.holds(fault.when)) continue;
      this.strike(fault.set);
      this.faults.splice(i, 1);
    }
    this.simulation.step(NOTHING_MOVED, TICK_S);
    this.simulation.read(this.frame);
    return this.frame;
  }

  /** Strikes faults, or changes the air, at this moment. @throws RangeError for a name that this aircraft does not have */
  strike(set: StandInPreset['faults'][number]['set']): void {
    this.simulation.step(set, 0);
  }

  /** The outside air becomes so warm at this moment, °C. */
  setAir(air_C: number): void {
    this.strike({ [this.isPiston ? 'env.oat' : 'env.oat_c']: air_C });
  }

  /** The wind blows so at this moment, kt, negative from behind. @returns false where no wind reaches the engine: a piston's */
  setHeadwind(headwind_kt: number): boolean {
    if (!this.isPiston) this.strike({ 'env.headwind_kt': headwind_kt });
    return !this.isPiston;
  }

  /** Whether a signal stands so now. */
  holds({ sig, op, val }: When): boolean {
    const value = this.simulation.signal(sig);
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
