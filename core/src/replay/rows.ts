import type { Channel } from '../aircraft/index.ts';
import { type CsvMapping, unitsFor } from './mapping.ts';

/** Why a file cannot be read on, with the place. */
export class BadRow extends Error {
  /** line of the file, from 1 */
  readonly row: number;
  /** name of the column, empty when the whole row is meant */
  readonly column: string;
  constructor(row: number, column: string, message: string) {
    super(message);
    this.row = row;
    this.column = column;
  }
}

const NEWLINE = 10;
const RETURN = 13;
const QUOTE = 34;
const PLUS = 43;
const MINUS = 45;
const ZERO = 48;
const COLON = 58;
const DAY_S = 86_400;
/** a clock that falls by more than this has passed midnight */
const MIDNIGHT_S = 43_200;
const EMPTY_WORDS = new Set(['nan', 'null', 'na', 'n/a', 'inv', 'invalid', '-', '--', '---']);

/** What one row of the file says. `values` is used again for the next row. */
export type RowSink = (t_s: number, values: Float64Array, line: number) => void;

/**
 * Reads a mapped file chunk by chunk, straight from its bytes: no text is made of a row that can be read. Memory does not
 * grow with the file. Empty fields and the usual words for "no reading" are unknown; anything else that is no number is
 * refused with its row and column.
 */
export class RowReader {
  /** lines seen so far, header included */
  line = 0;
  /** rows whose time did not go on from the row before, and which were left out */
  repeated = 0;
  /** byte of the file where the row after the last whole one begins */
  offset = 0;
  private readonly sink: RowSink;
  private readonly values: Float64Array;
  private readonly separator: number;
  private readonly decimal: number;
  private readonly headerRows: number;
  private readonly time: CsvMapping['time'];
  private readonly names: readonly string[];
  /** by column of the file: which channel, and how its figure becomes one */
  private readonly target: Int32Array;
  private readonly scale: Float64Array;
  private readonly shift: Float64Array;
  private readonly lastColumn: number;
  private rest = new Uint8Array(0);
  private first_s = NaN;
  private day_s = 0;
  private clock_s = NaN;
  private last_s = -Infinity;
  private rows = 0;

  /** @param names of the file's columns, for what is said of a bad one @throws RangeError for a channel or unit that the type does not have */
  constructor(mapping: CsvMapping, channels: readonly Channel[], names: readonly string[], sink: RowSink) {
    this.sink = sink;
    this.names = names;
    this.values = new Float64Array(channels.length).fill(NaN);
    this.separator = mapping.separator.charCodeAt(0);
    this.decimal = mapping.decimal.charCodeAt(0);
    this.headerRows = mapping.headerRows;
    this.time = mapping.time;
    const columns = mapping.columns.map((c) => c.column);
    this.lastColumn = Math.max(...columns, mapping.time.format === 'rows' ? 0 : mapping.time.column);
    this.target = new Int32Array(this.lastColumn + 1).fill(-1);
    this.scale = new Float64Array(this.lastColumn + 1);
    this.shift = new Float64Array(this.lastColumn + 1);
    for (const c of mapping.columns) {
      const index = channels.findIndex((channel) => channel.id === c.channel);
      const unit = index < 0 ? undefined : unitsFor(channels[index]!.unit).find((u) => u.id === c.unit);
      if (!unit) throw new RangeError(`${c.channel} cannot be read in ${c.unit}`);
      this.target[c.column] = index;
      this.scale[c.column] = c.scale * unit.scale;
      this.shift[c.column] = unit.offset;
    }
  }

  /** Goes on reading in the middle of the file, at the beginning of a row. */
  resume(at: { offset: number; line: number; first_s: number; day_s: number; clock_s: number; rows: number }): void {
    this.offset = at.offset;
    this.line = at.line;
    this.first_s = at.first_s;
    this.day_s = at.day_s;
    this.clock_s = at.clock_s;
    this.rows = at.rows;
    this.last_s = -Infinity;
    this.rest = new Uint8Array(0);
  }

  /** Where reading could go on later, asked while a row is given: that row would be the first one. */
  place(): Parameters<RowReader['resume']>[0] {
    const { offset, line, first_s, day_s, clock_s, rows } = this;
    return { offset, line: line - 1, first_s, day_s, clock_s, rows: rows - 1 };
  }

  /** @throws BadRow */
  push(chunk: Uint8Array): void {
    let bytes = chunk;
    if (this.rest.length > 0) {
      bytes = new Uint8Array(this.rest.length + chunk.length);
      bytes.set(this.rest);
      bytes.set(chunk, this.rest.length);
    }
    let from = 0;
    for (;;) {
      const end = bytes.indexOf(NEWLINE, from);
      if (end < 0) break;
      this.row(bytes, from, bytes[end - 1] === RETURN ? end - 1 : end);
      this.offset += end + 1 - from;
      from = end + 1;
    }
    this.rest = bytes.slice(from);
  }

  /** The file has ended: what is left is its last row. @throws BadRow */
  end(): void {
    const { rest } = this;
    this.rest = new Uint8Array(0);
    if (rest.length > 0) this.row(rest, 0, rest.length);
    this.offset += rest.length;
  }

