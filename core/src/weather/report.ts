import { convert, Refused } from '../quantity/index.ts';
import { readRange, readWind, type Wind } from './wind-group.ts';
import { readVisibility, type Visibility } from './visibility-group.ts';

/** What is wrong with a group; a field in error stays empty and has to be entered. */
export type ReportErrorCode =
  | 'NOT_A_REPORT'
  | 'BAD_STATION'
  | 'BAD_TIME'
  | 'BAD_WIND'
  | 'BAD_WIND_RANGE'
  | 'UNSUPPORTED_UNIT'
  | 'DUPLICATE_GROUP'
  | 'DEW_ABOVE_TEMP'
  | 'BAD_TEMP'
  | 'BAD_PRESSURE'
  | 'MISSING_WIND'
  | 'MISSING_TEMP'
  | 'MISSING_PRESSURE';
export type ReportWarningCode =
  | 'EXTRA_TEXT_AFTER_END'
  | 'TYPE_ASSUMED'
  | 'DIRECTION_NOT_ROUNDED'
  | 'MEAN_OUTSIDE_RANGE'
  | 'VISIBILITY_MISSING'
  | 'VISIBILITY_DIRECTION_FIRST'
  | 'PRESSURE_MISSING'
  | 'PRESSURE_DISAGREE'
  | 'UNKNOWN_GROUP';

export interface ReportNote<C extends string> {
  code: C;
  /** the group as it was written, null for one that is not there */
  token: string | null;
}

export interface Report {
  status: 'ok' | 'partial' | 'nil' | 'error';
  type: 'METAR' | 'SPECI' | null;
  station: string | null;
  day: number | null;
  hour: number | null;
  minute: number | null;
  auto: boolean;
  cor: boolean;
  nil: boolean;
  wind: Wind | null;
  visibility: Visibility | null;
  temp_C: number | null;
  dew_C: number | null;
  pressure: { qnh_hPa: number; unit: 'hPa' | 'inHg'; raw: string } | null;
  /** cloud and weather, as written */
  other: string[];
  ignored: string[];
  errors: ReportNote<ReportErrorCode>[];
  warnings: ReportNote<ReportWarningCode>[];
}

const NOT_REPORTS = new Set(['TAF', 'AIRMET', 'SIGMET', 'ATIS', 'SYNOP']);
const ENDS = new Set(['NOSIG', 'BECMG', 'TEMPO', 'RMK']);
const STATION = /^[A-Z][A-Z0-9]{3}$/;
const TIME = /^(\d{2})(\d{2})(\d{2})Z$/;
/** part of a visibility or a runway, whatever stands before it: no temperature */
const FRACTION = /^\d\/\d{1,2}$/;
/** colder or warmer than this no air has been, °C */
const AIR_C = [-90, 60] as const;
const CLOUD =
  /^(?:(?:FEW|SCT|BKN|OVC|\/\/\/)(?:\d{3}|\/\/\/)(?:CB|TCU|\/\/\/)?|VV(?:\d{3}|\/\/\/)|SKC|CLR|NSC|NCD|NSW)$/;
const WEATHER =
  /^(?:\/\/|(?:[+-]|VC|RE)?(?:MI|PR|BC|DR|BL|SH|TS|FZ)?(?:DZ|RA|SN|SG|IC|PL|GR|GS|UP|BR|FG|FU|VA|DU|SA|HZ|PY|PO|SQ|FC|SS|DS)*)$/;
const IGNORED = /^(?:R\d{2}[LCR]?\/.*|R[0-9/]{7,}|WS|W(?:M?\d{2}|\/\/)\/[SH].*)$/;

/**
 * Reads an aerodrome report (docs/calculations.md, weather report). A broken group leaves its field empty and is named; a
 * trend never replaces the present wind.
 * @throws Refused EMPTY
 */
export function parseReport(text: string): Report {
  const [head, ...after] = text.toUpperCase().split('=');
  const tokens = head!.split(/\s+/).filter(Boolean);
  if (tokens.length === 0) throw new Refused('EMPTY', 'text');
  const reading = new Reading(tokens);
  if (after.join('').trim() !== '') reading.warn('EXTRA_TEXT_AFTER_END', null);
  return reading.read();
}

