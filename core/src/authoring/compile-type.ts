import type { TypeFile } from '../aircraft/index.ts';
import { compileAborts } from './compile-aborts.ts';
import { compileItem } from './compile-item.ts';
import { compileChannels, compileChart, compileCockpit, compileLimits, compileRows } from './compile-tables.ts';
import { Compiling } from './compiling.ts';
import { isMap, speaksOfEngine } from './expand.ts';
import { legFile, NEEDED_MAPS, type TableName, TABLES, type TypeFolder } from './folder.ts';
import { type Authored, type AuthoredMap, textOf } from './places.ts';
import type { Place, Problem } from './problem.ts';
import { type Library, readFolder, type Written } from './read-folder.ts';
import { sayIssue } from './say-issue.ts';
import { YamlTexts } from './yaml-file.ts';

/** What became of a folder: the type where it is whole, and everything that is wrong with it. */
export interface Compiled {
  type: TypeFile | null;
  problems: Problem[];
  /** where a part of the type is written, by its path in the type */
  placeOf: (path: readonly PropertyKey[]) => Place;
}

/**
 * Compiles a written folder to the type that programs read. Never throws for what is written in it: problems are
 * reported with file, line, column and remedy, in the order of the files.
 * @param library finds the folders of other types, and the one of standard items
 * @param texts given again, reads only what has changed
 */
export function compileType(
  folder: TypeFolder,
  library: Library = () => null,
  texts: YamlTexts = new YamlTexts(),
): Compiled {
  const { written, places, unreadable, problems } = readFolder(folder, library, texts);
  const c = new Compiling(places, problems, written.engines);
  reportMissing(folder, written, unreadable);
  const made = assemble(c, written, texts);
  const beginning = { file: 'type.yaml', line: 1, column: 1 };
  const placeOf: Compiled['placeOf'] = (path) => places.along(made, path) ?? beginning;
  if (unreadable.length > 0) return { type: null, problems: sorted(unreadable), placeOf };
  reportUnbound(made, { placeOf, texts, problems });
  const checked = texts.parts.check(made);
  // a line that could not be read is no surprise to the schema
  const unread = new Set(problems.map(({ file, line }) => `${file}:${line}`));
  for (const { issue, above } of checked.issues) {
    for (const { path, message, remedy } of sayIssue(issue, above)) {
      const { file, line, column } = placeOf(path);
      if (!unread.has(`${file}:${line}`)) problems.push({ file, line, column, message, remedy });
    }
  }
  return {
    type: problems.length === 0 ? checked.type : null,
    problems: sorted(problems),
    placeOf,
  };
}

function reportMissing(folder: TypeFolder, written: Written, problems: Problem[]): void {
  const missing = (file: string, remedy: string): void => {
    problems.push({ file, line: 1, column: 1, message: 'this file is missing', remedy });
  };
  for (const file of NEEDED_MAPS)
    if (!written.maps[file] && folder[file] === undefined)
      missing(file, 'add it; "rouse type new" makes a folder with all of them');
  if (written.tables['channels.csv'].length === 0 && folder['channels.csv'] === undefined)
    missing('channels.csv', `add it with a first row ${TABLES['channels.csv'].needed.join(',')}`);
  const legs = written.maps['type.yaml']?.['legs'];
  for (const leg of Array.isArray(legs) ? legs : [])
    if (typeof leg === 'string' && !written.legs.has(leg) && folder[legFile(leg)] === undefined)
      missing(legFile(leg), 'add it with label: and items:, or take the leg off the list in type.yaml');
}

