import { believable, type Channel } from '../aircraft/index.ts';
import { BadRow, textOf } from './bad-row.ts';
import { FigureField } from './figure-field.ts';
import { type CsvMapping, unitsFor } from './mapping.ts';
import { type RowPlace, SameTimes } from './same-times.ts';
import { TimeField } from './time-field.ts';

const NEWLINE = 10;
const RETURN = 13;
const BLANK = 32;
const TAB = 9;
const QUOTE = 34;
/** no row of figures is longer; a file without line ends is no table */
const LONGEST_ROW_BYTES = 1024 * 1024;

/** What one row of the file says. `values` is used again for the next row. */
export type RowSink = (t_s: number, values: Float64Array, line: number) => void;

/**
 * Reads a mapped file chunk by chunk, straight from its bytes: no text is made of a row that can be read. Memory does not
 * grow with the file. Empty fields, the usual words for "no reading", and figures that no gauge shows are unknown;
 * anything else that is no number is refused with its row and column. Rows of one time stamp are spread evenly up to the
 * next.
 */
export class RowReader {
  /** lines seen so far, header included */
  line = 0;
  /** byte of the file where the row after the last whole one begins */
  offset = 0;
  /** the last row was cut off in its middle, and left out */
  cutOff = false;
  /** by channel: how many figures no gauge of its scale could show, and were taken as unknown */
  readonly beyond: Int32Array;
  private readonly values: Float64Array;
  private readonly mapping: CsvMapping;
  private readonly separator: number;
  private readonly aligned: boolean;
  private readonly comment: readonly number[];
  private readonly figures: FigureField;
  private readonly times: TimeField;
  private readonly names: readonly string[];
  /** by column of the file: which channel, how its figure becomes one, and what its gauge can show */
  private readonly target: Int32Array;
  private readonly scale: Float64Array;
  private readonly shift: Float64Array;
  private readonly least: Float64Array;
  private readonly most: Float64Array;
  private readonly lastColumn: number;
  /** by channel: the last figure and when it came, for columns that are not written in every row */
  private readonly kept: Float64Array;
  private readonly keptAt_s: Float64Array;
  private readonly spread: SameTimes;
  private rest = new Uint8Array(0);
  /** header rows passed; lines that are blank or comments are none */
  private headers = 0;
  private first_s = NaN;
  private rows = 0;
  private place_: RowPlace | null = null;

  /** @param names of the file's columns, for what is said of a bad one @throws RangeError for a channel or unit that the type does not have */
  constructor(mapping: CsvMapping, channels: readonly Channel[], names: readonly string[], sink: RowSink) {
    if (mapping.time.format === 'unknown') throw new RangeError('how the time is written has to be chosen');
    this.mapping = mapping;
    this.names = names;
    this.values = new Float64Array(channels.length).fill(NaN);
    this.beyond = new Int32Array(channels.length);
    this.kept = new Float64Array(channels.length).fill(NaN);
    this.keptAt_s = new Float64Array(channels.length).fill(-Infinity);
    this.aligned = mapping.separator === ' ';
    this.separator = mapping.separator.charCodeAt(0);
    this.comment = Array.from(mapping.comment ?? '', (c) => c.charCodeAt(0));
    this.figures = new FigureField(mapping.decimal, mapping.missing ?? []);
    this.times = new TimeField(mapping.time.format, this.figures);
    this.spread = new SameTimes((t_s, values, line, place) => {
      this.place_ = place;
      if (t_s >= 0) sink(t_s, values, line);
    });
    const columns = mapping.columns.map((c) => c.column);
    this.lastColumn = Math.max(...columns, mapping.time.format === 'rows' ? 0 : mapping.time.column);
    const wide = this.lastColumn + 1;
    this.target = new Int32Array(wide).fill(-1);
    this.scale = new Float64Array(wide);
    this.shift = new Float64Array(wide);
    this.least = new Float64Array(wide);
    this.most = new Float64Array(wide);
    for (const c of mapping.columns) this.mapColumn(c, channels);
  }

