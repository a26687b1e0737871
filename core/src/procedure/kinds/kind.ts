import type { Item, ItemKind, TypeFile } from '../../aircraft/index.ts';
import type { Acceptance } from '../acceptance.ts';
import type { BriefRecord, Payload } from '../entries.ts';
import type { RunState } from '../state.ts';

export type ItemOf<K extends ItemKind> = Extract<Item, { kind: K }>;
type Done = Extract<Payload, { kind: 'item-done' }>;

/** A number that a person reads and types, with what it can possibly be. */
export interface Quantity {
  label: string;
  unit: string;
  range: readonly [number, number];
  against?: { figure: keyof BriefRecord['expected']; within: number } | undefined;
}

/** What the card wants of a person before this item is settled. */
export type Ask =
  /** a word is enough */
  | { kind: 'word'; word: 'seen' | 'done' | 'called' | 'said' }
  /** sensors settle it; only a mark can be made */
  | { kind: 'sensed' }
  /** the next of several stages, or moments, is said to be done */
  | { kind: 'stage'; stage: number }
  /** a check that measures itself: its stage is sensed, or said where nothing senses it */
  | { kind: 'measured'; stage: number; sensed: boolean }
  | { kind: 'number'; quantity: Quantity }
  /** unit: of two figures, null of two words */
  | { kind: 'pair'; between: readonly [string, string]; unit: string | null }
  | { kind: 'hold'; hold_s: number }
  | { kind: 'choice'; alternatives: readonly { id: string; label: string }[] }
  | { kind: 'wind'; phase: 'start' | 'stop' };

export interface Situation {
  type: TypeFile;
  state: RunState;
}

export interface Answering extends Situation {
  wanted: Done;
  /** the latest frame, null when there is no data */
  values: ArrayLike<number> | null;
}

/** One kind of item: everything that is particular to it. */
export interface KindModule<K extends ItemKind> {
  ask(item: ItemOf<K>, situation: Situation): Ask;
  /** judges what a person says of it */
  accept(item: ItemOf<K>, answering: Answering): Acceptance;
  /** what a pilot who finds everything as it should be writes next */
  right(item: ItemOf<K>, situation: Situation): Payload;
  /** the usual time of the hands, s */
  hands_s: number;
}

/** The entry of an answer that is taken. */
export function done(
  item: Item,
  wanted: Done,
  words: string,
  value: number | null,
  read?: [string, string],
): Acceptance {
  return {
    ok: true,
    payload: {
      kind: 'item-done',
      item: item.id,
      how: 'declared',
      value,
      words,
      ...(read && { read }),
      ...(wanted.differs && { differs: true }),
    },
  };
}

/** "It is done", with a figure where there is one. */
export const saysDone = (item: Item, value: number | null = null): Done => ({
  kind: 'item-done',
  item: item.id,
  how: 'declared',
  value,
  words: '',
});

export const middle = ([low, high]: readonly [number, number]): number => Math.round((low + high) / 2);

export function remedyOf(item: Item): string {
  return item.failure === 'no-go'
    ? 'No-go: put it right, or record a fault'
    : 'Put it right, record a fault, or skip it with a reason';
}

/** What the brief says that this figure should read, null where it is not known. */
export function expectedFigure(brief: BriefRecord | null, figure: keyof BriefRecord['expected']): number | null {
  return brief?.expected[figure] ?? null;
}
