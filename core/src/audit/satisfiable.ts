import { type Channel, type ChannelTest, type Condition, holds } from '../aircraft/index.ts';

/** What a condition can become over all that its gauges can show. */
export interface Outcomes {
  met: boolean;
  failed: boolean;
}

/** more combinations than this are not tried: nothing is said of such a condition then */
const MOST = 200_000;

type Values = ReadonlyMap<string, number>;

/**
 * Whether a condition can be met, and whether it can fail, by trying every gauge at its ends, at each state, and just
 * below, at and just above each figure that it is compared with. @returns null where there are too many
 */
export function outcomesOf(condition: Condition, channels: readonly Channel[]): Outcomes | null {
  const tests = testsOf(condition);
  const tried = new Map<string, number[]>();
  for (const test of tests) if (test.bit !== undefined) tried.set(nameOf(test), [0, 1]);
  for (const id of new Set(tests.flatMap((t) => (t.bit === undefined ? [t.channel, t.minus ?? t.channel] : []))))
    tried.set(id, valuesOf(id, tests, channels));
  const names = [...tried.keys()];
  if (names.reduce((n, name) => n * tried.get(name)!.length, 1) > MOST) return null;
  const outcomes = { met: false, failed: false };
  const values = new Map<string, number>();
  const tryAll = (at: number): void => {
    if (outcomes.met && outcomes.failed) return;
    if (at === names.length) {
      if (isMet(condition, values)) outcomes.met = true;
      else outcomes.failed = true;
      return;
    }
    for (const value of tried.get(names[at]!)!) {
      values.set(names[at]!, value);
      tryAll(at + 1);
    }
  };
  tryAll(0);
  return outcomes;
}

function testsOf(condition: Condition): ChannelTest[] {
  if ('all' in condition) return condition.all.flatMap(testsOf);
  if ('any' in condition) return condition.any.flatMap(testsOf);
  if ('not' in condition) return testsOf(condition.not);
  return [condition];
}

const nameOf = ({ channel, bit }: ChannelTest): string => (bit === undefined ? channel : `${channel} ${bit}`);

function figuresOf(test: ChannelTest): number[] {
  if ('between' in test) return test.between;
  if ('atLeast' in test) return [test.atLeast];
  if ('atMost' in test) return [test.atMost];
  if ('above' in test) return [test.above];
  return ['below' in test ? test.below : test.is];
}

/** What is tried of each channel: its ends, its middle, its states, and every figure with its neighbours. */
function valuesOf(id: string, tests: readonly ChannelTest[], channels: readonly Channel[]): number[] {
  const channel = channels.find((c) => c.id === id)!;
  if (channel.states) return Object.keys(channel.states).map(Number);
  const [least, most] = channel.range;
  const own = ownValues(id, tests, channel);
  // a difference is tried from each figure of the other channel too
  const beside = tests.flatMap((test) => {
    if (test.minus === undefined || (test.channel !== id && test.minus !== id)) return [];
    const [other, sign] = test.channel === id ? [test.minus, 1] : [test.channel, -1];
    const others = ownValues(
      other,
      tests,
      channels.find((c) => c.id === other)!,
    );
    return others.flatMap((v) => figuresOf(test).flatMap((f) => around(v + sign * f, channel.resolution)));
  });
  return [...new Set([...own, ...beside])].filter((v) => v >= least && v <= most);
}

function ownValues(id: string, tests: readonly ChannelTest[], { range: [least, most], resolution }: Channel): number[] {
  const figures = tests.flatMap((t) => (t.channel === id && t.minus === undefined ? figuresOf(t) : []));
  return [least, most, (least + most) / 2, ...figures.flatMap((f) => around(f, resolution))];
}

const around = (value: number, step: number): number[] => [value - step, value, value + step];

function isMet(condition: Condition, values: Values): boolean {
  if ('all' in condition) return condition.all.every((c) => isMet(c, values));
  if ('any' in condition) return condition.any.some((c) => isMet(c, values));
  if ('not' in condition) return !isMet(condition.not, values);
  const reading = values.get(nameOf(condition))!;
  return holds(condition, condition.minus === undefined ? reading : reading - values.get(condition.minus)!) === true;
}