class Reading {
  private readonly tokens: string[];
  private next = 0;
  private windRead = false;
  private tempRead = false;
  private tempSeen = false;
  private readonly pressuresSeen = new Set<string>();
  private readonly pressures: { hPa: number; unit: 'hPa' | 'inHg'; raw: string }[] = [];
  private readonly report: Report = {
    status: 'ok',
    type: null,
    station: null,
    day: null,
    hour: null,
    minute: null,
    auto: false,
    cor: false,
    nil: false,
    wind: null,
    visibility: null,
    temp_C: null,
    dew_C: null,
    pressure: null,
    other: [],
    ignored: [],
    errors: [],
    warnings: [],
  };

  constructor(tokens: string[]) {
    this.tokens = tokens;
  }

  warn(code: ReportWarningCode, token: string | null): void {
    this.report.warnings.push({ code, token });
  }

  private fail(code: ReportErrorCode, token: string | null): void {
    this.report.errors.push({ code, token });
  }

  read(): Report {
    const { report } = this;
    if (!this.header()) report.status = 'error';
    else {
      this.body();
      if (report.nil) report.status = 'nil';
      else {
        this.finish();
        report.status = report.errors.length > 0 ? 'partial' : 'ok';
      }
    }
    return report;
  }

  private header(): boolean {
    const { report, tokens } = this;
    const first = tokens[0]!;
    if (NOT_REPORTS.has(first)) {
      this.fail('NOT_A_REPORT', first);
      return false;
    }
    report.type = first === 'SPECI' ? 'SPECI' : 'METAR';
    if (first === 'METAR' || first === 'SPECI') this.next++;
    else this.warn('TYPE_ASSUMED', null);
    if (tokens[this.next] === 'COR') {
      report.cor = true;
      this.next++;
    }
    const station = tokens[this.next++];
    if (!station || !STATION.test(station)) {
      this.fail('BAD_STATION', station ?? null);
      return false;
    }
    report.station = station;
    const time = tokens[this.next++];
    const match = TIME.exec(time ?? '');
    const [day, hour, minute] = match ? match.slice(1).map(Number) : [];
    if (!match || day! < 1 || day! > 31 || hour! > 23 || minute! > 59) {
      this.fail('BAD_TIME', time ?? null);
      return false;
    }
    Object.assign(report, { day, hour, minute });
    return true;
  }

  private body(): void {
    while (this.next < this.tokens.length) {
      const token = this.tokens[this.next++]!;
      if (STATION.test(token) && TIME.test(this.tokens[this.next] ?? '')) {
        // another report begins
        this.report.ignored.push(token, ...this.tokens.slice(this.next));
        this.warn('EXTRA_TEXT_AFTER_END', token);
        return;
      }
      if (ENDS.has(token)) {
        this.report.ignored.push(token, ...this.tokens.slice(this.next));
        return;
      }
      this.group(token);
    }
  }

  private group(token: string): void {
    const { report } = this;
    if (token === 'NIL') report.nil = true;
    else if (token === 'AUTO') report.auto = true;
    else if (token === 'COR' || /^CC[A-Z]$/.test(token)) report.cor = true;
    else if (this.wind(token) || this.visibility(token) || this.temperature(token) || this.pressure(token)) return;
    else if (IGNORED.test(token)) {
      report.ignored.push(token);
      if (token === 'WS')
        while (/^(?:ALL|RWY\w*|R\d{2}[LCR]?)$/.test(this.tokens[this.next] ?? ''))
          report.ignored.push(this.tokens[this.next++]!);
    } else if (CLOUD.test(token) || WEATHER.test(token)) report.other.push(token);
    else this.warn('UNKNOWN_GROUP', token);
  }

  private wind(token: string): boolean {
    const { report } = this;
    if (token.endsWith('KMH')) {
      this.fail('UNSUPPORTED_UNIT', token);
      this.windRead = true;
      return true;
    }
    if (/(?:KT|MPS)$/.test(token)) {
      if (this.windRead) this.fail('DUPLICATE_GROUP', token);
      else {
        this.windRead = true;
        const wind = readWind(token);
        if (!wind) this.fail('BAD_WIND', token);
        else {
          report.wind = wind;
          if (wind.dir_deg !== null && wind.dir_deg % 10 !== 0) this.warn('DIRECTION_NOT_ROUNDED', token);
          if (wind.kind === 'missing') this.windRead = false;
        }
      }
      return true;
    }
    const range = readRange(token);
    if (!range) return false;
    const { wind } = report;
    if (wind?.kind !== 'steady' || !range.ok) this.fail('BAD_WIND_RANGE', token);
    else {
      wind.from_deg = range.from_deg;
      wind.to_deg = range.to_deg;
      const span = (range.to_deg - range.from_deg + 360) % 360;
      if ((wind.dir_deg! - range.from_deg + 360) % 360 > span) this.warn('MEAN_OUTSIDE_RANGE', token);
    }
    return true;
  }

