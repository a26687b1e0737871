import type { TypeFile } from './type-file.ts';

/** One difference between two versions of a type. */
export interface TypeChange {
  /** from the whole to the part: "items", "Bus volts", "response" */
  path: string[];
  /** null for something that was not there */
  before: string | null;
  /** null for something that is gone */
  after: string | null;
}

type Json = null | boolean | number | string | Json[] | { [key: string]: Json };

/** What a part of a list is called: by its own name, else by its id. */
function nameOf(value: Json): string | null {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return null;
  for (const key of ['challenge', 'label', 'question', 'title', 'words', 'id', 'watch'])
    if (typeof value[key] === 'string') return value[key];
  return null;
}

function keyOf(value: Json, index: number): string {
  return typeof value === 'object' && value !== null && !Array.isArray(value) && typeof value['id'] === 'string'
    ? value['id']
    : String(index);
}

function say(value: Json): string {
  const name = nameOf(value);
  if (name !== null) return name;
  if (Array.isArray(value) && value.every((v) => v === null || typeof v !== 'object'))
    return value.map((v) => v ?? '–').join(', ') || 'nothing';
  if (value === null) return 'nothing';
  return typeof value === 'string' ? value : textOf(value);
}

/** The same text for the same value, in whatever order its members were read. */
function textOf(value: Json): string {
  return JSON.stringify(value, (_, v: Json) =>
    isObject(v) ? Object.fromEntries(Object.entries(v).toSorted(([a], [b]) => (a < b ? -1 : 1))) : v,
  );
}

/** Every difference between two versions of a type, in the order of the file. Parts of lists are matched by id. */
export function diffTypes(older: TypeFile, newer: TypeFile): TypeChange[] {
  const changes: TypeChange[] = [];
  compare(older as unknown as Json, newer as unknown as Json, [], changes);
  return changes.filter((c) => c.path.join() !== 'version');
}

function compare(a: Json, b: Json, path: string[], changes: TypeChange[]): void {
  if (Array.isArray(a) && Array.isArray(b) && [...a, ...b].every((v) => nameOf(v) !== null)) {
    compareLists(a, b, path, changes);
    return;
  }
  if (Array.isArray(a) && Array.isArray(b) && a.length === b.length && [...a, ...b].every((v) => Array.isArray(v))) {
    a.forEach((row, i) => compare(row, b[i]!, [...path, String(i + 1)], changes));
    return;
  }
  if (isObject(a) && isObject(b)) {
    for (const key of new Set([...Object.keys(a), ...Object.keys(b)]))
      compareMember(a[key], b[key], [...path, key], changes);
    return;
  }
  if (textOf(a) !== textOf(b)) changes.push({ path, before: say(a), after: say(b) });
}

function compareLists(a: Json[], b: Json[], path: string[], changes: TypeChange[]): void {
  const old = new Map(a.map((v, i) => [keyOf(v, i), v]));
  const fresh = new Map(b.map((v, i) => [keyOf(v, i), v]));
  for (const [key, value] of old) if (!fresh.has(key)) changes.push({ path, before: say(value), after: null });
  for (const [key, value] of fresh) {
    const before = old.get(key);
    if (before === undefined) changes.push({ path, before: null, after: say(value) });
    else compare(before, value, [...path, nameOf(value) ?? key], changes);
  }
}

function compareMember(a: Json | undefined, b: Json | undefined, path: string[], changes: TypeChange[]): void {
  if (a === undefined && b === undefined) return;
  if (a === undefined) changes.push({ path, before: null, after: say(b!) });
  else if (b === undefined) changes.push({ path, before: say(a), after: null });
  else compare(a, b, path, changes);
}

function isObject(value: Json): value is { [key: string]: Json } {
  return typeof value === 'object' && value !== null && !Array.isArray(value);
}
