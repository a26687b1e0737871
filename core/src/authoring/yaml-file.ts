import { isAlias, isMap, isScalar, isSeq, type Node, type Pair } from 'yaml';
import { TypeParts } from '../aircraft/index.ts';
import { type Authored, type AuthoredMap, Places } from './places.ts';
import type { Place, Problem } from './problem.ts';
import { readDocument } from './yaml-document.ts';

export interface YamlRead {
  value: Authored;
  problems: readonly Problem[];
}

/** Reads YAML texts, each once: an editor compiles a whole folder after every key, and only one file of it is new. */
export class YamlTexts {
  /** where everything stands that was read */
  readonly places = new Places();
  readonly parts = new TypeParts();
  /** parts of a type in which no `{n}` is left over */
  readonly bound = new WeakSet();
  private readonly known = new Map<string, { text: string; read: YamlRead }>();
  private readonly made = new WeakMap<object, Map<string, Kept>>();
  private readonly ids = new WeakMap<object, number>();
  private readonly members: Members = new WeakMap();
  private readonly same = new Map<string, { text: string }>();
  private lastId = 0;

  read(file: string, text: string): YamlRead {
    const before = this.known.get(file);
    if (before?.text === text) return before.read;
    const read = readYaml(file, text, this.places, this.members);
    this.known.set(file, { text, read });
    return read;
  }

  /** What stands for the text of a file: the same object as long as the text is. */
  asObject(file: string, text: string): object {
    const before = this.same.get(file);
    if (before?.text === text) return before;
    const now = { text };
    this.same.set(file, now);
    return now;
  }

  /** A number for an object: the same one for the same object. */
  idOf(of: object): number {
    const id = this.ids.get(of) ?? ++this.lastId;
    this.ids.set(of, id);
    return id;
  }

  /**
   * What is made of a part, once: as long as the part is the same object and what else it depends on is the same value.
   * What was reported then is reported again.
   * @param problems what `make` reports to
   */
  keep<T>(part: object, purpose: string, given: unknown, problems: Problem[], make: () => T): T {
    const byPurpose = this.made.get(part) ?? new Map<string, Kept>();
    this.made.set(part, byPurpose);
    const before = byPurpose.get(purpose);
    if (before && before.given === given) {
      problems.push(...before.problems);
      return before.made as T;
    }
    const from = problems.length;
    const made = make();
    byPurpose.set(purpose, { given, made, problems: problems.slice(from) });
    return made;
  }
}

/** What was read of members of lists, by their nodes: the same again, as long as one stands in its file at its line. */
type Members = WeakMap<Node, { own: Place; value: Authored }>;

/** What was made of a part, and what was reported then. */
interface Kept {
  given: unknown;
  made: unknown;
  problems: readonly Problem[];
}

/** Reads a YAML text to plain data and notes where each part of it stands. */
function readYaml(file: string, text: string, places: Places, members: Members): YamlRead {
  const { document, lines } = readDocument(text);
  const at = (offset: number): Place => {
    const { line, col } = lines.linePos(offset);
    return { file, line: Math.max(1, line), column: Math.max(1, col) };
  };
  // what comes after the first error is most often its consequence
  const [error] = document.errors;
  if (error) return { value: null, problems: [{ ...at(error.pos[0]), ...sayYamlError(error.code, error.message) }] };
  const problems: Problem[] = [];
  const aliases = (node: Node, place: Place): void => {
    problems.push({
      ...place,
      message: `${isAlias(node) ? `*${node.source}` : 'this'} refers to another part of the file`,
      remedy: 'write it out, or use forEach',
    });
  };
  const read = (node: Node | null): Authored => {
    if (node === null) return null;
    const own = at(node.range![0]);
    if (isScalar(node)) return plain(node.value);
    if (isMap(node)) {
      const parts = new Map<string, Place>();
      const texts = new Map<string, Place>();
      const value: AuthoredMap = {};
      for (const pair of node.items as Pair<Node, Node | null>[]) {
        const key = String(isScalar(pair.key) ? pair.key.value : pair.key);
        parts.set(key, at(pair.key.range![0]));
        if (isScalar(pair.value) && pair.value.range)
          texts.set(key, at(pair.value.range[0] + (pair.value.type?.startsWith('QUOTE') ? 1 : 0)));
        value[key] = read(pair.value);
      }
      places.note(value, own, parts, texts);
      return value;
    }
    if (isSeq(node)) {
      const parts = new Map(
        (node.items as (Node | null)[]).map((item, i) => [String(i), item?.range ? at(item.range[0]) : own]),
      );
      const value = (node.items as (Node | null)[]).map(readMember);
      places.note(value, own, parts);
      return value;
    }
    aliases(node, own);
    return null;
  };
  const readMember = (node: Node | null): Authored => {
    if (!isMap(node)) return read(node);
    const own = at(node.range![0]);
    const before = members.get(node);
    if (before?.own.file === file && before.own.line === own.line) return before.value;
    const sound = problems.length;
    const value = read(node);
    if (problems.length === sound) members.set(node, { own, value });
    return value;
  };
  return { value: read(document.contents), problems };
}

function plain(value: unknown): Authored {
  if (value === null || typeof value === 'boolean' || typeof value === 'number' || typeof value === 'string')
    return value;
  return value instanceof Date ? value.toISOString() : null;
}

function sayYamlError(code: string, whole: string): { message: string; remedy: string } {
  const message = whole.split('\n')[0]!.replace(/ at line \d+, column \d+:?$/, '');
  switch (code) {
    case 'DUPLICATE_KEY':
      return { message: 'this field is there twice', remedy: 'remove one of them' };
    case 'TAB_AS_INDENT':
      return { message: 'a tab indents this line', remedy: 'indent with blanks' };
    case 'BAD_INDENT':
    case 'MISSING_CHAR':
    case 'BLOCK_AS_IMPLICIT_KEY':
      return {
        message: `this is no whole block (${message})`,
        remedy: 'line it up with its neighbours; put words with a colon, a comma or a brace between quotes',
      };
    default:
      return { message: `this cannot be read (${message})`, remedy: 'put words with special signs between quotes' };
  }
}
