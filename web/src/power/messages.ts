import type { SimulatorParameters } from '@rouse/core/aircraft';
import type { FailurePoint } from '@rouse/core/simulator';

/** What the page asks of one worker that flies failures. */
export type ToFlights = { kind: 'fly'; parameters: SimulatorParameters; points: { index: number; at: FailurePoint }[] };

export type FromFlights =
  { kind: 'flown'; index: number; holds: boolean; lost_m: number; climb_mps: number } | { kind: 'done' };
