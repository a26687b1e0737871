import type { Authored, AuthoredMap, Places } from './places.ts';

/** What stands for a name between braces. */
export type Bound = Readonly<Record<string, string | number>>;

export const isMap = (value: unknown): value is AuthoredMap =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/**
 * Writes out what is written once for several: members of a list under `perEngine` (`{n}`) and under `forEach` with
 * `items`, and words of a list that hold `{n}` where no engine is meant, which stand for every engine.
 */
export class Expander {
  readonly engines: readonly number[];
  private readonly places: Places;
  private readonly standard: (by: AuthoredMap, bound: Bound) => AuthoredMap | null;

  /** @param standard what a member of a list with `use` stands for */
  constructor(engines: readonly number[], places: Places, standard: Expander['standard'] = () => null) {
    this.engines = engines;
    this.places = places;
    this.standard = standard;
  }

  expand(value: Authored, bound: Bound): Authored {
    if (typeof value === 'string') return substitute(value, bound);
    if (Array.isArray(value)) return this.places.carry(this.list(value, bound), value);
    if (isMap(value)) return this.places.carry(this.map(value, bound), value);
    return value;
  }

  map(value: AuthoredMap, bound: Bound): AuthoredMap {
    const made: AuthoredMap = {};
    for (const [key, member] of Object.entries(value)) made[key] = this.expand(member, bound);
    return this.places.carry(made, value);
  }

  /** A table with `{n}` in a row has that row for every engine. */
  rows(rows: readonly AuthoredMap[]): AuthoredMap[] {
    return rows.flatMap((row) =>
      Object.values(row).some((field) => speaksOfEngine(field)) ? this.engines.map((n) => this.map(row, { n })) : [row],
    );
  }

  private list(value: readonly Authored[], bound: Bound): Authored[] {
    return value.flatMap((element): Authored[] => {
      if (isMap(element) && Array.isArray(element['perEngine'])) {
        const inner = element['perEngine'];
        return this.engines.flatMap((n) => this.list(inner, { ...bound, n }));
      }
      if (isMap(element) && Array.isArray(element['forEach']) && Array.isArray(element['items'])) {
        const inner = element['items'];
        return element['forEach'].flatMap((names) =>
          this.list(inner, { ...bound, ...((isMap(names) ? this.map(names, bound) : {}) as Bound) }),
        );
      }
      if (isMap(element) && 'use' in element) return [this.expand(this.standard(element, bound) ?? element, bound)];
      if (speaksOfEngine(element) && !('n' in bound))
        return this.engines.map((n) => substitute(element as string, { ...bound, n }));
      return [this.expand(element, bound)];
    });
  }
}

/** Whether a text holds `{n}`, the number of an engine. */
export function speaksOfEngine(value: unknown): boolean {
  return typeof value === 'string' && value.includes('{n}');
}

/** A text that is one name alone becomes what it stands for, a number too. */
export function substitute(text: string, bound: Bound): string | number {
  const alone = /^\{(\w+)\}$/.exec(text)?.[1];
  if (alone !== undefined && alone in bound) return bound[alone]!;
  return text.replaceAll(/\{(\w+)\}/g, (whole, name: string) => (name in bound ? String(bound[name]) : whole));
}
