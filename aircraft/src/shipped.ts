// The types that come with the application. Compiled once for each state of their files, and kept on the disk.
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, renameSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import type { TypeFile } from '@rouse/core/aircraft';
import { compileType, sayProblem } from '@rouse/core/authoring';
import { releasedType, releasedVersions } from './released.ts';
import { BLANK, folderNames, libraryIn, readFolder } from './folders.ts';

/** where released versions are kept */
export const RELEASED = 'aircraft/released';

/** what a compiled type depends on: what is written, and what compiles it */
const SOURCES = ['aircraft', 'core/src/authoring', 'core/src/aircraft'];

/** One digest over the files of all types and their compiler, to see whether any has changed. @param root of the checkout */
export function typesStamp(root: string): string {
  const hash = createHash('sha256');
  for (const source of SOURCES) {
    const dir = path.join(root, source);
    for (const name of readdirSync(dir, { recursive: true, encoding: 'utf8' }).toSorted()) {
      const file = path.join(dir, name);
      if (/\.(yaml|csv|ts|json)$/.test(name) && statSync(file).isFile()) hash.update(name).update(readFileSync(file));
    }
  }
  return hash.digest('hex');
}

/**
 * One of the shipped types. @param name its folder, or its id @returns null where there is none
 * @throws Error that lists what is wrong with its files
 */
export function shippedType(root: string, name: string): TypeFile | null {
  const dir = path.join(root, 'aircraft');
  if (folderNames(dir).includes(name)) return compiled(root, name, typesStamp(root));
  return shippedTypes(root).find((t) => t.id === name) ?? null;
}

/** Every shipped type, in the order of their folders, and then their earlier versions. @throws Error that lists what is wrong with their files */
export function shippedTypes(root: string): TypeFile[] {
  const stamp = typesStamp(root);
  const written = folderNames(path.join(root, 'aircraft'))
    .filter((name) => name !== BLANK)
    .map((name) => compiled(root, name, stamp));
  const released = path.join(root, RELEASED);
  const earlier = releasedVersions(released).filter(
    ({ id, version }) => !written.some((t) => t.id === id && t.version === version),
  );
  return [...written, ...earlier.map(({ id, version }) => releasedType(released, id, version))];
}

function compiled(root: string, name: string, stamp: string): TypeFile {
  const kept = path.join(root, '.local/types', `${name}.${stamp.slice(0, 16)}.json`);
  if (existsSync(kept)) return JSON.parse(readFileSync(kept, 'utf8')) as TypeFile;
  const dir = path.join(root, 'aircraft');
  const { type, problems } = compileType(readFolder(path.join(dir, name))!, libraryIn(dir));
  if (!type) throw new Error(`aircraft/${name} is not whole:\n${problems.map(sayProblem).join('\n')}`);
  mkdirSync(path.dirname(kept), { recursive: true });
  // whole or not at all, also while another program does the same
  writeFileSync(`${kept}.${process.pid}`, JSON.stringify(type));
  renameSync(`${kept}.${process.pid}`, kept);
  return type;
}
