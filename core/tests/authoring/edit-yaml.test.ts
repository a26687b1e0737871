import fc from 'fast-check';
import { folderNames, readFolder } from '@rouse/aircraft';
import { insertElement, moveElement, removeAt, setMember, type YamlPath } from '@rouse/core/authoring';
import { describe, expect, test } from 'vitest';
import { parse } from 'yaml';
import { tries } from '../whole.ts';

const texts = folderNames('aircraft').flatMap((name) =>
  Object.entries(readFolder(`aircraft/${name}`)!).filter(([file]) => file.startsWith('procedure/')),
);

/** Every map of a value with the way to it. */
function mapsIn(value: unknown, path: YamlPath = []): YamlPath[] {
  if (Array.isArray(value)) return value.flatMap((v, i) => mapsIn(v, [...path, i]));
  if (typeof value !== 'object' || value === null) return [];
  return [path, ...Object.entries(value).flatMap(([key, v]) => mapsIn(v, [...path, key]))];
}

const at = (value: unknown, path: YamlPath): Record<string, unknown> =>
  path.reduce<unknown>((v, key) => (v as Record<string | number, unknown>)[key], value) as Record<string, unknown>;

const word = fc.oneof(
  fc.string({ unit: 'grapheme-ascii', minLength: 1, maxLength: 30 }),
  fc.constantFrom('a: b', '# no remark', '{n}', 'off, now', '24.1', 'true', '[x]', ' blank ', '"quoted"', "it's", '—'),
  fc.integer({ min: -999, max: 999 }),
);

describe('one value of a text is changed, and nothing else', () => {
  const picked = fc.constantFrom(...texts).chain(([file, text]) => {
    const maps = mapsIn(parse(text));
    return fc.tuple(fc.constant(file), fc.constant(text), fc.constantFrom(...maps));
  });

  test('a member that is there, or is not yet', () => {
    fc.assert(
      fc.property(picked, word, fc.constantFrom('why', 'zone', 'novel'), ([, text, path], value, name) => {
        const wanted: unknown = parse(text);
        at(wanted, path)[name] = value;
        expect(parse(setMember(text, [...path, name], value))).toEqual(wanted);
      }),
      { numRuns: tries(400), seed: 3 },
    );
  });

  test('a member that is taken away', () => {
    fc.assert(
      fc.property(picked, fc.nat(20), ([, text, path], n) => {
        const wanted: unknown = parse(text);
        const names = Object.keys(at(wanted, path)).slice(1);
        fc.pre(names.length > 0);
        const name = names[n % names.length]!;
        delete at(wanted, path)[name];
        expect(parse(removeAt(text, [...path, name]))).toEqual(wanted);
      }),
      { numRuns: tries(400), seed: 4 },
    );
  });

  test('an element that is moved, and moved back, leaves the text as it was', () => {
    fc.assert(
      fc.property(fc.constantFrom(...texts), fc.nat(50), fc.nat(50), ([, text], a, b) => {
        const { items } = parse(text) as { items: unknown[] };
        const [from, to] = [a % items.length, b % items.length];
        const moved = moveElement(text, ['items'], from, to);
        const wanted = [...items];
        wanted.splice(to, 0, wanted.splice(from, 1)[0]!);
        expect((parse(moved) as { items: unknown[] }).items).toEqual(wanted);
        const back = moveElement(moved, ['items'], to, from);
        // a list in brackets is one element a line from here on
        expect(back === text || !text.includes('items:\n')).toBe(true);
        expect(parse(back)).toEqual(parse(text));
      }),
      { numRuns: tries(200), seed: 5 },
    );
  });

  test('an element that is put in, and taken away again', () => {
    for (const [, text] of texts) {
      const { items } = parse(text) as { items: unknown[] };
      const put = insertElement(text, ['items'], 1, ['check: new-one', 'line: New — yes']);
      expect((parse(put) as { items: unknown[] }).items[1]).toEqual({ check: 'new-one', line: 'New — yes' });
      expect(parse(removeAt(put, ['items', 1]))).toEqual(parse(text));
      expect((parse(insertElement(text, ['items'], 99, ['check: last'])) as { items: unknown[] }).items).toHaveLength(items.length + 1); // oxfmt-ignore
    }
  });

  test('remarks stay with what they are about', () => {
    const text = 'items:\n  # first\n  - check: a # here\n    why: x\n  # second\n  - check: b\n';
    expect(moveElement(text, ['items'], 1, 0)).toBe('items:\n  # second\n  - check: b\n  # first\n  - check: a # here\n    why: x\n'); // oxfmt-ignore
    expect(setMember(text, ['items', 0, 'why'], 'y, z')).toBe(text.replace('why: x', 'why: y, z'));
    expect(removeAt(text, ['items', 0])).toBe('items:\n  # second\n  - check: b\n');
  });

  test('a way that leads nowhere changes nothing', () => {
    const text = 'a: 1\n';
    for (const path of [['b', 'c'], ['a', 'b'], [0], []] as YamlPath[]) expect(setMember(text, path, 2)).toBe(text);
    expect(setMember('a: [', ['a'], 1)).toBe('a: [');
  });
});
