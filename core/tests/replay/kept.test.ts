import { writeCsv } from '@rouse/core/format';
import { checkChain } from '@rouse/core/procedure';
import { BadRow, beganAt_ms, guessMapping, headOf, keepRecording, type TimeFormat } from '@rouse/core/replay';
import { checkSeals } from '@rouse/core/session';
import { describe, expect, test } from 'vitest';
import { flyPreset, skerry } from '../skerry.ts';

let ids = 0;
const kept = { run: 'r', tail: 'QV-SKY', pad: 'pad 2', by: 'R. Vale', newId: () => `id-${++ids}` };
const steps = skerry.channels.map((c) => c.resolution);

function keep(
  preset: string,
  name = 'flight 2024-05-06 0940.csv',
  change = (text: string): string => text,
  without: readonly string[] = [],
) {
  const flown = flyPreset(preset);
  const text = writeCsv(flown.trace, skerry.channels);
  const head = headOf(text, 'utf-8');
  const guessed = guessMapping(head, skerry.channels);
  const mapping = { ...guessed, columns: guessed.columns.filter((c) => !without.includes(c.channel)) };
  const file = { name, bytes: new TextEncoder().encode(change(text)), mapping, names: head.names };
  return { flown, recording: keepRecording(skerry, file, kept) };
}

describe('a recording kept as a run', () => {
  test('has the starts that were flown, and a journal of what was found alone', () => {
    const { flown, recording } = keep('mild');
    expect(recording.starts.map((s) => [s.watch, s.attempt, s.good])).toEqual(
      flown.starts.map((s) => [s.watch, s.attempt, s.good]),
    );
    const [of, before] = [recording.starts[0]!.features, flown.starts[0]!.features];
    for (const figure of ['peak_C', 'idle_s', 'voltsDip_V'])
      expect(of[figure], figure).toBeCloseTo(before[figure] ?? NaN, 1);
    const kinds = new Set(recording.entries.map((e) => e.kind));
    expect([...kinds].filter((k) => k.startsWith('item') || k === 'measured' || k === 'stage-done')).toEqual([]);
    expect(recording.entries[0]).toMatchObject({ kind: 'run-opened', source: 'recording', by: 'R. Vale' });
    expect(recording.entries.at(-1)).toMatchObject({ kind: 'closed', outcome: 'recorded' });
    expect(new Date(recording.openedAt_ms).toISOString()).toBe('2024-05-06T09:40:00.000Z');
  });

  test('is sealed and chained as any other', () => {
    const { recording } = keep('mild');
    expect(checkChain(recording.entries)).toBeNull();
    expect(checkSeals(recording.entries, recording.trace, steps, true)).toBeNull();
  });

  test('a start that was stopped is told once, by its last figures, and is no habit', () => {
    const { recording } = keep('hot-start');
    expect(recording.starts).toHaveLength(1);
    expect(recording.starts[0]!.good).toBe(false);
    expect(recording.entries.some((e) => e.kind === 'abort')).toBe(true);
  });

  test('without a day, without rows or with a row that is none it is refused in words', () => {
    expect(() => keep('mild', 'flight 7.csv')).toThrow(/tell the day; put the day into the name/);
    const header = (text: string): string => `${text.split('\n')[0]}\n`;
    expect(() => keep('mild', '2024-05-06.csv', header)).toThrow(BadRow);
    const broken = (text: string): string => text.split('\n').map((l, i) => (i === 40 ? l.replace(/,[\d.]+/, ',high') : l)).join('\n'); // oxfmt-ignore
    expect(() => keep('mild', '2024-05-06.csv', broken)).toThrow(/high/);
  });
});

test('a file that cannot tell of a start is refused: no start found would look like a quiet day', () => {
  const [watch] = skerry.startWatches;
  const told = [watch.channels.speed, watch.starter.channel];
  expect(() => keep('mild', '2024-05-06.csv', (t) => t, told)).toThrow(/no start could be looked for/);
  expect(keep('mild', '2024-05-06.csv', (t) => t, told.slice(1)).recording.starts).toHaveLength(1);
});

describe('the day of a recording', () => {
  const began = (format: TimeFormat, first_s: number, name: string, start_s = 0): string | null => {
    const at = beganAt_ms({ format, column: 0, rate_Hz: 1, start_s }, first_s, name);
    return at === null ? null : new Date(at).toISOString();
  };
  test.each([
    ['date-time', Date.UTC(2023, 1, 3, 8) / 1000, 'any.csv', '2023-02-03T08:00:00.000Z'],
    ['seconds', Date.UTC(2023, 1, 3, 8) / 1000, 'any.csv', '2023-02-03T08:00:00.000Z'],
    ['seconds', 0, 'QV-SKY_20230203_0815.csv', '2023-02-03T08:15:00.000Z'],
    ['seconds', 12, 'log 2023-02-03T08:15:30 a.csv', '2023-02-03T08:15:30.000Z'],
    ['clock', 7 * 3600 + 5, '2023.02.03.csv', '2023-02-03T07:00:05.000Z'],
    ['rows', 0, '2023-02-03.csv', '2023-02-03T00:00:00.000Z'],
    ['seconds', 0, '2023-02-31.csv', null],
    ['seconds', 0, 'flight 12345678.csv', null],
    ['clock', 3600, 'flight.csv', null],
  ] as const)('%s from %d in %s', (format, first_s, name, expected) => {
    expect(began(format, first_s, name)).toBe(expected);
  });

  test('the rows that are left out at its beginning are no part of it', () => {
    expect(began('date-time', Date.UTC(2023, 1, 3, 8) / 1000, 'any.csv', 90)).toBe('2023-02-03T08:01:30.000Z');
  });
});
