import { anotherTry, type Entry, entriesOfRating, isHeld, type Payload, reduceRun, whyNotBrought } from '@rouse/core/procedure'; // oxfmt-ignore
import type { RatingEvent } from '@rouse/core/ratings';
import type { StartSnapshot } from '@rouse/core/watch';
import { describe, expect, test } from 'vitest';
import { typeOf } from '../fleet.ts';
import { journalOf, RUN_ID, skerry } from '../skerry.ts';
import { aborted, after, did, journal } from './small-type.ts';

const opened: Payload = { kind: 'run-opened', tail: 'QV-ANY', type: 'S7', typeVersion: skerry.version, source: 'by-hand', pad: '', conditions: '' }; // oxfmt-ignore
const closed: Payload = { kind: 'closed', outcome: 'given-up' };

describe('a journal that is handed over', () => {
  const to = { type: skerry, tail: 'QV-ANY', run: RUN_ID, by: 'pilot' };
  const of = (payloads: readonly Payload[], by = 'pilot', step_s = 1): Entry[] =>
    journalOf(payloads.map((payload, i) => ({ t_s: 10 + i * step_s, by, payload })));
  const whole = of([opened, did('papers'), closed]);
  const why = (entries: readonly Entry[], rest: Partial<typeof to> = {}) => whyNotBrought(entries, { ...to, ...rest });

  test('is taken when it is whole, closed, by hand, and of whoever brings it', () => {
    expect(why(whole)).toBeNull();
  });

  test('says what is wrong with it', () => {
    expect(why([])).toBe('It does not begin with a run that was opened');
    expect(why(of([did('papers'), closed]))).toBe('It does not begin with a run that was opened');
    expect(why([whole[0]!, { ...whole[1]!, t: 99 }, whole[2]!])).toMatch(/^Its chain is broken: /);
    expect(why(whole, { run: 'other' })).toBe('Entries of another run are among it');
    expect(why(whole, { tail: 'QV-OTH' })).toBe(`It is of QV-ANY, S7 version ${skerry.version}, and handed over as QV-OTH, S7 version ${skerry.version}`); // oxfmt-ignore
    expect(why(whole, { type: { ...skerry, id: 'C5' } })).toMatch(/handed over as QV-ANY, C5/);
    expect(why(whole, { type: { ...skerry, version: 99 } })).toMatch(/S7 version 99$/);
    expect(why(of([{ ...opened, source: 'device' } as Payload, closed]))).toBe('Only what was worked by hand is written without a server'); // oxfmt-ignore
    expect(why(whole, { by: 'another' })).toMatch(/^It was written by somebody else/);
    expect(why(of([opened, did('papers'), closed], 'pilot', -1))).toBe('Its times go back');
    expect(why(of([opened, did('papers'), closed], 'pilot', 0))).toBeNull();
    expect(why(of([opened, did('papers')]))).toBe('It is not closed');
  });
});

describe('what a rating ledger reports', () => {
  const event = (event: RatingEvent['event'], rest: Partial<RatingEvent> = {}): Payload[] =>
    entriesOfRating({ kind: 'rating', t_s: 1, event, ledger: 'one-engine', engine: 2, rating: '30s', label: '30 s power', ...rest }); // oxfmt-ignore

  test('of one-engine power is kept and told; a use that ends is kept', () => {
    expect(event('PERIOD_START')).toEqual([
      { kind: 'rating', ledger: 'one-engine', engine: 2, rating: '30s', label: '30 s power', event: 'PERIOD_START' },
      { kind: 'cue', code: 'rating-period_start', severity: 'caution', text: '30 s power, engine 2', say: '30 s power, engine 2.' }, // oxfmt-ignore
    ]);
    expect(event('PERIOD_EXPIRED')[1]).toMatchObject({ severity: 'warning', text: '30 s power used up, engine 2' });
    expect(event('NO_PERIODS_LEFT')[1]).toMatchObject({ severity: 'warning', text: '30 s power: no use was left, engine 2' }); // oxfmt-ignore
    expect(event('OVER_MAXIMUM')[1]).toMatchObject({ severity: 'warning', text: 'Engine 2 above its maximum' });
    expect(event('PERIOD_END')).toHaveLength(1);
    expect(event('GAP_ESTIMATED')).toHaveLength(1);
    expect(event('GAP_BLIND')).toEqual([]);
  });

  test('of take-off power is kept and not told', () => {
    expect(event('PERIOD_EXPIRED', { ledger: 'take-off' })).toHaveLength(1);
    expect(event('PERIOD_START', { ledger: 'take-off' })[0]).toMatchObject({ kind: 'rating', event: 'PERIOD_START' });
    expect(event('GAP_BLIND', { ledger: 'take-off' })).toEqual([]);
  });

  test('holds the next start where it costs an inspection, as a limit does that was passed for too long', () => {
    const H9 = typeOf('H9');
    const spec = H9.ratings!.ledgers.find((l) => l.id === 'one-engine')!;
    const costly = spec.ratings.find((r) => r.maintenance === true)!;
    const held = (payload: Payload) => isHeld(H9, journalOf([{ t_s: 1, by: 'watch', payload }])[0]!);
    const rating = (rest: object): Payload => ({ kind: 'rating', ledger: 'one-engine', engine: 1, rating: costly.id, label: '', event: 'PERIOD_START', ...rest }) as Payload; // oxfmt-ignore
    expect(held(rating({}))).toBe(true);
    expect(held(rating({ rating: 'another' }))).toBe(false);
    expect(held(rating({ event: 'PERIOD_END' }))).toBe(false);
    expect(held(rating({ event: 'OVER_MAXIMUM', rating: null }))).toBe(true);
    expect(held(rating({ event: 'OVER_MAXIMUM', ledger: 'take-off' }))).toBe(false);
    const passed = { kind: 'exceedance', limit: 'l', channel: 'nr', band: 'b', edge: 1, severity: 'warning', start_s: 0, end_s: 1, duration_s: 1, peak: 2, peakAt_s: 0, area: 1, allowed_s: 0, expired: true }; // oxfmt-ignore
    expect(held(passed as Payload)).toBe(true);
    expect(held({ ...passed, expired: false } as Payload)).toBe(false);
    expect(held({ ...passed, severity: 'caution' } as Payload)).toBe(false);
    expect(held({ kind: 'phase', phase: 'start' })).toBe(false);
  });
});

