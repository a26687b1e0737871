import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { folderNames, libraryIn, readFolder } from '@rouse/aircraft';
import type { TypeFile } from '@rouse/core/aircraft';
import { type Compiled, compileType, type Problem, sayProblem, type TypeFolder } from '@rouse/core/authoring';
import { strToU8, unzipSync, zipSync } from 'fflate';
import { BadInput } from './bad-input.ts';

/** The shipped types, and the library of standard items, stand beside this program. */
export const SHIPPED = path.resolve(import.meta.dirname, '../../aircraft');

/** A folder of a type by its path, or by its name among the shipped ones. @throws BadInput */
export function findFolder(nameOrPath: string): string {
  for (const dir of [nameOrPath, path.join(SHIPPED, nameOrPath)])
    if (existsSync(path.join(dir, 'type.yaml'))) return dir;
  throw new BadInput(
    'NO_FOLDER',
    `there is no type.yaml in ${nameOrPath}; name the folder of a type, or one of ${folderNames(SHIPPED).join(', ')}`,
    nameOrPath,
  );
}

/** What a folder extends is looked for beside it, then among the shipped ones. */
export function compileFolder(dir: string): Compiled {
  const [beside, shipped] = [libraryIn(path.dirname(path.resolve(dir))), libraryIn(SHIPPED)];
  return compileType(readFolder(dir)!, (name) => beside(name) ?? shipped(name));
}

/** @throws BadInput that lists every problem */
export function needType(dir: string): TypeFile {
  const { type, problems } = compileFolder(dir);
  if (!type) throw notWhole(dir, problems);
  return type;
}

export function notWhole(dir: string, problems: readonly Problem[]): BadInput {
  return new BadInput('NOT_WHOLE', problems.map(sayProblem).join('\n'), dir);
}

/** A new folder like another one, with a name of its own. @throws BadInput when the place is taken */
export function copyFolder(from: string, to: string): void {
  if (existsSync(to)) throw new BadInput('EXISTS', `${to} is there already; choose another name`, to);
  const id = path.basename(to).replaceAll(/[^A-Za-z0-9]/g, '');
  const folder = { ...readFolder(from)! };
  folder['type.yaml'] = folder['type.yaml']!.replace(/^id: .*$/m, `id: ${id}`)
    .replace(/^version: .*$/m, 'version: 1')
    .replace(/^name: .*$/m, `name: ${path.basename(to)}`);
  writeFolder(to, folder);
}

export function writeFolder(to: string, folder: TypeFolder): void {
  for (const [file, text] of Object.entries(folder)) {
    mkdirSync(path.dirname(path.join(to, file)), { recursive: true });
    writeFileSync(path.join(to, file), text);
  }
}

/** A folder as one file to hand on. Names only: what it extends has to be there where it is read. */
export function packFolder(dir: string): Uint8Array {
  return zipSync(Object.fromEntries(Object.entries(readFolder(dir)!).map(([file, text]) => [file, strToU8(text)])));
}

const LARGEST_BYTES = 4 * 1024 * 1024;
const NAMES = /^(?:[\w-]+\/)?[\w-]+\.(?:yaml|csv)$/;

/** @throws BadInput for a file that is no folder of a type: names that lead elsewhere, or more than any type has */
export function unpackFolder(file: string): TypeFolder {
  const folder: Record<string, string> = {};
  let files;
  try {
    files = unzipSync(readFileSync(file), {
      filter: ({ name, originalSize }) => {
        if (!NAMES.test(name)) throw new BadInput('BAD_ZIP', `${name} belongs in no folder of a type`, file);
        if (originalSize > LARGEST_BYTES)
          throw new BadInput('BAD_ZIP', `${name} is larger than any file of a type`, file);
        return true;
      },
    });
  } catch (error) {
    if (error instanceof BadInput) throw error;
    throw new BadInput(
      'BAD_ZIP',
      `cannot read ${file}: ${error instanceof Error ? error.message : String(error)}`,
      file,
    );
  }
  for (const [name, bytes] of Object.entries(files)) folder[name] = new TextDecoder().decode(bytes);
  if (!folder['type.yaml']) throw new BadInput('BAD_ZIP', 'it has no type.yaml', file);
  return folder;
}
