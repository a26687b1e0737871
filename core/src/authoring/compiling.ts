import type { Condition } from '../aircraft/index.ts';
import { parseCondition, parseExpectation, type Vocabulary } from './condition-text.ts';
import { isMap, speaksOfEngine, substitute } from './expand.ts';
import { type Authored, type AuthoredMap, type Places, textOf } from './places.ts';
import type { Problem } from './problem.ts';
import type { Questions } from './phrase-text.ts';
import { LineError } from './tokens.ts';

/** What all parts of a compilation share: what can be named, where things stand, what was found wrong. */
export class Compiling {
  readonly problems: Problem[];
  readonly places: Places;
  readonly engines: readonly number[];
  vocabulary: Vocabulary = { channels: [], captions: null };
  questions: Questions = { choices: new Set(), decisions: new Set(), checks: new Set() };

  constructor(places: Places, problems: Problem[], engines: readonly number[]) {
    this.places = places;
    this.problems = problems;
    this.engines = engines;
  }

  report(of: object, member: string | number | undefined, message: string, remedy: string): void {
    const place = this.places.of(of, member) ?? { file: 'type.yaml', line: 1, column: 1 };
    this.problems.push({ ...place, message, remedy });
  }

  /** Reads one member that is a line of text; what cannot be read is reported at its column, and undefined. */
  line<T>(of: AuthoredMap, member: string, read: (text: string) => T): T | undefined {
    const text = of[member];
    if (text === undefined || text === null) return undefined;
    if (typeof text === 'object') {
      this.report(of, member, `"${member}" is one line of text`, 'write it on one line');
      return undefined;
    }
    return this.read(of, member, textOf(text), read);
  }

  private read<T>(of: object, member: string | number, text: string, read: (text: string) => T): T | undefined {
    try {
      return read(text);
    } catch (error) {
      if (!(error instanceof LineError)) throw error;
      const place = this.places.ofText(of, member) ?? { file: 'type.yaml', line: 1, column: 1 };
      this.problems.push({ ...place, column: place.column + error.at, message: error.message, remedy: error.remedy });
      return undefined;
    }
  }

  /** A list of lines, or one line alone. */
  lines<T>(of: AuthoredMap, member: string, read: (text: string) => T): T[] | undefined {
    const list = of[member];
    if (list === undefined || list === null) return undefined;
    if (!Array.isArray(list)) {
      const one = this.line(of, member, read);
      return one === undefined ? undefined : [one];
    }
    return list.flatMap((text, i) => {
      if (isMap(text)) return [text as T];
      const made = this.read(list, i, textOf(text), read);
      return made === undefined ? [] : [made];
    });
  }

  condition(of: AuthoredMap, member: string): Condition | undefined {
    return this.line(of, member, (text) => this.ofEngines(text, (t) => parseCondition(t, this.vocabulary)));
  }

  expectation(of: AuthoredMap, member: string): { expect: Condition; within_s?: number; since?: string } | undefined {
    return this.line(of, member, (text) => {
      const parts = this.forEngines(text).map((t) => parseExpectation(t, this.vocabulary));
      const { condition: _, ...limit } = parts[0]!;
      return { expect: joined(parts.map((p) => p.condition)), ...limit };
    });
  }

  private ofEngines(text: string, read: (text: string) => Condition): Condition {
    return joined(this.forEngines(text).map(read));
  }

  /** A line that speaks of an engine where none is meant holds for every engine. */
  private forEngines(text: string): string[] {
    return speaksOfEngine(text) ? this.engines.map((n) => String(substitute(text, { n }))) : [text];
  }

  /** A copy of a map without some of its members, which stands where the map stands. */
  without(map: AuthoredMap, ...members: string[]): AuthoredMap {
    const made: AuthoredMap = { ...map };
    for (const member of members) delete made[member];
    return this.places.carry(made, map);
  }

  /** The members of a list that are maps. */
  mapsOf(of: AuthoredMap, member: string): AuthoredMap[] {
    const list = of[member];
    if (list === undefined || list === null) return [];
    if (!Array.isArray(list)) {
      this.report(of, member, `"${member}" is a list`, 'begin each of its members with a dash');
      return [];
    }
    return list.filter((value, i): value is AuthoredMap => {
      if (isMap(value)) return true;
      this.report(list, i, `a member of "${member}" is no map of fields`, 'give it names and values');
      return false;
    });
  }

  list(made: unknown[], from: Authored | undefined): unknown[] {
    return typeof from === 'object' && from !== null ? this.places.carry(made, from) : made;
  }
}

function joined(parts: readonly Condition[]): Condition {
  return parts.length === 1 ? parts[0]! : { all: parts.flatMap((p) => ('all' in p ? p.all : [p])) };
}
