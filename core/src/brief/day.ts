import { pressureAltitude } from '../atmosphere/index.ts';
import { chartAir } from '../procedure/index.ts';
import type { Wind } from '../weather/index.ts';
import { type Figure, figure, known, need } from './figure.ts';
import type { BriefInput } from './input-schema.ts';
import type { BriefContext } from './input.ts';

/** What every figure of a brief is worked out from. */
export interface Day {
  input: BriefInput;
  context: BriefContext;
  wind: Wind | null;
  /** of the nose; its heading may be missing, and is asked for where it is needed */
  facing: { heading_deg: number; heading_ref: 'mag'; wind_ref: 'true'; variation_E_deg: number };
  pa_ft: Figure<number>;
  /** to be used inside `inAir` only */
  air: { pa_ft: number; oat_C: number; bleed: BriefInput['bleed'] };
  /** the same air as the power charts take it */
  charted: Day['air'];
  /** A figure that wants pressure and temperature. */
  inAir: <T>(calculate: () => T) => Figure<T>;
}

export function windOf(input: BriefInput): Wind | null {
  const { direction_deg: dir_deg, from_deg, to_deg, speed_kt, gust_kt } = input.wind;
  if (speed_kt === null) return null;
  const kind = speed_kt === 0 ? 'calm' : dir_deg === null ? 'variable' : 'steady';
  return { kind, dir_deg, from_deg, to_deg, speed_kt, gust_kt, at_least: false, unit: 'KT' };
}

export function dayOf(input: BriefInput, context: BriefContext): Day {
  const { type, site } = context;
  const pa_ft = figure(() => pressureAltitude({ elev_ft: site.elev_ft, qnh_hPa: input.qnh_hPa }).pa_ft);
  const air = { pa_ft: known(pa_ft)!, oat_C: input.oat_C!, bleed: input.bleed };
  return {
    input,
    context,
    wind: windOf(input),
    facing: {
      heading_deg: input.heading_deg!,
      heading_ref: 'mag',
      wind_ref: 'true',
      variation_E_deg: site.variation_E_deg,
    },
    pa_ft,
    air,
    charted: chartAir(type, air),
    inAir: (calculate) =>
      figure(() => {
        need(pa_ft, 'pa_ft');
        need(input.oat_C, 'oat_C');
        return calculate();
      }),
  };
}
