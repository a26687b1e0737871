import type { CsvMapping } from './mapping.ts';

const SEPARATORS = [',', ';', '\t', '|', ' '] as const;
/** what recorders put before a line that is no row */
const COMMENTS = ['#', '//', '%', '!'] as const;

/** How the bytes of a file are written. */
export type Encoding = 'utf-8' | 'utf-16le' | 'utf-16be' | 'windows-1252';

/** The first rows of a file, cut into fields. */
export interface FileHead {
  encoding: Encoding;
  separator: CsvMapping['separator'];
  decimal: CsvMapping['decimal'];
  headerRows: number;
  /** names of the columns, from the last header row that has them; "column 3" where none is given */
  names: string[];
  /** unit beneath or behind a name, empty where none is given */
  units: string[];
  rows: string[][];
  /** what lines that are no rows begin with */
  comment?: string;
}

/** By its byte order mark; without one it is UTF-8 where it can be, else the single-byte code of older recorders. */
export function encodingOf(head: Uint8Array): Encoding {
  if (head[0] === 0xff && head[1] === 0xfe) return 'utf-16le';
  if (head[0] === 0xfe && head[1] === 0xff) return 'utf-16be';
  return isUtf8(head) ? 'utf-8' : 'windows-1252';
}

/** Whether these bytes are UTF-8; a character that is cut at the end does not count against them. */
function isUtf8(bytes: Uint8Array): boolean {
  for (let i = 0; i < bytes.length;) {
    const b = bytes[i]!;
    const more = b < 0x80 ? 0 : b >= 0xc2 && b < 0xe0 ? 1 : b >= 0xe0 && b < 0xf0 ? 2 : b >= 0xf0 && b < 0xf5 ? 3 : -1;
    if (more < 0) return false;
    for (let k = 1; k <= more && i + k < bytes.length; k++) if ((bytes[i + k]! & 0xc0) !== 0x80) return false;
    i += more + 1;
  }
  return true;
}

/** One line into fields; quotes may hold separators, and are taken off. */
function splitLine(line: string, separator: string): string[] {
  if (separator === ' ') return line.trim().split(/\s+/);
  const fields: string[] = [];
  let field = '';
  let quoted = false;
  for (let i = 0; i < line.length; i++) {
    const c = line[i]!;
    if (c === '"') {
      if (quoted && line[i + 1] === '"') field += line[i++];
      else quoted = !quoted;
    } else if (c === separator && !quoted) {
      fields.push(field.trim());
      field = '';
    } else field += c;
  }
  fields.push(field.trim());
  return fields;
}

/** The number of fields that most rows have; of two, the larger. */
function usualWidth(rows: readonly string[][]): number {
  const counts = new Map<number, number>();
  for (const { length } of rows) counts.set(length, (counts.get(length) ?? 0) + 1);
  return [...counts].toSorted((a, b) => b[1] - a[1] || b[0] - a[0])[0]?.[0] ?? 0;
}

/** Lines of figures with blanks between them, and nothing else that could part them. */
function isAligned(lines: readonly string[]): boolean {
  const fields = lines.slice(-5).flatMap((l) => l.trim().split(/\s+/));
  const figures = fields.filter((f) => /^[-+]?\d+([.,]\d+)?$/.test(f));
  return figures.length > fields.length / 2 && !lines.some((l) => /[;\t|]|,\s/.test(l));
}

const HEAD_LINES = 40;

/**
 * What the first lines tell: the separator that cuts most rows alike, whether figures have a decimal comma, and how many
 * rows stand before the figures.
 * @param text the beginning of the file, decoded
 */
export function headOf(text: string, encoding: Encoding): FileHead {
  const all = text
    .replace(/^﻿/, '')
    .split(/\r\n|\n|\r/)
    .filter((l) => l.trim() !== '')
    .slice(0, HEAD_LINES);
  // a title may begin with such a sign too: a comment is one that comes again, or after rows
  const comment = COMMENTS.find((c) => all.some((l, i) => i > 0 && l.startsWith(c)));
  const lines = comment === undefined ? all : all.filter((l) => !l.startsWith(comment));
  const last = lines.slice(-12);
  const score = (separator: string): number => {
    const counts = last.map((l) => splitLine(l, separator).length);
    const most = Math.max(...counts);
    // blanks stand between words too: they cut only what nothing else cuts
    if (separator === ' ' && !isAligned(last)) return 0;
    return most < 2 ? 0 : counts.filter((n) => n === most).length * Math.min(most, 30);
  };
  // a comma cuts figures with a decimal comma too: it counts only where nothing cuts every row alike
  const cutsAll = (separator: string): boolean => {
    const [width, ...others] = last.map((l) => splitLine(l, separator).length);
    return width! > 1 && others.every((n) => n === width);
  };
  const separator = ([';', '\t', '|'] as const).find(cutsAll) ?? SEPARATORS.toSorted((a, b) => score(b) - score(a))[0]!;
  const cut = lines.map((l) => splitLine(l, separator));
  const comma =
    separator !== ',' &&
    cut.slice(-5).some((row) => row.some((f) => /^-?\d+,\d+$/.test(f))) &&
    !cut.slice(-5).some((row) => row.some((f) => /^-?\d+\.\d+$/.test(f)));
  const decimal = comma ? ',' : '.';
  const isFigure = (f: string): boolean => /^[*?]+$/.test(f) || /^[-+]?[\d.,:T/ -]*\d[\d.,:TZ/ eE+-]*$/.test(f);
  const width = usualWidth(cut);
  let headerRows = cut.findIndex((row) => row.length === width && row.filter(isFigure).length > row.length / 2);
  if (headerRows < 0) headerRows = Math.min(1, cut.length);
  const above = cut.slice(0, headerRows).filter((row) => row.length === width);
  const named = above.find((row) => row.filter((f) => f !== '').length > row.length / 2) ?? [];
  const below = above[above.indexOf(named) + 1] ?? [];
  const names = Array.from({ length: width }, (_, i) => named[i] || `column ${i + 1}`);
  return {
    encoding,
    separator,
    decimal,
    headerRows,
    names,
    units: names.map((name, i) => /[([]([^)\]]+)[)\]]\s*$/.exec(name)?.[1]?.trim() ?? below[i] ?? ''),
    rows: cut.slice(headerRows),
    ...(comment === undefined ? {} : { comment }),
  };
}
