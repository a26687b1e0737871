import type { Item, ItemKind, TypeFile } from '@rouse/core/aircraft';
import { type Entry, type Payload, reduceRun, type RunState } from '@rouse/core/procedure';
import { journalOf, skerry } from '../skerry.ts';

type Of<K extends ItemKind> = Extract<Item, { kind: K }>;

/** An item of a kind, with what is particular to it; its challenge is its id with a capital. */
export function item<K extends ItemKind>(id: string, kind: K, own: Partial<Of<K>> = {}): Item {
  const base = { id, leg: 'before', zone: 'cabin', challenge: id[0]!.toUpperCase() + id.slice(1), response: 'so', why: 'w', ifSkipped: 's', failure: 'caution', by: 'pilot' }; // oxfmt-ignore
  return { ...base, kind, ...own } as unknown as Item;
}

/** A type of a few items that is the S7 in all else. */
export function typeWith(items: readonly Item[], rest: Partial<TypeFile> = {}): TypeFile {
  const legs = [
    { id: 'before', label: 'Before', flow: true },
    { id: 'start', label: 'Start' },
    { id: 'lift', label: 'Lift', gate: true },
    { id: 'hover', label: 'Hover', begins: { channel: 'tq.1', atLeast: 45 } },
    { id: 'down', label: 'Down', begins: { channel: 'engine.1.selector', is: 1 } },
  ];
  return { ...skerry, legs, items: [...items], turnRound: undefined, ...rest } as TypeFile;
}

const opened: Payload = { kind: 'run-opened', tail: 'QV-ANY', type: 'S7', typeVersion: 1, source: 'stand-in', pad: '', conditions: '' }; // oxfmt-ignore

/** A journal of what was said, two seconds apart, behind the opening at zero; `watch` writes what no person does. */
export function journal(...payloads: readonly Payload[]): Entry[] {
  const watched = ['cue', 'phase', 'start-state', 'measured', 'exceedance'];
  return journalOf(
    [opened, ...payloads].map((payload, i) => ({
      t_s: 2 * i,
      by: watched.includes(payload.kind) ? 'watch' : 'pilot',
      payload,
    })),
  );
}

export const after = (...payloads: readonly Payload[]): RunState => reduceRun(journal(...payloads));

export const did = (id: string, rest: Partial<Extract<Payload, { kind: 'item-done' }>> = {}): Payload => ({ kind: 'item-done', item: id, how: 'declared', value: null, words: '', ...rest }); // oxfmt-ignore
export const fault = (id: string): Payload => ({ kind: 'item-fault', item: id, note: 'not so' });
export const skip = (id: string): Payload => ({ kind: 'item-skipped', item: id, reason: 'no time' });
export const stage = (id: string, n: number, last = false): Payload => ({ kind: 'stage-done', item: id, stage: n, value: null, words: `stage ${n}`, last }); // oxfmt-ignore
export const begins = (leg: string): Payload => ({ kind: 'leg-begun', leg, how: 'declared' });
export const aborted: Payload = { kind: 'abort', watch: 'engine-1-start', reason: 'pilot', text: 'Stopped', say: 'Stop', figure: 'own call' }; // oxfmt-ignore
