import { isRefusal, Refused, type RefusalCode } from '../quantity/index.ts';

/** A figure of the brief: known, unknown with what would supply it, or refused with the reason. */
export type Figure<T> =
  | { state: 'known'; value: T }
  | { state: 'unknown'; words: string }
  | { state: 'refused'; words: string };

/** What would supply a missing field, as the pilot calls it. */
const SUPPLY: Record<string, string> = {
  qnh: 'enter the pressure, or paste a report',
  qnh_hPa: 'enter the pressure, or paste a report',
  pa_ft: 'enter the pressure, or paste a report',
  oat_C: 'enter the outside temperature, or paste a report',
  wind: 'enter the wind, or paste a report',
  heading_deg: 'enter which way the nose points',
  mass_kg: 'enter load and fuel',
  fuel: 'enter the fuel',
  fuel_kg: 'enter the fuel',
  flight_min: 'enter the minutes of flight',
  hover: 'what a hover takes is not written in this type',
  battery: 'the battery is not described in this type',
  neighbour: 'the rotor of this neighbour is not described',
};

const REFUSALS: Partial<Record<RefusalCode, (field: string) => string>> = {
  OUT_OF_CHART: (f) => `outside the chart (${f}): no figure is given`,
  CHART_BLANK: () => 'not permitted by the chart in this air',
  OUT_OF_DOMAIN: (f) => `outside what the formula holds for (${f})`,
  OUT_OF_RANGE: (f) => `${f} can't be: look at the figure again`,
  INCONSISTENT: (f) => `two figures contradict each other (${f})`,
  NO_SOLUTION: () => 'no weight can be hovered in this air',
};

const NAMES: Record<string, string> = {
  pa_ft: 'pressure altitude',
  oat_C: 'outside temperature',
  dew_C: 'dew point above the temperature',
  mass_kg: 'weight',
  fuel_kg: 'fuel',
  burn_kg: 'more fuel is burnt on the ground than is aboard',
  temp_C: 'temperature',
};

/** Runs a calculation of the brief; what it lacks and what it refuses comes back in words. */
export function figure<T>(calculate: () => T): Figure<T> {
  try {
    return { state: 'known', value: calculate() };
  } catch (error) {
    if (!(error instanceof Refused)) throw error;
    const { code, field } = error;
    if (code === 'INSUFFICIENT_DATA')
      return {
        state: 'unknown',
        words: `${field === '0' ? 'no start' : `${field} starts`} recorded near this temperature; five tell what is usual`,
      };
    if (code === 'MISSING') return { state: 'unknown', words: SUPPLY[field] ?? `enter ${field}` };
    return {
      state: 'refused',
      words: REFUSALS[code]?.(NAMES[field] ?? field) ?? `${code} at ${NAMES[field] ?? field}`,
    };
  }
}

/** The value, or a Refused MISSING for whoever builds on it. @throws Refused */
export function need<T>(of: Figure<T> | T | null, field: string): T {
  if (of === null) throw new Refused('MISSING', field);
  if (typeof of === 'object' && 'state' in (of as object)) {
    const f = of as Figure<T>;
    if (f.state === 'known') return f.value;
    throw new Refused(f.state === 'unknown' ? 'MISSING' : 'OUT_OF_DOMAIN', field);
  }
  if (isRefusal(of)) throw new Refused(of.error, of.field);
  return of as T;
}

export function known<T>(of: Figure<T>): T | null {
  return of.state === 'known' ? of.value : null;
}
