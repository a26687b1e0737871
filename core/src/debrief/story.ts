import type { TypeFile } from '../aircraft/index.ts';
import { type Compared, isWorse } from '../health/index.ts';
import {
  type Entry,
  findItem,
  legSpans,
  procedureOf,
  reduceRun,
  sayClock,
  sayEntry,
  itemState,
} from '../procedure/index.ts';

/** One of the few things of a run that are worth talking about. */
export interface Moment {
  /** run clock, where the trace and the journal are looked at */
  t_s: number;
  /** the entry of the journal that says it; null for what only the order of entries shows */
  seq: number | null;
  weight: 'warning' | 'caution' | 'note';
  title: string;
  words: string;
}

/** What the pilot could do otherwise next time, and where the record shows it. */
export interface Advice {
  t_s: number;
  words: string;
}

/** One leg of the passage with what was written in it. */
export interface LegOfStory {
  leg: string;
  label: string;
  from_s: number;
  to_s: number;
  seqs: number[];
}

export interface Story {
  /** the weightiest first seven, in the order of time */
  moments: Moment[];
  legs: LegOfStory[];
  advice: Advice[];
}

const MOST_MOMENTS = 7;
/** a wait that held everything for so long is worth a word */
const LONG_WAIT_S = 60;
/** nothing was written for so long, and nothing was waited for */
const LONG_PAUSE_S = 90;
const WEIGHT: Readonly<Record<Moment['weight'], number>> = { warning: 0, caution: 1, note: 2 };

/**
 * Tells a run by its journal: the moments that matter, the legs, and what could be done better.
 * @param starts figures of its starts beside what this tail usually shows, with when their starter turned
 */
export function storyOf(
  type: TypeFile,
  entries: readonly Entry[],
  starts: readonly { features: Readonly<Record<string, number | null>>; compared: readonly Compared[] }[],
): Story {
  const waits = heldBy(type, entries);
  const moments = [...entries.flatMap((e) => momentOf(type, e)), ...starts.flatMap(habitMoments), ...waits.map(waitMoment)];
  const chosen = moments.toSorted((a, b) => WEIGHT[a.weight] - WEIGHT[b.weight] || a.t_s - b.t_s).slice(0, MOST_MOMENTS);
  return { moments: chosen.toSorted((a, b) => a.t_s - b.t_s), legs: legsOf(type, entries), advice: adviceOf(type, entries, waits) };
} // oxfmt-ignore

/** What an entry is worth in a story; most are worth nothing. */
function momentOf(type: TypeFile, entry: Entry): Moment[] {
  const words = sayEntry(type, entry);
  const moment = (weight: Moment['weight'], title = words!.title, detail = words!.detail): Moment[] => [
    { t_s: entry.t, seq: entry.seq, weight, title, words: detail },
  ];
  switch (entry.kind) {
    case 'abort':
      return moment('warning');
    case 'exceedance':
      if (entry.severity === 'note') return [];
      return entry.expired ? moment('warning') : moment('caution', words!.title, `${words!.detail}; its time was not used up`);
    case 'rating':
      return words!.stands && entry.event !== 'PERIOD_START' ? moment('warning') : [];
    case 'item-fault':
    case 'item-skipped':
    case 'way-changed':
      return moment('caution');
    case 'measured':
      return words === null ? [] : moment(entry.verdict === 'fault' ? 'warning' : 'caution');
    case 'item-done':
      return words!.stands ? moment('caution') : [];
    case 'cue':
      return entry.severity === 'warning' || entry.severity === 'caution' ? moment(entry.severity) : [];
    case 'interrupted':
    case 'handed-over':
    case 'try-again':
      return moment('note');
    case 'mark':
      return moment('note', 'Marked', entry.words);
    case 'note':
      return entry.about_s === undefined ? [] : [{ t_s: entry.about_s, seq: entry.seq, weight: 'note', title: 'Note', words: entry.text }];
    default:
      return [];
  }
} // oxfmt-ignore

const AT: Readonly<Record<string, string>> = { lightOff_s: 'lightOff_s', idle_s: 'idle_s', peak_C: 'lightOff_s' };

