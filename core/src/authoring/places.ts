import type { Place } from './problem.ts';

/** Plain data as it was read from a file. */
export type Authored = null | boolean | number | string | Authored[] | AuthoredMap;
export interface AuthoredMap {
  [key: string]: Authored;
}

/** A value as text; nothing for a map or a list, whose place is reported by its schema. */
export function textOf(value: Authored | undefined): string {
  return typeof value === 'string' ? value : typeof value === 'number' || typeof value === 'boolean' ? `${value}` : '';
}

interface Noted {
  own: Place;
  parts: ReadonlyMap<string, Place>;
  /** where the text of a member begins, which is behind its name */
  texts: ReadonlyMap<string, Place>;
}

/** Remembers where maps and lists, and their members, stand in the files that they were read from. */
export class Places {
  private readonly noted = new WeakMap<object, Noted>();

  note(value: object, own: Place, parts: ReadonlyMap<string, Place>, texts = parts): void {
    this.noted.set(value, { own, parts, texts });
  }

  /** Where the text of a member begins. */
  ofText(value: object, member: string | number): Place | undefined {
    return this.noted.get(value)?.texts.get(String(member)) ?? this.of(value, member);
  }

  /**
   * `made` was made of `from`: what is wrong with it is wrong there.
   * @param renamed members of `made` that are written under another name @returns made
   */
  carry<T extends object>(made: T, from: object, renamed: Readonly<Record<string, string>> = {}): T {
    const noted = this.noted.get(from);
    if (!noted) return made;
    const names = Object.entries(renamed);
    const also = (of: Noted['parts']): Noted['parts'] =>
      new Map([...of, ...names.flatMap(([name, as]) => (of.has(as) ? [[name, of.get(as)!] as const] : []))]);
    this.noted.set(made, names.length === 0 ? noted : { ...noted, parts: also(noted.parts), texts: also(noted.texts) });
    return made;
  }

  /** Members of `made` also stand where those of `from` do. */
  add(made: object, from: object): void {
    const [one, other] = [this.noted.get(made), this.noted.get(from)];
    if (!one || !other) return;
    this.noted.set(made, {
      own: one.own,
      parts: new Map([...one.parts, ...other.parts]),
      texts: new Map([...one.texts, ...other.texts]),
    });
  }

  /** `made` stands where `by` does; members that `by` has not stand where they did. */
  carryOver(made: object, by: object): void {
    const [below, over] = [this.noted.get(made), this.noted.get(by)];
    if (!over) return;
    this.noted.set(made, {
      own: over.own,
      parts: new Map([...(below?.parts ?? []), ...over.parts]),
      texts: new Map([...(below?.texts ?? []), ...over.texts]),
    });
  }

  /** Where a map or list stands, or its member of that name where it has one. */
  of(value: object, member?: string | number): Place | undefined {
    const noted = this.noted.get(value);
    return (member === undefined ? undefined : noted?.parts.get(String(member))) ?? noted?.own;
  }

  /** The place of the deepest part on the way down `path` whose place is known. */
  along(root: object, path: readonly PropertyKey[]): Place | undefined {
    let place = this.of(root);
    let value: unknown = root;
    for (const key of path) {
      if (typeof value !== 'object' || value === null) break;
      place = this.of(value, String(key)) ?? place;
      value = (value as Record<PropertyKey, unknown>)[key];
    }
    return typeof value === 'object' && value !== null ? (this.noted.get(value)?.own ?? place) : place;
  }
}
