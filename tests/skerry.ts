import { readFileSync } from 'node:fs';
import path from 'node:path';
import { type TypeFile, typeFileSchema } from '@rouse/core/aircraft';

/** The checkout: tests and benchmarks are run from there. */
export const ROOT = process.cwd();
export const skerry: TypeFile = typeFileSchema.parse(
  JSON.parse(readFileSync(path.join(ROOT, 'aircraft/skerry-s7.json'), 'utf8')),
);
