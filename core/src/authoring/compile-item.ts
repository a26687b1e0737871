import type { Compiling } from './compiling.ts';
import { isMap } from './expand.ts';
import { parseAction, parseDeadline, parseQuantity, parseWhen } from './phrase-text.ts';
import type { AuthoredMap } from './places.ts';

/** One item as it is written: its conditions, deadlines and moves are lines of text. @returns it as programs read it */
export function compileItem(c: Compiling, written: AuthoredMap, leg: string): AuthoredMap {
  const { needs, opens, closedBy, watches } = written;
  const made = c.without(written, 'closedBy', 'watches');
  made['leg'] = leg;
  made['by'] ??= 'pilot';
  made['failure'] ??= 'caution';
  if (typeof needs === 'string') made['needs'] = [needs];
  if (watches !== undefined) made['watch'] = watches;
  put(made, 'expect', c.condition(written, 'expect'));
  put(made, 'until', c.condition(written, 'until'));
  put(
    made,
    'when',
    c.line(written, 'when', (text) => parseWhen(text, c.questions)),
  );
  put(made, 'deadline', c.line(written, 'deadline', parseDeadline));
  put(made, 'standIn', c.lines(written, 'standIn', parseAction));
  if (written['kind'] === 'set' && opens !== undefined) {
    if (closedBy === undefined)
      c.report(written, 'opens', 'nothing closes what this opens', 'add closedBy with the item that does');
    made['opens'] = { words: opens, closedBy: closedBy ?? '' };
  } else if (closedBy !== undefined) c.report(written, 'closedBy', 'nothing is opened that this could close', 'add opens, or remove it'); // oxfmt-ignore
  for (const member of ['stages', 'moments'] as const)
    if (written[member] !== undefined) made[member] = compileStages(c, written, member);
  if (isMap(written['trace'])) made['trace'] = compileTrace(c, written['trace']);
  return made;
}

function put(made: AuthoredMap, member: string, value: unknown): void {
  if (value !== undefined) made[member] = value as AuthoredMap;
}

function compileStages(c: Compiling, of: AuthoredMap, member: string): AuthoredMap[] {
  const stages = c.mapsOf(of, member).map((written) => {
    const made = c.without(written);
    Object.assign(made, c.expectation(written, 'expect'));
    put(made, 'standIn', c.lines(written, 'standIn', parseAction));
    if (Array.isArray(written['lateWhen']))
      made['lateWhen'] = c.mapsOf(written, 'lateWhen').map((w) => withCondition(c, w, 'when'));
    return made;
  });
  return c.list(stages, of[member]) as AuthoredMap[];
}

function withCondition(c: Compiling, written: AuthoredMap, member: string): AuthoredMap {
  const made = c.without(written);
  put(made, member, c.condition(written, member));
  return made;
}

/** A check that is measured: its stages, what ends it at once, its figures and what is drawn. */
function compileTrace(c: Compiling, written: AuthoredMap): AuthoredMap {
  const channels = new Set(c.vocabulary.channels.map((v) => v.id));
  const made = c.without(written);
  if (written['stages'] !== undefined) made['stages'] = compileStages(c, written, 'stages');
  if (written['stops'] !== undefined)
    made['stops'] = c.list(
      c.mapsOf(written, 'stops').map((stop) => withCondition(c, stop, 'when')),
      written['stops'],
    ) as AuthoredMap[];
  if (written['figures'] !== undefined)
    made['figures'] = c.list(
      c.mapsOf(written, 'figures').map((figure) => {
        const read = withCondition(c, figure, 'when');
        put(
          read,
          'quantity',
          c.line(figure, 'quantity', (text) => parseQuantity(text, channels)),
        );
        return read;
      }),
      written['figures'],
    ) as AuthoredMap[];
  if (written['shows'] !== undefined)
    made['shows'] = c.list(
      (Array.isArray(written['shows']) ? written['shows'] : []).map((shown) =>
        typeof shown === 'string' ? { channel: shown } : shown,
      ),
      written['shows'],
    ) as AuthoredMap[];
  return made;
}
