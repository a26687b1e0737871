import type { TypeFile } from '../aircraft/index.ts';
import type { Exceedance } from './events.ts';
import type { StartSnapshot } from './snapshot.ts';

type AbortPlan = NonNullable<TypeFile['aborts']['pilot']>;

/** Whether, and when, another start may be tried after one that was stopped. */
export interface NextTry {
  /** held: something that settles by itself or by hand comes first */
  verdict: 'open' | 'by-eye' | 'held' | 'after-inspection' | 'unknown';
  words: string;
  /** rest that the starter still needs, s */
  rest_s: number;
  /** engagements that the starter has left before its long rest, null where nothing was sensed */
  triesLeft: number | null;
  /** what is looked at first */
  inspect: readonly string[];
}

/**
 * What the type says of another try, made stricter by what was measured: a limit that was passed calls for an engineer
 * whatever the reason was, and an engine that is still hot is motored first.
 * @param start the start that was stopped, null where nothing was sensed
 * @param passed exceedances of this start
 * @param worked the actions of the abort are done
 */
export function nextTry(
  plan: AbortPlan,
  start: StartSnapshot | null,
  passed: readonly Exceedance[],
  worked: boolean,
): NextTry {
  const rest_s = start?.restDue_s ?? 0;
  const triesLeft = start?.triesLeft ?? null;
  const inspect = plan.inspect ?? [];
  const worst = passed.find((e) => e.expired && e.severity === 'warning');
  const said = (verdict: NextTry['verdict'], words: string): NextTry => ({
    verdict,
    words,
    rest_s,
    triesLeft,
    inspect,
  });
  if (worst) return said('after-inspection', 'A limit was passed: no further start before an engineer has looked.');
  if (plan.another === 'after-inspection')
    return said('after-inspection', 'No further start before an engineer has looked.');
  if (plan.another === undefined) return said('unknown', 'The type does not say: ask an engineer.');
  if (!worked) return said('held', 'Another start is open when the actions above are done.');
  if (start === null)
    return said('by-eye', 'Nothing is sensed: try again only when heat and starter rest are good by eye.');
  if (start.ranDown === false) return said('held', 'Another start is open when the engine has run down.');
  if (rest_s > 0) return said('held', 'Another start is open when the starter has rested.');
  const shut = start.gates.find((g) => g.at === 'starter' && g.verdict === false);
  if (shut) return said('held', `Another start is open when ${shut.label.toLowerCase()} is ${shut.words}.`);
  const unseen = start.gates.find((g) => g.at === 'starter' && g.verdict === 'unknown');
  if (unseen)
    return said('by-eye', `Not sensed: try again only when ${unseen.label.toLowerCase()} is ${unseen.words} by eye.`);
  if (start.ranDown === 'unknown') return said('by-eye', 'Speed is not sensed: try again only when the engine stands.');
  return said('open', 'Another start is open.');
}
