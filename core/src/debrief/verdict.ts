import type { TypeFile } from '../aircraft/index.ts';
import {
  abortPlan,
  type Entry,
  findItem,
  notDone,
  type RunOutcome,
  reduceRun,
  type RunState,
  sayClock,
} from '../procedure/index.ts';

/** What a run was, in a sentence, and its figures in a line below it. */
export interface Verdict {
  verdict: string;
  details: string;
}

/**
 * Reads a run back from its journal.
 * @param habits what of its last start was not as this tail usually does, in words
 */
export function verdictOfRun(type: TypeFile, entries: readonly Entry[], habits: readonly string[]): Verdict {
  const state = reduceRun(entries);
  const expired = entries.filter((e) => e.kind === 'exceedance' && e.expired && e.severity === 'warning').length;
  const skipped = notDone(type, state).length;
  const parts = [
    sayDuration(entries, state.outcome),
    expired === 0 ? 'no exceedance' : `${expired} exceedance${expired > 1 ? 's' : ''}`,
    skipped === 0 ? 'nothing skipped' : `${skipped} item${skipped > 1 ? 's' : ''} not done as written`,
    ...(state.triedAgain.length ? [`start ${state.triedAgain.length + 1} of this run`] : []),
  ];
  return { verdict: sentence(type, entries, state, expired > 0, habits), details: parts.join(' · ') };
}

function sentence(
  type: TypeFile,
  entries: readonly Entry[],
  state: RunState,
  passed: boolean,
  habits: readonly string[],
): string {
  if (state.abort) return `${abortPlan(type, state)?.title ?? 'Stopped'}: stopped at ${state.abort.figure}.`;
  const begun = entries.some((e) => e.kind === 'start-state' && e.state === 'cranking') || isHandTimed(type, state);
  if (!begun) return 'No start in this run.';
  return [
    ...state.triedAgain.map((a) => `Stopped before at ${a.figure}, and tried again.`),
    sayStarts(entries, passed),
    ...habits.map((h) => `${h}.`),
    ...notGood(type, state),
  ].join(' ');
}

/** Good is said only of starts that were seen whole. */
function sayStarts(entries: readonly Entry[], passed: boolean): string {
  if (passed) return 'A start with a limit passed.';
  const done = entries.filter((e) => e.kind === 'start-done');
  const unseen = entries.some((e) => e.kind === 'cue' && e.code === 'start-unseen');
  if (unseen || done.some((e) => e.verdict === 'unknown'))
    return 'A start that was not wholly seen: whether it was good is unknown.';
  return done.length > 0 ? 'A good start.' : 'A start that did not come to idle.';
}

const isHandTimed = (type: TypeFile, state: RunState): boolean =>
  state.source === 'by-hand' && type.items.some((i) => i.kind === 'watch' && (state.stages[i.id]?.length ?? 0) > 0);

/** Checks that were not good, not known or not as usual when they were flown last, in words. */
function notGood(type: TypeFile, state: RunState): string[] {
  return Object.entries(state.measured).flatMap(([item, { verdict }]) => {
    const name = findItem(type, item)?.challenge ?? item;
    return verdict === 'good' ? [] : [`${name} ${verdict === 'unusual' ? 'not as usual' : 'not good'}.`];
  });
}

/** written into a run that is over already */
const AFTER_THE_RUN: ReadonlySet<Entry['kind']> = new Set(['note', 'trace-sealed', 'trace-thinned']);

function sayDuration(entries: readonly Entry[], outcome: RunOutcome | null): string {
  const last_s = entries.findLast((e) => !AFTER_THE_RUN.has(e.kind))?.t ?? 0;
  const reach =
    outcome === 'ready' || outcome === 'shut-down'
      ? `from first item to ${outcome === 'ready' ? 'ready' : 'a quiet aircraft'}`
      : outcome === null
        ? 'so far'
        : 'until it was closed';
  return `${sayClock(last_s)} ${reach}`;
}
