import { readdirSync, readFileSync } from 'node:fs';
import { type TypeFile, typeFileSchema } from '@rouse/core/aircraft';

const DIR = new URL('../../aircraft/', import.meta.url);

/** Every shipped type. */
export const fleet: TypeFile[] = readdirSync(DIR)
  .filter((name) => name.endsWith('.json'))
  .toSorted()
  .map((name) => typeFileSchema.parse(JSON.parse(readFileSync(new URL(name, DIR), 'utf8'))));

export function typeOf(id: string): TypeFile {
  return fleet.find((t) => t.id === id)!;
}
