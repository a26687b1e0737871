import type { Channel } from './channel.ts';
import { sayValue } from './readings.ts';
import type { ChannelTest, Condition } from './condition-schema.ts';

/** Three-valued: what cannot be known is not good. */
export type Verdict = true | false | 'unknown';

type Node =
  | {
      kind: 'test';
      judge: (value: number) => boolean;
      index: number;
      /** of the channel that is taken away; -1 for none */
      minus: number;
      /** of the one caption that is looked at, 0 where the whole value is */
      bitValue: number;
      for_s: number;
      since_s: number;
      seen_s: number;
      lost: boolean;
      verdict: Verdict;
    }
  | { kind: 'all' | 'any'; parts: Node[] }
  | { kind: 'not'; part: Node };

/** a reading that is lost for no longer than this has not ended a dwell */
const BRIDGED_S = 0.3;

/** A condition bound to the columns of a frame; it remembers since when each of its tests has been true. */
export class Sensed {
  private readonly root: Node;
  verdict: Verdict = 'unknown';
  private t_s = NaN;

  /** @throws RangeError when the condition names a channel that is not in `channels` */
  constructor(condition: Condition, channels: readonly Channel[]) {
    this.root = bind(condition, channels);
  }

  /**
   * @param values one frame in channel order, NaN where a sensor is lost
   * @returns 'unknown' as soon as a lost sensor decides
   */
  update(t_s: number, values: ArrayLike<number>): Verdict {
    this.verdict = evaluate(this.root, t_s, values);
    this.t_s = t_s;
    return this.verdict;
  }

  /** How long it must still last, s, if nothing changes; null while something else is missing. */
  left_s(): number | null {
    return leftOf(this.root, this.t_s);
  }
}

function leftOf(node: Node, t_s: number): number | null {
  switch (node.kind) {
    case 'test':
      return Number.isNaN(node.since_s) || node.lost ? null : Math.max(0, node.for_s - (t_s - node.since_s));
    case 'not':
      return leftOf(node.part, t_s) === null ? 0 : null;
    case 'all': {
      const left = node.parts.map((part) => leftOf(part, t_s));
      return left.includes(null) ? null : Math.max(...(left as number[]));
    }
    case 'any': {
      const left = node.parts.map((part) => leftOf(part, t_s)).filter((s) => s !== null);
      return left.length ? Math.min(...left) : null;
    }
  }
}

function bind(condition: Condition, channels: readonly Channel[]): Node {
  if ('all' in condition) return { kind: 'all', parts: condition.all.map((c) => bind(c, channels)) };
  if ('any' in condition) return { kind: 'any', parts: condition.any.map((c) => bind(c, channels)) };
  if ('not' in condition) return { kind: 'not', part: bind(condition.not, channels) };
  const place = (id: string): number => {
    const index = channels.findIndex((c) => c.id === id);
    if (index < 0) throw new RangeError(`there is no channel named ${id}`);
    return index;
  };
  return {
    kind: 'test',
    judge: judgeOf(condition),
    index: place(condition.channel),
    minus: condition.minus === undefined ? -1 : place(condition.minus),
    bitValue: condition.bit === undefined ? 0 : 2 ** condition.bit,
    for_s: condition.for ?? 0,
    since_s: NaN,
    seen_s: NaN,
    lost: false,
    verdict: 'unknown',
  };
}

function evaluate(node: Node, t_s: number, values: ArrayLike<number>): Verdict {
  switch (node.kind) {
    case 'test': {
      const value = readingOf(node, values);
      if (Number.isNaN(value)) {
        node.lost = true;
        return 'unknown';
      }
      if (!node.judge(value)) {
        node.since_s = NaN;
        return false;
      }
      // a sample or two that were lost on the line do not end what lasts; a longer loss does
      if (node.lost && t_s - node.seen_s > BRIDGED_S) node.since_s = NaN;
      node.lost = false;
      node.seen_s = t_s;
      if (Number.isNaN(node.since_s)) node.since_s = t_s;
      return t_s - node.since_s >= node.for_s - 1e-9;
    }
    case 'not': {
      const v = evaluate(node.part, t_s, values);
      return v === 'unknown' ? v : !v;
    }
    case 'all':
    case 'any': {
      const decisive = node.kind === 'any';
      let result: Verdict = !decisive;
      // every part is updated, so that each dwell keeps counting
      for (const part of node.parts) {
        const v = evaluate(part, t_s, values);
        if (v === decisive) result = decisive;
        else if (v === 'unknown' && result !== decisive) result = 'unknown';
      }
      return result;
    }
  }
}

function readingOf({ index, minus, bitValue }: Extract<Node, { kind: 'test' }>, values: ArrayLike<number>): number {
  const value = values[index] ?? NaN;
  if (bitValue > 0) return Math.floor(value / bitValue) % 2;
  return minus < 0 ? value : value - (values[minus] ?? NaN);
}

/** What a test says of a value: which kind of test it is is looked at once. */
function judgeOf(test: ChannelTest): (value: number) => boolean {
  if ('atLeast' in test) return (value) => value >= test.atLeast;
  if ('atMost' in test) return (value) => value <= test.atMost;
  if ('above' in test) return (value) => value > test.above;
  if ('below' in test) return (value) => value < test.below;
  if ('between' in test) return (value) => value >= test.between[0] && value <= test.between[1];
  return (value) => Math.round(value) === test.is;
}

/** One test against one value, without its dwell. */
export function holds(test: ChannelTest, value: number): Verdict {
  return Number.isNaN(value) ? 'unknown' : judgeOf(test)(value);
}

/** The condition in words: "at least 24.1 V for 2 s". With `named`, the channel is said too. */
export function sayCondition(condition: Condition, channels: readonly Channel[], named = false): string {
  if ('all' in condition) return condition.all.map((c) => sayCondition(c, channels, true)).join(', and ');
  if ('any' in condition) return condition.any.map((c) => sayCondition(c, channels, true)).join(', or ');
  if ('not' in condition) return `not: ${sayCondition(condition.not, channels, true)}`;
  const channel = channels.find((c) => c.id === condition.channel);
  if (!channel) return `${condition.channel}?`;
  const say = (value: number): string => sayValue(channel, value);
  const words =
    'atLeast' in condition
      ? `at least ${say(condition.atLeast)}`
      : 'atMost' in condition
        ? `at most ${say(condition.atMost)}`
        : 'above' in condition
          ? `above ${say(condition.above)}`
          : 'below' in condition
            ? `below ${say(condition.below)}`
            : 'between' in condition
              ? `${condition.between[0].toFixed(channel.decimals)} to ${say(condition.between[1])}`
              : say(condition.is);
  const dwell = condition.for === undefined ? '' : ` for ${condition.for} s`;
  const less = condition.minus === undefined ? '' : `less ${channels.find((c) => c.id === condition.minus)?.label} `;
  return `${named || less ? `${channel.label} ${less}` : ''}${words}${dwell}`;
}

/** The channels that a condition speaks of, in order, each once. */
export function channelsOf(condition: Condition): string[] {
  if ('all' in condition) return [...new Set(condition.all.flatMap(channelsOf))];
  if ('any' in condition) return [...new Set(condition.any.flatMap(channelsOf))];
  if ('not' in condition) return channelsOf(condition.not);
  return condition.minus === undefined ? [condition.channel] : [condition.channel, condition.minus];
}