  /** Time of the first row on the file's own scale, s: since 1970 for dated times; NaN before it. */
  get firstRow_s(): number {
    return this.first_s;
  }

  /** rows whose time did not go on from the row before: they were spread up to the next one */
  get repeated(): number {
    return this.spread.repeated;
  }

  /** Goes on reading in the middle of the file, at the beginning of a row. */
  resume(at: RowPlace): void {
    this.offset = at.offset;
    this.line = at.line;
    this.headers = this.mapping.headerRows;
    this.first_s = at.first_s;
    this.times.day_s = at.day_s;
    this.times.clock_s = at.clock_s;
    this.rows = at.rows;
    this.spread.reset();
    this.rest = new Uint8Array(0);
  }

  /** Where reading could go on later, asked while a row is given: that row, or the first of its time, would be the first one. */
  place(): RowPlace {
    return this.place_!;
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
      const end = lineEnd(bytes, from);
      if (end < 0) break;
      // a return at the end of a chunk may have its newline in the next one
      if (bytes[end] === RETURN && end + 1 === bytes.length) break;
      const next = bytes[end] === RETURN && bytes[end + 1] === NEWLINE ? end + 2 : end + 1;
      this.row(bytes, from, end);
      this.offset += next - from;
      from = next;
    }
    this.rest = bytes.slice(from);
    if (this.rest.length > LONGEST_ROW_BYTES)
      throw new BadRow(
        this.line + 1,
        '',
        'it is longer than any row of figures: this file has no line ends, or is no table',
      );
  }

  /** The file has ended: what is left is its last row, unless it was cut off. @throws BadRow */
  end(): void {
    const { rest } = this;
    this.rest = new Uint8Array(0);
    const to = rest[rest.length - 1] === RETURN ? rest.length - 1 : rest.length;
    if (to > 0) {
      try {
        this.row(rest, 0, to);
      } catch (error) {
        if (!(error instanceof BadRow) || this.rows === 0) throw error;
        this.cutOff = true;
      }
    }
    this.offset += rest.length;
    this.spread.end();
  }

  private mapColumn(
    { column, channel, unit: written, scale }: CsvMapping['columns'][number],
    channels: readonly Channel[],
  ): void {
    const index = channels.findIndex((c) => c.id === channel);
    const unit = index < 0 ? undefined : unitsFor(channels[index]!.unit).find((u) => u.id === written);
    if (!unit)
      throw new RangeError(
        written === '' ? `${channel} has no unit yet: choose it` : `${channel} cannot be read in ${written}`,
      );
    const [least, most] = believable(channels[index]!);
    this.target[column] = index;
    this.scale[column] = scale * unit.scale;
    this.shift[column] = unit.offset;
    this.least[column] = least;
    this.most[column] = most;
  }

  private isComment(bytes: Uint8Array, from: number, to: number): boolean {
    if (this.comment.length === 0 || to - from < this.comment.length) return false;
    return this.comment.every((c, i) => bytes[from + i] === c);
  }

  private row(bytes: Uint8Array, from: number, lineTo: number): void {
    this.line++;
    // a column that is left blank moves all after it: blanks behind the last one must not stand for what is missing then
    const to = this.aligned ? beforeBlanks(bytes, from, lineTo) : lineTo;
    if (isBlank(bytes, from, to) || this.isComment(bytes, from, to)) return;
    if (this.headers < this.mapping.headerRows) {
      this.headers++;
      return;
    }
    const { target, lastColumn } = this;
    const timeAt = this.mapping.time.format === 'rows' ? -1 : this.mapping.time.column;
    const place: RowPlace = { offset: this.offset, line: this.line - 1, first_s: this.first_s, day_s: this.times.day_s, clock_s: this.times.clock_s, rows: this.rows }; // oxfmt-ignore
    this.values.fill(NaN);
    let t_s = NaN;
    let at = this.aligned ? afterBlanks(bytes, from, to) : from;
    let column = 0;
    for (; column <= lastColumn && at <= to; column++) {
      const end = this.fieldEnd(bytes, at, to);
      if (column === timeAt) t_s = this.timeOf(bytes, at, end, column);
      else if (target[column]! >= 0) this.values[target[column]!] = this.figure(bytes, at, end, column);
      at = this.aligned && end < to ? afterBlanks(bytes, end, to) : end + 1;
    }
    if (column <= lastColumn)
      throw new BadRow(this.line, '', `it has ${column} fields; the mapping reads ${lastColumn + 1}`);
    this.give(timeAt < 0 ? this.rows / this.mapping.time.rate_Hz : t_s, place);
  }

  private fieldEnd(bytes: Uint8Array, from: number, to: number): number {
    let end = from;
    if (bytes[from] === QUOTE) {
      end = from + 1;
      while (end < to && bytes[end] !== QUOTE) end++;
    }
    while (end < to && bytes[end] !== this.separator) end++;
    return end;
  }

  private give(file_s: number, place: RowPlace): void {
    this.rows++;
    if (Number.isNaN(this.first_s)) this.first_s = file_s;
    const t_s = file_s - this.first_s - this.mapping.time.start_s;
    if (t_s < this.spread.last_s)
      throw new BadRow(
        this.line,
        this.name(this.mapping.time.column),
        `time goes back by ${(this.spread.last_s - t_s).toFixed(3)} s`,
      );
    const hold_s = this.mapping.hold_s ?? 0;
    if (hold_s > 0) this.hold(t_s, hold_s);
    this.spread.row(t_s, this.values, this.line, place);
  }

  /** A column that is written less often keeps its last figure for a while. */
  private hold(t_s: number, hold_s: number): void {
    for (const channel of this.target) {
      if (channel < 0) continue;
      const value = this.values[channel]!;
      if (!Number.isNaN(value)) {
        this.kept[channel] = value;
        this.keptAt_s[channel] = t_s;
      } else if (t_s - this.keptAt_s[channel]! <= hold_s) this.values[channel] = this.kept[channel]!;
    }
  }

  private figure(bytes: Uint8Array, from: number, to: number, column: number): number {
    const read = this.figures.read(bytes, from, to);
    if (read === null) throw new BadRow(this.line, this.name(column), `"${textOf(bytes, from, to)}" is not a number`);
    const value = read * this.scale[column]! + this.shift[column]!;
    if (value < this.least[column]! || value > this.most[column]!) {
      this.beyond[this.target[column]!]!++;
      return NaN;
    }
    return value;
  }

  private timeOf(bytes: Uint8Array, from: number, to: number, column: number): number {
    const t_s = this.times.read(bytes, from, to);
    if (!Number.isNaN(t_s)) return t_s;
    const kind = this.mapping.time.format;
    throw new BadRow(this.line, this.name(column), `"${textOf(bytes, from, to)}" is not a time of the kind ${kind}`);
  }

  private name(column: number): string {
    return this.names[column] ?? `column ${column + 1}`;
  }
}

/** Where a line ends: before its newline, or its return and newline; or at a return alone, where no newline comes at all. */
function lineEnd(bytes: Uint8Array, from: number): number {
  const newline = bytes.indexOf(NEWLINE, from);
  if (newline < 0) return bytes.indexOf(RETURN, from);
  return newline > from && bytes[newline - 1] === RETURN ? newline - 1 : newline;
}

function isBlank(bytes: Uint8Array, from: number, to: number): boolean {
  return afterBlanks(bytes, from, to) >= to;
}

const isBlankByte = (byte: number | undefined): boolean => byte === BLANK || byte === TAB;

function beforeBlanks(bytes: Uint8Array, from: number, to: number): number {
  let end = to;
  while (end > from && isBlankByte(bytes[end - 1])) end--;
  return end;
}

function afterBlanks(bytes: Uint8Array, from: number, to: number): number {
  let at = from;
  while (at < to && isBlankByte(bytes[at])) at++;
  return at;
}
