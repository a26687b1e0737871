import type { Channel } from '../aircraft/index.ts';
import type { FileHead } from './dialect.ts';
import { guessTime } from './guess-time.ts';
import { type CsvMapping, type MappedColumn, unitsFor } from './mapping.ts';

const UNIT_WORDS: Readonly<Record<string, string>> = {
  degc: '°C', c: '°C', '°c': '°C', ºc: '°C', celsius: '°C', centigrade: '°C', degf: '°F', f: '°F', '°f': '°F', ºf: '°F', fahrenheit: '°F', k: 'K', kelvin: 'K',
  pct: '%', percent: '%', '%': '%', '%rpm': '%',
  bar: 'bar', psi: 'psi', psig: 'psi', kpa: 'kPa', hpa: 'hPa', mbar: 'hPa', inhg: 'inHg', v: 'V', vdc: 'V', volt: 'V', volts: 'V', mv: 'mV',
  a: 'A', amp: 'A', amps: 'A', ampere: 'A', ma: 'mA', 'kg/h': 'kg/h', kg_h: 'kg/h', kgh: 'kg/h', 'kg/hr': 'kg/h', kgph: 'kg/h',
  'lb/h': 'lb/h', 'lb/hr': 'lb/h', lbh: 'lb/h', pph: 'lb/h', 'g/s': 'g/s', fraction: 'fraction',
}; // oxfmt-ignore

const plain = (text: string): string =>
  text
    .toLowerCase()
    .replace(/[([].*$/, '')
    .replace(/[^a-z0-9]+/g, ' ')
    .trim();

/** The unit that a word means, empty for one that nobody writes. */
function unitOf(word: string): string {
  return UNIT_WORDS[word.toLowerCase().replace(/[\s.]/g, '')] ?? '';
}

/** The unit that a column says it is in: in a row of its own, in brackets, or as the last word of its name. */
function writtenUnit(name: string, unit: string): string {
  return unitOf(unit) || unitOf(name.split(/[_\s]/).at(-1)!) || unitOf(name.split(/[_\s]/).slice(-2).join(''));
}

/** What a first mapping could not tell, and a person has to say before the file is read. */
export interface Unsure {
  /** nothing in the file says what its time is in */
  time: boolean;
  /** channels whose unit the file does not say */
  units: string[];
}

/** The unit that a channel is read in until somebody chooses: its own where there is no other, or where figures are bare; else none. */
export function unitToBegin({ unit }: Pick<Channel, 'unit'>): string {
  return unit === '%' || unitsFor(unit).length === 1 ? unit : '';
}

/** A first mapping by names, units and values: what a person then looks over. */
export function guessMapping(head: FileHead, channels: readonly Channel[]): CsvMapping {
  const time = guessTime(head);
  const taken = new Set<string>();
  const columns = head.names.flatMap((name, column): MappedColumn[] => {
    if (column === time?.column) return [];
    const channel = channels.find((c) => !taken.has(c.id) && isNamed(c, name));
    if (!channel) return [];
    taken.add(channel.id);
    const written = writtenUnit(name, head.units[column]!);
    const known = unitsFor(channel.unit).some((u) => u.id === written);
    return [{ column, channel: channel.id, unit: known ? written : unitToBegin(channel), scale: 1 }];
  });
  return {
    separator: head.separator,
    decimal: head.decimal,
    headerRows: head.headerRows,
    time: { format: time?.format ?? 'unknown', column: time?.column ?? 0, rate_Hz: 10, start_s: 0 },
    columns,
    ...(head.comment === undefined ? {} : { comment: head.comment }),
  };
}

/** Whether a column has one of the units that its channel can be read in; a bare channel has none, and that is one. */
export function isUnitKnown({ channel, unit }: MappedColumn, channels: readonly Channel[]): boolean {
  const of = channels.find((c) => c.id === channel);
  return of !== undefined && unitsFor(of.unit).some((u) => u.id === unit);
}

/** What of a mapping still has to be said: rows at an even rate are nobody's guess, and neither is a unit. */
export function unsureOf(mapping: CsvMapping, channels: readonly Channel[]): Unsure {
  return {
    time: mapping.time.format === 'unknown',
    units: mapping.columns.filter((c) => !isUnitKnown(c, channels)).map((c) => c.channel),
  };
}

/** a column in rpm is no percentage: it is left for a person to map */
const NAMED_UNITS = Object.keys(UNIT_WORDS).filter((word) => !word.startsWith('%'));
const UNIT_AT_END = new RegExp(` (${[...new Set(NAMED_UNITS.map(plain))].join('|')}|deg [cf])$`);

/** By id with or without its unit, by the letters of the panel, or by the whole label. */
function isNamed(channel: Channel, name: string): boolean {
  const wanted = plain(name);
  const bare = wanted.replace(UNIT_AT_END, '');
  const words = [channel.id, channel.short, channel.label].map(plain);
  return words.includes(wanted) || words.includes(bare) || words.includes(bare.replace(/(\D)(\d)$/, '$1 $2'));
}

/** A text by which files of the same kind are known again: names, units, header rows and decimal sign. */
export function headerKey({ separator, names, units, headerRows, decimal }: FileHead): string {
  const columns = names.map((n, i) => `${n}|${units[i] ?? ''}`.toLowerCase());
  return [`${headerRows}${decimal}`, ...columns].join(separator);
}
