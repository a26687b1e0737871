import { existsSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { shippedType, shippedTypes } from '@rouse/aircraft';
import { isWatched, type TypeFile, typeFileSchema, type WatchedType } from '@rouse/core/aircraft';
import { BadInput, check } from './bad-input.ts';
import { needType, SHIPPED } from './type-folder.ts';

export function readText(file: string): string {
  try {
    return readFileSync(file, 'utf8');
  } catch (error) {
    throw new BadInput(
      'NO_FILE',
      `cannot read ${file}: ${error instanceof Error ? error.message : String(error)}`,
      file,
    );
  }
}

export function readJson(file: string): unknown {
  try {
    return JSON.parse(readText(file));
  } catch (error) {
    if (error instanceof BadInput) throw error;
    throw new BadInput('NOT_JSON', error instanceof Error ? error.message : String(error), file);
  }
}

/** A type by its id or folder among the shipped ones, by the path of its folder, or by that of a compiled file. @throws BadInput */
export function findType(name: string): TypeFile {
  if (name.endsWith('.json')) return check(typeFileSchema, readJson(name), name);
  if (existsSync(path.join(name, 'type.yaml'))) return needType(name);
  const shipped = shippedType(path.dirname(SHIPPED), name);
  if (shipped) return shipped;
  const known = shippedTypes(path.dirname(SHIPPED)).map((t) => t.id);
  throw new BadInput('UNKNOWN_AIRCRAFT', `there is no type ${name}; there is ${known.join(', ')}`, 'type');
}

/** A type that is watched and simulated. @throws BadInput for one that is timed by hand */
export function findWatchedType(nameOrFile: string): WatchedType {
  const type = findType(nameOrFile);
  if (!isWatched(type)) throw new BadInput('NOT_SIMULATED', `${type.name} has no simulator and no watch yet`, 'type');
  return type;
}
