import type { PistonParameters } from './piston-parameters.ts';
import type { SimulatorParameters } from './simulator-parameters.ts';
import type { TypeFile } from './type-file.ts';
import type { RunUpWatch, StartWatch } from './watches.ts';

/** A type whose start is watched by sensors and can be simulated. */
export interface WatchedType extends TypeFile {
  startWatches: [StartWatch, ...StartWatch[]];
  runUpWatch: RunUpWatch;
  simulator: SimulatorParameters | PistonParameters;
}

/** @throws RangeError for a type that can only be timed by hand */
export function needWatched(type: TypeFile): WatchedType {
  if (!isWatched(type)) throw new RangeError(`${type.name} has no watch and no simulator`);
  return type;
}

/** Whether a simulator is that of a piston trainer; the others are gas turbines. */
export function isPiston(simulator: NonNullable<TypeFile['simulator']>): simulator is PistonParameters {
  return 'kind' in simulator;
}

export function isWatched(type: TypeFile): type is WatchedType {
  return type.startWatches.length > 0 && type.runUpWatch !== undefined && type.simulator !== undefined;
}
