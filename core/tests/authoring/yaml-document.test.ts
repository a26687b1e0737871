import { readFolder } from '@rouse/aircraft';
import { writtenItems, writtenTree, YamlTexts } from '@rouse/core/authoring';
import fc from 'fast-check';
import { type Document, isCollection, parseDocument, visit } from 'yaml';
import { expect, test } from 'vitest';
import { readDocument } from '../../src/authoring/yaml-document.ts';
import { tries } from '../whole.ts';

const folders = ['strath-x14', 'skerry-s7', 'blank'].map((name) => readFolder(`aircraft/${name}`)!);
const legs = folders.flatMap((folder) => Object.entries(folder).flatMap(([f, t]) => (f.startsWith('procedure/') ? [t] : []))); // oxfmt-ignore

/** What a hand does to a text: letters that mean something in it, a line gone, doubled, moved, indented or remarked. */
const CHANGES: readonly ((lines: string[], at: number, column: number) => string[])[] = [
  ...['x', '"', ': ', '{', '}', ', ', '#', '- ', '\t', '&a ', '*a', '|', '\r'].map(
    (sign) => (lines: string[], at: number, column: number) => {
      const line = lines[at]!;
      const place = column % (line.length + 1);
      return lines.with(at, line.slice(0, place) + sign + line.slice(place));
    },
  ),
  (lines, at) => lines.toSpliced(at, 1),
  (lines, at) => lines.toSpliced(at, 0, lines[at]!),
  (lines, at) => lines.toSpliced(at, 0, '  # a remark'),
  (lines, at) => lines.toSpliced(at, 0, ''),
  (lines, at) => lines.with(at, `  ${lines[at]!}`),
  (lines, at) => lines.with(at, lines[at]!.replace(/^ {2}/, '')),
  (lines, at) => [...lines.toSpliced(at, 1), lines[at]!],
  (lines) => [...lines, 'other: 1'],
];

/** Every node of a document with its place and what it says. */
function nodesOf({ contents, errors }: Document.Parsed): unknown[] {
  const found: unknown[] = errors.map((e) => e.message);
  if (errors.length > 0) return found;
  visit(contents, {
    Node: (_, n) => void found.push([n.range, isCollection(n) ? n.flow : n.toJSON(), n.commentBefore]),
  });
  return found;
}

test('a leg read item by item, key after key, is what it is when it is read whole', () => {
  const change = fc.record({ how: fc.nat(CHANGES.length - 1), line: fc.nat(), column: fc.nat(), back: fc.boolean() }); // oxfmt-ignore
  let byItem = 0;
  fc.assert(
    fc.property(fc.constantFrom(...legs), fc.array(change, { minLength: 3, maxLength: 8 }), (leg, changes) => {
      let text = leg;
      for (const { how, line, column, back } of changes) {
        const before = text;
        const lines = text.split('\n');
        text = CHANGES[how]!(lines, line % lines.length, column).join('\n');
        const was = readDocument(before).document;
        const { document, lines: counted } = readDocument(text);
        if (document === was && text !== before) byItem++;
        const whole = parseDocument(text, { logLevel: 'silent' });
        expect(nodesOf(document)).toEqual(nodesOf(whole));
        for (const at of [0, column % text.length, text.length])
          expect(counted.linePos(at).line).toBe(text.slice(0, at).split('\n').length);
        if (back) text = before;
      }
    }),
    { numRuns: tries(150), seed: 5 },
  );
  // and it is read item by item, or this says nothing
  expect(byItem).toBeGreaterThan(tries(100));
});

test('an item that was not touched is the same object for whoever reads the file, as long as its line is', () => {
  const texts = new YamlTexts();
  const leg = 'label: Before start\nitems:\n  - check: one\n    why: a\n  - check: two\n    why: b\n';
  type Leg = { items: object[] };
  const first = texts.read('a.yaml', leg).value as unknown as Leg;
  const second = texts.read('a.yaml', leg.replace('why: b', 'why: bc')).value as unknown as Leg;
  expect(second.items[0]).toBe(first.items[0]);
  expect(second.items[1]).toEqual({ check: 'two', why: 'bc' });
  const third = texts.read('a.yaml', leg.replace('why: a', 'why: a\n    line: x — y')).value as unknown as Leg;
  expect(third.items[1]).toEqual(first.items[1]);
  expect(texts.places.of(third.items[1]!)).toEqual({ file: 'a.yaml', line: 6, column: 5 });
  const other = texts.read('b.yaml', leg).value as unknown as Leg;
  expect(texts.places.of(other.items[1]!)).toEqual({ file: 'b.yaml', line: 5, column: 5 });
});

test('what a form shows of a leg is the same whichever text was read before it', () => {
  const [a, b] = [legs[0]!, legs[0]!.replace('zone: cabin', 'zone: somewhere')];
  const fresh = { items: writtenItems(b), tree: writtenTree(b) };
  readDocument(a);
  expect({ items: writtenItems(b), tree: writtenTree(b) }).toEqual(fresh);
});
