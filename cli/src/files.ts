import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { isWatched, type TypeFile, typeFileSchema, type WatchedType } from '@rouse/core/aircraft';
import { BadInput, check } from './bad-input.ts';

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

/** A type by its id among the shipped ones, or by the path of its file. */
export function findType(nameOrFile: string): TypeFile {
  if (nameOrFile.endsWith('.json')) return check(typeFileSchema, readJson(nameOrFile), nameOrFile);
  const dir = path.resolve(import.meta.dirname, '../../aircraft');
  const known: string[] = [];
  for (const name of readdirSync(dir).filter((n) => n.endsWith('.json'))) {
    const file = path.join(dir, name);
    const id = (readJson(file) as { id?: string }).id ?? '';
    if (id === nameOrFile) return check(typeFileSchema, readJson(file), file);
    known.push(id);
  }
  throw new BadInput('UNKNOWN_AIRCRAFT', `there is no type ${nameOrFile}; there is ${known.join(', ')}`, 'type');
}

/** A type that is watched and simulated. @throws BadInput for one that is timed by hand */
export function findWatchedType(nameOrFile: string): WatchedType {
  const type = findType(nameOrFile);
  if (!isWatched(type)) throw new BadInput('NOT_SIMULATED', `${type.name} has no simulator and no watch yet`, 'type');
  return type;
}
