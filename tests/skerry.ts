import { needWatched, type TypeFile, type WatchedType } from '@rouse/core/aircraft';
import { shippedTypes } from '@rouse/aircraft';

/** The checkout: tests and benchmarks are run from there. */
export const ROOT = process.cwd();

/** Every shipped type. */
export const types: readonly TypeFile[] = shippedTypes(ROOT);
export const skerry: WatchedType = needWatched(types.find((t) => t.id === 'S7')!);

/** The newest shipped version of a type. */
export const newestType = (typeId: string): WatchedType =>
  needWatched(types.filter((t) => t.id === typeId).toSorted((a, b) => b.version - a.version)[0]!);
