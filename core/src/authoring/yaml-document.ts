import { type Document, isMap, isSeq, LineCounter, type Node, parseDocument, visit, type YAMLMap, type YAMLSeq } from 'yaml'; // oxfmt-ignore

/** A YAML text as it was read. It is to be used before the next text is read, which may share its nodes. */
export interface YamlDocument {
  document: Document.Parsed;
  lines: LineCounter;
}

/** The text of a leg: what stands above its items, and each item from its dash to the next. */
interface Cut {
  head: string;
  items: readonly string[];
}

interface Read extends YamlDocument {
  text: string;
  /** null where its items cannot be read one by one */
  cut: Cut | null;
}

let last: Read | null = null;

/**
 * Reads a text. An editor reads a leg again after every key, several times, and one of its items is new: only this one is
 * parsed, the others stay the nodes that they were, with their ranges moved.
 */
export function readDocument(text: string): YamlDocument {
  if (last?.text === text) return last;
  last = (last && readOver(last, text)) ?? readWhole(text);
  return last;
}

function readWhole(text: string): Read {
  const document = parseDocument(text, { logLevel: 'silent' });
  const cut = document.errors.length > 0 ? null : cutItems(text);
  const list = cut && itemsOf(document);
  const oneByOne = list?.items.length === cut?.items.length && list?.items.every(isMap);
  return { text, document, lines: linesOf(text), cut: oneByOne ? cut : null };
}

/**
 * Cuts where each item begins with a dash of the same indent, and nothing stands between them or behind the last. A
 * remark may belong to what is above it or below: such a leg is read whole.
 */
function cutItems(text: string): Cut | null {
  const head = /^(?:.*\n)*?items:\n(?= *- )/.exec(text)?.[0];
  if (head === undefined) return null;
  const indent = / */.exec(text.slice(head.length))![0].length;
  const items: string[] = [];
  for (const line of text.slice(head.length).split(/(?<=\n)/)) {
    const at = line.trim() === '' ? Infinity : line.search(/[^ ]/);
    if (at < indent || (at === indent && !line.startsWith('- ', at)) || line[at] === '#') return null;
    if (at === indent) items.push(line);
    else items[items.length - 1] += line;
  }
  return { head, items };
}

function itemsOf(document: Document.Parsed): YAMLSeq | null {
  const list = document.get('items', true);
  return isMap(document.contents) && isSeq(list) ? list : null;
}

/** The text read over the one before, where it differs in some items only; null where it has to be read whole. */
function readOver(before: Read, text: string): Read | null {
  const cut = before.cut && cutItems(text);
  const list = cut && itemsOf(before.document);
  if (!list || cut.head !== before.cut!.head || cut.items.length === 0) return null;
  const [was, is] = [before.cut!.items, cut.items];
  const most = Math.min(was.length, is.length);
  let same = 0;
  while (same < most && was[same] === is[same]) same++;
  let sameAfter = 0;
  while (sameAfter < most - same && was.at(-1 - sameAfter) === is.at(-1 - sameAfter)) sameAfter++;
  let at = is.slice(0, same).reduce((sum, item) => sum + item.length, cut.head.length);
  const made: Node[] = [];
  for (const item of is.slice(same, is.length - sameAfter)) {
    const node = readItem(item);
    if (!node) return null;
    move(node, at);
    made.push(node);
    at += item.length;
  }
  const nodes = list.items as Node[];
  const behind = nodes.slice(nodes.length - sameAfter);
  for (const node of behind) move(node, text.length - before.text.length);
  list.items = [...nodes.slice(0, same), ...made, ...behind];
  endWith(before.document.contents as unknown as YAMLMap, list);
  return { text, document: before.document, lines: linesOf(text), cut };
}

/** One item, read by itself; null where it cannot be. */
function readItem(text: string): Node | null {
  const { errors, contents } = parseDocument(text, { logLevel: 'silent' });
  return errors.length === 0 && isSeq(contents) && contents.items.length === 1 && isMap(contents.items[0]) ? contents.items[0] : null; // oxfmt-ignore
}

function move(node: Node, by: number): void {
  if (by === 0) return;
  visit(node, {
    Node: (_, { range }) => {
      if (range) for (const i of [0, 1, 2] as const) range[i] += by;
    },
  });
}

/** The list ends where its last item does, and the map that it is the last member of. */
function endWith(map: YAMLMap, list: YAMLSeq): void {
  const [, , end] = (list.items.at(-1) as Node).range!;
  list.range = [list.range![0], end, end];
  map.range = [map.range![0], end, end];
}

function linesOf(text: string): LineCounter {
  const lines = new LineCounter();
  for (let at = 0; ; at++) {
    lines.addNewLine(at);
    at = text.indexOf('\n', at);
    if (at < 0) return lines;
  }
}
