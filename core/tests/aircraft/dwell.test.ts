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

test('what must last counts down while it is seen, and says nothing while something else is missing', () => {
  const both = new Sensed(
    {
      all: [
        { channel: 'switch.boost', is: 1, for: 8 },
        { channel: 'bus.volts', above: 24 },
      ],
    },
    skerry.channels,
  );
  const either = new Sensed(
    {
      any: [
        { channel: 'tot.1', below: 150 },
        { channel: 'switch.boost', is: 1, for: 8 },
      ],
    },
    skerry.channels,
  );
  const frame = new Float64Array(skerry.channels.length);
  const at = (t_s: number, on: number, volts: number, tot_C = 400): (number | null)[] => {
    frame[boost] = on;
    frame[channelIndex('bus.volts')] = volts;
    frame[channelIndex('tot.1')] = tot_C;
    return [both, either].map((sensed) => {
      sensed.update(t_s, frame);
      return sensed.left_s();
    });
  };
  expect(at(0, 0, 25)).toEqual([null, null]);
  expect(at(1, 1, 25)).toEqual([8, 8]);
  expect(at(4, 1, 23)).toEqual([null, 5]);
  expect(at(6, 1, NaN)).toEqual([null, 3]);
  expect(at(7, 1, 25)).toEqual([2, 2]);
  expect(at(7.5, 1, 25, 140)).toEqual([1.5, 0]);
  expect(at(12, 1, 25)).toEqual([0, 0]);
  expect(at(13, 0, 25)).toEqual([null, null]);
});