/** Figures of a start outside all that this tail has shown, on the side that matters. */
function habitMoments({ features, compared }: Parameters<typeof storyOf>[2][number]): Moment[] {
  const begun_s = features['starterAt_s'] ?? null;
  if (begun_s === null) return [];
  return compared.flatMap((c): Moment[] => {
    if (!isWorse(c.spec, c.verdict) || c.value === null || c.usual === null) return [];
    const { label, unit, decimals } = c.spec;
    const usual = `${c.usual.low.toFixed(decimals)} to ${c.usual.high.toFixed(decimals)}`;
    return [
      {
        t_s: begun_s + (features[AT[c.spec.id] ?? ''] ?? 0),
        seq: null,
        weight: 'caution',
        title: `${label} ${c.verdict === 'high' ? 'higher' : 'lower'} than its habit`,
        words: `${c.value.toFixed(decimals)} ${unit}, usually ${usual}`,
      },
    ];
  });
}

/** A wait that held everything. */
const waitMoment = ({ item, from_s, for_s }: Held): Moment => ({
  t_s: from_s,
  seq: null,
  weight: 'note',
  title: `Waited for ${item}`,
  words: `${sayClock(for_s)} in which nothing else was done`,
});

interface Held {
  item: string;
  id: string;
  from_s: number;
  for_s: number;
}

/** Stretches before the end of a wait in which nothing was written by a person. */
function heldBy(type: TypeFile, entries: readonly Entry[]): Held[] {
  const state = reduceRun(entries);
  const hands = entries.filter((e) => e.by !== 'watch' && e.kind !== 'note').map((e) => e.t);
  const after = type.legs.filter((l) => l.begins).map((l) => l.id);
  return procedureOf(type, state).flatMap((item): Held[] => {
    // after the flight a wait is what the shut-down is made of
    if (item.kind !== 'wait' || after.includes(item.leg)) return [];
    const { status, t_s } = itemState(state, item.id);
    if (status !== 'done') return [];
    const from_s = Math.max(0, ...hands.filter((t) => t < t_s - 1e-6));
    const for_s = t_s - from_s;
    return for_s >= LONG_WAIT_S ? [{ item: lowerFirst(item.challenge), id: item.id, from_s, for_s }] : [];
  });
}

const lowerFirst = (words: string): string =>
  /^[A-Z][a-z]/.test(words) ? words[0]!.toLowerCase() + words.slice(1) : words;

function legsOf(type: TypeFile, entries: readonly Entry[]): LegOfStory[] {
  const end_s = entries.findLast((e) => e.kind !== 'note')?.t ?? 0;
  const spans = legSpans(type, reduceRun(entries), end_s);
  return spans.map((span, i) => {
    const last = i === spans.length - 1;
    const inside = entries.filter((e) => (i === 0 || e.t >= span.from_s) && (last || e.t < spans[i + 1]!.from_s));
    return { leg: span.id, label: span.label, from_s: span.from_s, to_s: span.to_s, seqs: inside.map((e) => e.seq) };
  });
}

/** Only what the record shows. */
function adviceOf(type: TypeFile, entries: readonly Entry[], waits: readonly Held[]): Advice[] {
  const state = reduceRun(entries);
  const advice: Advice[] = [];
  for (const held of waits) {
    const item = findItem(type, held.id)!;
    const needs = (item.needs ?? []).map((id) => itemState(state, id));
    const could_s = Math.max(0, ...needs.map((n) => (Number.isFinite(n.t_s) ? n.t_s : 0)));
    const opens = entries.filter((e) => e.by !== 'watch' && e.kind === 'item-done' && e.t < could_s);
    // what lets it begin was done late, after much that could have been done while it ran
    if (needs.length > 0 && opens.length >= 5 && could_s > 120)
      advice.push({
        t_s: could_s,
        words: `${item.challenge} could begin only at ${sayClock(could_s)}, and held everything for ${sayClock(held.for_s)}: what it needs comes first next time.`,
      });
  }
  for (const e of entries)
    if (e.kind === 'item-skipped') advice.push({ t_s: e.t, words: `${findItem(type, e.item)?.challenge ?? e.item} was left out: “${e.reason}”. ${findItem(type, e.item)?.ifSkipped ?? ''}`.trim() }); // oxfmt-ignore
  const hands = entries.filter((e) => e.by !== 'watch' && e.kind !== 'note');
  hands.slice(1).forEach((e, i) => {
    const pause_s = e.t - hands[i]!.t;
    const waited = waits.some((h) => h.from_s < e.t && h.from_s + h.for_s > hands[i]!.t);
    const watched = entries.some((w) => w.by === 'watch' && w.t > hands[i]!.t && w.t < e.t);
    if (pause_s >= LONG_PAUSE_S && !waited && !watched)
      advice.push({ t_s: hands[i]!.t, words: `${sayClock(pause_s)} passed with nothing written and nothing to wait for.` });
  });
  return advice;
} // oxfmt-ignore
