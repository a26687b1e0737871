import { isCollection, isMap, isScalar, isSeq, type Node, type Pair } from 'yaml';
import type { YamlPath } from './edit-yaml.ts';
import { readDocument } from './yaml-document.ts';

/** One value of a YAML file as somebody wrote it, for a form: a scalar, a short list in brackets, or what stands under it. */
export interface WrittenNode {
  path: YamlPath;
  /** its name in the map, or its number in the list */
  name: string | number;
  line: number;
  /** what is written above it */
  remark: string | null;
  /** null for a map or a list of maps */
  value: string | number | boolean | null;
  /** the value is a list of figures or words, and `value` its text in brackets */
  isList: boolean;
  /** members of a map, or elements of a list that is not in brackets */
  inner: WrittenNode[] | null;
  /** of a map or a list */
  of: 'map' | 'list' | null;
}

/** The values of a file in their order; none where it cannot be read. */
export function writtenTree(text: string): WrittenNode[] {
  const { document, lines } = readDocument(text);
  if (document.errors.length > 0 || !isMap(document.contents)) return [];
  const lineOf = (node: Node): number => lines.linePos(node.range![0]).line;

  const nodeOf = (name: string | number, key: Node, value: Node | null, path: YamlPath): WrittenNode => {
    const head = { path, name, line: lineOf(key), remark: key.commentBefore?.trim() ?? null };
    if (isMap(value)) return { ...head, value: null, isList: false, inner: members(value.items, path), of: 'map' };
    if (isSeq(value) && (!value.flow || value.items.some((e) => isMap(e))))
      return { ...head, value: null, isList: false, inner: elements(value.items as Node[], path), of: 'list' };
    if (isCollection(value))
      return { ...head, value: text.slice(value.range![0], value.range![1]), isList: true, inner: null, of: null };
    const plain = isScalar(value) ? (value.value as WrittenNode['value']) : null;
    return { ...head, value: plain, isList: false, inner: null, of: null };
  };
  const members = (items: readonly unknown[], path: YamlPath): WrittenNode[] =>
    (items as Pair<Node, Node | null>[]).map(({ key, value }) => {
      const name = String(isScalar(key) ? key.value : '');
      return nodeOf(name, key, value, [...path, name]);
    });
  const elements = (items: readonly Node[], path: YamlPath): WrittenNode[] =>
    items.map((element, i) => nodeOf(i, element, element, [...path, i]));

  const [first, ...others] = members(document.contents.items, []);
  // what stands at the head of a file is about the whole of it
  return first ? [{ ...first, remark: null }, ...others] : [];
}

/** What is written at the head of a file, about the whole of it. */
export function headRemark(text: string): string {
  const lines = text.split('\n');
  const end = lines.findIndex((line) => !line.startsWith('#'));
  return lines
    .slice(0, Math.max(0, end))
    .map((line) => line.replace(/^# ?/, ''))
    .join(' ');
}
