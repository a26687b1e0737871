import { describe, expect, test } from 'vitest';
import { chainEntries, type Entry, type Payload } from '@rouse/core/procedure';
import { RatingBooks, type RatingEvent } from '@rouse/core/ratings';
import { TraceBuilder } from '@rouse/core/trace';
import type { WatchEvent } from '@rouse/core/watch';
import { isBooked, isWritten, replayRatings } from '../../server/src/live/recovery.ts';
import { types } from '../skerry.ts';

const haugh = types.find((t) => t.id === 'H9')!;
const at = (id: string): number => haugh.channels.findIndex((c) => c.id === id);
const written = (t_s: number, payload: Payload): Entry[] =>
  chainEntries('0193a000-0000-7000-8000-0000000000ff', undefined, [
    { id: '0193a000-0000-7000-8000-000000000001', at_ms: 1e12, by: 'watch', t_s, payload },
  ]);

const began: RatingEvent = { kind: 'rating', t_s: 20.0004, event: 'PERIOD_START', ledger: 'one-engine', engine: 2, rating: '30s', label: 'Thirty-second power' }; // prettier-ignore
const { t_s: _, ...asWritten } = began;

describe('a run that is taken up again', () => {
  test('an event of a rating that the journal has, to the millisecond it keeps, is not written twice', () => {
    const journal = written(20, asWritten);
    expect(isBooked(began, journal)).toBe(true);
    expect(isBooked({ ...began, t_s: 20.5 }, journal)).toBe(false);
    expect(isBooked({ ...began, engine: 1 }, journal)).toBe(false);
    expect(isBooked({ ...began, rating: '2min' }, journal)).toBe(false);
    expect(isBooked({ ...began, event: 'PERIOD_EXPIRED' }, journal)).toBe(false);
  });

  test('of what the watch saw again, what is written is known by its moment and its name', () => {
    const cue: WatchEvent = { kind: 'cue', t_s: 31.2, code: 'light-off', severity: 'call', text: 'Light-off', say: 'Light-off.' }; // prettier-ignore
    const { t_s, ...payload } = cue;
    const journal = written(t_s, payload);
    expect(isWritten({ ...cue, t_s: t_s + 0.0003 }, journal)).toBe(true);
    expect(isWritten({ ...cue, t_s: t_s + 1 }, journal)).toBe(false);
    expect(isWritten({ ...cue, code: 'hot' }, journal)).toBe(false);
  });

  test('there is one abort in a run, whenever the replay finds it', () => {
    const abort: WatchEvent = { kind: 'abort', t_s: 40, watch: 'engine-1-start', reason: 'hot', text: 'Hot start', say: 'Hot start.', figure: '835 °C' }; // prettier-ignore
    const { t_s, ...payload } = abort;
    expect(isWritten({ ...abort, t_s: 43 }, written(t_s, payload))).toBe(true);
    expect(isWritten(abort, written(1, { kind: 'phase', phase: 'start' }))).toBe(false);
  });

  test('the ledger fed from the record stands where the ledger that lived stood, the hole included', () => {
    const lived = new RatingBooks(haugh, null);
    const builder = new TraceBuilder(
      haugh.channels.map((c) => c.id),
      64,
    );
    const values = new Float64Array(haugh.channels.length).fill(NaN);
    for (let i = 0; i <= 300; i++) {
      const t_s = i * 0.1 + (i > 150 ? 9 : 0);
      values[at('tq.1')] = i < 50 ? 60 : 0;
      values[at('tq.2')] = i < 50 ? 60 : 135;
      lived.step(t_s, values);
      builder.push(t_s, values);
    }
    const again = new RatingBooks(haugh, null);
    replayRatings(again, builder.toTrace());
    expect(again.now()).toEqual(lived.now());
    const thirty = again.now().find((r) => r.engine === 2 && r.rating === '30s')!;
    // from 5 s to 39 s, the nine unseen seconds among them
    expect(thirty.booked_s).toBeGreaterThan(33.9);
    expect(thirty).toMatchObject({ uses: 2, inUse: true });
  });
});
