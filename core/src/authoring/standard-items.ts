import { type Bound, type Expander, isMap, substitute } from './expand.ts';
import { type AuthoredMap, type Places, textOf } from './places.ts';
import type { Problem } from './problem.ts';
import { nearest } from './condition-text.ts';
import { kindOf, SEVERITIES } from './item-form.ts';

/**
 * Items that read the same on many aircraft, by name. `- use: papers` takes one; fields beside it are laid over it, `null`
 * takes one away, `with` says what stands for its `{names}`, and `as` gives it another id.
 */
export class StandardItems {
  private readonly items: ReadonlyMap<string, AuthoredMap>;
  private readonly expander: Expander;
  private readonly places: Places;
  private readonly report: (problem: Problem) => void;

  constructor(
    items: ReadonlyMap<string, AuthoredMap>,
    expander: Expander,
    places: Places,
    report: (problem: Problem) => void,
  ) {
    this.items = items;
    this.expander = expander;
    this.places = places;
    this.report = report;
  }

  /** What `use` stands for; its name may hold names that are bound. Null, with a report, where there is none. */
  readonly used = (by: AuthoredMap, names: Bound): AuthoredMap | null => {
    const written = textOf(by['use']);
    const name = this.items.has(written) ? written : String(substitute(written, names));
    const standard = this.items.get(name);
    if (!standard) {
      this.report({
        ...(this.places.ofText(by, 'use') ?? { file: '', line: 1, column: 1 }),
        message: `there is no standard item named ${name}`,
        remedy: nearest(name, [...this.items.keys()], 'items of the library'),
      });
      return null;
    }
    const { use: _, with: bound, as, ...differs } = by;
    const made = isMap(bound)
      ? this.expander.map(standard, bound as Record<string, string | number>)
      : this.places.carry({ ...standard }, standard);
    if (SEVERITIES.some((s) => s in differs)) for (const s of SEVERITIES) delete made[s];
    const kind = kindOf(made);
    if (as !== undefined && kind !== undefined) made[kind] = as;
    for (const [key, value] of Object.entries(differs)) {
      if (value === null) delete made[key];
      else made[key] = value;
    }
    // what is written here is wrong here; the rest stands in the library
    this.places.carryOver(made, by);
    return made;
  };
}
