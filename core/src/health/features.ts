import type { StartRecord } from '../watch/index.ts';

/** Figures that describe one start, each comparable with the same figure of the tail's other starts. */
export interface FeatureSpec {
  id: string;
  label: string;
  unit: string;
  decimals: number;
  /** which side of usual is the worse one */
  worse: 'high' | 'low' | 'either';
}

export const START_FEATURES: readonly FeatureSpec[] = [
  { id: 'lightOff_s', label: 'Light-off', unit: 's', decimals: 1, worse: 'high' },
  { id: 'peak_C', label: 'Peak temperature', unit: '°C', decimals: 0, worse: 'high' },
  { id: 'rotor_s', label: 'Rotor turning', unit: 's', decimals: 1, worse: 'high' },
  { id: 'oil_s', label: 'Oil pressure', unit: 's', decimals: 1, worse: 'high' },
  { id: 'selfSustaining_s', label: 'To self-sustaining', unit: 's', decimals: 1, worse: 'high' },
  { id: 'idle_s', label: 'To idle', unit: 's', decimals: 1, worse: 'high' },
  { id: 'voltsBefore_V', label: 'Volts before', unit: 'V', decimals: 1, worse: 'low' },
  { id: 'voltsDip_V', label: 'Volts dip', unit: 'V', decimals: 1, worse: 'low' },
  { id: 'starterMax_A', label: 'Starter current', unit: 'A', decimals: 0, worse: 'either' },
];

/** The figures of one start. Times count from the starter; a moment that never came is null. */
export function featuresOf(record: StartRecord): Record<string, number | null> {
  const since = (at_s: number): number | null => known(at_s - record.starterAt_s);
  return {
    lightOff_s: since(record.lightAt_s),
    peak_C: known(record.peak_C),
    rotor_s: since(record.rotorAt_s),
    oil_s: since(record.oilAt_s),
    selfSustaining_s: since(record.selfSustainingAt_s),
    idle_s: since(record.idleAt_s),
    voltsBefore_V: known(record.voltsBefore_V),
    voltsDip_V: known(record.voltsMin_V),
    starterMax_A: known(record.starterMax_A),
    residual_C: known(record.residual_C),
    outsideAir_C: known(record.outsideAir_C),
    pressureAltitude_ft: known(record.pressureAltitude_ft),
    tailwind_kt: known(record.tailwind_kt),
    starterAt_s: known(record.starterAt_s),
    idleAt_s: known(record.idleAt_s),
  };
}

const known = (value: number): number | null => (Number.isFinite(value) ? value : null);
