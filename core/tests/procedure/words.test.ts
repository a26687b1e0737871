import { describe, expect, test } from 'vitest';
import {
  canonicalJson,
  chainEntries,
  checkChain,
  digestOf,
  type Payload,
  sayClock,
  sayEntry,
} from '@rouse/core/procedure';
import { journalOf, skerry } from '../skerry.ts';

const say = (payload: Payload): ReturnType<typeof sayEntry> =>
  sayEntry(skerry, journalOf([{ t_s: 1, by: 'pilot', payload }])[0]!);

test('a time is told in whole seconds that have passed, and never falls back at the minute', () => {
  expect([0, 59.6, 60, 119.5, 3600].map(sayClock)).toEqual(['0:00', '0:59', '1:00', '1:59', '60:00']);
});

describe('entries in words', () => {
  test.each<[Payload, string, string, boolean]>([
    [
      { kind: 'item-done', item: 'bus-volts', how: 'declared', value: 25, words: '25.0 V' },
      'Bus volts',
      '25.0 V',
      false,
    ],
    [{ kind: 'item-done', item: 'battery-on', how: 'sensed', value: 1, words: 'on' }, 'Battery', 'on, sensed', false],
    [{ kind: 'item-fault', item: 'controls', note: 'stiff in roll' }, 'Fault: Controls', 'stiff in roll', true],
    [{ kind: 'item-skipped', item: 'altimeter', reason: 'broken' }, 'Altimeter skipped', '“broken”', true],
    [{ kind: 'item-reopened', item: 'altimeter' }, 'Back to altimeter', '', false],
    [{ kind: 'note', text: 'Rain.' }, 'Note', 'Rain.', true],
    [{ kind: 'mark', words: '' }, 'Marked', '', true],
    [
      { kind: 'start-state', watch: 'engine-1-start', state: 'accelerating', words: 'Light-off' },
      'Light-off',
      '',
      false,
    ],
    [
      {
        kind: 'abort',
        watch: 'engine-1-start',
        reason: 'hung',
        text: 'Ng hangs at 21 %',
        say: 'Abort.',
        figure: '21 %',
      },
      'Abort: hung start',
      'Ng hangs at 21 %',
      true,
    ],
    [
      { kind: 'cue', code: 'x', severity: 'caution', text: 'Oil above 6.4 bar', say: '' },
      'Oil above 6.4 bar',
      '',
      true,
    ],
    [{ kind: 'closed', outcome: 'ready' }, 'Closed, ready for lift', '', false],
  ])('%j', (payload, title, detail, stands) => {
    expect(say(payload)).toEqual({ title, detail, stands });
  });

  test('what only the program needs is not told', () => {
    expect(say({ kind: 'phase', phase: 'idle' })).toBeNull();
    expect(say({ kind: 'cue', code: 'light-off', severity: 'call', text: 'Light-off', say: '' })).toBeNull();
    expect(say({ kind: 'start-state', watch: 'engine-1-start', state: 'aborted', words: '' })).toBeNull();
  });

  test('an exceedance says how long, past what, to how much', () => {
    const words = say({
      kind: 'exceedance',
      limit: 'tot-start',
      channel: 'tot.1',
      band: 'A',
      edge: 770,
      severity: 'caution',
      start_s: 1,
      end_s: 3.1,
      duration_s: 2.1,
      peak: 801.4,
      peakAt_s: 2,
      area: 30,
      allowed_s: 8,
      expired: false,
    });
    expect(words).toEqual({ title: 'Turbine outlet temperature', detail: '2.1 s past 770 °C, to 801', stands: false });
  });
});

describe('the chain', () => {
  test('a repeated id, a missing number and a foreign start are each found', () => {
    const mark: Payload = { kind: 'mark', words: '' };
    const whole = journalOf([0, 1, 2, 3, 4, 5].map((t_s) => ({ t_s, by: 'p', payload: mark })));
    expect(checkChain(whole.slice(1))).toMatchObject({ seq: 2 });
    const twice = chainEntries(
      whole[0]!.run,
      undefined,
      [0, 1, 2].map(() => ({
        id: whole[0]!.id,
        at_ms: 1e12,
        t_s: 0,
        by: 'p',
        payload: { kind: 'mark', words: '' } as const,
      })),
    );
    expect(checkChain(twice)?.message).toMatch(/repeats an id/);
    expect(checkChain([])).toBeNull();
  });

  test('canonical JSON is one text for one value, whatever the order it was written in', () => {
    expect(canonicalJson({ b: 1, a: [1, { d: null, c: 'x' }], e: undefined })).toBe(
      '{"a":[1,{"c":"x","d":null}],"b":1}',
    );
    expect(canonicalJson({ a: [1, { c: 'x', d: null }], b: 1 })).toBe(
      canonicalJson({ b: 1, a: [1, { d: null, c: 'x' }] }),
    );
    expect(digestOf('')).toBe('e3b0c44298fc1c149afbf4c8996fb92427ae41e4649b934ca495991b7852b855');
  });
});
