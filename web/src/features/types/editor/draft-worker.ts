// Compiles the draft beside the page at every change: problems, what is new in the type, and what is written where.
import { auditType } from '@rouse/core/audit';
import { compileType, type Problem, writtenItems, type WrittenItem, YamlTexts } from '@rouse/core/authoring';
import type { TypeLibrary } from '@rouse/core/contract';
import { type TypeChange, TypeSender } from './type-change.ts';

/** What every type can take from, once; then what has changed in the draft, null for a file that is gone. */
export type ToCompile =
  | { kind: 'library'; library: TypeLibrary }
  | { kind: 'changed'; n: number; files: Record<string, string | null> };

export interface CompiledDraft {
  n: number;
  /** null where it is not whole */
  type: TypeChange | null;
  problems: Problem[];
  /** by leg's file, and in it by written item: places in the items of the type that it stands for */
  items: Record<string, number[][]>;
}

const texts = new YamlTexts();
const sender = new TypeSender();
/** the items of each leg, with the text that they were read from */
const written = new Map<string, { text: string; items: WrittenItem[] }>();

function itemsOf(file: string, text: string): WrittenItem[] {
  const before = written.get(file);
  if (before?.text === text) return before.items;
  const items = writtenItems(text);
  written.set(file, { text, items });
  return items;
}

let library: TypeLibrary = {};
const folder: Record<string, string> = {};

self.addEventListener('message', ({ data }: MessageEvent<ToCompile>) => {
  if (data.kind === 'library') {
    library = data.library;
    return;
  }
  for (const [file, text] of Object.entries(data.files))
    if (text === null) delete folder[file];
    else folder[file] = text;
  compile(data.n);
});

function compile(n: number): void {
  const { type, problems, placeOf } = compileType(folder, (name) => library[name] ?? null, texts);
  const found = type ? auditType(type).map(({ path, ...words }) => ({ ...placeOf(path), ...words })) : [];
  const places = (type?.items ?? []).map((_, i) => {
    const { file, line } = placeOf(['items', i]);
    return `${file}:${line}`;
  });
  const items: CompiledDraft['items'] = {};
  for (const [file, text] of Object.entries(folder))
    if (file.startsWith('procedure/'))
      items[file] = itemsOf(file, text).map(({ line }) =>
        places.flatMap((place, i) => (place === `${file}:${line}` ? [i] : [])),
      );
  const told = { n, type: type && sender.changeTo(type), problems: [...problems, ...found], items };
  self.postMessage(told satisfies CompiledDraft);
}
