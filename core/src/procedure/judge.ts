import {
  type Caption,
  channelsOf,
  type Condition,
  type Item,
  sayCondition,
  sayValue,
  Sensed,
  type TypeFile,
  type Verdict,
} from '../aircraft/index.ts';
import type { Payload } from './entries.ts';
import { isReachable, presentItem } from './plan.ts';
import { findItem, itemState, type RunState, workingList } from './state.ts';

export interface CaptionCount {
  verdict: Verdict;
  lit: Caption[];
  missing: Caption[];
  extra: Caption[];
}

/** Compares the captions that are lit with those that are expected. @param value the caption channel; NaN gives 'unknown' */
export function countCaptions(type: TypeFile, expected: readonly string[], value: number): CaptionCount {
  const list = type.captions.list;
  if (Number.isNaN(value)) return { verdict: 'unknown', lit: [], missing: [], extra: [] };
  const lit = list.filter((c) => Math.floor(value / 2 ** c.bit) % 2 === 1);
  const missing = list.filter((c) => expected.includes(c.id) && !lit.includes(c));
  const extra = lit.filter((c) => !expected.includes(c.id));
  return { verdict: missing.length === 0 && extra.length === 0, lit, missing, extra };
}

export interface Reading {
  verdict: Verdict;
  /** value of the first channel of the condition, null when it has none or it is lost */
  value: number | null;
  words: string;
}

/** The condition that senses an item, where it has one. */
export function conditionOf(item: Item): Condition | null {
  if (item.kind === 'wait') return item.until;
  return (item.kind === 'set' || item.kind === 'check') && item.expect ? item.expect : null;
}

/** What the sensors say of an item in one frame, dwell left out. @returns null for an item that nothing senses */
export function readItem(type: TypeFile, item: Item, values: ArrayLike<number> | null): Reading | null {
  const frame = values ?? new Float64Array(type.channels.length).fill(NaN);
  if (item.kind === 'count') {
    const index = type.channels.findIndex((c) => c.id === item.channel);
    const count = countCaptions(type, item.captions, frame[index]!);
    return {
      verdict: count.verdict,
      value: Number.isNaN(frame[index]!) ? null : frame[index]!,
      words: sayCount(count),
    };
  }
  const condition = conditionOf(item);
  if (!condition) return null;
  const verdict = new Sensed(withoutDwell(condition), type.channels).update(0, frame);
  const readings = channelsOf(condition).map((id) => {
    const index = type.channels.findIndex((c) => c.id === id);
    return { value: frame[index]!, words: sayValue(type.channels[index]!, frame[index]!) };
  });
  const first = readings[0]!;
  return {
    verdict,
    value: Number.isNaN(first.value) ? null : first.value,
    words: readings.map((r) => r.words).join(', '),
  };
}

function withoutDwell(condition: Condition): Condition {
  if ('all' in condition) return { all: condition.all.map(withoutDwell) };
  if ('any' in condition) return { any: condition.any.map(withoutDwell) };
  if ('not' in condition) return { not: withoutDwell(condition.not) };
  const { for: _, ...test } = condition;
  return test as Condition;
}

function sayCount(count: CaptionCount): string {
  if (count.verdict === 'unknown') return 'unknown';
  const names = (list: Caption[]): string => list.map((c) => c.label).join(', ');
  const parts = [`${count.lit.length} lit`];
  if (count.missing.length) parts.push(`missing ${names(count.missing)}`);
  if (count.extra.length) parts.push(`extra ${names(count.extra)}`);
  return parts.join('; ');
}

export type Acceptance =
  | { ok: true; payload: Payload }
  | { ok: false; code: 'not-this-item' | 'not-so' | 'not-open' | 'nothing-to-undo'; message: string };

/**
 * Judges what a person wants to write, against the list and the latest frame.
 * A declared item whose sensors say otherwise is refused with what to do; one that nothing can sense is taken at the person's word.
 * @param values the latest frame, or null when there is no data
 */
export function acceptFromPilot(
  type: TypeFile,
  state: RunState,
  wanted: Payload,
  values: ArrayLike<number> | null,
): Acceptance {
  const notOpen = state.status !== 'open' && wanted.kind !== 'note';
  if (notOpen)
    return {
      ok: false,
      code: 'not-open',
      message: 'This run is closed. Begin a new one on Today; notes can still be added.',
    };
  switch (wanted.kind) {
    case 'item-done':
    case 'item-fault':
    case 'item-skipped': {
      const item = workingList(type, state).find((i) => i.id === wanted.item);
      if (!item)
        return { ok: false, code: 'not-this-item', message: `${wanted.item} is not on the list that is being worked` };
      if (itemState(state, item.id).status !== 'todo')
        return {
          ok: false,
          code: 'not-this-item',
          message: `${item.challenge} is already settled; go back to it first`,
        };
      if (!state.abort && !isReachable(type, state, item)) {
        return {
          ok: false,
          code: 'not-this-item',
          message: `${item.challenge} comes later; ${presentItem(type, state)?.challenge ?? 'nothing'} is next`,
        };
      }
      return wanted.kind === 'item-done' ? acceptDone(type, item, values) : { ok: true, payload: wanted };
    }
    case 'item-chosen':
    case 'item-reopened':
      return findItem(type, wanted.item)
        ? { ok: true, payload: wanted }
        : { ok: false, code: 'not-this-item', message: `${wanted.item} is not an item of this type` };
    case 'undone':
      return state.lastUndoable === wanted.entry
        ? { ok: true, payload: wanted }
        : { ok: false, code: 'nothing-to-undo', message: 'Only the last thing that you entered can be undone' };
    case 'abort':
      return wanted.reason === 'pilot' && !state.abort
        ? { ok: true, payload: wanted }
        : { ok: false, code: 'not-so', message: 'The start is stopped already; work the actions on the screen' };
    case 'mark':
    case 'note':
    case 'closed':
      return { ok: true, payload: wanted };
    default:
      return { ok: false, code: 'not-this-item', message: `${wanted.kind} is written by the watch, not by a person` };
  }
}

function acceptDone(type: TypeFile, item: Item, values: ArrayLike<number> | null): Acceptance {
  const reading = readItem(type, item, values);
  const payload = (words: string, value: number | null): Acceptance => ({
    ok: true,
    payload: { kind: 'item-done', item: item.id, how: 'declared', value, words },
  });
  if (item.kind === 'watch')
    return { ok: false, code: 'not-so', message: 'The watch itself ends this item. Esc stops the start' };
  if (!reading) return payload('', null);
  if (item.kind === 'wait' && reading.verdict !== 'unknown') {
    return {
      ok: false,
      code: 'not-so',
      message: `${item.challenge} settles itself when it has lasted: ${sayCondition(item.until, type.channels)}. K skips it with a reason`,
    };
  }
  if (reading.verdict === 'unknown') return payload(`${reading.words}, declared`, reading.value);
  if (reading.verdict === true) return payload(reading.words, reading.value);
  const wanted = item.kind === 'count' ? item.response : sayCondition(conditionOf(item)!, type.channels);
  const remedy =
    item.failure === 'no-go'
      ? 'No-go: put it right, or record a fault with F'
      : 'Put it right, record it with F, or skip it with a reason';
  return { ok: false, code: 'not-so', message: `${item.challenge}: ${reading.words}; expected ${wanted}. ${remedy}` };
}
