import { expect, test } from 'vitest';
import { Watch, type WatchEvent } from '@rouse/core/watch';
import { type Reading, type Readings, since, tell, type Told } from './told.ts';

/** longer than any rest of a starter */
const RESTS_S = 2400;

/** What is said of a start, and of the same once more after a rest; times from the beginning of each. */
function firstAndSecond({ type, trace }: Told): [first: string[], second: string[]] {
  const events: WatchEvent[] = [];
  const watch = new Watch(type, {}, (e) => events.push(e));
  const values = new Float64Array(trace.columns.length);
  const play = (from_s: number): number => {
    trace.t_s.forEach((t_s, row) => {
      trace.columns.forEach((column, c) => (values[c] = column[row]!));
      watch.step(from_s + t_s, values);
    });
    return from_s + trace.t_s.at(-1)!;
  };
  const ended_s = play(0);
  const first = events.splice(0);
  // the engine stands still, with the readings that it had before
  trace.columns.forEach((column, c) => (values[c] = column[0]!));
  for (let t_s = ended_s + 1; t_s < RESTS_S; t_s++) watch.step(t_s, values);
  events.length = 0;
  play(RESTS_S);
  return [said(first, 0), said(events, RESTS_S)];
}

const said = (events: readonly WatchEvent[], from_s: number): string[] =>
  events.flatMap((e) => {
    const at = (e.t_s - from_s).toFixed(3);
    // what a limit allows is counted over the whole record
    if (e.kind === 'cue' && e.severity !== 'call' && /left|for more than/.test(e.text)) return [];
    if (e.kind === 'cue') return [`${at} ${e.severity} ${e.code}: ${e.text}`];
    if (e.kind === 'abort') return [`${at} stop as ${e.reason}: ${e.text}`];
    return e.kind === 'start-done' ? [`${at} ${e.verdict}, peak ${e.record.peak_C}`] : [];
  });

const times =
  (factor: number): Reading =>
  (_, before) =>
    before * factor;

test.each<[string, 'S7' | 'C5' | 'T2', Readings, RegExp]>([
  ['that is good', 'S7', {}, /good, peak/],
  ['by hand', 'C5', {}, /good, peak/],
  ['of the piston', 'T2', {}, /good/],
  ['too hot', 'S7', { 'tot.1': [[16, 20], [20, 260], [24, 900]], 'fuel.1.flow': NaN }, /going-to-be-hot/], // oxfmt-ignore
  ['whose gauge reads low', 'S7', { 'fuel.1.flow': times(1.3) }, /reading-implausible.*start-unseen.*unknown/],
  ['that does not light', 'C5', { 'tot.1': 20 }, /no-light/],
  ['whose oil is not sensed', 'S7', { 'oil.1.pressure': NaN }, /unseen.*unknown/],
  ['that hangs', 'S7', { 'ng.1': [[10, 0], [14, 16], [24, 41]] }, /hung/], // oxfmt-ignore
  ['that does not charge', 'T2', { 'battery.amps': -8 }, /charg/],
  ['without oil pressure', 'T2', { 'oil.1.pressure': 0 }, /oil/],
  ['whose oil is not sensed', 'T2', { 'oil.1.pressure': NaN }, /unseen/],
  ['that races', 'T2', { 'engine.rpm': [[10, 0], [11, 8], [13, 8], [16, 60], [20, 99], [21, 50]] }, /rac|over/], // oxfmt-ignore
  ['whose magnetos go off', 'T2', { magnetos: since(16, 0) }, /agneto/],
])('a second start %s (%s) is judged as the first was', (_, id, readings, told) => {
  const [first, second] = firstAndSecond(tell(id, readings, { seconds: 70 }));
  expect(first.join('\n').replaceAll('\n', ' ')).toMatch(told);
  // after a start that was good it is no further try
  const good = / good, peak/.test(first.at(-1)!);
  expect(good ? second : second.map((words) => words.replace('engaged again', 'engaged'))).toEqual(first);
}); // oxfmt-ignore
