import { itemState, workingList } from '../procedure/index.ts';
import type { Struck } from './armed-faults.ts';
import type { FlownDrill } from './flown-drill.ts';
import type { Loss } from './loss.ts';

/** points for each second beyond what was allowed */
const SECOND_COSTS = 5;
const NOT_FOUND = 40;
const FALSE_ALARM = 20;

/** How soon after it could be told each fault was met, by the right act; null where nothing went wrong and nothing was called. */
export function reactionOf(flown: FlownDrill): Loss[] | null {
  const losses = flown.struck.flatMap((struck) => met(flown, struck));
  const stop = flown.notes.find((n) => n.kind === 'stopped');
  if (flown.struck.length === 0 && !stop) return flown.lesson.faults.length > 0 ? [] : null;
  if (stop && !flown.struck.some((s) => s.fault.found === 'stop' && s.t_s <= stop.t_s))
    losses.push({ criterion: 'reaction', points: FALSE_ALARM, words: 'Stopped, and nothing was wrong', t_s: stop.t_s, of: 'stop' }); // oxfmt-ignore
  return losses;
}

function met(flown: FlownDrill, { fault, t_s: struck_s }: Struck): Loss[] {
  const told_s = toldOf(flown, fault.item, struck_s);
  const met_s = fault.found === 'stop' ? stopped_s(flown, struck_s) : written_s(flown, fault.item, struck_s);
  const not: Loss = { criterion: 'reaction', points: NOT_FOUND, words: `${fault.label}: not found`, t_s: told_s ?? struck_s, of: fault.label }; // oxfmt-ignore
  if (met_s === null) return [not];
  // it was met before anybody could have told: that is luck, and costs nothing
  const late_s = met_s - (told_s ?? met_s) - fault.within_s;
  if (late_s <= 0) return [];
  const after_s = met_s - told_s!;
  return [{ ...not, points: Math.min(NOT_FOUND, Math.ceil(SECOND_COSTS * late_s)), words: `${fault.label}: met after ${after_s.toFixed(1)} s, wanted within ${fault.within_s} s`, t_s: met_s }]; // oxfmt-ignore
}

/** When a watcher who sees everything could tell: the watch's own stop, its first word, or what a check found. */
function toldOf({ entries }: FlownDrill, item: string | undefined, from_s: number): number | null {
  const told = entries.find(
    (e) =>
      e.t >= from_s &&
      (e.kind === 'abort' ||
        (e.kind === 'cue' && e.severity !== 'call') ||
        (e.kind === 'measured' && e.verdict !== 'good' && (item === undefined || e.item === item))),
  );
  return told?.t ?? null;
}

/** The pilot's own stop, or the first action by hand that the watch's stop asks for. */
function stopped_s({ type, notes, state }: FlownDrill, from_s: number): number | null {
  const called_s = notes.find((n) => n.kind === 'stopped' && n.t_s >= from_s)?.t_s ?? Infinity;
  const first = state.abort ? workingList(type, state).find((i) => i.standIn) : undefined;
  const acted = first && itemState(state, first.id);
  const first_s = Math.min(called_s, acted?.status === 'done' && acted.t_s >= from_s ? acted.t_s : Infinity);
  return Number.isFinite(first_s) ? first_s : null;
}

/** When it was written down as not good, at its item or anywhere where it has none. */
function written_s({ entries }: FlownDrill, item: string | undefined, from_s: number): number | null {
  const found = entries.find(
    (e) => e.kind === 'item-fault' && e.t >= from_s && (item === undefined || e.item === item),
  );
  return found?.t ?? null;
}
