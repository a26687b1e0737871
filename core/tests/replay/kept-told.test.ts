import { writeCsv } from '@rouse/core/format';
import { guessMapping, headOf, keepRecording, type KeptRecording } from '@rouse/core/replay';
import { expect, test } from 'vitest';
import { skerry } from '../skerry.ts';
import { type Readings, tell } from '../watch/told.ts';

let ids = 0;
const who = { run: 'r', tail: 'QV-SKY', pad: 'pad 2', by: 'R. Vale', newId: (at_ms: number) => `${++ids} ${at_ms}` };
/** A start that is told, written as a file and kept as a run. */
function keep(readings: Readings = {}, without: readonly string[] = []): KeptRecording {
  const { type, trace } = tell('S7', readings);
  const text = writeCsv(trace, type.channels);
  const head = headOf(text, 'utf-8');
  const guessed = guessMapping(head, type.channels);
  const mapping = { ...guessed, columns: guessed.columns.filter((c) => !without.includes(c.channel)) };
  const file = {
    name: 'flight 2024-05-06 0940.csv',
    bytes: new TextEncoder().encode(text),
    mapping,
    names: head.names,
  };
  return keepRecording(type, file, who);
}

test('a recording that is kept has its times of that day, its start, and no word of a person', () => {
  const kept = keep();
  expect(new Date(kept.openedAt_ms).toISOString()).toBe('2024-05-06T09:40:00.000Z');
  expect(kept.closedAt_ms - kept.openedAt_ms).toBe(45_000);
  expect(kept.starts).toMatchObject([{ watch: 'engine-1-start', attempt: 1, good: true, features: { peak_C: 620 } }]);
  expect(kept.entries[0]).toMatchObject({ kind: 'run-opened', source: 'recording', tail: 'QV-SKY', pad: 'pad 2', by: 'R. Vale', conditions: 'flight 2024-05-06 0940.csv' }); // oxfmt-ignore
  expect(kept.entries.at(-1)).toMatchObject({ kind: 'closed', outcome: 'recorded', t: 45 });
  expect(kept.entries.some((e) => e.kind === 'item-done')).toBe(false);
  expect(kept.trace.t_s).toHaveLength(361);
  const [moment] = kept.entries.filter((e) => e.kind === 'start-done');
  expect(moment!.at).toBe(new Date(kept.openedAt_ms + 37_375).toISOString());
});

test('a start that was stopped and came to rest is told once', () => {
  const stopped = keep({ nr: 0, 'ng.1': [[10, 0], [14, 16], [20, 31], [28, 0]], 'starter.1.amps': (t_s) => (t_s >= 10 && t_s < 20 ? 500 : 0) }); // oxfmt-ignore
  expect(stopped.starts).toMatchObject([{ attempt: 1, good: false }]);
});

test('a file without a row of figures is refused, with the line where they should begin', () => {
  const file = { name: 'a.csv', bytes: new TextEncoder().encode('t_s,Ng\n'), names: ['t_s', 'Ng'] };
  const mapping = { ...guessMapping(headOf('t_s,Ng\n0,1', 'utf-8'), skerry.channels), headerRows: 1 };
  const keeping = () => keepRecording(skerry, { ...file, mapping }, who);
  expect(keeping).toThrow(expect.objectContaining({ row: 2, message: 'no row of figures was found' }) as Error);
});

test('without speed and starter no start could be looked for, and with one of them it is', () => {
  expect(() => keep({}, ['ng.1', 'starter.1.amps'])).toThrow(/no start could be looked for/);
  expect(keep({}, ['starter.1.amps']).starts).toHaveLength(1);
});
