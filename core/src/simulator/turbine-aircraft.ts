import type { SimulatorParameters, StandInAction } from '../aircraft/index.ts';
import type { SimulatedAircraft } from './aircraft.ts';
import { coldControls, type Controls } from './inputs.ts';
import { type InputValue, setInput, signalReader, type SignalValue } from './signals.ts';
import { type Conditions, Simulator, TICK_S } from './simulator.ts';

const SELECTOR_POSITION = { OFF: 0, IDLE: 1, FLY: 2 } as const;

/** A turbine helicopter with its controls. */
export class TurbineAircraft implements SimulatedAircraft {
  readonly simulator: Simulator;
  readonly controls: Controls;
  /** how each signal is read that was asked for: its name is looked at once */
  private readonly readers = new Map<string, () => SignalValue | undefined>();

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
    let read = this.readers.get(name);
    if (!read) this.readers.set(name, (read = this.readerOf(name)));
    return read();
  }

  private readerOf(name: string): () => SignalValue | undefined {
    if (name.startsWith('control.')) return this.position(name.slice(8));
    if (name === 'env.oat_c') return () => this.simulator.env.oat_c;
    return signalReader(this.simulator, name) ?? ((): undefined => undefined);
  }

  /** How the position of one control is read. */
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
