import { Document, isCollection, isMap, isPair, isScalar, isSeq, type Node, type Pair, type YAMLMap, type YAMLSeq } from 'yaml'; // oxfmt-ignore
import { readDocument } from './yaml-document.ts';

/** The way to a value of a YAML text: names of members, numbers of list elements. */
export type YamlPath = readonly (string | number)[];

type Plain = string | number | boolean | null;

/** A scalar as it is written: plain where it can be, between quotes where it must. */
function written(value: Plain, inFlow: boolean): string {
  const text = new Document(inFlow ? [value] : value).toString({ lineWidth: 0, flowCollectionPadding: false }).trim();
  return inFlow ? text.replace(/^- /, '').replace(/^\[(.*)\]$/s, '$1') : text;
}

/** A scalar inside braces needs quotes where a comma or a brace would end it. */
function inFlow(value: Plain): string {
  const plain = written(value, true);
  return typeof value === 'string' && /[,[\]{}]/.test(value) && !/^["']/.test(plain) ? JSON.stringify(value) : plain;
}

const isFlow = (node: YAMLMap | YAMLSeq): boolean => node.flow === true;

/**
 * Sets one member of a map, or a plain element of a list: the text of its value is replaced, and no other byte; a member that is not there is added
 * behind the first one. @returns the new text, the same where the way leads nowhere
 */
export function setMember(text: string, path: YamlPath, value: Plain): string {
  if (typeof path.at(-1) === 'number') return setElement(text, path, value);
  const [map, name] = parentOf(text, path);
  if (!map || name === undefined) return text;
  const pair = pairOf(map, name);
  if (pair?.value && isScalar(pair.value)) return splice(text, pair.value.range!, spell(map, value));
  if (pair?.value) return splice(text, [(pair.value as Node).range![0], endOf(text, pair.value as Node)], spell(map, value)); // oxfmt-ignore
  const first = map.items[0] as Pair<Node, Node | null> | undefined;
  if (!first) return splice(text, map.range!, `{ ${name}: ${inFlow(value)} }`);
  if (isFlow(map)) {
    const end = text.lastIndexOf('}', map.range![1]);
    const before = text.slice(0, end).trimEnd();
    return `${before}, ${name}: ${inFlow(value)} ${text.slice(end)}`;
  }
  const at = lineEnd(text, isCollection(first.value) ? endOf(text, first.value) - 1 : (first.value ?? first.key).range![1]); // oxfmt-ignore
  return `${text.slice(0, at)}\n${' '.repeat(columnOf(text, first.key.range![0]))}${name}: ${spell(map, value)}${text.slice(at)}`;
}

function setElement(text: string, path: YamlPath, value: Plain): string {
  const node = nodeAt(text, path);
  const [list] = listOf(text, path);
  return list && isScalar(node)
    ? splice(text, node.range!, isFlow(list) ? inFlow(value) : written(value, false))
    : text;
}

const spell = (map: YAMLMap, value: Plain): string => (isFlow(map) ? inFlow(value) : written(value, false));

/** A list that stands in brackets, as one element a line: only so can its elements be moved. */
function unfolded(text: string, path: YamlPath): string {
  const [list] = listOf(text, [...path, 0]);
  if (!list || !isFlow(list)) return text;
  const begin = text.lastIndexOf('\n', list.range![0] - 1) + 1;
  const indent = ' '.repeat(/^\s*/.exec(text.slice(begin))![0].length + 2);
  const lines = (list.items as Node[]).map((node) => `\n${indent}- ${text.slice(node.range![0], node.range![1])}`);
  return text.slice(0, list.range![0]).trimEnd() + lines.join('') + text.slice(list.range![1]);
}

/** Takes one member of a map away, or one element of a list, with the remarks above it. */
export function removeAt(folded: string, path: YamlPath): string {
  const [map, name] = parentOf(folded, path);
  if (map && name !== undefined) return removeMember(folded, map, name);
  const text = unfolded(folded, path.slice(0, -1));
  const [list, at] = listOf(text, path);
  if (!list || at === undefined) return folded;
  const [from, to] = segments(text, list)[at] ?? [0, 0];
  return text.slice(0, from) + text.slice(to);
}

function removeMember(text: string, map: YAMLMap, name: string): string {
  const pair = pairOf(map, name);
  if (!pair) return text;
  const from = pair.key.range![0];
  const to = pair.value ? endOf(text, pair.value) : pair.key.range![1];
  if (!isFlow(map)) {
    const begin = text.lastIndexOf('\n', from - 1) + 1;
    // the first member of a list element shares its line with the dash
    if (/^\s*-\s+$/.test(text.slice(begin, from))) return text;
    return text.slice(0, begin) + text.slice(lineEnd(text, to - 1) + 1);
  }
  const after = /^\s*,\s*/.exec(text.slice(to));
  if (after) return text.slice(0, from) + text.slice(to + after[0].length);
  return text.slice(0, from).replace(/,\s*$/, ' ') + text.slice(to).trimStart();
}

/** Moves an element of a list to another place in it, with the remarks above it. */
export function moveElement(folded: string, path: YamlPath, from: number, to: number): string {
  const text = unfolded(folded, path);
  const [list] = listOf(text, [...path, 0]);
  if (!list || from === to) return folded;
  const parts = segments(text, list);
  if (!parts[from] || !parts[to]) return text;
  const whole = parts.map(([a, b]) => (text.slice(a, b).endsWith('\n') ? text.slice(a, b) : `${text.slice(a, b)}\n`));
  const [moved] = whole.splice(from, 1);
  whole.splice(to, 0, moved!);
  return text.slice(0, parts[0]![0]) + whole.join('') + text.slice(parts.at(-1)![1]);
}

/** Puts an element into a list, written as `lines` without its dash. */
export function insertElement(folded: string, path: YamlPath, at: number, lines: readonly string[]): string {
  const text = unfolded(folded, path);
  const [list] = listOf(text, [...path, 0]);
  if (!list) return folded;
  const parts = segments(text, list);
  const indent = ' '.repeat(columnOf(text, dashOf(text, list.items[0] as Node)));
  const block = lines.map((line, i) => `${indent}${i === 0 ? '- ' : '  '}${line}\n`).join('');
  const place = at < parts.length ? parts[at]![0] : parts.at(-1)![1];
  const before = text.slice(0, place);
  return `${before}${before.endsWith('\n') || before === '' ? '' : '\n'}${block}${text.slice(place)}`;
}

/** Puts a copy of a list element behind it, without the remarks above it. */
export function copyElement(folded: string, path: YamlPath, at: number): string {
  const text = unfolded(folded, path);
  const [list] = listOf(text, [...path, 0]);
  const part = list && segments(text, list)[at];
  if (!part) return folded;
  const lines = text
    .slice(...part)
    .replace(/\n$/, '')
    .split('\n');
  const begin = lines.findIndex((line) => !/^\s*#/.test(line));
  const indent = /^\s*- +/.exec(lines[begin]!)![0].length;
  return insertElement(text, path, at + 1, lines.slice(begin).map((line) => line.slice(indent))); // oxfmt-ignore
}

/**
 * Replaces the text of a value by what somebody typed: a list in brackets, say. @returns null when that cannot be read
 * there
 */
export function setText(text: string, path: YamlPath, typed: string): string | null {
  const node = nodeAt(text, path);
  if (!isCollection(node) && !isScalar(node)) return null;
  const range = (node as Node).range!;
  const end = isCollection(node) && !node.flow ? null : range[1];
  if (end === null) return null;
  const after = text.slice(0, range[0]) + typed + text.slice(end);
  const read = nodeAt(after, path) as Node | null;
  return isCollection(read) && read.flow && read.range![1] - read.range![0] === typed.trim().length ? after : null;
}

/** Gives a member of a map another name; its value stays. */
export function renameMember(text: string, path: YamlPath, to: string): string {
  const [map, name] = parentOf(text, path);
  const pair = map && pairOf(map, name);
  return pair ? splice(text, pair.key.range!.slice(0, 2), to) : text;
}

/** Sets a member to some names: none takes it away, one is written as it is, several as a list in brackets. */
export function setNames(text: string, path: YamlPath, names: readonly string[]): string {
  if (names.length === 0) return removeAt(text, path);
  const one = setMember(text, path, names[0]!);
  return names.length === 1 ? one : (setText(one, path, `[${names.map(inFlow).join(', ')}]`) ?? text);
}

function parentOf(text: string, path: YamlPath): [YAMLMap, string] | [null, undefined] {
  const name = path.at(-1);
  const node = nodeAt(text, path.slice(0, -1));
  return isMap(node) && typeof name === 'string' ? [node as YAMLMap, name] : [null, undefined];
}

function listOf(text: string, path: YamlPath): [YAMLSeq, number] | [null, undefined] {
  const at = path.at(-1);
  const node = nodeAt(text, path.slice(0, -1));
  return isSeq(node) && node.items.length > 0 && typeof at === 'number' ? [node as YAMLSeq, at] : [null, undefined];
}

function nodeAt(text: string, path: YamlPath): unknown {
  const { document } = readDocument(text);
  if (document.errors.length > 0) return null;
  return path.length === 0 ? document.contents : document.getIn(path, true);
}

function pairOf(map: YAMLMap, name: string): Pair<Node, Node | null> | undefined {
  return (map.items as Pair<Node, Node | null>[]).find((p) => isPair(p) && isScalar(p.key) && String(p.key.value) === name); // oxfmt-ignore
}

const splice = (text: string, range: readonly number[], by: string): string =>
  text.slice(0, range[0]) + by + text.slice(range[1]);

/** Where a value ends: a block reaches up to the last line that belongs to it. */
function endOf(text: string, node: Node): number {
  const end = node.range![1];
  return text.slice(0, end).endsWith('\n') ? end : end;
}

function lineEnd(text: string, at: number): number {
  const end = text.indexOf('\n', at);
  return end < 0 ? text.length : end;
}

const columnOf = (text: string, at: number): number => at - (text.lastIndexOf('\n', at - 1) + 1);
const dashOf = (text: string, node: Node): number => text.lastIndexOf('-', node.range![0]);

/** The lines of each element of a block list, remarks above it included. */
function segments(text: string, list: YAMLSeq): [number, number][] {
  const begins = (list.items as Node[]).map((node) => {
    let begin = text.lastIndexOf('\n', dashOf(text, node) - 1) + 1;
    for (;;) {
      const above = text.lastIndexOf('\n', begin - 2) + 1;
      if (begin === 0 || !/^\s*#/.test(text.slice(above, begin))) return begin;
      begin = above;
    }
  });
  const last = list.items.at(-1) as Node;
  const end = Math.min(text.length, lineEnd(text, Math.max(last.range![0], endOf(text, last) - 1)) + 1);
  return begins.map((begin, i) => [begin, begins[i + 1] ?? end]);
}