  private visibility(token: string): boolean {
    const read = readVisibility(token, this.tokens[this.next], this.report.visibility);
    if (!read) return false;
    this.next += read.took - 1;
    if (read.warning) this.warn(read.warning, token);
    if (read.visibility) this.report.visibility = read.visibility;
    return true;
  }

  private temperature(token: string): boolean {
    const { report } = this;
    if (FRACTION.test(token)) return false;
    const match = /^(?:(M?)(\d{2})|\/\/)\/(?:(M?)(\d{2})|\/\/)?$/.exec(token);
    if (match && this.tempSeen) {
      this.fail('DUPLICATE_GROUP', token);
      return true;
    }
    if (!match) {
      if (!/^M?\d*\/M?\d*$/.test(token) || token === '/') return false;
      if (this.tempSeen) this.fail('DUPLICATE_GROUP', token);
      else this.fail('BAD_TEMP', token);
      this.tempSeen = true;
      this.tempRead = true;
      return true;
    }
    this.tempSeen = true;
    const value = (minus: string | undefined, digits: string | undefined): number | null =>
      digits === undefined ? null : (minus ? -Number(digits) : Number(digits)) + 0;
    report.temp_C = value(match[1], match[2]);
    report.dew_C = value(match[3], match[4]);
    if ([report.temp_C, report.dew_C].some((v) => v !== null && (v < AIR_C[0] || v > AIR_C[1]))) {
      report.temp_C = null;
      report.dew_C = null;
      this.fail('BAD_TEMP', token);
      this.tempRead = true;
      return true;
    }
    this.tempRead = report.temp_C !== null;
    if (report.temp_C !== null && report.dew_C !== null && report.dew_C > report.temp_C) {
      report.dew_C = null;
      this.fail('DEW_ABOVE_TEMP', token);
    }
    return true;
  }

  private pressure(token: string): boolean {
    if (!/^[QA][\d/]/.test(token)) return false;
    if (this.pressuresSeen.has(token[0]!)) {
      this.fail('DUPLICATE_GROUP', token);
      return true;
    }
    this.pressuresSeen.add(token[0]!);
    if (/^[QA]\/{4}$/.test(token)) {
      this.warn('PRESSURE_MISSING', token);
      return true;
    }
    const unit = token[0] === 'Q' ? 'hPa' : 'inHg';
    const figure = /^[QA](\d{4})$/.exec(token)?.[1];
    const hPa =
      figure === undefined ? NaN : unit === 'hPa' ? Number(figure) : convert(Number(figure) / 100, 'inHg', 'hPa');
    if (!(hPa >= 850 && hPa <= 1100)) this.fail('BAD_PRESSURE', token);
    else this.pressures.push({ hPa, unit, raw: token });
    return true;
  }

  private finish(): void {
    const { report, pressures } = this;
    const had = (...codes: ReportErrorCode[]): boolean => report.errors.some((e) => codes.includes(e.code));
    const lowest = pressures.toSorted((a, b) => a.hPa - b.hPa)[0];
    if (lowest) {
      report.pressure = { qnh_hPa: lowest.hPa, unit: lowest.unit, raw: lowest.raw };
      if (Math.max(...pressures.map((p) => p.hPa)) - lowest.hPa > 1) this.warn('PRESSURE_DISAGREE', null);
    }
    if ((!report.wind || report.wind.kind === 'missing') && !had('BAD_WIND', 'UNSUPPORTED_UNIT'))
      this.fail('MISSING_WIND', null);
    if (report.temp_C === null && !this.tempRead) this.fail('MISSING_TEMP', null);
    if (!report.pressure && !had('BAD_PRESSURE')) this.fail('MISSING_PRESSURE', null);
  }
}
