import type { Compiling } from './compiling.ts';
import { compileItem } from './compile-item.ts';
import { Expander, isMap } from './expand.ts';
import { ItemForm } from './item-form.ts';
import { type AuthoredMap, textOf } from './places.ts';

/** One use of an action of the library in a plan: its name, and the fields that differ here. */
interface Use {
  name: string;
  differs: AuthoredMap;
}

/**
 * Plans of what to do after an abort, each a list of actions of one library. Actions that speak of an engine, `{n}`, are
 * done engine by engine and are on the list only for the start that was stopped.
 */
export function compileAborts(c: Compiling, written: AuthoredMap, starts: readonly AuthoredMap[]): AuthoredMap {
  const library = new Map(c.mapsOf(written, 'actions').map((action) => [textOf(action['id']), action]));
  const plans = written['plans'];
  const made: AuthoredMap = {};
  if (!isMap(plans)) {
    c.report(written, undefined, '"plans" is missing', 'add plans: with one plan for each reason, pilot at least');
    return made;
  }
  const expander = new Expander(c.engines, c.places);
  for (const [reason, plan] of Object.entries(plans)) {
    if (!isMap(plan)) {
      c.report(plans, reason, `the plan for ${reason} is empty`, 'give it a title, actions and what comes afterwards');
      continue;
    }
    const uses = usesOf(c, plan, library);
    const actions = groups(uses, library).flatMap((group) =>
      (group.perEngine ? c.engines : [null]).flatMap((n) =>
        group.uses.map(({ name, differs }) =>
          instance(c, expander, { reason, action: library.get(name)!, differs, group, n }, starts),
        ),
      ),
    );
    made[reason] = c.places.carry({ ...plan, actions: c.list(actions, plan['actions']) as AuthoredMap[] }, plan);
  }
  return c.places.carry(made, plans);
}

function usesOf(c: Compiling, plan: AuthoredMap, library: ReadonlyMap<string, AuthoredMap>): Use[] {
  const list = plan['actions'];
  const form = new ItemForm(c.places, (p) => c.problems.push(p));
  if (!Array.isArray(list)) {
    c.report(plan, 'actions', '"actions" is missing', 'list actions of the library');
    return [];
  }
  return list.flatMap((use, i) => {
    const name = textOf(isMap(use) ? use['use'] : use);
    if (!library.has(name)) {
      c.report(list, i, `there is no action named ${name} in the library`, 'add it to actions, or name one that is there'); // oxfmt-ignore
      return [];
    }
    return [{ name, differs: isMap(use) ? form.fields(c.without(use, 'use')) : {} }];
  });
}

const speaksOfEngine = (action: AuthoredMap): boolean => JSON.stringify(action).includes('{n}');

interface Group {
  perEngine: boolean;
  uses: Use[];
}

/** From the first action that speaks of an engine to the last, all are done engine by engine. */
function groups(uses: readonly Use[], library: ReadonlyMap<string, AuthoredMap>): Group[] {
  const speaks = uses.map(({ name }) => speaksOfEngine(library.get(name)!));
  const [first, last] = [speaks.indexOf(true), speaks.lastIndexOf(true)];
  if (first < 0) return [{ perEngine: false, uses: [...uses] }];
  return [
    { perEngine: false, uses: uses.slice(0, first) },
    { perEngine: true, uses: uses.slice(first, last + 1) },
    { perEngine: false, uses: uses.slice(last + 1) },
  ];
}

/** One action of a plan, for one engine or for none, as an item of its own. */
function instance(
  c: Compiling,
  expander: Expander,
  { reason, action, differs, group, n }: { reason: string; action: AuthoredMap; differs: AuthoredMap; group: Group; n: number | null }, // oxfmt-ignore
  starts: readonly AuthoredMap[],
): AuthoredMap {
  const whole = c.places.carry({ ...action, ...differs }, Object.keys(differs).length > 0 ? differs : action);
  const bound = expander.map(whole, n === null ? {} : { n });
  const numbered = new Set(n !== null && c.engines.length > 1 ? group.uses.map((use) => use.name) : []);
  const idOf = (name: unknown): string =>
    numbered.has(String(name)) ? `${reason}-${n}-${String(name)}` : `${reason}-${String(name)}`;
  bound['id'] = idOf(action['id']);
  if (bound['closedBy'] !== undefined) bound['closedBy'] = idOf(bound['closedBy']);
  if (bound['needs'] !== undefined) bound['needs'] = [bound['needs']].flat().map(idOf);
  const start = starts.length > 1 && n !== null ? starts.find((s) => s['engine'] === n)?.['id'] : undefined;
  if (start !== undefined) bound['forWatch'] ??= start;
  return compileItem(c, bound, 'abort');
}
