import { describe, expect, test } from 'vitest';
import type { Payload } from '@rouse/core/procedure';
import type { RatingEvent } from '@rouse/core/ratings';
import { isBooked, isWritten } from '../../src/session/written.ts';
import type { WatchEvent } from '@rouse/core/watch';
import { journalOf } from '../skerry.ts';

const at = (t_s: number, payload: Payload) => journalOf([{ t_s, by: 'watch', payload }]);

describe('what a replay finds is in the journal already', () => {
  const cue: WatchEvent = { kind: 'cue', t_s: 12.3456, code: 'oil', severity: 'call', text: 'Oil', say: 'Oil' };
  const cueEntry: Payload = { kind: 'cue', code: 'oil', severity: 'call', text: 'Oil', say: 'Oil' };

  test('where it has the same word at the same moment, to the hundredth of a second', () => {
    expect(isWritten(cue, at(12.346, cueEntry))).toBe(true);
    expect(isWritten(cue, at(12.354, cueEntry))).toBe(true);
    expect(isWritten(cue, at(12.357, cueEntry))).toBe(false);
    expect(isWritten(cue, at(12.334, cueEntry))).toBe(false);
    expect(isWritten(cue, at(12.346, { ...cueEntry, code: 'light-off' }))).toBe(false);
    expect(isWritten(cue, at(12.346, { kind: 'phase', phase: 'start' }))).toBe(false);
    expect(isWritten(cue, [])).toBe(false);
    // among others
    const among = journalOf([{ t_s: 1, by: 'watch', payload: { kind: 'phase', phase: 'start' } }, { t_s: 12.346, by: 'watch', payload: cueEntry }]); // oxfmt-ignore
    expect(isWritten(cue, among)).toBe(true);
  });

  test('a state by its name, a phase by its moment, an exceedance by limit and band', () => {
    const state: WatchEvent = { kind: 'state', t_s: 5, watch: 'engine-1-start', state: 'fuel-on', words: 'Fuel on' };
    const stateEntry = { kind: 'start-state', watch: 'engine-1-start', state: 'fuel-on', words: 'Fuel on' } as const;
    expect(isWritten(state, at(5, stateEntry))).toBe(true);
    expect(isWritten(state, at(5, { ...stateEntry, state: 'idle' }))).toBe(false);
    expect(isWritten(state, at(5, { ...cueEntry }))).toBe(false);
    expect(isWritten({ kind: 'phase', t_s: 5, phase: 'start' }, at(5, { kind: 'phase', phase: 'start' }))).toBe(true);
    expect(isWritten({ kind: 'phase', t_s: 5, phase: 'start' }, at(5, cueEntry))).toBe(false);

    const exceedance = { limit: 'tot', channel: 'tot.1', band: 'start', edge: 800, severity: 'warning', start_s: 4, end_s: 5, duration_s: 1, peak: 820, peakAt_s: 4.5, area: 10, allowed_s: 0, expired: true } as const; // oxfmt-ignore
    const event: WatchEvent = { kind: 'exceedance', t_s: 5, exceedance };
    const entry = { kind: 'exceedance', ...exceedance } as Payload;
    expect(isWritten(event, at(5, entry))).toBe(true);
    expect(isWritten(event, at(5, { ...entry, limit: 'n1' } as Payload))).toBe(false);
    expect(isWritten(event, at(5, { ...entry, band: 'never' } as Payload))).toBe(false);
    expect(isWritten(event, at(5, cueEntry))).toBe(false);
  });

  test('a stopped start whatever it was stopped for, up to a minute apart, for the same engine', () => {
    const abort: WatchEvent = { kind: 'abort', t_s: 80, watch: 'engine-1-start', reason: 'hot', text: '', say: '', figure: '' }; // oxfmt-ignore
    const entry = { kind: 'abort', watch: 'engine-1-start', reason: 'pilot', text: '', say: '', figure: '' } as const;
    expect(isWritten(abort, at(21, entry))).toBe(true);
    expect(isWritten(abort, at(139, entry))).toBe(true);
    expect(isWritten(abort, at(20, entry))).toBe(false);
    expect(isWritten(abort, at(140, entry))).toBe(false);
    expect(isWritten(abort, at(80, { ...entry, watch: 'engine-2-start' }))).toBe(false);
    expect(isWritten(abort, at(80, cueEntry))).toBe(false);
    const done: WatchEvent = { kind: 'start-ended', t_s: 80, watch: 'engine-1-start', record: null as never, profile: null as never }; // oxfmt-ignore
    expect(isWritten(done, at(80, entry))).toBe(false);
  });
});

test('what a ledger says again is in the journal where event, ledger, engine, rating and moment are the same', () => {
  const event: RatingEvent = { kind: 'rating', t_s: 30, event: 'PERIOD_START', ledger: 'one-engine', engine: 1, rating: '2min', label: '2 min' }; // oxfmt-ignore
  const { t_s: _, ...rest } = event;
  const entry = { ...rest } as Payload;
  expect(isBooked(event, at(30, entry))).toBe(true);
  expect(isBooked(event, [...at(2, { kind: 'phase', phase: 'start' }), ...at(30, entry)])).toBe(true);
  expect(isBooked(event, at(30.009, entry))).toBe(true);
  for (const other of [{ event: 'PERIOD_END' }, { ledger: 'take-off' }, { engine: 2 }, { rating: null }])
    expect(isBooked(event, at(30, { ...entry, ...other } as Payload)), JSON.stringify(other)).toBe(false);
  expect(isBooked(event, at(30.01, entry))).toBe(false);
  expect(isBooked(event, at(29.98, entry))).toBe(false);
  expect(isBooked(event, at(30, { kind: 'phase', phase: 'start' }))).toBe(false);
});
