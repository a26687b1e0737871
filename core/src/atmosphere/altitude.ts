import { convert, needNumber, numberOr, Refused, roundStep } from '../quantity/index.ts';
import { densityHeight_ft, FT_m, isa, isaInverse, K0, R_AIR, RHO0_kgm3, T0_K } from './standard.ts';

export interface PressureAltitude {
  pa_ft: number;
  pa_m: number;
  p_Pa: number;
  qnh_Pa: number;
  /** the rule of thumb of 30 ft a hectopascal, for comparison only */
  rule30_ft: number;
  rule30_error_ft: number;
  warnings: 'QNH_UNUSUAL'[];
  display: { pa_ft: number };
}

/**
 * Pressure altitude: elevation plus the standard height of the pressure setting, exact by the definition of QNH.
 * @param input one of `qnh_hPa` and `qnh_inHg`
 * @throws Refused MISSING, INCONSISTENT for both settings, OUT_OF_RANGE, OUT_OF_DOMAIN
 */
export function pressureAltitude(input: {
  elev_ft: number;
  qnh_hPa?: number | null | undefined;
  qnh_inHg?: number | null | undefined;
}): PressureAltitude {
  const elev_ft = needNumber(input.elev_ft, 'elev_ft', -2000, 30_000);
  const hPa = numberOr(input.qnh_hPa, null, 'qnh_hPa', 850, 1100);
  const inHg = numberOr(input.qnh_inHg, null, 'qnh_inHg', 25.1, 32.48);
  if (hPa !== null && inHg !== null) throw new Refused('INCONSISTENT', 'qnh');
  const qnh_hPa = hPa ?? (inHg === null ? null : convert(inHg, 'inHg', 'hPa'));
  if (qnh_hPa === null) throw new Refused('MISSING', 'qnh');
  const qnh_Pa = qnh_hPa * 100;
  const pa_ft = elev_ft + isaInverse(qnh_Pa).h_ft;
  const pa_m = pa_ft * FT_m;
  if (pa_m < -2000 || pa_m > 11_000) throw new Refused('OUT_OF_DOMAIN', 'elev_ft');
  const rule30_ft = elev_ft + 30 * (1013.25 - qnh_hPa);
  return {
    pa_ft,
    pa_m,
    p_Pa: isa(pa_m).p_Pa,
    qnh_Pa,
    rule30_ft,
    rule30_error_ft: rule30_ft - pa_ft,
    warnings: qnh_hPa < 940 || qnh_hPa > 1050 ? ['QNH_UNUSUAL'] : [],
    display: { pa_ft: roundStep(pa_ft, 10, 'ceil') },
  };
}

export interface AirRatios {
  delta: number;
  theta: number;
  sigma: number;
  p_Pa: number;
  rho_kgm3: number;
  isa_dev_C: number;
}

/** Pressure, temperature and density ratios of dry air at a pressure altitude. @throws Refused OUT_OF_DOMAIN */
export function airRatios(input: { pa_ft: number; oat_C: number }): AirRatios {
  const pa_ft = needNumber(input.pa_ft, 'pa_ft', -2000 / FT_m, 36_000, 'OUT_OF_DOMAIN');
  const oat_C = needNumber(input.oat_C, 'oat_C', -75, 60, 'OUT_OF_DOMAIN');
  const standard = isa(pa_ft * FT_m);
  const T_K = oat_C + K0;
  const rho_kgm3 = standard.p_Pa / (R_AIR * T_K);
  return {
    delta: standard.delta,
    theta: T_K / T0_K,
    sigma: rho_kgm3 / RHO0_kgm3,
    p_Pa: standard.p_Pa,
    rho_kgm3,
    isa_dev_C: T_K - standard.T_K,
  };
}

export interface DensityAltitude {
  /** dry when the dew point is too low to matter; saturated-assumed when it is unknown, which is the safe side */
  mode: 'humid' | 'saturated-assumed' | 'dry';
  rho_dry: number;
  da_dry_ft: number;
  rho: number;
  sigma: number;
  da_ft: number;
  vapour_Pa: number;
  virtual_K: number;
  rh_pct: number | null;
  warnings: ('DEW_POINT_UNKNOWN' | 'DEW_POINT_BELOW_RANGE')[];
  display: { da_ft: number };
}

const EPSILON = 0.62198;
const LOWEST_DEW_C = -45;

/** Saturation vapour pressure over water, hPa. @source docs/calculations.md, atmosphere */
function vapourPressure_hPa(t_C: number): number {
  return 6.112 * Math.exp((17.62 * t_C) / (243.12 + t_C));
}

/**
 * Density altitude of humid air. A missing dew point counts as saturated air: the higher, safer figure.
 * @throws Refused INCONSISTENT for a dew point above the temperature; OUT_OF_DOMAIN
 */
export function densityAltitude(input: {
  pa_ft: number;
  oat_C: number;
  dew_C?: number | null | undefined;
}): DensityAltitude {
  const pa_ft = needNumber(input.pa_ft, 'pa_ft', -2000 / FT_m, 20_000, 'OUT_OF_DOMAIN');
  const oat_C = needNumber(input.oat_C, 'oat_C', -60, 60, 'OUT_OF_DOMAIN');
  const given_C = numberOr(input.dew_C, null, 'dew_C');
  if (given_C !== null && given_C > oat_C) throw new Refused('INCONSISTENT', 'dew_C');
  const dew_C = given_C ?? oat_C;
  const p_Pa = isa(pa_ft * FT_m).p_Pa;
  const T_K = oat_C + K0;
  const rho_dry = p_Pa / (R_AIR * T_K);
  const dry = dew_C < LOWEST_DEW_C;
  const p_hPa = p_Pa / 100;
  const enhancement = 1.0016 + 3.15e-6 * p_hPa - 0.074 / p_hPa;
  const vapour_Pa = dry ? 0 : enhancement * vapourPressure_hPa(dew_C) * 100;
  const virtual_K = T_K / (1 - (vapour_Pa / p_Pa) * (1 - EPSILON));
  const rho = p_Pa / (R_AIR * virtual_K);
  const da_ft = densityHeight_ft(rho);
  return {
    mode: dry ? 'dry' : given_C === null ? 'saturated-assumed' : 'humid',
    rho_dry,
    da_dry_ft: densityHeight_ft(rho_dry),
    rho,
    sigma: rho / RHO0_kgm3,
    da_ft,
    vapour_Pa,
    virtual_K,
    rh_pct: given_C === null ? null : (100 * vapourPressure_hPa(dew_C)) / vapourPressure_hPa(oat_C),
    warnings: [
      ...(given_C === null ? (['DEW_POINT_UNKNOWN'] as const) : []),
      ...(dry ? (['DEW_POINT_BELOW_RANGE'] as const) : []),
    ],
    display: { da_ft: roundStep(da_ft, 10, 'ceil') },
  };
}

/** What an altimeter set to `setting_hPa` reads on the field, ft. @throws Refused as pressureAltitude */
export function altimeterReading_ft(input: { elev_ft: number; qnh_hPa: number; setting_hPa: number }): number {
  const { pa_ft } = pressureAltitude(input);
  return pa_ft - isaInverse(needNumber(input.setting_hPa, 'setting_hPa', 850, 1100) * 100).h_ft;
}