/** `{n}` that is left over was meant for engines, and nothing said which. */
function reportUnbound(
  made: AuthoredMap,
  { placeOf, texts, problems }: { placeOf: Compiled['placeOf']; texts: YamlTexts; problems: Problem[] },
): void {
  /** @returns whether it has none */
  const walk = (value: unknown, path: PropertyKey[]): boolean => {
    if (typeof value === 'object' && value !== null) {
      if (texts.bound.has(value)) return true;
      let bound = true;
      for (const [key, v] of Object.entries(value)) bound = walk(v, [...path, key]) && bound;
      if (bound) texts.bound.add(value);
      return bound;
    }
    if (!speaksOfEngine(value)) return true;
    problems.push({
      ...placeOf(path),
      message: '{n} stands where no engine is meant',
      remedy: 'put it under perEngine, or name the engine',
    });
    return false;
  };
  walk(made, []);
}

function sorted(problems: readonly Problem[]): Problem[] {
  const seen = new Set<string>();
  return problems
    .filter(({ file, line, column, message }) => {
      const key = `${file}:${line}:${column}:${message}`;
      return !seen.has(key) && seen.add(key);
    })
    .toSorted((a, b) => a.file.localeCompare(b.file) || a.line - b.line || a.column - b.column);
}

/** The type as it is written, all lines read; whether it is whole is seen by its schema. */
function assemble(c: Compiling, written: Written, texts: YamlTexts): AuthoredMap {
  const { maps, tables, charts, legs } = written;
  const head = maps['type.yaml'] ?? {};
  const ways = maps['ways.yaml'] ?? {};
  const watch = maps['watch.yaml'] ?? {};
  const aborts = maps['aborts.yaml'] ?? {};
  const performance = maps['performance.yaml'] ?? {};
  const roles = isMap(head['roles']) ? head['roles'] : {};
  const keepTable = <T>(table: TableName, given: unknown, make: (rows: AuthoredMap[]) => T): T =>
    texts.keep(tables[table], 'compiled', given, c.problems, () => make(tables[table]));
  const { channels, transducers } = keepTable('channels.csv', null, (rows) => compileChannels(c, rows));
  const captionsChannel = textOf(roles['captions'] ?? 'captions');
  c.vocabulary = {
    channels: channels.map((v) => ({
      id: textOf(v['id']),
      unit: textOf(v['unit']),
      ...(v['states'] ? { states: v['states'] as Record<string, string> } : {}),
    })),
    captions: {
      channel: captionsChannel,
      list: tables['captions.csv'].map((r) => ({ id: textOf(r['id']), bit: Number(r['bit']) })),
    },
  };
  c.questions = questionsOf(ways, legs);
  // what a line can name: items whose lines and names are the same are not read again
  const named = [texts.idOf(channels), texts.idOf(tables['captions.csv']), captionsChannel];
  const names = JSON.stringify([named, Object.values(c.questions).map((q) => [...q]), c.engines, roles]);
  const keep = <T>(part: object, purpose: string, make: () => T): T =>
    texts.keep(part, purpose, names, c.problems, make);
  const starts = keep(watch, 'starts', () => c.mapsOf(watch, 'starts').map((start) => compileStart(c, start, roles)));
  const made: Record<string, unknown> = {
    ...c.without(head, 'extends', 'roles', 'legs'),
    format: 'rouse-type/1',
    roles: keep(roles, 'roles', () => c.without(roles, 'captions')),
    channels,
    transducers,
    captions: keepTable('captions.csv', names, (rows) => ({
      channel: captionsChannel,
      list: compileRows(c, rows, { numbers: ['bit'], conditions: ['lit'] }),
    })),
    electricalLoads: keepTable('electrical.csv', null, (rows) => compileRows(c, rows, { numbers: ['amps'] })),
    limits: keepTable('limits.csv', names, (rows) => compileLimits(c, rows)),
    loading: maps['loading.yaml'],
    performance: texts.keep(performance, 'performance', idsOf(texts, charts), c.problems, () =>
      compilePerformance(c, performance, charts),
    ),
    ratings: maps['ratings.yaml'],
    wind: maps['wind.yaml'],
    thermal: maps['thermal.yaml'],
    equipment: keepTable('equipment.csv', null, (rows) => compileRows(c, rows, {})),
    cockpit: keepTable('cockpit.csv', null, (rows) => (rows.length > 0 ? compileCockpit(c, rows) : undefined)),
    choices: ways['choices'] ?? [],
    turnRound: ways['turnRound'],
    startWatches: starts,
    runUpWatch: isMap(watch['runUp']) ? withRole(c, watch['runUp'], 'rotor', roles) : undefined,
    legs: [...legs].map(([id, leg]) => keep(leg, 'head', () => compileLeg(c, id, leg))),
    items: [...legs].flatMap(([id, leg]) =>
      c.mapsOf(leg, 'items').map((item) => keep(item, 'item', () => compileItem(c, item, id))),
    ),
    aborts: texts.keep(aborts, 'plans', `${names} ${texts.idOf(starts)}`, c.problems, () =>
      compileAborts(c, aborts, starts),
    ),
    standIn: maps['conditions.yaml']?.['conditions'] ?? [],
    simulator: maps['simulator.yaml'],
  };
  for (const [key, value] of Object.entries(made)) if (value === undefined) delete made[key];
  return c.places.carry(made as AuthoredMap, head);
}

