import {
  type Caption,
  channelsOf,
  type ChannelTest,
  type Condition,
  holds,
  type Item,
  sayValue,
  Sensed,
  type TypeFile,
  type Verdict,
} from '../aircraft/index.ts';

export interface CaptionCount {
  verdict: Verdict;
  lit: Caption[];
  missing: Caption[];
  extra: Caption[];
}

/** Compares the captions that are lit with those that are expected. @param value the caption channel; NaN gives 'unknown' */
function countCaptions(type: TypeFile, expected: readonly string[], value: number): CaptionCount {
  const list = type.captions.list;
  if (Number.isNaN(value)) return { verdict: 'unknown', lit: [], missing: [], extra: [] };
  const lit = list.filter((c) => Math.floor(value / 2 ** c.bit) % 2 === 1);
  const missing = list.filter((c) => expected.includes(c.id) && !lit.includes(c));
  const extra = lit.filter((c) => !expected.includes(c.id));
  return { verdict: missing.length === 0 && extra.length === 0, lit, missing, extra };
}

export interface Reading {
  verdict: Verdict;
  /** value of the first channel of the condition, null when it has none or it is lost */
  value: number | null;
  words: string;
}

/** The condition that senses an item, where it has one. */
export function conditionOf(item: Item): Condition | null {
  if (item.kind === 'wait') return item.until;
  return 'expect' in item && item.expect ? item.expect : null;
}

/** What the sensors say of an item in one frame, dwell left out. @returns null for an item that nothing senses */
export function readItem(type: TypeFile, item: Item, values: ArrayLike<number> | null): Reading | null {
  const frame = values ?? new Float64Array(type.channels.length).fill(NaN);
  if (item.kind === 'count') {
    const index = type.channels.findIndex((c) => c.id === item.channel);
    const count = countCaptions(type, item.captions, frame[index]!);
    return {
      verdict: count.verdict,
      value: Number.isNaN(frame[index]!) ? null : frame[index]!,
      words: sayCount(count),
    };
  }
  const condition = conditionOf(item);
  return condition && readCondition(type, condition, values);
}

/** What the sensors say of a condition in one frame, dwell left out; unknown without a frame. */
export function readCondition(type: TypeFile, condition: Condition, values: ArrayLike<number> | null): Reading {
  const frame = values ?? new Float64Array(type.channels.length).fill(NaN);
  const verdict = new Sensed(withoutDwell(condition), type.channels).update(0, frame);
  const readings = channelsOf(condition).map((id) => {
    const index = type.channels.findIndex((c) => c.id === id);
    return { value: frame[index]!, words: sayValue(type.channels[index]!, frame[index]!) };
  });
  const first = readings[0]!;
  return {
    verdict,
    value: Number.isNaN(first.value) ? null : first.value,
    words: readings.map((r) => r.words).join(', '),
  };
}

function withoutDwell(condition: Condition): Condition {
  if ('all' in condition) return { all: condition.all.map(withoutDwell) };
  if ('any' in condition) return { any: condition.any.map(withoutDwell) };
  if ('not' in condition) return { not: withoutDwell(condition.not) };
  const { for: _, ...test } = condition;
  return test as Condition;
}

function sayCount(count: CaptionCount): string {
  if (count.verdict === 'unknown') return 'unknown';
  const names = (list: Caption[]): string => list.map((c) => c.label).join(', ');
  const parts = [`${count.lit.length} lit`];
  if (count.missing.length) parts.push(`missing ${names(count.missing)}`);
  if (count.extra.length) parts.push(`extra ${names(count.extra)}`);
  return parts.join('; ');
}

/** Judges a reading that a person typed where no sensor says it: of the first channel, or the captions that are lit. */
export function readTyped(type: TypeFile, item: Item, typed: number): Reading | null {
  if (item.kind === 'count') {
    const count = countCaptions(type, item.captions, typed);
    return { verdict: count.verdict, value: typed, words: sayCount(count) };
  }
  const condition = conditionOf(item);
  const test = condition && firstTest(condition);
  const channel = test && type.channels.find((c) => c.id === test.channel);
  return channel ? { verdict: holds(test, typed), value: typed, words: sayValue(channel, typed) } : null;
}

function firstTest(condition: Condition): ChannelTest | null {
  if ('all' in condition) return firstTest(condition.all[0]!);
  if ('any' in condition) return firstTest(condition.any[0]!);
  return 'not' in condition ? null : condition;
}
