import { needNumber, Refused } from './refused.ts';

/** What a unit measures, and how a value in it becomes one in the SI unit: `si = value · scale + offset`. */
interface Unit {
  measures: string;
  scale: number;
  offset?: number;
}

const FT = 0.3048;
const LB = 0.45359237;
const G0 = 9.80665;
const LBF = LB * G0;
const IN = 0.0254;

/** Exact definitions. @source docs/calculations.md, units */
const UNITS: Record<string, Unit> = {
  m: { measures: 'length', scale: 1 },
  km: { measures: 'length', scale: 1000 },
  ft: { measures: 'length', scale: FT },
  NM: { measures: 'length', scale: 1852 },
  SM: { measures: 'length', scale: 1609.344 },
  in: { measures: 'length', scale: IN },
  'm/s': { measures: 'speed', scale: 1 },
  kt: { measures: 'speed', scale: 1852 / 3600 },
  'km/h': { measures: 'speed', scale: 1 / 3.6 },
  'ft/min': { measures: 'speed', scale: FT / 60 },
  kg: { measures: 'mass', scale: 1 },
  g: { measures: 'mass', scale: 0.001 },
  lb: { measures: 'mass', scale: LB },
  L: { measures: 'volume', scale: 0.001 },
  m3: { measures: 'volume', scale: 1 },
  usgal: { measures: 'volume', scale: 231 * IN ** 3 },
  impgal: { measures: 'volume', scale: 0.00454609 },
  Pa: { measures: 'pressure', scale: 1 },
  hPa: { measures: 'pressure', scale: 100 },
  kPa: { measures: 'pressure', scale: 1000 },
  bar: { measures: 'pressure', scale: 1e5 },
  psi: { measures: 'pressure', scale: LBF / IN ** 2 },
  inHg: { measures: 'pressure', scale: 13_595.1 * G0 * IN },
  W: { measures: 'power', scale: 1 },
  kW: { measures: 'power', scale: 1000 },
  hp: { measures: 'power', scale: 550 * FT * LBF },
  PS: { measures: 'power', scale: 75 * G0 },
  N: { measures: 'force', scale: 1 },
  lbf: { measures: 'force', scale: LBF },
  Nm: { measures: 'torque', scale: 1 },
  'ft.lbf': { measures: 'torque', scale: FT * LBF },
  K: { measures: 'temperature', scale: 1 },
  C: { measures: 'temperature', scale: 1, offset: 273.15 },
  F: { measures: 'temperature', scale: 5 / 9, offset: (459.67 * 5) / 9 },
  dK: { measures: 'temperature difference', scale: 1 },
  dC: { measures: 'temperature difference', scale: 1 },
  dF: { measures: 'temperature difference', scale: 5 / 9 },
  'rad/s': { measures: 'rotation', scale: 1 },
  rpm: { measures: 'rotation', scale: (2 * Math.PI) / 60 },
  s: { measures: 'time', scale: 1 },
  min: { measures: 'time', scale: 60 },
  h: { measures: 'time', scale: 3600 },
};

/**
 * Converts between units of one kind.
 * @throws Refused UNKNOWN_UNIT; UNIT_MISMATCH (mass to volume needs a density); OUT_OF_RANGE below absolute zero
 */
export function convert(value: number, from: string, to: string): number {
  const a = UNITS[from];
  const b = UNITS[to];
  if (!a) throw new Refused('UNKNOWN_UNIT', 'from');
  if (!b) throw new Refused('UNKNOWN_UNIT', 'to');
  needNumber(value, 'value');
  if (a.measures !== b.measures) throw new Refused('UNIT_MISMATCH', 'to');
  const si = value * a.scale + (a.offset ?? 0);
  if (a.measures === 'temperature' && si < 0) throw new Refused('OUT_OF_RANGE', 'value');
  return (si - (b.offset ?? 0)) / b.scale;
}
