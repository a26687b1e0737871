import { draftEditSchema } from '@rouse/core/contract';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';

/** larger than any type is when it is packed */
const LARGEST_BYTES = 4 * 1024 * 1024;

/** The files of a type as one file to hand on. */
export function packFolder(folder: Readonly<Record<string, string>>): Blob {
  const bytes = zipSync(Object.fromEntries(Object.entries(folder).map(([file, text]) => [file, strToU8(text)])));
  return new Blob([bytes.slice().buffer], { type: 'application/zip' });
}

/** @throws Error in words that name what is wrong with the file and what to do */
export async function unpackFolder(file: File): Promise<Record<string, string>> {
  if (file.size > LARGEST_BYTES) throw new Error(`${file.name} is larger than any type; choose the file that Export made.`); // oxfmt-ignore
  const files = unzip(file.name, new Uint8Array(await file.arrayBuffer()));
  const folder: Record<string, string> = {};
  for (const [name, bytes] of Object.entries(files)) {
    const edit = draftEditSchema.safeParse({ file: name, text: strFromU8(bytes), seen: 0 });
    if (!edit.success) throw new Error(`${name} in ${file.name} belongs to no type; choose the file that Export made.`);
    folder[name] = edit.data.text!;
  }
  if (!('type.yaml' in folder)) throw new Error(`There is no type.yaml in ${file.name}; choose the file that Export made.`); // oxfmt-ignore
  return folder;
}

function unzip(name: string, bytes: Uint8Array): Record<string, Uint8Array> {
  try {
    return unzipSync(bytes, { filter: ({ originalSize }) => originalSize < LARGEST_BYTES });
  } catch {
    throw new Error(`${name} cannot be read as a zip file; choose the file that Export made.`);
  }
}

/** The folder with another id, version and name in its first file. */
export function renamed(
  folder: Readonly<Record<string, string>>,
  { typeId, version, name }: { typeId: string; version: number; name: string },
): Record<string, string> {
  const head = folder['type.yaml']!.replace(/^id: .*$/m, `id: ${typeId}`)
    .replace(/^version: .*$/m, `version: ${version}`)
    .replace(/^name: .*$/m, `name: ${JSON.stringify(name)}`);
  return { ...folder, 'type.yaml': head };
}
