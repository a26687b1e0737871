import type { CsvMapping } from './mapping.ts';

const DAY_MS = 86_400_000;
/** a count of seconds between these is one since 1970 */
const [EARLIEST_S, LATEST_S] = [Date.UTC(2000, 0) / 1000, Date.UTC(2100, 0) / 1000];
const DAY_IN_NAME =
  /(?<!\d)(20\d\d)[-_.]?(0[1-9]|1[0-2])[-_.]?(0[1-9]|[12]\d|3[01])(?:[T _-]?([01]\d|2[0-3])[-:.h_]?([0-5]\d)(?:[-:.m_]?([0-5]\d))?)?(?!\d)/;

/**
 * When a recording began, UTC: by its own times where they have a date, else by the day in the name of its file, with the
 * time of its clock, or of the name, or midnight.
 * @param first_s time of the first row on the file's own scale, s; see `RowReader.firstRow_s`
 * @returns null where nothing tells the day
 */
export function beganAt_ms(time: CsvMapping['time'], first_s: number, fileName: string): number | null {
  const begin_s = first_s + time.start_s;
  const isCount = time.format === 'seconds' || time.format === 'milliseconds';
  if (time.format === 'date-time' || (isCount && first_s >= EARLIEST_S && first_s < LATEST_S))
    return Math.round(begin_s * 1000);
  const named = DAY_IN_NAME.exec(fileName);
  if (!named) return null;
  const [year, month, day, hour, minute, second] = named.slice(1).map((n) => Number(n ?? 0)) as [number, number, number, number, number, number]; // oxfmt-ignore
  const midnight_ms = Date.UTC(year, month - 1, day);
  // the 31st of a month that has 30 days is no day
  if (new Date(midnight_ms).getUTCDate() !== day) return null;
  if (time.format === 'clock') return midnight_ms + (Math.round(begin_s * 1000) % DAY_MS);
  return midnight_ms + ((hour * 60 + minute) * 60 + second + time.start_s) * 1000;
}
