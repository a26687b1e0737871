import { textOf } from './bad-row.ts';
import type { FigureField } from './figure-field.ts';
import type { TimeFormat } from './mapping.ts';

const QUOTE = 34;
const COLON = 58;
const ZERO = 48;
const DAY_S = 86_400;
/** a clock that falls by more than this has passed midnight */
const MIDNIGHT_S = 43_200;
const NOON_H_S = 12 * 3600;

/** Reads the time of a row in whatever way the file writes it. */
export class TimeField {
  day_s = 0;
  clock_s = NaN;
  private readonly format: TimeFormat;
  private readonly figures: FigureField;

  constructor(format: TimeFormat, figures: FigureField) {
    this.format = format;
    this.figures = figures;
  }

  /** @returns seconds on the file's own scale, NaN for what is no time of this kind */
  read(bytes: Uint8Array, from: number, to: number): number {
    switch (this.format) {
      case 'seconds':
        return this.figures.read(bytes, from, to) ?? NaN;
      case 'milliseconds':
        return (this.figures.read(bytes, from, to) ?? NaN) * 0.001;
      case 'days':
        // to the millisecond: days have no more digits
        return Math.round((this.figures.read(bytes, from, to) ?? NaN) * DAY_S * 1000) / 1000;
      case 'clock':
        return this.clock(bytes, from, to);
      case 'date-time':
        return dateTime_s(textOf(bytes, from, to));
      case 'rows':
      case 'unknown':
        return NaN;
    }
  }

  /** h:mm:ss or mm:ss, with AM or PM or without, fractions allowed; past midnight it goes on. */
  private clock(bytes: Uint8Array, from: number, to: number): number {
    const half = halfOfDay(bytes, from, to);
    const end = half === null ? to : half.end;
    let total = 0;
    let part = 0;
    let fraction = 0;
    let parts = 0;
    let digits = 0;
    for (let i = from; i < end; i++) {
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
    let t_s = total + part;
    if (half !== null) {
      // 12:xx AM is the first hour of the day
      if (t_s >= NOON_H_S) t_s -= NOON_H_S;
      if (half.afternoon) t_s += NOON_H_S;
    }
    if (this.clock_s - t_s > MIDNIGHT_S) this.day_s += DAY_S;
    this.clock_s = t_s;
    return this.day_s + t_s;
  }
}

/** AM or PM at the end of a field, and where what stands before it ends. */
function halfOfDay(bytes: Uint8Array, from: number, to: number): { afternoon: boolean; end: number } | null {
  let end = to;
  while (end > from && (bytes[end - 1] === 32 || bytes[end - 1] === QUOTE)) end--;
  // without case: M is 77 or 109
  if (end - from < 3 || (bytes[end - 1]! | 32) !== 109) return null;
  const letter = bytes[end - 2]! | 32;
  return letter === 97 || letter === 112 ? { afternoon: letter === 112, end: end - 2 } : null;
}

/** A date with its time. A stamp without a zone is taken as one of UTC: only differences count. */
function dateTime_s(field: string): number {
  const text = field.replace(/^"|"$/g, '').trim();
  const zoned = /(Z|[+-]\d\d:?\d\d)$/.test(text) ? text : `${text}Z`;
  return Date.parse(zoned.replace(' ', 'T').replace(',', '.')) / 1000;
}
