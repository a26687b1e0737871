import { needNumber, Refused } from '../quantity/index.ts';

/** Constants of the standard atmosphere, geopotential heights. @source docs/calculations.md, atmosphere */
export const G0 = 9.80665;
export const R_AIR = 287.05287;
export const T0_K = 288.15;
const P0_Pa = 101_325;
export const FT_m = 0.3048;
const LAPSE_K_m = 0.0065;
const T11_K = 216.65;
const TROPOPAUSE_m = 11_000;
const GAMMA = 1.4;
const PRESSURE_EXPONENT = G0 / (LAPSE_K_m * R_AIR);
export const RHO0_kgm3 = P0_Pa / (R_AIR * T0_K);
const P11_Pa = P0_Pa * (T11_K / T0_K) ** PRESSURE_EXPONENT;
export const K0 = 273.15;
const LOWEST_m = -2000;
const HIGHEST_m = 20_000;

export interface StandardAir {
  T_K: number;
  p_Pa: number;
  rho_kgm3: number;
  a_mps: number;
  theta: number;
  delta: number;
  sigma: number;
}

/** The standard atmosphere at a height, -2000 to 20 000 m. @throws Refused OUT_OF_DOMAIN */
export function isa(h_m: number): StandardAir {
  needNumber(h_m, 'h_m', LOWEST_m, HIGHEST_m, 'OUT_OF_DOMAIN');
  const T_K = h_m <= TROPOPAUSE_m ? T0_K - LAPSE_K_m * h_m : T11_K;
  const p_Pa =
    h_m <= TROPOPAUSE_m
      ? P0_Pa * (T_K / T0_K) ** PRESSURE_EXPONENT
      : P11_Pa * Math.exp((-G0 * (h_m - TROPOPAUSE_m)) / (R_AIR * T11_K));
  const rho_kgm3 = p_Pa / (R_AIR * T_K);
  return {
    T_K,
    p_Pa,
    rho_kgm3,
    a_mps: Math.sqrt(GAMMA * R_AIR * T_K),
    theta: T_K / T0_K,
    delta: p_Pa / P0_Pa,
    sigma: rho_kgm3 / RHO0_kgm3,
  };
}

/** The height at which the standard atmosphere has this pressure. @throws Refused OUT_OF_DOMAIN */
export function isaInverse(p_Pa: number): { h_m: number; h_ft: number } {
  needNumber(p_Pa, 'p_Pa', Number.MIN_VALUE, Infinity, 'OUT_OF_DOMAIN');
  const h_m =
    p_Pa >= P11_Pa
      ? (T0_K / LAPSE_K_m) * (1 - (p_Pa / P0_Pa) ** (1 / PRESSURE_EXPONENT))
      : TROPOPAUSE_m + ((R_AIR * T11_K) / G0) * Math.log(P11_Pa / p_Pa);
  if (h_m < LOWEST_m - 1e-6 || h_m > HIGHEST_m + 1e-6) throw new Refused('OUT_OF_DOMAIN', 'p_Pa');
  return { h_m, h_ft: h_m / FT_m };
}

/** The height at which the standard atmosphere has this density, in the troposphere. */
export function densityHeight_ft(rho_kgm3: number): number {
  return ((T0_K / LAPSE_K_m) * (1 - (rho_kgm3 / RHO0_kgm3) ** (1 / (PRESSURE_EXPONENT - 1)))) / FT_m;
}
