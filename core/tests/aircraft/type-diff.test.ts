import { describe, expect, test } from 'vitest';
import { bandWords, diffTypes, isAsked, type TypeFile, typeFileSchema } from '@rouse/core/aircraft';
import { fleet, typeOf } from '../fleet.ts';

const changed = (id: string, change: (file: TypeFile) => void): TypeFile => {
  const copy = structuredClone(typeOf(id));
  change(copy);
  return copy;
};

describe('what changed between two versions', () => {
  test('nothing, in the same file or in its number alone', () => {
    for (const type of fleet) {
      expect(diffTypes(type, type)).toEqual([]);
      expect(diffTypes(type, { ...type, version: type.version + 1 })).toEqual([]);
    }
  });

  test('a figure is named with its place, before and after', () => {
    const newer = changed('H9', (t) => (t.briefGoodFor_min = 45));
    expect(diffTypes(typeOf('H9'), newer)).toEqual([
      { path: ['briefGoodFor_min'], before: String(typeOf('H9').briefGoodFor_min), after: '45' },
    ]);
  });

  test('an item is known by its id wherever it stands, and called by its name', () => {
    const older = typeOf('H9');
    const first = older.items[0]!;
    const gone = changed('H9', (t) => t.items.shift());
    expect(diffTypes(older, gone)).toEqual([{ path: ['items'], before: first.challenge, after: null }]);
    expect(diffTypes(gone, older)).toEqual([{ path: ['items'], before: null, after: first.challenge }]);
    const said = changed('H9', (t) => (t.items[3]!.response = 'otherwise'));
    expect(diffTypes(older, said)).toEqual([
      { path: ['items', older.items[3]!.challenge, 'response'], before: older.items[3]!.response, after: 'otherwise' },
    ]);
  });

  test('the injected trainer differs from the one that it extends where its files say, and nowhere else', () => {
    const places = diffTypes(typeOf('T2'), typeOf('T2i')).map((c) => c.path[0]);
    expect(new Set(places)).toEqual(
      new Set(
        'id name role cockpit channels transducers electricalLoads loading choices turnRound startWatches items standIn simulator'.split(
          ' ',
        ),
      ),
    );
  });
});

describe('the type file refuses', () => {
  const issue = (id: string, change: (file: TypeFile) => void): string => {
    const result = typeFileSchema.safeParse(changed(id, change));
    if (result.success) throw new Error('it was accepted');
    return `${result.error.issues[0]!.path.join('.')}: ${result.error.issues[0]!.message}`;
  };

  test.each<[string, (file: TypeFile) => void, RegExp]>([
    ['an answer to nothing', (t) => (t.choices[0]!.usual = 'hope'), /choices\.0\.usual: hope is none/],
    [
      'a question that hangs on nothing',
      (t) => (t.choices[1]!.when = { choice: 'moon', is: 'full' }),
      /choices\.1\.when/,
    ],
    [
      'an item of a choice that is not there',
      (t) => (t.items[0]!.when = [{ choice: 'moon', is: 'full' }]),
      /items\.0\.when/,
    ],
    ['a short list of strangers', (t) => t.turnRound!.items.push('juggle'), /turnRound\.items.*juggle/],
    ['a loop that nobody closes', (t) => void Object.assign(t.items.find((i) => i.kind === 'set')!, { opens: { words: 'open', closedBy: 'nobody' } }), /opens.*nobody/], // oxfmt-ignore
    ['a test that leaves what it moved', (t) => t.items.flatMap((i) => (i.kind === 'test' ? i.stages : [])).forEach((s) => delete s.restores), /restores/], // oxfmt-ignore
  ])('%s', (_what, change, words) => {
    expect(issue('H9', change)).toMatch(words);
  });
});

test('a question is asked only where another is answered so', () => {
  const reader = typeOf('H9').choices.find((c) => c.id === 'reader')!;
  expect(isAsked(reader, () => 'two-crew')).toBe(true);
  expect(isAsked(reader, () => 'read-and-do')).toBe(false);
  expect(isAsked(typeOf('H9').choices[0]!, () => undefined)).toBe(true);
});

test('every band of every limit can be said', () => {
  for (const type of fleet)
    for (const limit of type.limits) {
      const { unit } = type.channels.find((c) => c.id === limit.channel)!;
      for (const band of limit.bands) expect(bandWords(band, unit)).toMatch(/^(above|below|never) |\d/);
    }
});

test('members in another order are no difference', () => {
  const turned = (value: unknown): unknown =>
    Array.isArray(value)
      ? value.map(turned)
      : typeof value === 'object' && value !== null
        ? Object.fromEntries(Object.entries(value).toReversed().map(([k, v]) => [k, turned(v)])) // oxfmt-ignore
        : value;
  const skerry = typeOf('S7');
  expect(diffTypes(skerry, turned(skerry) as TypeFile)).toEqual([]);
});
