// Versions that were released: each is kept compressed, with its digest in a lock file, so that none changes under anybody.
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { gunzipSync, gzipSync } from 'node:zlib';
import type { TypeFile } from '@rouse/core/aircraft';
import { canonicalJson, digestOf } from '@rouse/core/procedure';

/** Digests of released versions by type and version. */
type Lock = Record<string, Record<string, string>>;

const lockFile = (dir: string): string => path.join(dir, 'lock.json');
const fileOf = (dir: string, id: string, version: number | string): string =>
  path.join(dir, `${id}-${version}.json.gz`);

function readLock(dir: string): Lock {
  return existsSync(lockFile(dir)) ? (JSON.parse(readFileSync(lockFile(dir), 'utf8')) as Lock) : {};
}

/** The versions that were released, by type: what `releasedType` can read. @param dir where they are kept */
export function releasedVersions(dir: string): { id: string; version: number; digest: string }[] {
  return Object.entries(readLock(dir)).flatMap(([id, versions]) =>
    Object.entries(versions).map(([version, digest]) => ({ id, version: Number(version), digest })),
  );
}

/** A released version as it was released. @throws Error when it is not what the lock says */
export function releasedType(dir: string, id: string, version: number): TypeFile {
  const json = gunzipSync(readFileSync(fileOf(dir, id, version))).toString('utf8');
  if (digestOf(json) !== readLock(dir)[id]?.[version])
    throw new Error(
      `${fileOf(dir, id, version)} is not what was released: get it back from the history of the project`,
    );
  return JSON.parse(json) as TypeFile;
}

/**
 * Keeps a version as released.
 * @returns its digest
 * @throws Error when this version was released with something else in it: it needs a new number
 */
export function releaseType(dir: string, type: TypeFile): string {
  const json = canonicalJson(type);
  const digest = digestOf(json);
  const lock = readLock(dir);
  const before = lock[type.id]?.[type.version];
  if (before !== undefined && before !== digest)
    throw new Error(
      `version ${type.version} of ${type.id} was released and is not what is written now; give it another version in type.yaml`,
    );
  mkdirSync(dir, { recursive: true });
  writeFileSync(fileOf(dir, type.id, type.version), gzipSync(json, { level: 9 }));
  const versions = { ...lock[type.id], [type.version]: digest };
  writeFileSync(lockFile(dir), `${JSON.stringify({ ...lock, [type.id]: versions }, null, 2)}\n`);
  return digest;
}
