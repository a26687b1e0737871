import { pow } from './elementary.ts';
import { KELVIN, KNOT_M_S, P_STD_PA, R_AIR } from './physics.ts';

export interface EnvironmentInput {
  oat_c: number;
  pa_m: number;
  /** component along the nose, tailwind negative */
  headwind_kt: number;
  /** multiplier 0…1 on hot-gas re-ingestion */
  recirc: number;
}

export interface Environment {
  T_oat: number;
  p_a: number;
  rho: number;
  wind_m_s: number;
  tail_m_s: number;
  p_in: number;
  p_ex: number;
}

/** Air around the aircraft: static pressure by altitude, ram and exhaust back-pressure by wind. @source docs/physics.md 5 */
export function environmentOf(input: EnvironmentInput, exhaustWindCoeff: number, into: Environment): void {
  into.T_oat = input.oat_c + KELVIN;
  into.p_a = P_STD_PA * pow(1 - 2.25577e-5 * input.pa_m, 5.25588);
  into.rho = into.p_a / (R_AIR * into.T_oat);
  const w = input.headwind_kt * KNOT_M_S;
  const qw = 0.5 * into.rho * w * w;
  into.wind_m_s = w;
  into.tail_m_s = Math.max(0, -w);
  into.p_in = w > 0 ? into.p_a + 0.5 * qw : into.p_a;
  into.p_ex = w < 0 ? into.p_a + exhaustWindCoeff * qw : into.p_a;
}