describe('another try', () => {
  const limit = { kind: 'exceedance', limit: 'tot', channel: 'tot.1', band: 'b', edge: 1, severity: 'warning', start_s: 0, end_s: 1, duration_s: 1, peak: 2, peakAt_s: 0, area: 1, allowed_s: 0, expired: true } as const; // oxfmt-ignore
  const actions = skerry.aborts.pilot!.actions.filter((x) => !x.forWatch || x.forWatch === 'engine-1-start');
  const tried = (said: readonly Payload[], entries: readonly Entry[] = journal(...said)) =>
    anotherTry(skerry, reduceRun(journal(...said)), { entries, starts: null });

  test('is asked for only after a stop, and open only when its actions are done', () => {
    expect(tried([])).toBeNull();
    const before = tried([aborted])!;
    const worked = tried([aborted, ...actions.map((x) => did(x.id))])!;
    expect(before.verdict).not.toBe('open');
    expect(before.verdict).not.toBe('by-eye');
    expect(worked.verdict).not.toBe(before.verdict);
  });

  test('is not open after a limit that was passed with this start; one of long before says nothing', () => {
    const worked = [aborted, ...actions.map((x) => did(x.id))];
    const late = journalOf([{ t_s: 5, by: 'watch', payload: { ...limit, end_s: -57 } }]);
    const early = journalOf([{ t_s: 5, by: 'watch', payload: { ...limit, end_s: -59 } }]);
    expect(after(aborted).abort!.t_s).toBe(2);
    expect(tried(worked, late)).not.toEqual(tried(worked, early));
    expect(tried(worked, early)).toEqual(tried(worked, []));
  });

  test('waits for the starter of the engine that was stopped, and counts every action', () => {
    const twin = typeOf('H9');
    const stopped = { ...aborted, watch: 'engine-2-start' } as Payload;
    const needed = twin.aborts.pilot!.actions.filter((x) => !x.forWatch || x.forWatch === 'engine-2-start');
    const start = (restDue_s: number): StartSnapshot => ({ restDue_s, triesLeft: 1, gates: [] }) as unknown as StartSnapshot; // oxfmt-ignore
    const starts = twin.startWatches.map((w) => start(w.id === 'engine-2-start' ? 55 : 0));
    const worked = needed.map((x) => did(x.id));
    const next = (said: readonly Payload[], of: readonly StartSnapshot[] | null = starts) =>
      anotherTry(twin, reduceRun(journal(stopped, ...said)), { entries: journal(stopped, { kind: 'mark', words: '' }), starts: of })!; // oxfmt-ignore
    expect(next(worked)).toMatchObject({ verdict: 'held', rest_s: 55 });
    expect(next(worked, twin.startWatches.map(() => start(0))).rest_s).toBe(0); // oxfmt-ignore
    expect(next(worked, null).verdict).toBe('by-eye');
    expect(needed.length).toBeGreaterThan(1);
    expect(next(worked.slice(1), twin.startWatches.map(() => start(0))).words).toMatch(/when the actions above are done/); // oxfmt-ignore
  });
});
