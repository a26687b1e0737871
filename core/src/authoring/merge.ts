import { isMap } from './expand.ts';
import type { Authored, AuthoredMap, Places } from './places.ts';
import type { Problem } from './problem.ts';

/**
 * Lays what a type changes over the type that it extends: members of maps by name, members of lists by their id. `null`
 * takes a member away, `- remove: id` a member of a list; a new one comes last, or where `after` or `before` says.
 */
export class Merger {
  private readonly places: Places;
  private readonly report: (problem: Problem) => void;

  constructor(places: Places, report: (problem: Problem) => void) {
    this.places = places;
    this.report = report;
  }

  merge(base: Authored, over: Authored): Authored {
    if (isMap(base) && isMap(over)) return this.maps(base, over);
    if (Array.isArray(base) && Array.isArray(over) && [...base, ...over].every((v) => idOf(v) !== null))
      return this.lists(base as AuthoredMap[], over as AuthoredMap[]);
    return over;
  }

  private maps(base: AuthoredMap, over: AuthoredMap): AuthoredMap {
    const made: AuthoredMap = { ...base };
    for (const [key, value] of Object.entries(over)) {
      const before = base[key];
      if (value === null) delete made[key];
      else made[key] = before === undefined ? value : this.merge(before, value);
    }
    // what is wrong in a changed part is wrong where it was changed
    return this.places.carry(made, over);
  }

  private lists(base: readonly AuthoredMap[], over: readonly AuthoredMap[]): AuthoredMap[] {
    const made = [...base];
    const find = (id: unknown, by: AuthoredMap, field: string): number => {
      const at = made.findIndex((v) => idOf(v) === id);
      if (at < 0)
        this.report({
          ...(this.places.of(by, field) ?? { file: '', line: 1, column: 1 }),
          message: `the type that this one extends has nothing named ${String(id)} here`,
          remedy: 'name one that it has',
        });
      return at;
    };
    for (const change of over) {
      if ('remove' in change) {
        const at = find(change['remove'], change, 'remove');
        if (at >= 0) made.splice(at, 1);
        continue;
      }
      const { after, before, ...fresh } = change;
      this.places.carry(fresh, change);
      const at = made.findIndex((v) => idOf(v) === idOf(change));
      if (at >= 0) made[at] = this.maps(made[at]!, fresh);
      else if (after !== undefined) made.splice(find(after, change, 'after') + 1 || made.length, 0, fresh);
      else if (before !== undefined) made.splice(Math.max(0, find(before, change, 'before')), 0, fresh);
      else made.push(fresh);
    }
    return made;
  }
}

/** By what a member of a list is known. */
function idOf(value: Authored): string | number | null {
  if (!isMap(value)) return null;
  const id = value['id'] ?? value['remove'];
  return typeof id === 'string' || typeof id === 'number' ? id : null;
}
