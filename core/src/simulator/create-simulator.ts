import { isPiston, type StandInAction, type WatchedType } from '../aircraft/index.ts';
import type { SimulatedAircraft } from './aircraft.ts';
import { Instruments, PANEL } from './instruments.ts';
import { PistonAircraft, type PistonConditions } from './piston/aircraft.ts';
import { NormalSource } from './random.ts';
import type { SignalValue } from './signals.ts';
import { type Conditions, TICK_S } from './simulator.ts';
import { TurbineAircraft } from './turbine-aircraft.ts';

/** Controls, loads, faults and air by name, as scenario files write them; what is not named stays as it is. */
export type NamedInputs = Readonly<Record<string, StandInAction['to']>>;

/** A simulated aircraft of any type: its equations, its panel and its sensors. */
class Simulation {
  private readonly aircraft: SimulatedAircraft;
  private readonly instruments: Instruments;
  private readonly panel = new Map<string, number>();
  private pending_s = 0;

  constructor(type: WatchedType, conditions: Conditions | PistonConditions, seed: number) {
    const { simulator } = type;
    this.aircraft = isPiston(simulator)
      ? new PistonAircraft(simulator, conditions as PistonConditions)
      : new TurbineAircraft(simulator, conditions as Conditions, seed);
    this.instruments = new Instruments(type, new NormalSource(seed ^ 0x9a06e));
  }

  /** since the simulation began, s */
  get t_s(): number {
    return this.aircraft.t_s;
  }

  /** Sets what `inputs` names, and advances by `dt_s`; what is less than a tick of 20 ms is kept for the next call. @throws RangeError for a name that this aircraft does not have */
  step(inputs: NamedInputs, dt_s: number): void {
    for (const name in inputs) this.set(name, inputs[name]!);
    this.pending_s += dt_s;
    while (this.pending_s >= TICK_S - 1e-9) {
      this.pending_s -= TICK_S;
      this.aircraft.tick();
    }
  }

  /** Fills `frame` with one value per channel of the type, as an engine data unit would send them; NaN is a lost sensor. */
  read(frame: Float64Array): void {
    this.instruments.read(this.aircraft, this.panel, frame);
  }

  /** @returns a signal of the equations by its name in scenario files, undefined for an unknown one */
  signal(name: string): SignalValue | undefined {
    return this.aircraft.signal(name);
  }

  /** Switches of the panel that nothing in the physics hangs on keep their own position. */
  private set(name: string, to: StandInAction['to']): void {
    if (name.startsWith(PANEL)) this.panel.set(name, Number(to));
    else this.aircraft.set(name, to);
  }
}
export type { Simulation };

/**
 * The one public door to the equations: every type, with its sensors.
 * @param conditions of a turbine, or of a piston trainer, by what the type is
 * @param seed drives the sensor noise, and nothing else
 */
export function createSimulator(
  type: WatchedType,
  conditions: Conditions | PistonConditions,
  seed: number,
): Simulation {
  return new Simulation(type, conditions, seed);
}
