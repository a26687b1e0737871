import type { StandInAction } from '../aircraft/index.ts';
import type { SignalValue } from './signals.ts';

/** A simulated aircraft as a cockpit and its instruments see it, whatever drives its rotor. */
export interface SimulatedAircraft {
  /** since the simulation began, s */
  readonly t_s: number;
  /** One control period of 20 ms. Never allocates. */
  tick(): void;
  /** Sets a control, a load, a fault or the air. @throws RangeError for a name that this aircraft does not have */
  set(name: string, value: StandInAction['to']): void;
  /** @returns a reading, NaN for a sensor that says itself that it is lost, undefined for an unknown name */
  signal(name: string): SignalValue | undefined;
}
