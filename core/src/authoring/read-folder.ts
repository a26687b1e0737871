import { type Line, readLines, readTable } from './csv-file.ts';
import { Expander, isMap } from './expand.ts';
import {
  abortsFile,
  CHARTS,
  legFile,
  LIBRARY,
  type MapName,
  NEEDED_MAPS,
  OTHER_MAPS,
  type TableName,
  TABLES,
  type TypeFolder,
} from './folder.ts';
import { ItemForm, kindOf } from './item-form.ts';
import { Merger } from './merge.ts';
import { type Authored, type AuthoredMap, type Places, textOf } from './places.ts';
import type { Problem } from './problem.ts';
import { StandardItems } from './standard-items.ts';
import type { YamlTexts } from './yaml-file.ts';

/** A folder as it was read: what is written for several engines is written out, what it extends is laid under it. */
export interface Written {
  maps: Partial<Record<MapName, AuthoredMap>>;
  tables: Record<TableName, AuthoredMap[]>;
  charts: Record<(typeof CHARTS)[number], { file: string; lines: Line[] } | null>;
  /** by leg, in the order of the list */
  legs: Map<string, AuthoredMap>;
  engines: number[];
}

/** Finds the folder of another type by its name, null where there is none. */
export type Library = (name: string) => TypeFolder | null;

export interface Reading {
  written: Written;
  places: Places;
  /** files that cannot be read at all: everything that depends on them would be called wrong too */
  unreadable: Problem[];
  problems: Problem[];
}

/** Reads the texts of a folder. Never throws for what is written in it. */
export function readFolder(folder: TypeFolder, library: Library, texts: YamlTexts): Reading {
  const reader = new FolderReader(library, texts);
  const written = reader.read(folder, []);
  return { written, places: texts.places, unreadable: reader.unreadable, problems: reader.problems };
}

const beginning = (file: string): { file: string; line: number; column: number } => ({ file, line: 1, column: 1 });

class FolderReader {
  private readonly library: Library;
  private readonly texts: YamlTexts;
  private readonly places: Places;
  readonly problems: Problem[] = [];
  readonly unreadable: Problem[] = [];
  private readonly report = (problem: Problem): void => void this.problems.push(problem);
  private readonly merger: Merger;
  private readonly form: ItemForm;
  private readonly shared: TypeFolder;
  private readonly standard: ReadonlyMap<string, AuthoredMap>;

  constructor(library: Library, texts: YamlTexts) {
    this.library = library;
    this.texts = texts;
    this.places = texts.places;
    this.merger = new Merger(texts.places, this.report);
    this.form = new ItemForm(texts.places, this.report);
    this.shared = library(LIBRARY) ?? {};
    this.standard = this.standardItems();
  }

  read(folder: TypeFolder, below: readonly string[]): Written {
    const own = (file: string): AuthoredMap | null => this.yaml(folder, file, this.shownIn(below, file));
    const type = own('type.yaml');
    const name = type?.['extends'];
    const base = typeof name === 'string' ? this.base(name, type!, below) : null;
    const engines = enginesOf(type?.['engines']) ?? base?.engines ?? [1];
    const expander = new Expander(engines, this.places);
    const maps: Written['maps'] = { ...base?.maps };
    for (const file of [...NEEDED_MAPS, ...OTHER_MAPS]) {
      const written = file === 'type.yaml' ? type : own(file);
      if (!written) continue;
      const expanded =
        file === 'aborts.yaml'
          ? this.aborts(written)
          : this.texts.keep(written, 'expanded', engines.join(), this.problems, () => expander.map(written, {}));
      maps[file] = maps[file] ? (this.merger.merge(maps[file], expanded) as AuthoredMap) : expanded;
    }
    return {
      maps,
      tables: this.tables(folder, below, base, expander),
      charts: this.charts(folder, below, base),
      legs: this.legs(own, maps['type.yaml']?.['legs'], base, engines),
      engines,
    };
  }

  /** Files of a type that is extended are named with their folder. */
  private shownIn(below: readonly string[], file: string): string {
    return below.length === 0 ? file : `../${below.at(-1)}/${file}`;
  }

  private yaml(folder: TypeFolder, file: string, shownAs: string): AuthoredMap | null {
    const text = folder[file];
    if (text === undefined) return null;
    const { value, problems: found } = this.texts.read(shownAs, text);
    this.unreadable.push(...found);
    if (isMap(value)) return value;
    if (found.length === 0)
      this.unreadable.push({
        ...beginning(shownAs),
        message: 'this file is no map of fields',
        remedy: 'begin each line with a name and a colon',
      });
    return null;
  }

  private base(name: string, by: AuthoredMap, below: readonly string[]): Written | null {
    const wrong = (message: string, remedy: string): null => {
      this.unreadable.push({ ...(this.places.ofText(by, 'extends') ?? beginning('type.yaml')), message, remedy });
      return null;
    };
    if (below.includes(name)) return wrong(`${name} extends itself`, 'break the ring');
    const folder = this.library(name);
    if (!folder)
      return wrong(`there is no type in a folder named ${name}`, 'name the folder of a type beside this one');
    return this.read(folder, [...below, name]);
  }

  /** Items of the library by name, from all its files. */
  private standardItems(): ReadonlyMap<string, AuthoredMap> {
    const items = new Map<string, AuthoredMap>();
    for (const file of Object.keys(this.shared).filter((f) => /^[^/]+\.yaml$/.test(f))) {
      const list = this.yaml(this.shared, file, `../${LIBRARY}/${file}`)?.['items'];
      for (const item of Array.isArray(list) ? list : []) {
        const kind = isMap(item) ? kindOf(item) : undefined;
        if (kind !== undefined) items.set(textOf((item as AuthoredMap)[kind]), item as AuthoredMap);
      }
    }
    return items;
  }

