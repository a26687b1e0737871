import type { StandInAction, When } from '../aircraft/index.ts';
import { nearest, seconds } from './condition-text.ts';
import { LineError, type Token, TokenReader } from './tokens.ts';

/** Names that an item of a list can hang on. */
export interface Questions {
  choices: ReadonlySet<string>;
  decisions: ReadonlySet<string>;
  checks: ReadonlySet<string>;
}

const WHEN_LIKE = 'write it like: doors is closed, or residual-after found hangs or climbs';

/** Reads on which days an item is on the list: `magneto-speed is low and magneto-first is left`. @throws LineError */
export function parseWhen(text: string, { choices, decisions, checks }: Questions): When[] {
  const reader = new TokenReader(text);
  const all: When[] = [];
  do {
    const name = word(reader, 'the name of a choice, a decision or a check belongs here', WHEN_LIKE);
    if (reader.took('found')) {
      if (!checks.has(name.text))
        throw new LineError(
          `there is no check named ${name.text}`,
          nearest(name.text, [...checks], 'checks'),
          name.from,
        );
      all.push({ check: name.text, found: alternatives(reader) });
      continue;
    }
    reader.need('is', WHEN_LIKE);
    const answers = alternatives(reader);
    const is = answers.length === 1 ? answers[0]! : answers;
    if (choices.has(name.text)) all.push({ choice: name.text, is });
    else if (decisions.has(name.text)) all.push({ decision: name.text, is });
    else
      throw new LineError(
        `there is no choice or decision named ${name.text}`,
        nearest(name.text, [...choices, ...decisions], 'choices in ways.yaml'),
        name.from,
      );
  } while (reader.took('and'));
  reader.end('join them with "and"');
  return all;
}

function alternatives(reader: TokenReader): string[] {
  const all = [word(reader, 'an answer belongs here', WHEN_LIKE).text];
  while (reader.took('or')) all.push(word(reader, 'an answer belongs here', WHEN_LIKE).text);
  return all;
}

function word(reader: TokenReader, message: string, remedy: string): Token {
  const { kind } = reader.next;
  // an answer may be a number: "system is 1"
  if (kind !== 'word' && kind !== 'number') throw reader.wrong(message, remedy);
  return reader.take();
}

export function printWhen(when: readonly When[]): string {
  return when
    .map((w) => {
      if ('check' in w) return `${w.check} found ${w.found.join(' or ')}`;
      return `${'choice' in w ? w.choice : w.decision} is ${[w.is].flat().join(' or ')}`;
    })
    .join(' and ');
}

const ACTION_LIKE = 'write it like: starter = 1 for 3 s, or grip = 0.2 after 2 s when e1.ng >= 12';

/**
 * Reads what a hand moves on the simulated cockpit: `starter = 1 for 3 s when e1.ng >= 12`. `free` takes the hand off.
 * @throws LineError
 */
export function parseAction(text: string): StandInAction {
  const reader = new TokenReader(text);
  const control = word(reader, 'the name of a control belongs here', ACTION_LIKE).text;
  reader.need('=', ACTION_LIKE);
  const to = reader.take();
  if (to.kind === 'end' || to.kind === 'sign') throw new LineError('a position is missing', ACTION_LIKE, to.from);
  const action: StandInAction = {
    control,
    to: to.kind === 'number' ? Number(to.text) : to.kind === 'word' && to.text === 'free' ? null : to.text,
  };
  if (reader.took('for')) action.release_s = seconds(reader);
  if (reader.took('after')) action.after_s = seconds(reader);
  if (reader.took('when')) {
    const sig = word(reader, 'the name of a signal belongs here', ACTION_LIKE).text;
    const op = reader.take().text;
    if (op !== '>=' && op !== '<=' && op !== '==')
      throw reader.wrong('a signal is compared by >=, <= or ==', ACTION_LIKE);
    const val = reader.take();
    if (val.kind === 'end') throw new LineError('a figure is missing', ACTION_LIKE, val.from);
    action.when = { sig, op, val: val.kind === 'number' ? Number(val.text) : val.text };
  }
  reader.end(ACTION_LIKE);
  return action;
}

/** @returns null for an action that is no line: the plan of a test pilot's hand */
export function printAction({ control, to, release_s, after_s, when }: StandInAction): string | null {
  if (typeof to === 'object' && to !== null) return null;
  const position = to === null ? 'free' : typeof to === 'string' && !/^[A-Za-z][\w-]*$/.test(to) ? `"${to}"` : to;
  return [
    `${control} = ${position}`,
    ...(release_s === undefined ? [] : [`for ${release_s} s`]),
    ...(after_s === undefined ? [] : [`after ${after_s} s`]),
    ...(when === undefined ? [] : [`when ${when.sig} ${when.op} ${when.val}`]),
  ].join(' ');
}

