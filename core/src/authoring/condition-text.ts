import type { Caption, Channel, ChannelTest, Condition } from '../aircraft/index.ts';
import { LineError, TokenReader } from './tokens.ts';

/** What the words of a condition can name. */
export interface Vocabulary {
  channels: readonly Pick<Channel, 'id' | 'unit' | 'states'>[];
  /** lamps of the channel of captions: `captions.fire` */
  captions: { channel: string; list: readonly Pick<Caption, 'id' | 'bit'>[] } | null;
}

/** A condition with the time that it may take. */
export interface Expectation {
  condition: Condition;
  within_s?: number;
  /** the stage from which that time counts */
  since?: string;
}

const LIKE = 'write it like: ng.1 >= 12 % and tot.1 < 150 °C for 2 s';
const COMPARE = 'compare with >=, <=, >, <, between … and …, or is';

/**
 * Reads a condition from one line: `ng.1 >= 12 % and tot.1 < 150 °C for 2 s`, `not captions.fire`.
 * @throws LineError with the column and the remedy
 */
export function parseCondition(text: string, vocabulary: Vocabulary): Condition {
  const reader = new TokenReader(text);
  const condition = anyOf(reader, vocabulary);
  if (reader.is('within')) throw reader.wrong('a time limit has no place here', 'remove it, or use it in a stage');
  reader.end('join conditions with "and" or "or"');
  return condition;
}

/** The same with what a stage may add: `hydraulic.1.pressure < 20 bar within 4 s of held`. @throws LineError */
export function parseExpectation(text: string, vocabulary: Vocabulary): Expectation {
  const reader = new TokenReader(text);
  const condition = anyOf(reader, vocabulary);
  if (!reader.took('within')) {
    reader.end('join conditions with "and" or "or"');
    return { condition };
  }
  const within_s = seconds(reader);
  if (!reader.took('of')) {
    reader.end('a time limit ends the line');
    return { condition, within_s };
  }
  const since = reader.take();
  if (since.kind !== 'word') throw new LineError('the name of a stage belongs here', LIKE, since.from);
  reader.end('a time limit ends the line');
  return { condition, within_s, since: since.text };
}

function anyOf(reader: TokenReader, vocabulary: Vocabulary): Condition {
  const parts = [allOf(reader, vocabulary)];
  while (reader.took('or')) parts.push(allOf(reader, vocabulary));
  return parts.length === 1 ? parts[0]! : { any: parts };
}

function allOf(reader: TokenReader, vocabulary: Vocabulary): Condition {
  const parts = [one(reader, vocabulary)];
  while (reader.took('and')) parts.push(one(reader, vocabulary));
  return parts.length === 1 ? parts[0]! : { all: parts };
}

function one(reader: TokenReader, vocabulary: Vocabulary): Condition {
  if (reader.took('not')) return { not: one(reader, vocabulary) };
  if (reader.took('(')) {
    const inside = anyOf(reader, vocabulary);
    reader.need(')', 'close what was opened');
    return inside;
  }
  return test(reader, vocabulary);
}

function test(reader: TokenReader, vocabulary: Vocabulary): Condition {
  const { channels, captions } = vocabulary;
  const name = reader.next.text;
  if (captions && name.startsWith(`${captions.channel}.`)) return lamp(reader, captions);
  const channel = channelHere(reader, channels);
  const minus = reader.took('-') ? channelHere(reader, channels).id : undefined;
  const measured = { channel: channel.id, ...(minus !== undefined && { minus }) };
  return withDwell(reader, { ...measured, ...comparison(reader, channel) } as ChannelTest);
}

function channelHere(reader: TokenReader, channels: Vocabulary['channels']): Vocabulary['channels'][number] {
  const token = reader.next;
  if (token.kind !== 'word')
    throw reader.wrong(
      token.kind === 'end' ? 'the condition ends too early' : `the name of a channel belongs here, not "${token.text}"`,
      LIKE,
    );
  const channel = channels.find((c) => c.id === token.text);
  if (!channel) throw reader.wrong(`there is no channel named ${token.text}`, nearest(token.text, channels.map((c) => c.id), 'channels')); // oxfmt-ignore
  reader.take();
  return channel;
}

function lamp(reader: TokenReader, { channel, list }: NonNullable<Vocabulary['captions']>): Condition {
  const id = reader.next.text.slice(channel.length + 1);
  const caption = list.find((c) => c.id === id);
  if (!caption) throw reader.wrong(`there is no caption named ${id}`, nearest(id, list.map((c) => c.id), 'captions')); // oxfmt-ignore
  reader.take();
  let is = 1;
  if (reader.took('is')) {
    if (reader.took('out')) is = 0;
    else reader.need('lit', 'a caption is lit or out');
  }
  return withDwell(reader, { channel, bit: caption.bit, is });
}

function withDwell(reader: TokenReader, made: ChannelTest): ChannelTest {
  return reader.took('for') ? { ...made, for: seconds(reader) } : made;
}

type Comparison =
  | { atLeast: number }
  | { atMost: number }
  | { above: number }
  | { below: number }
  | { between: [number, number] }
  | { is: number };

function comparison(reader: TokenReader, channel: Vocabulary['channels'][number]): Comparison {
  if (reader.took('>=')) return { atLeast: value(reader, channel) };
  if (reader.took('<=')) return { atMost: value(reader, channel) };
  if (reader.took('>')) return { above: value(reader, channel) };
  if (reader.took('<')) return { below: value(reader, channel) };
  if (reader.took('is')) return { is: state(reader, channel) };
  if (reader.took('between')) {
    const from = reader.number('write it like: between 46 and 52 %');
    unitHere(reader, channel);
    reader.need('and', 'write it like: between 46 and 52 %');
    const to = value(reader, channel);
    if (from > to) throw reader.wrong(`between ${from} and ${to} is empty`, 'the lower figure comes first');
    return { between: [from, to] };
  }
  throw reader.wrong(reader.next.text ? `"${reader.next.text}" compares nothing` : 'nothing is compared', COMPARE);
}

