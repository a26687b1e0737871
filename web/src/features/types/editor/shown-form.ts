import type { TypeFile } from '@rouse/core/aircraft';
import type { DraftDesk } from './use-draft.ts';

/** A file as its form shows it. */
export interface ShownForm {
  text: string;
  /** what is wrong, by line */
  wrong: ReadonlyMap<number, string>;
  locked: boolean;
  type: TypeFile | null;
  put: (text: string) => void;
}

/** What is wrong in a file, by line. */
export function wrongLines({ compiled }: Pick<DraftDesk, 'compiled'>, file: string): ReadonlyMap<number, string> {
  return new Map(compiled?.problems.flatMap((p) => (p.file === file ? [[p.line, p.message] as const] : [])));
}

/** endings of names that are units */
const UNITS = new Set(['kg', 'm', 'm2', 's', 'min', 'h', 'C', 'K', 'V', 'A', 'Ah', 'As', 'W', 'kW', 'pct', 'ft', 'kt', 'mps', 'L', 'kgL', 'kgph', 'deg', 'bar', 'mohm', 'cSt', 'pct_s', 'inHg', 'Nm', 'kNm']); // oxfmt-ignore

/** The name of a field in words: `lightWithin_s` is *light within, s*. */
export function sayName(name: string | number): string {
  const [, words = '', unit] = /^(.+?)(?:_([A-Za-z0-9]+(?:_s)?))?$/.exec(String(name)) ?? [];
  const hasUnit = unit !== undefined && UNITS.has(unit);
  const said = (hasUnit ? words : String(name))
    .replaceAll(/([a-z])([A-Z])/g, (_, a: string, b: string) => `${a} ${b.toLowerCase()}`)
    .replaceAll(/[_-]/g, ' ');
  return hasUnit ? `${said}, ${unit.replace('_', '/')}` : said;
}
