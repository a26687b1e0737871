// Folders of types on the disk, as the compiler takes them.
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import type { Library, TypeFolder } from '@rouse/core/authoring';

/** The texts of a folder by their path in it; null where there is no such folder. */
export function readFolder(dir: string): TypeFolder | null {
  if (!existsSync(dir)) return null;
  const texts: Record<string, string> = {};
  for (const entry of readdirSync(dir, { recursive: true, withFileTypes: true })) {
    if (!entry.isFile() || !/\.(yaml|csv)$/.test(entry.name)) continue;
    const file = path.join(entry.parentPath, entry.name);
    texts[path.relative(dir, file).split(path.sep).join('/')] = readFileSync(file, 'utf8');
  }
  return texts;
}

/** Finds what a type extends, and the standard items, in the folders beside it. */
export function libraryIn(dir: string): Library {
  const known = new Map<string, TypeFolder | null>();
  return (name) => {
    if (!/^[\w-]+$/.test(name)) return null;
    const folder = known.has(name) ? known.get(name)! : readFolder(path.join(dir, name));
    known.set(name, folder);
    return folder;
  };
}

/** What a type is begun from that is like no other: the least that the compiler takes, and nothing that could be believed. */
export const BLANK = 'blank';

/** The folders in a place that hold a type. */
export function folderNames(dir: string): string[] {
  return readdirSync(dir)
    .filter((name) => existsSync(path.join(dir, name, 'type.yaml')))
    .toSorted();
}
