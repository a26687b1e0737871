import { convert, roundStep, type RoundDirection } from '@rouse/core/quantity';
import { UNIT_CHOICES, type UnitKind, type Units } from '../app/unit-choices.ts';

export type { UnitKind, Units };

/** How a unit is written. */
export const UNIT_SIGNS: Record<Units[UnitKind], string> = {
  C: '°C',
  F: '°F',
  hPa: 'hPa',
  inHg: 'inHg',
  kg: 'kg',
  lb: 'lb',
  L: 'L',
  usgal: 'US gal',
  ft: 'ft',
  m: 'm',
  kt: 'kt',
  'km/h': 'km/h',
};

const STEPS: Record<Units[UnitKind], number> = {
  C: 1,
  F: 1,
  hPa: 1,
  inHg: 0.01,
  kg: 1,
  lb: 1,
  L: 1,
  usgal: 1,
  ft: 1,
  m: 1,
  kt: 1,
  'km/h': 1,
};

/** Words in which a person may type a unit, lower case. */
const SPELLINGS: Record<string, Units[UnitKind]> = {
  c: 'C',
  '°c': 'C',
  f: 'F',
  '°f': 'F',
  hpa: 'hPa',
  mb: 'hPa',
  q: 'hPa',
  inhg: 'inHg',
  in: 'inHg',
  a: 'inHg',
  kg: 'kg',
  lb: 'lb',
  lbs: 'lb',
  l: 'L',
  gal: 'usgal',
  usg: 'usgal',
  usgal: 'usgal',
  'us gal': 'usgal',
  ft: 'ft',
  m: 'm',
  kt: 'kt',
  kts: 'kt',
  'km/h': 'km/h',
  kmh: 'km/h',
};

export function figureIn(value: number, kind: UnitKind, units: Units, direction: RoundDirection = 'nearest'): number {
  const unit = units[kind];
  return roundStep(convert(value, UNIT_CHOICES[kind][0], unit), STEPS[unit], direction);
}

function decimals(unit: Units[UnitKind]): number {
  return STEPS[unit] < 1 ? 2 : 0;
}

/** "1,008 hPa", "37 °F": a kept figure as this person reads it. */
export function sayFigure(value: number, kind: UnitKind, units: Units, direction: RoundDirection = 'nearest'): string {
  const unit = units[kind];
  const figure = figureIn(value, kind, units, direction);
  const digits = decimals(unit);
  return `${figure.toLocaleString('en-GB', { minimumFractionDigits: digits, maximumFractionDigits: digits }).replace('-', '−')} ${UNIT_SIGNS[unit]}`;
}

export type Typed = { ok: true; value: number | null } | { ok: false; words: string };

/**
 * Reads what a person typed: a number in the person's unit, or in any other of the kind when it is named.
 * Fuel may come by mass or by volume: `density_kgL` turns litres into kilograms.
 * @returns the figure in the unit that is kept, null for an empty field
 */
export function readTyped(text: string, kind: UnitKind, units: Units, density_kgL?: number): Typed {
  const trimmed = text.trim().toLowerCase().replace('−', '-').replace(',', '.');
  if (trimmed === '') return { ok: true, value: null };
  const match = /^([qa]?)\s*(-?\d+(?:\.\d+)?)\s*([a-z°/ ]*)$/.exec(trimmed);
  const own = UNIT_SIGNS[units[kind]];
  const others = UNIT_CHOICES[kind].map((u) => UNIT_SIGNS[u]).join(' or ');
  if (!match) return { ok: false, words: `is a number in ${own}, or with its unit: ${others}` };
  const spelled = (match[3]!.trim() || match[1]) ?? '';
  const unit = spelled === '' ? units[kind] : SPELLINGS[spelled];
  const number = Number(match[2]) / (match[1] === 'a' && Number(match[2]) > 1000 ? 100 : 1);
  if (density_kgL !== undefined && (unit === 'L' || unit === 'usgal'))
    return { ok: true, value: convert(number, unit, 'L') * density_kgL };
  if (unit === undefined || !(UNIT_CHOICES[kind] as readonly string[]).includes(unit))
    return { ok: false, words: `${spelled} is not a unit of it: ${others}` };
  return { ok: true, value: convert(number, unit, UNIT_CHOICES[kind][0]) };
}

/** Reads a number that has one unit only. @returns null for an empty field */
export function readPlain(text: string, unit: string): Typed {
  const trimmed = text.trim().replace(',', '.').replace('−', '-');
  if (trimmed === '') return { ok: true, value: null };
  const value = Number(trimmed);
  return Number.isFinite(value) ? { ok: true, value } : { ok: false, words: `is a number in ${unit}` };
}

/** The kind of figure that a type file gives in this unit; null where nobody measures it otherwise. */
export function kindOf(unit: string): UnitKind | null {
  const kinds = Object.keys(UNIT_CHOICES) as UnitKind[];
  return kinds.find((kind) => UNIT_SIGNS[UNIT_CHOICES[kind][0]] === unit) ?? null;
}
