import { expect, test } from 'vitest';
import { Sensed } from '@rouse/core/aircraft';
import { channelIndex, skerry } from '../skerry.ts';

const boost = channelIndex('switch.boost');

/** The verdicts of "boost on for 2 s", at 10 Hz. */
function dwell(sequence: (number | null)[]): (boolean | 'unknown')[] {
  const sensed = new Sensed({ channel: 'switch.boost', is: 1, for: 2 }, skerry.channels);
  const frame = new Float64Array(skerry.channels.length);
  return sequence.map((v, i) => {
    frame[boost] = v ?? NaN;
    return sensed.update(i / 10, frame);
  });
}
const on = (n: number): number[] => Array.from({ length: n }, () => 1);

test('a sample lost on the line does not end what lasts, and is itself unknown', () => {
  const verdicts = dwell([...on(10), null, ...on(10)]);
  expect(verdicts[10]).toBe('unknown');
  expect(verdicts.at(-1)).toBe(true);
});

test('a reading that is lost for longer begins its time anew', () => {
  const verdicts = dwell([...on(10), null, null, null, null, ...on(18)]);
  expect(verdicts.at(-1)).toBe(false);
});

test('one sample that is otherwise begins it anew', () => {
  expect(dwell([...on(10), 0, ...on(15)]).at(-1)).toBe(false);
});
