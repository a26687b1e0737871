import { ITEM_KINDS } from '../aircraft/index.ts';
import { isMap } from './expand.ts';
import { type Authored, type AuthoredMap, type Places, textOf } from './places.ts';
import type { Problem } from './problem.ts';

export const SEVERITIES = ['no-go', 'caution', 'note'] as const;
/** between what is asked and what is answered, as on a printed list */
const DASH = ' — ';

/** The member of a written item that names its kind: `check` in `check: bus-volts`. */
export const kindOf = (written: AuthoredMap): string | undefined =>
  ITEM_KINDS.find((kind) => typeof written[kind] === 'string');

type Keep = (item: AuthoredMap, zone: Authored | undefined, make: () => AuthoredMap) => AuthoredMap;

/**
 * Items as they are written, with members of their own for what the written form says at once: `check: bus-volts` is kind
 * and id, `line` challenge and response, `no-go` how much it matters and what happens when it is left out; a line
 * `- zone: overhead` stands over the items of that zone.
 */
export class ItemForm {
  private readonly places: Places;
  private readonly report: (problem: Problem) => void;

  constructor(places: Places, report: (problem: Problem) => void) {
    this.places = places;
    this.report = report;
  }

  /** @param keep makes an item, or gives what was made of the same one in the same zone */
  list(written: readonly Authored[], keep: Keep = (_, __, make) => make()): Authored[] {
    let zone: Authored | undefined;
    return written.flatMap((item): Authored[] => {
      if (!isMap(item)) return [item];
      if (Object.keys(item).length === 1 && 'zone' in item) {
        zone = item['zone']!;
        return [];
      }
      const over = zone;
      return [keep(item, over, () => this.inZone(item, over))];
    });
  }

  private inZone(item: AuthoredMap, zone: Authored | undefined): AuthoredMap {
    if (kindOf(item) === undefined && !['kind', 'remove', 'use'].some((field) => field in item))
      this.report({
        ...(this.places.of(item) ?? { file: '', line: 1, column: 1 }),
        message: 'this item does not say what kind it is',
        remedy: `begin it with its kind and its id, like check: bus-volts; the kinds are ${ITEM_KINDS.join(', ')}`,
      });
    const made = this.fields(item);
    if (zone !== undefined && !('remove' in item)) made['zone'] ??= zone;
    return made;
  }

  /** One item, or the fields of it that differ where it is used. */
  fields(written: AuthoredMap): AuthoredMap {
    const kind = kindOf(written);
    const severity = SEVERITIES.find((s) => s in written);
    const { line, trace, ...others } = written;
    const made: AuthoredMap = kind === undefined ? others : { kind, id: written[kind]!, ...others };
    if (kind !== undefined) delete made[kind];
    if (severity !== undefined) {
      delete made[severity];
      made['failure'] = severity;
      made['ifSkipped'] = written[severity]!;
    }
    if (line !== undefined) this.splitLine(written, made);
    if (isMap(trace)) made['trace'] = this.trace(trace);
    const renamed = {
      ...(kind && { id: kind, kind }),
      ...(severity && { failure: severity, ifSkipped: severity }),
      challenge: 'line',
      response: 'line',
    };
    return this.places.carry(made, written, renamed);
  }

  private splitLine(written: AuthoredMap, made: AuthoredMap): void {
    const line = textOf(written['line']);
    const at = line.indexOf(DASH);
    if (at < 0)
      this.report({
        ...(this.places.ofText(written, 'line') ?? { file: '', line: 1, column: 1 }),
        message: `"${line}" says not what is answered`,
        remedy: 'write what is asked, a dash between blanks, and the answer: Bus volts — 23.9 to 26.6 V',
      });
    made['challenge'] = at < 0 ? line : line.slice(0, at).trim();
    made['response'] = at < 0 ? '' : line.slice(at + DASH.length).trim();
  }

  /** Figures are written in two lines: what is shown, and how it is read. */
  private trace(written: AuthoredMap): AuthoredMap {
    const { figures } = written;
    if (!Array.isArray(figures)) return written;
    const flat = figures.map((figure) => {
      if (!isMap(figure) || !isMap(figure['figure'])) return figure;
      const { figure: shown, read, ...others } = figure;
      const made: AuthoredMap = { ...shown, ...(isMap(read) ? read : {}), ...others };
      this.places.carry(made, shown);
      if (isMap(read)) this.places.add(made, read);
      this.places.add(made, figure);
      return made;
    });
    return this.places.carry({ ...written, figures: this.places.carry(flat, figures) }, written);
  }
}
