import type { SimulatorParameters, StandInAction } from '../aircraft/index.ts';
import type { SimulatedAircraft } from './aircraft.ts';
import { coldControls, type Controls } from './inputs.ts';
import { type InputValue, readSignal, setInput, type SignalValue } from './signals.ts';
import { type Conditions, Simulator, TICK_S } from './simulator.ts';

const SELECTOR_POSITION = { OFF: 0, IDLE: 1, FLY: 2 } as const;

/** A turbine helicopter with its controls. */
export class TurbineAircraft implements SimulatedAircraft {
  readonly simulator: Simulator;
  readonly controls: Controls;

  constructor(parameters: SimulatorParameters, conditions: Conditions, seed: number) {
    this.simulator = new Simulator(parameters, { noise: true, ...conditions }, seed);
    this.controls = coldControls(parameters);
  }

  get t_s(): number {
    return this.simulator.ticks * TICK_S;
  }

  tick(): void {
    this.simulator.tick(this.controls);
  }

  set(name: string, value: StandInAction['to']): void {
    setInput(this.simulator, this.controls, name, value as InputValue);
  }

  signal(name: string): SignalValue | undefined {
    if (name.startsWith('control.')) return this.control(name.slice(8));
    return name === 'env.oat_c' ? this.simulator.env.oat_c : readSignal(this.simulator, name);
  }

  private control(name: string): number | undefined {
    const [first, second] = name.split('.');
    if (first === 'load') return this.controls.loads[second ?? ''] ? 1 : 0;
    const engine = /^e(\d+)$/.exec(first ?? '');
    if (engine || first === 'apu') {
      const lever = engine ? this.controls.engines[Number(engine[1]) - 1] : this.controls.apu;
      const at = second === 'mode' ? lever && SELECTOR_POSITION[lever.mode] : lever?.[second as 'gen'];
      return typeof at === 'number' ? at : undefined;
    }
    const value = (this.controls as unknown as Record<string, unknown>)[name];
    return typeof value === 'number' ? value : undefined;
  }
}
