import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { gunzipSync, gzipSync } from 'node:zlib';
import { RELEASED, releasedType, releasedVersions, releaseType } from '@rouse/aircraft';
import { canonicalJson, digestOf } from '@rouse/core/procedure';
import { afterEach, beforeEach, describe, expect, test } from 'vitest';
import { fleet, typeOf } from '../fleet.ts';

let dir: string;
beforeEach(() => (dir = mkdtempSync(path.join(tmpdir(), 'rouse-released-'))));
afterEach(() => rmSync(dir, { recursive: true }));

describe('a version that is released', () => {
  test('is kept word for word, and releasing it again changes nothing', () => {
    const type = typeOf('S7');
    const digest = releaseType(dir, type);
    expect(releaseType(dir, type)).toBe(digest);
    expect(releasedVersions(dir)).toEqual([{ id: 'S7', version: type.version, digest }]);
    expect(releasedType(dir, 'S7', type.version)).toEqual(JSON.parse(canonicalJson(type)));
  });

  test('is not changed: something else needs another number', () => {
    const type = typeOf('C5');
    releaseType(dir, type);
    expect(() => releaseType(dir, { ...type, name: 'Other' })).toThrow(
      /C5 was released.*another version in type\.yaml/,
    );
    releaseType(dir, { ...type, name: 'Other', version: type.version + 1 });
    expect(releasedVersions(dir).map((r) => r.version)).toEqual([type.version, type.version + 1]);
    expect(releasedType(dir, 'C5', type.version).name).toBe(type.name);
  });

  test('that was tampered with is not read', () => {
    const type = typeOf('T2');
    releaseType(dir, type);
    const file = path.join(dir, 'T2-1.json.gz');
    writeFileSync(file, gzipSync(gunzipSync(readFileSync(file)).toString('utf8').replace('Tarn', 'Torn')));
    expect(() => releasedType(dir, 'T2', 1)).toThrow(/not what was released/);
  });
});

test('what is written here is what was released under its number, or has a new one; every released version can be read', () => {
  const released = releasedVersions(RELEASED);
  for (const { id, version, digest } of released) {
    expect(releasedType(RELEASED, id, version)).toMatchObject({ id, version });
    const written = fleet.find((t) => t.id === id && t.version === version);
    expect(written === undefined || digestOf(canonicalJson(written)) === digest, `${id} version ${version}`).toBe(true);
  }
  expect(new Set(released.map((r) => r.id))).toEqual(new Set(fleet.map((t) => t.id)));
});
