import {
  parseReport,
  type Report,
  type ReportErrorCode,
  type ReportWarningCode,
  reportTime,
} from '../weather/index.ts';
import { attempt, isRefusal } from '../quantity/index.ts';
import type { BriefInput } from './input-schema.ts';
import { NO_WIND } from './input.ts';

const ERRORS: Record<ReportErrorCode, string> = {
  NOT_A_REPORT: 'This is not a report of the present weather.',
  BAD_STATION: 'The place has four letters.',
  BAD_TIME: 'Day and time are six digits and a Z.',
  BAD_WIND: 'The wind makes no sense: enter it.',
  BAD_WIND_RANGE: 'The range of wind directions makes no sense.',
  UNSUPPORTED_UNIT: 'Wind in this unit is not read: enter it.',
  DUPLICATE_GROUP: 'This is there twice; the first one counts.',
  DEW_ABOVE_TEMP: 'The dew point is above the temperature: enter it.',
  BAD_TEMP: 'The temperature can’t be read: enter it.',
  BAD_PRESSURE: 'The pressure can’t be read: enter it.',
  MISSING_WIND: 'There is no wind: enter it.',
  MISSING_TEMP: 'There is no temperature: enter it.',
  MISSING_PRESSURE: 'There is no pressure: enter it.',
};
const WARNINGS: Partial<Record<ReportWarningCode, string>> = {
  MEAN_OUTSIDE_RANGE: 'The mean wind lies outside its own range: it counts from every side.',
  PRESSURE_DISAGREE: 'Two pressures disagree; the lower one counts.',
  UNKNOWN_GROUP: 'Not understood, and left out.',
  EXTRA_TEXT_AFTER_END: 'What follows belongs to another report, or to none, and is left out.',
};

export interface ReportNoteInWords {
  token: string | null;
  words: string;
  serious: boolean;
}

export interface ReadReport {
  report: Report | null;
  notes: ReportNoteInWords[];
  /** fields of the brief that the report supplies; what it does not is left as it was */
  fields: Partial<Pick<BriefInput, 'wind' | 'oat_C' | 'dew_C' | 'qnh_hPa' | 'observedAt'>>;
}

type ReportFields = ReadReport['fields'];
const UNSAID: Required<ReportFields> = { wind: NO_WIND, oat_C: null, dew_C: null, qnh_hPa: null, observedAt: null };

/**
 * Reads a pasted report into fields of a brief. A broken group is named, and every other one is kept.
 * @param before the report that stood there: what both say alike may have been corrected by hand since and is left out;
 *   what only the earlier one said is emptied
 */
export function readReport(text: string, now: string, before = ''): ReadReport {
  const report = attempt(() => parseReport(text));
  const earlier = attempt(() => parseReport(before));
  const was = isRefusal(earlier) ? {} : fieldsOf(earlier, now);
  if (isRefusal(report)) return { report: null, notes: [], fields: emptied(was, {}) };
  const notes: ReportNoteInWords[] = [
    ...report.errors.map((e) => ({ token: e.token, words: ERRORS[e.code], serious: true })),
    ...report.warnings.flatMap((w) => {
      const words = WARNINGS[w.code];
      return words ? [{ token: w.token, words, serious: false }] : [];
    }),
    ...lostOfWind(report, text),
  ];
  const is = fieldsOf(report, now);
  return { report, notes, fields: { ...emptied(was, is), ...changed(was, is) } };
}

/** What the report says that it does not know of its wind: a gust, or a direction. */
function lostOfWind({ wind }: Report, text: string): ReportNoteInWords[] {
  const token = (pattern: RegExp): string | null => pattern.exec(text.toUpperCase())?.[0] ?? null;
  const note = (found: string | null, words: string): ReportNoteInWords[] => [{ token: found, words, serious: true }];
  if (!wind) return [];
  if (wind.kind === 'direction-missing')
    return note(token(/\/{3}P?\d{2,3}\S*/), 'The direction of the wind is not known: enter it.');
  const gust = token(/\S*G\/\/(?:KT|MPS)/);
  return wind.gust_kt === null && gust !== null ? note(gust, 'The gust is not known: enter it.') : [];
}

const emptied = (was: ReportFields, is: ReportFields): ReportFields =>
  Object.fromEntries(Object.entries(UNSAID).filter(([key]) => key in was && !(key in is)));

const changed = (was: ReportFields, is: ReportFields): ReportFields =>
  Object.fromEntries(
    Object.entries(is).filter(
      ([key, value]) => JSON.stringify(value) !== JSON.stringify(was[key as keyof ReportFields]),
    ),
  );

/** What a report says of the day. */
function fieldsOf(report: Report, now: string): ReportFields {
  const fields: ReportFields = {};
  const { wind } = report;
  if (wind && wind.kind !== 'missing' && wind.kind !== 'direction-missing' && wind.speed_kt !== null)
    fields.wind = {
      direction_deg: wind.kind === 'calm' ? null : wind.dir_deg,
      from_deg: wind.from_deg,
      to_deg: wind.to_deg,
      speed_kt: wind.speed_kt,
      gust_kt: wind.gust_kt,
    };
  if (report.temp_C !== null) {
    fields.oat_C = report.temp_C;
    fields.dew_C = report.dew_C;
  }
  if (report.pressure) fields.qnh_hPa = report.pressure.qnh_hPa;
  if (report.day !== null && report.hour !== null && report.minute !== null) {
    const time = attempt(() => reportTime({ day: report.day!, hour: report.hour!, minute: report.minute!, now }));
    if (!isRefusal(time)) fields.observedAt = time.time;
  }
  return fields;
}
