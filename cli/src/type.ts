import { writeFileSync } from 'node:fs';
import path from 'node:path';
import { diffTypes, type TypeFile } from '@rouse/core/aircraft';
import { auditFlight, auditType, collect, type Finding, flightsOf } from '@rouse/core/audit';
import { authoredJsonSchema, type Compiled, type Problem, sayProblem } from '@rouse/core/authoring';
import { canonicalJson, digestOf } from '@rouse/core/procedure';
import { RELEASED, releaseType } from '@rouse/aircraft';
import { BadInput } from './bad-input.ts';
import { findType } from './files.ts';
import { compileFolder, copyFolder, findFolder, needType, notWhole, packFolder, SHIPPED, unpackFolder, writeFolder } from './type-folder.ts'; // oxfmt-ignore

type Print = (line: unknown) => void;

/** What can be done with a type. */
export const TYPE_USAGE =
  'type build FOLDER [--out FILE.json] | check FOLDER [--quick] | new FOLDER --like TYPE | diff TYPE TYPE | release FOLDER | export FOLDER FILE.zip | import FILE.zip FOLDER | schema FILE';

interface Options {
  out?: string | undefined;
  like?: string | undefined;
  quick?: boolean | undefined;
}

type Verb = (args: readonly [string, string], options: Options, print: Print) => void;

/** Each verb with how many names it wants. */
const VERBS: Readonly<Record<string, { names: number; work: Verb }>> = {
  build: { names: 1, work: ([dir], { out }, print) => build(findFolder(dir), out, print) },
  check: { names: 1, work: ([dir], { quick }, print) => checkFolder(findFolder(dir), quick ?? false, print) },
  new: { names: 1, work: begin },
  diff: { names: 2, work: ([one, other], _, print) => diff(findType(one), findType(other), print) },
  export: { names: 2, work: ([dir, zip], _, print) => handOn(findFolder(dir), zip, print) },
  import: { names: 2, work: ([zip, dir], _, print) => takeIn(zip, dir, print) },
  release: { names: 1, work: ([dir], { out }, print) => release(findFolder(dir), out, print) },
  schema: { names: 1, work: ([file], _, print) => schema(file, print) },
};

/** `type`: types as people write them. */
export function type(args: readonly string[], options: Options, print: Print): void {
  const [name = '', first = '', second = ''] = args;
  const verb = VERBS[name];
  if (verb?.names !== args.length - 1) throw new BadInput('USAGE', TYPE_USAGE, 'type');
  verb.work([first, second], options, print);
}

function begin([folder]: readonly [string, string], { like }: Options, print: Print): void {
  if (like === undefined) throw new BadInput('USAGE', TYPE_USAGE, 'type');
  copyFolder(findFolder(like), folder);
  print({ ok: true, folder, like });
}

function handOn(dir: string, zip: string, print: Print): void {
  needType(dir);
  writeFileSync(zip, packFolder(dir));
  print({ ok: true, file: zip });
}

function takeIn(zip: string, dir: string, print: Print): void {
  const folder = unpackFolder(zip);
  writeFolder(dir, folder);
  print({ ok: true, folder: dir, files: Object.keys(folder).length });
}

function schema(file: string, print: Print): void {
  const found = authoredJsonSchema(file);
  if (!found)
    throw new BadInput('NO_FILE', `${file} has no schema; name a YAML file of a type's folder, or procedure`, file);
  print(found);
}

function about(whole: TypeFile): object {
  const { id, version, name, channels, items, limits } = whole;
  return { id, version, name, channels: channels.length, items: items.length, limits: limits.length };
}

/** Canonical JSON with its digest, or every problem. */
function build(dir: string, out: string | undefined, print: Print): void {
  const whole = needType(dir);
  const json = canonicalJson(whole);
  if (out !== undefined) writeFileSync(out, `${json}\n`);
  print({ ok: true, ...about(whole), digest: digestOf(json), bytes: json.length, ...(out !== undefined && { out }) });
}

/** Keeps the version that is written as released; it is not changed from then on. @param to where released versions are kept */
function release(dir: string, to: string | undefined, print: Print): void {
  const whole = needType(dir);
  try {
    print({ ok: true, ...about(whole), digest: releaseType(to ?? path.join(SHIPPED, '..', RELEASED), whole) });
  } catch (error) {
    throw new BadInput('RELEASED', error instanceof Error ? error.message : String(error), dir);
  }
}

/** What the compiler finds, then what an audit finds, then the list flown in every way. */
function checkFolder(dir: string, quick: boolean, print: Print): void {
  const compiled = compileFolder(dir);
  const { type: whole } = compiled;
  if (!whole) throw notWhole(dir, compiled.problems);
  const problems = auditType(whole).map((f) => placed(f, compiled));
  const flights = quick ? [] : flightsOf(whole);
  for (const flight of flights)
    problems.push(...collect((report) => auditFlight(whole, flight, report)).map((f) => placed(f, compiled)));
  if (problems.length > 0) throw new BadInput('FOUND', problems.map(sayProblem).join('\n'), path.relative('.', dir));
  print({ ok: true, ...about(whole), flown: flights.length });
}

const placed = ({ path: way, message, remedy }: Finding, { placeOf }: Compiled): Problem => {
  const { file, line, column } = placeOf(way);
  return { file, line, column, message, remedy };
};

function diff(older: TypeFile, newer: TypeFile, print: Print): void {
  for (const change of diffTypes(older, newer)) print(change);
}
