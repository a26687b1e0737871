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
  private readonly positions = new Map<string, () => number | undefined>();

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
    if (name.startsWith('control.')) {
      let read = this.positions.get(name);
      if (!read) this.positions.set(name, (read = this.position(name.slice(8))));
      return read();
    }
    return name === 'env.oat_c' ? this.simulator.env.oat_c : readSignal(this.simulator, name);
  }

  /** How the position of one control is read: its name is looked at once. */
  private position(name: string): () => number | undefined {
    const [first, second] = name.split('.');
    if (first === 'load') return () => (this.controls.loads[second ?? ''] ? 1 : 0);
    const engine = /^e(\d+)$/.exec(first ?? '');
    const number = (value: unknown): number | undefined => (typeof value === 'number' ? value : undefined);
    if (engine || first === 'apu') {
      const lever = engine ? this.controls.engines[Number(engine[1]) - 1] : this.controls.apu;
      if (second === 'mode') return () => (lever ? SELECTOR_POSITION[lever.mode] : undefined);
      return () => number(lever?.[second as 'gen']);
    }
    const controls = this.controls as unknown as Record<string, unknown>;
    return () => number(controls[name]);
  }
}
