import { airRatios, K0, T0_K } from '../atmosphere/index.ts';
import { needNumber, needOption, numberOr, Refused, roundStep } from '../quantity/index.ts';
import type { Air, EnginePower, PoweredAircraft } from './model.ts';

export type PowerLimiter = 'TORQUE' | 'TEMPERATURE' | 'NG';

export interface PowerAvailable {
  P_torque_kW: number;
  P_temp_kW: number;
  P_ng_kW: number;
  /** of one engine */
  P_kW: number;
  limiter: PowerLimiter;
  /** at the compressor, after the inlet's losses */
  delta: number;
  theta: number;
  /** one for a one-engine rating */
  engines: number;
  P_total_kW: number;
  torque_limit_pct: number;
  display: { torque_limit_pct: number };
}

/** The referred power curve: below its domain refused, above held flat. */
function referred(c: readonly [number, number], domain: readonly [number, number], x: number, field: string): number {
  if (x < domain[0]) throw new Refused('OUT_OF_DOMAIN', field);
  const d = Math.min(x, domain[1]) - 1;
  return 1 + c[0] * d + c[1] * d ** 2;
}

/** @throws Refused UNKNOWN_RATING, BAD_OPTION for the bleed, OUT_OF_DOMAIN */
export function powerAvailable(aircraft: PoweredAircraft, input: Air & { rating: string }): PowerAvailable {
  const { engine } = aircraft;
  const rating = Object.entries(engine.ratings).find(([id]) => id === input.rating)?.[1];
  if (!rating) throw new Refused(input.rating === undefined ? 'MISSING' : 'UNKNOWN_RATING', 'rating');
  const bleed = needOption(input.bleed ?? 'none', Object.keys(engine.bleed_loss), 'bleed');
  const pa_ft = needNumber(input.pa_ft, 'pa_ft', -1000, 20_000, 'OUT_OF_DOMAIN');
  const oat_C = needNumber(input.oat_C, 'oat_C', -45, 50, 'OUT_OF_DOMAIN');
  const nr = numberOr(input.nr_frac, 1, 'nr_frac', 0.95, 1.05);
  return limitedPower(engine, rating, rating.kind === 'OEI' ? 1 : aircraft.engines, {
    pa_ft,
    oat_C,
    nr,
    bleedLoss: engine.bleed_loss[bleed]!,
  });
}

/** The three limiters at checked conditions. */
export function limitedPower(
  engine: EnginePower,
  rating: NonNullable<EnginePower['ratings']['TOP']>,
  engines: number,
  at: { pa_ft: number; oat_C: number; nr: number; bleedLoss: number },
): PowerAvailable {
  const air = airRatios(at);
  const delta = air.delta * (1 - engine.inlet_ploss);
  const theta = (at.oat_C + K0 + engine.inlet_rise_K) / T0_K;
  const scale = delta * Math.sqrt(theta) * (1 - engine.install_loss) * (1 - at.bleedLoss);
  const hot = ((rating.tot_C + K0) / theta - (engine.wear?.tot_C ?? 0)) / engine.tref_K;
  const fast = (rating.ng_pct / Math.sqrt(theta) - (engine.wear?.ng_pct ?? 0)) / engine.ngref_pct;
  const P_temp_kW = engine.pref_temp_kW * scale * referred(engine.ft, engine.ft_domain, hot, 'tot_C');
  const P_ng_kW = engine.pref_ng_kW * scale * referred(engine.fn, engine.fn_domain, fast, 'ng_pct');
  const P_torque_kW = (rating.torque_pct / 100) * engine.p100_kW * at.nr;
  const P_kW = Math.min(P_torque_kW, P_temp_kW, P_ng_kW);
  const torque_limit_pct = (100 * P_kW) / (engine.p100_kW * at.nr);
  return {
    P_torque_kW,
    P_temp_kW,
    P_ng_kW,
    P_kW,
    limiter: P_kW === P_torque_kW ? 'TORQUE' : P_kW === P_temp_kW ? 'TEMPERATURE' : 'NG',
    delta,
    theta,
    engines,
    P_total_kW: engines * P_kW,
    torque_limit_pct,
    display: { torque_limit_pct: roundStep(torque_limit_pct, 0.1, 'floor') },
  };
}
