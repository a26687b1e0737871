import { densityAltitude, pressureAltitude } from '@rouse/core/atmosphere';
import type { ReadReport } from '@rouse/core/brief';
import { attempt, isRefusal, roundStep } from '@rouse/core/quantity';

/** "1013 hPa", a dash where it is not known. */
export const altimeterSetting = (qnh_hPa: number | null | undefined): string => (qnh_hPa == null ? '–' : `${Math.round(qnh_hPa)} hPa`); // oxfmt-ignore

/** Density altitude of a site by its own report, ft, rounded up; a dash where it is not known. */
export function densityAltitudeAt(elev_ft: number, fields: ReadReport['fields'] | null): string {
  const { oat_C, dew_C, qnh_hPa } = fields ?? {};
  if (oat_C == null || qnh_hPa == null) return '–';
  const found = attempt(() => {
    const { pa_ft } = pressureAltitude({ elev_ft, qnh_hPa });
    return roundStep(densityAltitude({ pa_ft, oat_C, dew_C: dew_C ?? null }).da_ft, 10, 'ceil');
  });
  return isRefusal(found) ? '–' : `${String(found).replace('-', '−')} ft`;
}
