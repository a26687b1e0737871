import type { Item, TypeFile } from '@rouse/core/aircraft';

/** What is new in a type that somebody has an earlier state of. */
export interface TypeChange {
  /** parts that are not the same objects as before, but for the items */
  parts: Partial<TypeFile>;
  gone: readonly string[];
  /** every item in its place: as it is, or the place that it had before */
  items: readonly (Item | number)[];
}

/** Tells a type that is compiled after every key: nearly all of it is what it was, and is not sent again. */
export class TypeSender {
  private before: Partial<TypeFile> = {};

  changeTo(type: TypeFile): TypeChange {
    const { before } = this;
    const had = new Map(before.items?.map((item, i) => [item, i]));
    const entries = Object.entries(type).filter(
      ([key, part]) => key !== 'items' && before[key as keyof TypeFile] !== part,
    );
    this.before = type;
    return {
      parts: Object.fromEntries(entries),
      gone: Object.keys(before).filter((key) => !(key in type)),
      items: type.items.map((item) => had.get(item) ?? item),
    };
  }
}

/** The type after a change; its parts are the same objects as before where they are the same. */
export function afterChange(before: TypeFile | null, { parts, gone, items }: TypeChange): TypeFile {
  const made: Record<string, unknown> = { ...before, ...parts };
  for (const key of gone) delete made[key];
  made['items'] = items.map((item) => (typeof item === 'number' ? before!.items[item]! : item));
  return made as TypeFile;
}
