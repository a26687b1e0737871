import { type Item, type TypeFile } from '@rouse/core/aircraft';
import {
  acceptFromPilot,
  type BriefRecord,
  type Entry,
  itemState,
  meanwhileItems,
  type Payload,
  presentItem,
  reduceRun,
  type RunState,
  rightAnswer,
} from '@rouse/core/procedure';
import { expect } from 'vitest';
import { journalOf } from './skerry.ts';

const briefOf = (type: TypeFile, ways: Record<string, string>): BriefRecord => ({
  ways,
  overrides: [],
  accepted: [],
  expected: {
    altimeter: 61,
    'pressure-setting': 1008,
    fuel: Math.round(0.6 * type.loading.fuel.max_L * type.loading.fuel_density_kgL),
    mass: Math.round(0.85 * type.loading.mtow_kg),
  },
  oat_C: 12,
  pa_ft: 200,
  words: '',
  input: {},
});

/** A run by hand in the making: no sensor says anything. */
export class Hand {
  readonly type: TypeFile;
  entries: Entry[] = [];
  state: RunState = reduceRun([]);
  t_s = 0;

  constructor(type: TypeFile, ways: Record<string, string> = {}) {
    this.type = type;
    this.write({
      kind: 'run-opened',
      tail: 'QV-ANY',
      type: type.id,
      typeVersion: type.version,
      source: 'by-hand',
      pad: '',
      conditions: '',
    });
    this.write({ kind: 'briefed', brief: briefOf(type, ways) });
  }

  write(payload: Payload): void {
    this.entries = [
      ...this.entries,
      ...journalOf([{ t_s: (this.t_s += 2), by: 'pilot', payload }], this.entries.at(-1)),
    ];
    this.state = reduceRun(this.entries);
  }

  wants(payload: Payload): boolean {
    const verdict = acceptFromPilot(this.type, this.state, payload, null);
    if (verdict.ok) this.write(verdict.payload);
    return verdict.ok;
  }

  /** Answers one item rightly until it is settled. */
  settle(item: Item): void {
    if (item.kind === 'watch' && !item.moments)
      this.write({ kind: 'item-done', item: item.id, how: 'watched', value: null, words: '' });
    for (let i = 0; i < 12 && itemState(this.state, item.id).status === 'todo'; i++)
      expect(this.wants(rightAnswer(item, { type: this.type, state: this.state })), `${this.type.id} ${item.id}`).toBe(
        true,
      );
  }

  /** Settles what is present until nothing is. */
  settleAll(): void {
    for (let i = 0; i < 200 && presentItem(this.type, this.state); i++)
      this.settle(presentItem(this.type, this.state)!);
  }

  open(): Item[] {
    const present = presentItem(this.type, this.state);
    return present ? [present, ...meanwhileItems(this.type, this.state)] : meanwhileItems(this.type, this.state);
  }
}

export function payloadOf({
  id: _id,
  run: _run,
  seq: _seq,
  at: _at,
  t: _t,
  by: _by,
  prev: _prev,
  ...payload
}: Entry): Payload {
  return payload;
}
