import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { needWatched, type TypeFile, typeFileSchema, type WatchedType } from '@rouse/core/aircraft';

/** The checkout: tests and benchmarks are run from there. */
export const ROOT = process.cwd();
function read(dir: string): TypeFile[] {
  return readdirSync(path.join(ROOT, dir))
    .filter((name) => name.endsWith('.json'))
    .map((name) => typeFileSchema.parse(JSON.parse(readFileSync(path.join(ROOT, dir, name), 'utf8'))));
}

/** Every shipped type, earlier versions too. */
export const types: readonly TypeFile[] = [...read('aircraft'), ...read('aircraft/earlier')];
export const skerry: WatchedType = needWatched(types.find((t) => t.id === 'S7')!);
