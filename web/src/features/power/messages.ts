import type { SimulatorParameters, TypeFile } from '@rouse/core/aircraft';
import type { OneEngineBoard } from '@rouse/core/power';
import type { FailurePoint } from '@rouse/core/simulator';
import type { HeldMap, WhatIf } from './board-figures.ts';

/** What the page asks of one worker that flies failures. */
export type ToFlights = { kind: 'fly'; parameters: SimulatorParameters; points: { index: number; at: FailurePoint }[] };

export type FromFlights =
  | { kind: 'flown'; index: number; holds: boolean; lost_m: number; climb_mps: number }
  | { kind: 'done' };

/** What the page asks of the worker that works out the board: first whose, then what-if after what-if. */
export type ToBoard = { kind: 'begin'; type: TypeFile } | { kind: 'ask'; what: WhatIf };

export interface BoardAnswer {
  board: OneEngineBoard | { refused: string };
  held: HeldMap;
}