/** Reads a deadline: `60 s after area-clear`. @throws LineError */
export function parseDeadline(text: string): { within_s: number; since: string } {
  const reader = new TokenReader(text);
  const within_s = seconds(reader);
  reader.need('after', 'write it like: 60 s after area-clear');
  const since = word(reader, 'the name of an item belongs here', 'write it like: 60 s after area-clear').text;
  reader.end('write it like: 60 s after area-clear');
  return { within_s, since };
}

const QUANTITY_LIKE = 'write it like: tq.1, or tq.1 - tq.2, or a.amps + b.amps - c.amps';

/** Reads a quantity: channels that are added, less others. @throws LineError */
export function parseQuantity(text: string, channels: ReadonlySet<string>): { plus: string[]; minus?: string[] } {
  const reader = new TokenReader(text);
  const plus: string[] = [];
  const minus: string[] = [];
  let to = plus;
  do {
    const name = word(reader, 'the name of a channel belongs here', QUANTITY_LIKE);
    if (!channels.has(name.text))
      throw new LineError(
        `there is no channel named ${name.text}`,
        nearest(name.text, [...channels], 'channels'),
        name.from,
      );
    to.push(name.text);
    to = reader.took('+') ? plus : minus;
  } while (to === plus || reader.took('-'));
  reader.end(QUANTITY_LIKE);
  return minus.length > 0 ? { plus, minus } : { plus };
}

/** How long a band of a limit may be used. */
export interface Allowed {
  forSeconds: number;
  counting: 'continuous' | 'cumulative';
}

const ALLOWED_LIKE = 'write it like: never, 8 s in all, 5 min';

/** Reads how long a limit may be passed: `never`, `8 s in all`, `5 min` at a time. @throws LineError */
export function parseAllowed(text: string): Allowed {
  const reader = new TokenReader(text);
  const forSeconds = reader.took('never') ? 0 : seconds(reader);
  const counting = reader.took('in') ? 'cumulative' : 'continuous';
  if (counting === 'cumulative') reader.need('all', ALLOWED_LIKE);
  reader.end(ALLOWED_LIKE);
  return { forSeconds, counting };
}

export interface SetAside {
  channel: string;
  above?: number;
  below?: number;
  andFor_s: number;
}

const ASIDE_LIKE = 'write it like: switch.test > 0.5 and 3 s after';

/** Reads while which test a limit is set aside: `switch.test > 0.5 and 3 s after`. @throws LineError */
export function parseSetAside(text: string): SetAside {
  const reader = new TokenReader(text);
  const channel = word(reader, 'the name of a channel belongs here', ASIDE_LIKE).text;
  const above = reader.took('>');
  if (!above) reader.need('<', ASIDE_LIKE);
  const figure = reader.number(ASIDE_LIKE);
  reader.need('and', ASIDE_LIKE);
  const andFor_s = seconds(reader);
  reader.need('after', ASIDE_LIKE);
  reader.end(ASIDE_LIKE);
  return { channel, ...(above ? { above: figure } : { below: figure }), andFor_s };
}

/** Reads what the numbers of a discrete channel mean: `0 off; 1 on`. @throws LineError */
export function parseStates(text: string): Record<string, string> {
  const states: Record<string, string> = {};
  let at = 0;
  for (const piece of text.split(';')) {
    const found = /^\s*(\d+)\s+(\S.*?)\s*$/.exec(piece);
    if (!found) throw new LineError(`"${piece.trim()}" is no state`, 'write them like: 0 off; 1 on', at);
    states[found[1]!] = found[2]!;
    at += piece.length + 1;
  }
  return states;
}

/** Reads where a control stays: `0 off; 1 on`, `OFF off; IDLE idle`, `0 cut-off; 0.4 idle; 1 flight`. @throws LineError */
export function parsePositions(text: string): { to: number | string; label: string }[] {
  let at = 0;
  return text.split(';').map((piece) => {
    const found = /^\s*(\S+)\s+(\S.*?)\s*$/.exec(piece);
    if (!found) throw new LineError(`"${piece.trim()}" is no position`, 'write them like: 0 off; 1 on', at);
    at += piece.length + 1;
    const figure = Number(found[1]);
    return { to: Number.isFinite(figure) ? figure : found[1]!, label: found[2]! };
  });
}
