import { libraryIn, readFolder } from '@rouse/aircraft';
import { needWatched, type WatchedType } from '@rouse/core/aircraft';
import { compileType, sayProblem } from '@rouse/core/authoring';

/** A type that nobody ships, with ids that no shipped type has: what works on it names no aircraft in code. */
export function seventhType(): WatchedType {
  const { type, problems } = compileType(readFolder('core/tests/seventh/alder-a3')!, libraryIn('aircraft'));
  if (!type) throw new Error(problems.map(sayProblem).join('\n'));
  return needWatched(type);
}