  private row(bytes: Uint8Array, from: number, to: number): void {
    this.line++;
    if (this.line <= this.headerRows || to <= from) return;
    const { values, target, scale, shift, separator, lastColumn } = this;
    const timeAt = this.time.format === 'rows' ? -1 : this.time.column;
    values.fill(NaN);
    let t_s = NaN;
    let at = from;
    let column = 0;
    for (; column <= lastColumn && at <= to; column++) {
      let end = at;
      if (bytes[at] === QUOTE) {
        end = at + 1;
        while (end < to && bytes[end] !== QUOTE) end++;
      }
      while (end < to && bytes[end] !== separator) end++;
      if (column === timeAt) t_s = this.timeOf(bytes, at, end);
      else {
        const channel = target[column]!;
        if (channel >= 0) values[channel] = this.figure(bytes, at, end, column) * scale[column]! + shift[column]!;
      }
      at = end + 1;
    }
    if (column <= lastColumn)
      throw new BadRow(this.line, '', `it has ${column} fields; the mapping reads ${lastColumn + 1}`);
    this.give(timeAt < 0 ? this.rows / this.time.rate_Hz : t_s);
  }

  private give(file_s: number): void {
    this.rows++;
    if (Number.isNaN(this.first_s)) this.first_s = file_s;
    const t_s = file_s - this.first_s - this.time.start_s;
    if (t_s <= this.last_s) {
      if (t_s < this.last_s)
        throw new BadRow(
          this.line,
          this.name(this.time.column),
          `time goes back by ${(this.last_s - t_s).toFixed(3)} s`,
        );
      this.repeated++;
      return;
    }
    this.last_s = t_s;
    if (t_s >= 0) this.sink(t_s, this.values, this.line);
  }

  /** A decimal figure, NaN for an empty field or a word for no reading. */
  private figure(bytes: Uint8Array, from: number, to: number, column: number): number {
    let at = from;
    let end = to;
    while (at < end && (bytes[at] === 32 || bytes[at] === QUOTE)) at++;
    while (end > at && (bytes[end - 1] === 32 || bytes[end - 1] === QUOTE)) end--;
    if (at === end) return NaN;
    const begin = at;
    let sign = 1;
    if (bytes[at] === MINUS || bytes[at] === PLUS) sign = bytes[at++] === MINUS ? -1 : 1;
    let mantissa = 0;
    let digits = 0;
    let decimals = -1;
    for (; at < end; at++) {
      const d = bytes[at]! - ZERO;
      if (d >= 0 && d <= 9) {
        mantissa = mantissa * 10 + d;
        digits++;
        if (decimals >= 0) decimals++;
      } else if (bytes[at] === this.decimal && decimals < 0) decimals = 0;
      else break;
    }
    // fifteen digits are exact in this arithmetic; more, and powers of ten, are read the long way
    if (at === end && digits > 0 && digits <= 15) return (sign * mantissa) / POWERS[Math.max(0, decimals)]!;
    return this.odd(bytes, begin, end, column);
  }

  private odd(bytes: Uint8Array, from: number, to: number, column: number): number {
    const text = textOf(bytes, from, to);
    if (EMPTY_WORDS.has(text.toLowerCase())) return NaN;
    const value = Number(this.decimal === 44 ? text.replace(',', '.') : text);
    if (Number.isFinite(value)) return value;
    throw new BadRow(this.line, this.name(column), `"${text}" is not a number`);
  }

  private timeOf(bytes: Uint8Array, from: number, to: number): number {
    const { format, column } = this.time;
    let t_s = NaN;
    if (format === 'seconds' || format === 'milliseconds')
      t_s = this.figure(bytes, from, to, column) * (format === 'milliseconds' ? 0.001 : 1);
    else if (format === 'clock') t_s = this.clock(bytes, from, to);
    else {
      const text = textOf(bytes, from, to).replace(/^"|"$/g, '').trim();
      // a stamp without a zone is taken as one of UTC: only differences count
      const zoned = /(Z|[+-]\d\d:?\d\d)$/.test(text) ? text : `${text}Z`;
      t_s = Date.parse(zoned.replace(' ', 'T').replace(',', '.')) / 1000;
    }
    if (Number.isNaN(t_s))
      throw new BadRow(
        this.line,
        this.name(column),
        `"${textOf(bytes, from, to)}" is not a time of the kind ${format}`,
      );
    return t_s;
  }

  /** h:mm:ss or mm:ss, fractions allowed; past midnight it goes on. */
  private clock(bytes: Uint8Array, from: number, to: number): number {
    let total = 0;
    let part = 0;
    let fraction = 0;
    let parts = 0;
    let digits = 0;
    for (let i = from; i < to; i++) {
      const c = bytes[i]!;
      const d = c - ZERO;
      if (d >= 0 && d <= 9) {
        digits++;
        if (fraction > 0) {
          part += d * fraction;
          fraction /= 10;
        } else part = part * 10 + d;
      } else if (c === COLON) {
        total = (total + part) * 60;
        part = 0;
        parts++;
      } else if (c === 46 || c === 44) fraction = 0.1;
      else if (c !== 32 && c !== QUOTE) return NaN;
    }
    if (parts === 0 || parts > 2 || digits === 0) return NaN;
    const t_s = total + part;
    if (this.clock_s - t_s > MIDNIGHT_S) this.day_s += DAY_S;
    this.clock_s = t_s;
    return this.day_s + t_s;
  }

  private name(column: number): string {
    return this.names[column] ?? `column ${column + 1}`;
  }
}

const POWERS = Array.from({ length: 16 }, (_, i) => 10 ** i);

function textOf(bytes: Uint8Array, from: number, to: number): string {
  let text = '';
  for (let i = from; i < Math.min(to, from + 80); i++) text += String.fromCharCode(bytes[i]!);
  return text.trim();
}
