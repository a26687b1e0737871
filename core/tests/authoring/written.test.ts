import { folderNames, readFolder } from '@rouse/aircraft';
import {
  copyElement,
  headRemark,
  renameMember,
  setMember,
  setNames,
  setText,
  type WrittenNode,
  writtenItems,
  writtenTree,
} from '@rouse/core/authoring';
import { describe, expect, test } from 'vitest';
import { parse } from 'yaml';

const files = folderNames('aircraft').flatMap((name) =>
  Object.entries(readFolder(`aircraft/${name}`)!)
    .filter(([file]) => file.endsWith('.yaml'))
    .map(([file, text]): [string, string] => [`${name}/${file}`, text]),
);
const leaves = (nodes: readonly WrittenNode[]): WrittenNode[] =>
  nodes.flatMap((n) => (n.inner ? leaves(n.inner) : [n]));
const within = (whole: unknown, path: WrittenNode['path']): unknown =>
  path.reduce<unknown>((v, key) => (v as Record<string | number, unknown>)[key], whole);
const valueAt = (text: string, path: WrittenNode['path']): unknown => within(parse(text), path);

describe('a file as a form shows it', () => {
  test.each(files)('%s: every value is there as it is read, and says where it stands', (_, text) => {
    const all = leaves(writtenTree(text));
    expect(all.length).toBeGreaterThan(0);
    const lines = text.split('\n');
    const whole: unknown = parse(text);
    for (const node of all) {
      const read = within(whole, node.path);
      expect(node.isList ? parse(String(node.value)) : node.value).toEqual(read);
      expect(lines[node.line - 1]).toContain(String(node.name === Number(node.name) ? '' : node.name));
    }
  });

  test.each(files)(
    '%s: a list in brackets is replaced by what was typed, and by nothing that cannot be read',
    (_, text) => {
      for (const [i, node] of leaves(writtenTree(text))
        .filter((n) => n.isList)
        .entries()) {
        const after = setText(text, node.path, '[7, [8, 9]]');
        expect(valueAt(after!, node.path)).toEqual([7, [8, 9]]);
        // what cannot be read is so in every list
        if (i % 8 > 0) continue;
        for (const wrong of ['[7, 8', '7]', 'word', '[a], b: c', ''])
          expect(setText(text, node.path, wrong)).toBeNull();
      }
    },
  );

  test('what stands above a value is shown beside it; what cannot be read has no form', () => {
    const text = '# About it.\n# All of it.\na: 1\n# kilograms\nb: { c: x }\n';
    const [first, inner] = writtenTree(text);
    expect(headRemark(text)).toBe('About it. All of it.');
    expect(first).toMatchObject({ name: 'a', remark: null });
    expect(inner).toMatchObject({ name: 'b', remark: 'kilograms', of: 'map', inner: [{ name: 'c', value: 'x' }] });
    expect(writtenTree('a: [1\nb: 2')).toEqual([]);
    expect(writtenTree('- a list')).toEqual([]);
  });

  test('a copied element stands behind the first one, word for word', () => {
    for (const [file, text] of files.filter(([f]) => f.endsWith('ways.yaml'))) {
      const { choices } = parse(text) as { choices: unknown[] };
      const after = parse(copyElement(text, ['choices'], 0)) as { choices: unknown[] };
      expect(after.choices, file).toEqual([choices[0], ...choices]);
    }
    expect(parse(copyElement('of: [{ a: 1 }, { a: 2 }]\n', ['of'], 1))).toEqual({ of: [{ a: 1 }, { a: 2 }, { a: 2 }] });
  });
});

describe('what an item needs, and what kind it is', () => {
  const text = 'items:\n  - check: doors # the first\n    line: Doors — closed\n  - { set: belts, needs: doors }\n';

  test('names are written one as a word, several in brackets, none not at all', () => {
    const path = ['items', 0, 'needs'];
    const two = setNames(text, path, ['papers', 'belts-{n}']);
    expect(parse(two).items[0]).toMatchObject({ check: 'doors', needs: ['papers', 'belts-{n}'] });
    expect(parse(setNames(two, path, ['papers'])).items[0].needs).toBe('papers');
    expect(parse(setNames(two, path, [])).items[0]).not.toHaveProperty('needs');
    expect(parse(setNames(text, ['items', 1, 'needs'], ['a', 'b'])).items[1].needs).toEqual(['a', 'b']);
    expect(two).toContain('# the first');
  });

  test('another kind keeps the id and everything else', () => {
    const after = renameMember(text, ['items', 0, 'check'], 'wait');
    expect(parse(after).items[0]).toEqual({ wait: 'doors', line: 'Doors — closed' });
    expect(parse(renameMember(after, ['items', 1, 'set'], 'check')).items[1]).toEqual({
      check: 'belts',
      needs: 'doors',
    });
  });
});

describe('the items of a leg as they are written', () => {
  const leg = [
    'label: Lift',
    'items:',
    '  - { zone: cabin }',
    '  # the first one',
    '  - check: doors',
    '    line: Doors — closed',
    '    no-go: A door opens.',
    '  - { perEngine: [{ use: "residual-{n}", as: "rest-{n}" }] }',
    '  - { use: ready, needs: doors }',
    '',
  ].join('\n');

  test('each with its line, its kind and what it takes; a zone alone is none', () => {
    expect(writtenItems(leg)).toMatchObject([
      { line: 5, kind: 'check', use: null, severity: 'no-go', path: ['items', 1] },
      { line: 8, kind: null, use: 'residual-{n}', path: ['items', 2, 'perEngine', 0] },
      { line: 9, kind: null, use: 'ready', severity: null, path: ['items', 3] },
    ]);
    expect(writtenItems('items: [')).toEqual([]);
  });

  test('a field that is set stands in its item, and in no other', () => {
    const [doors] = writtenItems(leg);
    const after = setMember(leg, [...doors!.path, 'why'], 'Say why: it is asked.');
    expect(writtenItems(after)[0]!.fields).toMatchObject({ check: 'doors', why: 'Say why: it is asked.' });
    expect(after).toContain('# the first one');
    expect(after.split('\n')).toHaveLength(leg.split('\n').length + 1);
  });
});
