// The environment of the server's programs is read here and in their main files only.
import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { type TypeFile, typeFileSchema } from '@rouse/core/aircraft';

export function env(name: string): string {
  const value = process.env[name];
  if (value === undefined) throw new Error(`${name} is not set; run npm start`);
  return value;
}

const typeFiles = (): string[] =>
  ['aircraft', 'aircraft/earlier'].flatMap((dir) =>
    readdirSync(path.join(env('APP_ROOT'), dir))
      .filter((name) => name.endsWith('.json'))
      .map((name) => path.join(env('APP_ROOT'), dir, name)),
  );

/** @throws Error for a file that is no type */
export const readTypes = (): TypeFile[] =>
  typeFiles().map((file) => typeFileSchema.parse(JSON.parse(readFileSync(file, 'utf8'))));

/** One digest over all type files, to see whether any has changed. */
export function typesStamp(): string {
  const hash = createHash('sha256');
  for (const file of typeFiles()) hash.update(path.basename(file)).update(readFileSync(file));
  return hash.digest('hex');
}
