import type { TypeFile } from '../aircraft/index.ts';
import type { Exceedance } from './events.ts';
import type { StartSnapshot } from './snapshot.ts';

type AbortPlan = NonNullable<TypeFile['aborts']['pilot']>;

/** Whether, and when, another start may be tried after one that was stopped. */
export interface NextTry {
  verdict: 'open' | 'after-rest' | 'after-inspection' | 'unknown';
  words: string;
  /** rest that the starter still needs, s */
  rest_s: number;
  /** what is looked at first */
  inspect: readonly string[];
}

/**
 * What the type says of another try, made stricter by what was measured: a limit that was passed calls for an engineer
 * whatever the reason was, and an engine that is still hot is motored first.
 * @param start the start that was stopped, null where nothing was sensed
 * @param passed exceedances of this start
 */
export function nextTry(plan: AbortPlan, start: StartSnapshot | null, passed: readonly Exceedance[]): NextTry {
  const rest_s = start?.restDue_s ?? 0;
  const inspect = plan.inspect ?? [];
  const worst = passed.find((e) => e.expired && e.severity === 'warning');
  if (worst || plan.another === 'after-inspection')
    return {
      verdict: 'after-inspection',
      words: worst
        ? 'A limit was passed: no further start before an engineer has looked.'
        : 'No further start before an engineer has looked.',
      rest_s,
      inspect,
    };
  if (plan.another === undefined)
    return { verdict: 'unknown', words: 'The type does not say: ask an engineer.', rest_s, inspect };
  if (start === null)
    return { verdict: 'unknown', words: 'Nothing was sensed: judge heat and starter rest by eye.', rest_s, inspect };
  const shut = start.gates.find((g) => g.verdict !== true);
  const first = shut ? ` First: ${shut.label.toLowerCase()} ${shut.words}.` : '';
  return rest_s > 0
    ? { verdict: 'after-rest', words: `Another start is open when the starter has rested.${first}`, rest_s, inspect }
    : { verdict: 'open', words: `Another start is open.${first}`, rest_s, inspect };
}