  /** Actions and plans, laid over the set of the library that `like` names. Actions are written out where a plan uses them. */
  private aborts(written: AuthoredMap): AuthoredMap {
    const like = written['like'];
    const file = abortsFile(textOf(like ?? ''));
    const set = like === undefined ? null : this.yaml(this.shared, file, `../${LIBRARY}/${file}`);
    if (like !== undefined && !set)
      this.unreadable.push({
        ...(this.places.ofText(written, 'like') ?? beginning('aborts.yaml')),
        message: `the library has no aborts named ${textOf(like)}`,
        remedy: 'name a file of library/aborts, or write actions and plans here',
      });
    return this.texts.keep(written, 'aborts', set, this.problems, () => this.abortsOver(written, set));
  }

  private abortsOver(written: AuthoredMap, set: AuthoredMap | null): AuthoredMap {
    const { like: _, ...own } = written;
    const made = this.withItems(this.places.carry(own, written), 'actions');
    return set ? (this.merger.merge(this.withItems(set, 'actions'), made) as AuthoredMap) : made;
  }

  private legs(
    read: (file: string) => AuthoredMap | null,
    order: Authored | undefined,
    base: Written | null,
    engines: readonly number[],
  ): Written['legs'] {
    const expander = new Expander(engines, this.places);
    const legs: Written['legs'] = new Map();
    const standard = new StandardItems(this.standard, expander, this.places, this.report);
    const items = new Expander(engines, this.places, standard.used);
    for (const leg of Array.isArray(order) ? order : []) {
      if (typeof leg !== 'string') continue;
      const own = read(legFile(leg));
      const given = `${engines.join()} ${this.texts.idOf(this.shared)}`;
      const make = (): AuthoredMap => this.withItems(this.leg(own!, items, given), 'items');
      const made = own && this.texts.keep(own, 'leg', given, this.problems, make);
      const before = base?.legs.get(leg);
      const merged = before && made ? (this.merger.merge(before, made) as AuthoredMap) : (made ?? before);
      if (merged) legs.set(leg, merged);
    }
    return legs;
  }

  /** A leg written out; an item that is the same object as before is not written out again. */
  private leg(own: AuthoredMap, items: Expander, given: string): AuthoredMap {
    const list = own['items'];
    if (!Array.isArray(list)) return items.map(own, {});
    const all = list.flatMap((element) => {
      const make = (): Authored[] => items.expand([element], {}) as Authored[];
      return isMap(element) ? this.texts.keep(element, 'written out', given, this.problems, make) : make();
    });
    const { items: _, ...head } = own;
    return this.places.carry({ ...items.map(head, {}), items: this.places.carry(all, list) }, own);
  }

  private tables(
    folder: TypeFolder,
    below: readonly string[],
    base: Written | null,
    expander: Expander,
  ): Written['tables'] {
    const tables = {} as Written['tables'];
    for (const name of Object.keys(TABLES) as TableName[]) {
      const text = folder[name];
      const before = base?.tables[name] ?? [];
      if (text === undefined) {
        tables[name] = before;
        continue;
      }
      const rows = this.table(this.shownIn(below, name), text, name, expander);
      if (base === null) {
        tables[name] = rows;
        continue;
      }
      const keyOf = (row: AuthoredMap): string => TABLES[name].key.map((k) => textOf(row[k])).join(' ');
      const made = [...before];
      for (const row of rows) {
        const key = keyOf(row);
        const removes = key.startsWith('-');
        const at = made.findIndex((r) => keyOf(r) === (removes ? key.slice(1) : key));
        if (removes) made.splice(at, at < 0 ? 0 : 1);
        else if (at >= 0) made[at] = row;
        else made.push(row);
      }
      tables[name] = made;
    }
    return tables;
  }

  /** The rows of one table, written out for every engine: read once. */
  private table(file: string, text: string, name: TableName, expander: Expander): AuthoredMap[] {
    const read = this.texts.keep(
      this.texts.asObject(file, text),
      'table',
      expander.engines.join(),
      this.problems,
      () => {
        const { rows, unreadable, problems } = readTable(file, text, this.places, TABLES[name]);
        this.problems.push(...problems);
        return { rows: expander.rows(rows), unreadable };
      },
    );
    this.unreadable.push(...read.unreadable);
    return read.rows;
  }

  private charts(folder: TypeFolder, below: readonly string[], base: Written | null): Written['charts'] {
    const charts = {} as Written['charts'];
    for (const file of CHARTS) {
      const text = folder[file];
      if (text === undefined) {
        charts[file] = base?.charts[file] ?? null;
        continue;
      }
      const shown = this.shownIn(below, file);
      charts[file] = this.texts.keep(this.texts.asObject(shown, text), 'chart', null, this.problems, () => {
        const { lines, problems } = readLines(shown, text);
        this.problems.push(...problems);
        return { file: shown, lines };
      });
    }
    return charts;
  }

  private withItems(map: AuthoredMap, member: string): AuthoredMap {
    const list = map[member];
    if (!Array.isArray(list)) return map;
    const made = this.form.list(list, (item, zone, make) => this.texts.keep(item, 'form', zone, this.problems, make));
    return this.places.carry({ ...map, [member]: this.places.carry(made, list) }, map);
  }
}

function enginesOf(engines: Authored | undefined): number[] | null {
  if (!Array.isArray(engines)) return null;
  return engines.flatMap((e) => (isMap(e) && typeof e['id'] === 'number' ? [e['id']] : []));
}