const idsOf = (texts: YamlTexts, charts: Written['charts']): string =>
  Object.values(charts)
    .map((chart) => (chart ? texts.idOf(chart) : ''))
    .join();

function questionsOf(ways: AuthoredMap, legs: Written['legs']): Compiling['questions'] {
  const idsOf = (list: Authored | undefined): string[] =>
    Array.isArray(list) ? list.flatMap((v) => (isMap(v) ? [textOf(v['id'])] : [])) : [];
  const items = [...legs.values()].flatMap((leg) => (Array.isArray(leg['items']) ? leg['items'].filter(isMap) : []));
  return {
    choices: new Set(idsOf(ways['choices'])),
    decisions: new Set(idsOf(items.filter((i) => i['kind'] === 'decide'))),
    checks: new Set(idsOf(items.filter((i) => i['kind'] === 'measure'))),
  };
}

/** A role that is bound in type.yaml need not be bound again. */
function withRole(c: Compiling, written: AuthoredMap, role: string, roles: AuthoredMap): AuthoredMap {
  const bound = roles[role];
  return bound === undefined || written[role] !== undefined
    ? written
    : c.places.carry({ ...written, [role]: bound }, written);
}

function compileStart(c: Compiling, written: AuthoredMap, roles: AuthoredMap): AuthoredMap {
  const made = c.without(written);
  if (isMap(written['channels'])) made['channels'] = withRole(c, written['channels'], 'outsideAir', roles);
  if (written['gates'] !== undefined)
    made['gates'] = c.list(
      c.mapsOf(written, 'gates').map((gate) => {
        const { condition: _, ...others } = gate;
        return c.places.carry({ ...others, condition: (c.condition(gate, 'condition') ?? null) as Authored }, gate);
      }),
      written['gates'],
    ) as AuthoredMap[];
  return made;
}

function compileLeg(c: Compiling, id: string, written: AuthoredMap): AuthoredMap {
  const made: AuthoredMap = { id, ...c.without(written, 'items') };
  const begins = c.condition(written, 'begins');
  if (begins) made['begins'] = begins as unknown as Authored;
  if (Array.isArray(made['standIn'])) made['standIn'] = compileItem(c, written, id)['standIn']!;
  return c.places.carry(made, written);
}

function compilePerformance(c: Compiling, written: AuthoredMap, charts: Written['charts']): AuthoredMap {
  const made = c.without(written);
  const about = isMap(written['chart']) ? written['chart'] : {};
  const step = about['display_step'] ?? null;
  made['chart'] = c.places.carry(
    {
      ...c.without(about, 'display_step'),
      TOP: compileChart(c, charts['charts/top.csv'], step) as Authored,
      MCP: compileChart(c, charts['charts/mcp.csv'], step) as Authored,
    },
    written,
  );
  const speeds = compileChart(c, charts['charts/never-exceed.csv'], 1);
  if (speeds) made['neverExceed'] = speeds;
  return made;
}
