import type { Channel } from '../aircraft/index.ts';
import type { FileHead } from './dialect.ts';
import { type CsvMapping, type MappedColumn, type TimeFormat, unitsFor } from './mapping.ts';

const UNIT_WORDS: Readonly<Record<string, string>> = {
  degc: '°C', c: '°C', '°c': '°C', celsius: '°C', degf: '°F', f: '°F', '°f': '°F', k: 'K', pct: '%', percent: '%', '%': '%',
  bar: 'bar', psi: 'psi', kpa: 'kPa', hpa: 'hPa', mbar: 'hPa', inhg: 'inHg', v: 'V', volt: 'V', volts: 'V', a: 'A', amp: 'A', amps: 'A',
  'kg/h': 'kg/h', kg_h: 'kg/h', 'lb/h': 'lb/h', pph: 'lb/h', 'g/s': 'g/s',
}; // prettier-ignore

const plain = (text: string): string =>
  text
    .toLowerCase()
    .replace(/[([].*$/, '')
    .replace(/[^a-z0-9]+/g, ' ')
    .trim();

/** The unit that a word means, empty for one that nobody writes. */
function unitOf(word: string): string {
  return UNIT_WORDS[word.toLowerCase().replace(/\s/g, '')] ?? '';
}

/** How a time field is written, by its look; null for what is no time. */
function timeFormatOf(field: string): TimeFormat | null {
  if (/^\d{4}-\d\d-\d\d[T ]\d\d:\d\d(:\d\d([.,]\d+)?)?(Z|[+-]\d\d:?\d\d)?$/.test(field)) return 'date-time';
  if (/^\d{1,3}:\d\d(:\d\d)?([.,]\d+)?$/.test(field)) return 'clock';
  return /^-?\d+([.,]\d+)?$/.test(field) ? 'seconds' : null;
}

/** A first mapping by names and units: what a person then looks over. */
export function guessMapping(head: FileHead, channels: readonly Channel[]): CsvMapping {
  const timeAt = head.names.findIndex((n, i) => /^(t|time|zeit|clock|date|utc|t_s|seconds?)\b|^t_s$/i.test(n) && timeFormatOf(head.rows[0]?.[i] ?? '') !== null); // prettier-ignore
  const looks = timeAt >= 0 ? timeFormatOf(head.rows[0]?.[timeAt] ?? '') : null;
  const inMilliseconds = looks === 'seconds' && /ms$|milli/i.test(`${head.names[timeAt]} ${head.units[timeAt]}`);
  const taken = new Set<string>();
  const columns = head.names.flatMap((name, column): MappedColumn[] => {
    if (column === timeAt) return [];
    const channel = channels.find((c) => !taken.has(c.id) && isNamed(c, name));
    if (!channel) return [];
    taken.add(channel.id);
    const written = unitOf(head.units[column]!) || unitOf(name.split('_').at(-1)!);
    const known = unitsFor(channel.unit).some((u) => u.id === written);
    return [{ column, channel: channel.id, unit: known ? written : channel.unit, scale: 1 }];
  });
  return {
    separator: head.separator,
    decimal: head.decimal,
    headerRows: head.headerRows,
    time: {
      format: inMilliseconds ? 'milliseconds' : (looks ?? 'rows'),
      column: Math.max(0, timeAt),
      rate_Hz: 10,
      start_s: 0,
    },
    columns,
  };
}

/** By id with or without its unit, by the letters of the panel, or by the whole label. */
function isNamed(channel: Channel, name: string): boolean {
  const wanted = plain(name);
  const bare = wanted.replace(/ (c|pct|bar|v|a|kg h|f|psi|degc)$/, '');
  const words = [channel.id, channel.short, channel.label].map(plain);
  return words.includes(wanted) || words.includes(bare) || words.includes(bare.replace(/(\D)(\d)$/, '$1 $2'));
}

/** A text by which files with the same columns are known again. */
export function headerKey({ separator, names }: Pick<FileHead, 'separator' | 'names'>): string {
  return names.map((n) => n.toLowerCase()).join(separator);
}
