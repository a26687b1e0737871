import type { SimulatorParameters, StandInAction, StandInPreset, WatchedType } from '../aircraft/index.ts';
import { coldControls, type Controls } from './inputs.ts';
import { Instruments } from './instruments.ts';
import { readSignal, setInput } from './signals.ts';
import { type Conditions, createSimulator, type Simulator, TICK_S } from './simulator.ts';

/** A simulated aircraft with somebody's hands in it: conditions chosen beforehand, faults that strike by themselves, switches that are let go. */
export class SimulatedCockpit {
  readonly simulator: Simulator;
  readonly controls: Controls;
  private readonly instruments: Instruments;
  private readonly faults: StandInPreset['faults'];
  private readonly releases: { at_s: number; control: string }[] = [];

  constructor(type: WatchedType, conditions: Conditions, faults: StandInPreset['faults'], seed: number) {
    const parameters: SimulatorParameters = type.simulator;
    this.simulator = createSimulator(parameters, { noise: true, ...conditions }, seed);
    this.controls = coldControls(parameters);
    this.instruments = new Instruments(type);
    this.faults = [...faults];
  }

  get t_s(): number {
    return this.simulator.ticks * TICK_S;
  }

  /** Moves one control. @throws RangeError for a control that this cockpit does not have */
  move(action: StandInAction): void {
    setInput(this.simulator, this.controls, action.control, action.to);
    if (action.release_s !== undefined)
      this.releases.push({ at_s: this.t_s + action.release_s, control: action.control });
  }

  /** One control period of 20 ms. @returns the frame that an engine data unit would send */
  tick(): Float64Array {
    for (let i = this.releases.length - 1; i >= 0; i--) {
      if (this.t_s < this.releases[i]!.at_s - 1e-9) continue;
      setInput(this.simulator, this.controls, this.releases[i]!.control, 0);
      this.releases.splice(i, 1);
    }
    for (let i = this.faults.length - 1; i >= 0; i--) {
      const fault = this.faults[i]!;
      if (fault.when && !compare(Number(readSignal(this.simulator, fault.when.sig)), fault.when.op, fault.when.val))
        continue;
      for (const [key, value] of Object.entries(fault.set)) setInput(this.simulator, this.controls, key, value);
      this.faults.splice(i, 1);
    }
    this.simulator.tick(this.controls);
    return this.instruments.read(this.simulator, this.controls);
  }
}

function compare(a: number, op: '>=' | '<=' | '==', b: number): boolean {
  return op === '>=' ? a >= b : op === '<=' ? a <= b : a === b;
}

/** The conditions of a stand-in preset in the simulator's own terms. */
export function conditionsOf(preset: StandInPreset): Conditions {
  return { ...(preset.init as Conditions), env: preset.env };
}
