import type { FileHead } from './dialect.ts';
import type { TimeFormat } from './mapping.ts';

const NAMED =
  /^(t|time|zeit|clock|date|utc|local ?time|elapsed|timestamp|t_s|seconds?|ms|millis|milliseconds)\b|^t_s$|time/i;
/** day numbers of the years that flights are recorded in, since 1900 */
const DAY_NUMBERS = [20_000, 80_000] as const;
const EPOCH_MS = 1e11;
const EPOCH_S = 1e8;
/** rows further apart than this are no recording of a start: the figures are milliseconds */
const LONGEST_STEP_S = 9.5;

const DATE_TIME = /^\d{4}-\d\d-\d\d[T ]\d\d:\d\d(:\d\d([.,]\d+)?)?\s*(Z|[+-]\d\d:?\d\d)?$/;
const CLOCK = /^\d{1,3}:\d\d(:\d\d)?([.,]\d+)?\s*([ap]\.?m\.?)?$/i;

const FIGURE = /^-?\d+([.,]\d+)?(e[-+]?\d+)?$/i;

const figureOf = (field: string): number => (FIGURE.test(field) ? Number(field.replace(',', '.')) : NaN);

/** How a time column is written, by its values and their steps; null for what is no time. */
function formatOf(values: readonly string[], words: string): TimeFormat | null {
  const most = (looks: (field: string) => boolean): boolean =>
    values.length > 0 && looks(values[0]!) && values.filter(looks).length >= values.length / 2;
  if (most((v) => DATE_TIME.test(v))) return 'date-time';
  if (most((v) => CLOCK.test(v))) return 'clock';
  if (!most((v) => !Number.isNaN(figureOf(v)))) return null;
  if (/\b(ms|milli\w*)\b|_ms$/i.test(words)) return 'milliseconds';
  if (/\b(s|sec|secs|seconds?)\b|_s$/i.test(words)) return 'seconds';
  const figures = values.map(figureOf).filter((v) => !Number.isNaN(v));
  const steps = figures.slice(1).map((v, i) => v - figures[i]!);
  if (steps.some((s) => s < 0)) return null;
  if (figures[0]! > EPOCH_MS) return 'milliseconds';
  if (figures[0]! > EPOCH_S) return 'seconds';
  const step = steps.toSorted((a, b) => a - b)[Math.floor(steps.length / 2)] ?? 0;
  if (figures[0]! > DAY_NUMBERS[0] && figures[0]! < DAY_NUMBERS[1] && step < 0.01 && !Number.isInteger(figures.at(-1)!))
    return 'days';
  return step > LONGEST_STEP_S ? 'milliseconds' : 'seconds';
}

/** The column that tells the time: by its name, else the first that only rises by even steps. @returns null for none */
export function guessTime(head: FileHead): { column: number; format: TimeFormat } | null {
  const shown = head.rows.filter((row) => row.length === head.names.length).slice(0, 20);
  const candidates = head.names.map((name, column) => {
    const words = `${name} ${head.units[column] ?? ''}`.trim();
    return {
      column,
      named: NAMED.test(name),
      format: formatOf(
        shown.map((row) => row[column] ?? ''),
        words,
      ),
    };
  });
  // where date and clock stand in two columns, the clock goes on over midnight by itself
  const named = candidates.filter((c) => c.named && c.format !== null);
  const best = named.find((c) => c.format !== 'seconds') ?? named[0];
  return best ? { column: best.column, format: best.format! } : null;
}
