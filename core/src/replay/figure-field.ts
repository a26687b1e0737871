import { textOf } from './bad-row.ts';

const BLANK = 32;
const QUOTE = 34;
const PLUS = 43;
const MINUS = 45;
const COMMA = 44;
const ZERO = 48;
const EMPTY_WORDS = new Set([
  'nan', 'null', 'na', 'n/a', '#n/a', 'inv', 'invalid', 'err', 'error', 'fail', 'failed', 'fault', 'missing', 'no data',
  'none', 'off', 'open', '?', '-', '--', '---',
]); // oxfmt-ignore
const POWERS = Array.from({ length: 16 }, (_, i) => 10 ** i);

const isAround = (byte: number): boolean => byte === BLANK || byte === QUOTE;

/** Reads decimal figures straight from the bytes of a file. */
export class FigureField {
  private readonly decimal: number;
  private readonly missing: ReadonlySet<string>;

  /** @param missing what the file writes for no reading, beside the usual words */
  constructor(decimal: '.' | ',', missing: readonly string[]) {
    this.decimal = decimal.charCodeAt(0);
    this.missing = new Set(missing.map((word) => word.trim().toLowerCase()));
  }

  /** @returns the figure, NaN for an empty field or a word for no reading, null for what is neither */
  read(bytes: Uint8Array, from: number, to: number): number | null {
    let at = from;
    let end = to;
    while (at < end && isAround(bytes[at]!)) at++;
    while (end > at && isAround(bytes[end - 1]!)) end--;
    if (at === end) return NaN;
    const begin = at;
    if (this.missing.size > 0 && this.missing.has(textOf(bytes, begin, end).toLowerCase())) return NaN;
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
    return this.odd(textOf(bytes, begin, end));
  }

  private odd(text: string): number | null {
    if (EMPTY_WORDS.has(text.toLowerCase()) || /^[*#?.]+$/.test(text)) return NaN;
    const value = Number(this.decimal === COMMA ? text.replace(',', '.') : text);
    return Number.isFinite(value) ? value : null;
  }
}