function value(reader: TokenReader, channel: Vocabulary['channels'][number]): number {
  const figure = reader.number(`write a number${channel.unit ? ` of ${channel.unit}` : ''}`);
  unitHere(reader, channel);
  return figure;
}

const GOES_ON = ['and', 'or', 'for', 'within'];

/** A unit may stand after a figure, and is then the one of its channel. */
function unitHere(reader: TokenReader, { id, unit }: Vocabulary['channels'][number]): void {
  const { kind, text } = reader.next;
  if (kind !== 'word' || GOES_ON.includes(text)) return;
  if (text !== unit)
    throw reader.wrong(
      `${id} is not read in ${text}`,
      unit === '' ? `it has no unit: remove ${text}` : `give the figure in ${unit}`,
    );
  reader.take();
}

function state(reader: TokenReader, channel: Vocabulary['channels'][number]): number {
  const { states } = channel;
  if (reader.next.kind === 'number') return value(reader, channel);
  if (!states) throw reader.wrong(`${channel.id} has no states with names`, 'compare it with a number');
  const found = Object.entries(states).find(([, words]) => words === reader.next.text);
  if (!found)
    throw reader.wrong(
      reader.next.text ? `${channel.id} is never "${reader.next.text}"` : 'a state is missing',
      `its states are ${Object.values(states).map(quoted).join(', ')}`,
    );
  reader.take();
  return Number(found[0]);
}

/** A length of time: `4 s`, `5 min`. @returns seconds @throws LineError */
export function seconds(reader: TokenReader): number {
  const figure = reader.number('write a time like 4 s or 5 min');
  if (reader.took('s')) return figure;
  if (reader.took('min')) return figure * 60;
  throw reader.wrong('the unit of this time is missing', 'write it like 4 s or 5 min');
}

/** What somebody may have meant. */
export function nearest(name: string, known: readonly string[], what: string): string {
  const close = known
    .map((id) => [id, distance(name, id)] as const)
    .filter(([id, d]) => d <= Math.max(2, id.length / 3))
    .toSorted((a, b) => a[1] - b[1])
    .slice(0, 3)
    .map(([id]) => id);
  return close.length > 0 ? `did you mean ${close.join(', or ')}?` : `name one of the ${what}, or add it`;
}

function distance(a: string, b: string): number {
  let row = Array.from({ length: b.length + 1 }, (_, j) => j);
  for (let i = 1; i <= a.length; i++) {
    const above = row;
    row = [i];
    for (let j = 1; j <= b.length; j++)
      row[j] = Math.min(above[j]! + 1, row[j - 1]! + 1, above[j - 1]! + (a[i - 1] === b[j - 1] ? 0 : 1));
  }
  return row[b.length]!;
}

/** A condition as the line that is read back the same. */
export function printCondition(condition: Condition, vocabulary: Vocabulary): string {
  if ('any' in condition) return condition.any.map((c) => part(c, 'any' in c, vocabulary)).join(' or ');
  if ('all' in condition) return condition.all.map((c) => part(c, 'any' in c || 'all' in c, vocabulary)).join(' and ');
  if ('not' in condition)
    return `not ${part(condition.not, 'any' in condition.not || 'all' in condition.not, vocabulary)}`;
  return printTest(condition, vocabulary);
}

function part(condition: Condition, wrapped: boolean, vocabulary: Vocabulary): string {
  const text = printCondition(condition, vocabulary);
  return wrapped ? `(${text})` : text;
}

function printTest(condition: ChannelTest, { channels, captions }: Vocabulary): string {
  const dwell = condition.for === undefined ? '' : ` for ${condition.for} s`;
  if (condition.bit !== undefined && 'is' in condition) {
    const caption = captions?.list.find((c) => c.bit === condition.bit);
    return `${condition.channel}.${caption?.id ?? condition.bit}${condition.is === 1 ? '' : ' is out'}${dwell}`;
  }
  const channel = channels.find((c) => c.id === condition.channel);
  const unit = channel?.unit ? ` ${channel.unit}` : '';
  const measured = condition.minus === undefined ? condition.channel : `${condition.channel} - ${condition.minus}`;
  return `${measured} ${printComparison(condition, unit, channel?.states)}${dwell}`;
}

function printComparison(condition: ChannelTest, unit: string, states?: Readonly<Record<string, string>>): string {
  if ('atLeast' in condition) return `>= ${condition.atLeast}${unit}`;
  if ('atMost' in condition) return `<= ${condition.atMost}${unit}`;
  if ('above' in condition) return `> ${condition.above}${unit}`;
  if ('below' in condition) return `< ${condition.below}${unit}`;
  if ('between' in condition) return `between ${condition.between[0]} and ${condition.between[1]}${unit}`;
  const name = states?.[String(condition.is)];
  return `is ${name === undefined ? `${condition.is}${unit}` : quoted(name)}`;
}

/** States of one word stand as they are; the others between quotes, which the keywords need too. */
function quoted(state: string): string {
  return /^[A-Za-z][\w-]*$/.test(state) ? state : `"${state}"`;
}

/** A condition with its time limit as the line that is read back the same. */
export function printExpectation({ condition, within_s, since }: Expectation, vocabulary: Vocabulary): string {
  const limit = within_s === undefined ? '' : ` within ${within_s} s${since === undefined ? '' : ` of ${since}`}`;
  return printCondition(condition, vocabulary) + limit;
}
