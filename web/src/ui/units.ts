import type { RoundDirection } from '@rouse/core/quantity';
import { useMemo } from 'react';
import { useAppSelector } from '../app/store.ts';
import { sayFigure, UNIT_SIGNS, type UnitKind, type Units } from './figures.ts';

export interface UnitsOfPerson {
  units: Units;
  show: (value: number, kind: UnitKind, direction?: RoundDirection) => string;
  sign: (kind: UnitKind) => string;
}

/** The units that this person likes, and figures said in them. */
export function useUnits(): UnitsOfPerson {
  const units = useAppSelector((s) => s.settings.units);
  return useMemo(
    () => ({
      units,
      show: (value, kind, direction) => sayFigure(value, kind, units, direction),
      sign: (kind) => UNIT_SIGNS[units[kind]],
    }),
    [units],
  );
}
