import type { SimulatorParameters } from './simulator-parameters.ts';
import type { TypeFile } from './type-file.ts';
import type { RunUpWatch, StartWatch } from './watches.ts';

/** A type whose start is watched by sensors and can be simulated; the others are timed by hand. */
export interface WatchedType extends TypeFile {
  startWatches: [StartWatch, ...StartWatch[]];
  runUpWatch: RunUpWatch;
  simulator: SimulatorParameters;
}

/** @throws RangeError for a type that is timed by hand */
export function needWatched(type: TypeFile): WatchedType {
  if (!isWatched(type)) throw new RangeError(`${type.name} has no watch and no simulator yet`);
  return type;
}

export function isWatched(type: TypeFile): type is WatchedType {
  return type.startWatches.length > 0 && type.runUpWatch !== undefined && type.simulator !== undefined;
}
