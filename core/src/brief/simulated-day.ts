import { isPiston, type StandInPreset, type WatchedType } from '../aircraft/index.ts';
import type { BriefRecord } from '../procedure/index.ts';
import { briefOf } from './brief.ts';
import type { BriefInput } from './input-schema.ts';
import { contextAlone, emptyBrief, NO_WIND } from './input.ts';

/** tanks of a simulated aircraft are this full */
const FUEL_SHARE = 0.6;
const FLIGHT_min = 30;
const NOSE_deg = 30;
const QNH_hPa = 1013;
/** damp of an ordinary day, K */
const SPREAD_K = 6;
const STANDARD_C = 15;

/**
 * The day and the load that a simulated aircraft stands in, as a person would enter them: calm, the air of its
 * conditions, the usual load.
 * @param now ISO 8601
 */
export function simulatedDay(type: WatchedType, preset: StandInPreset, now: string): Partial<BriefInput> {
  const env = (preset.env ?? {}) as Readonly<Record<string, unknown>>;
  const number = (key: string): number | null => (typeof env[key] === 'number' ? env[key] : null);
  const oat_C = number(isPiston(type.simulator) ? 'oat' : 'oat_c') ?? STANDARD_C;
  const { max_L } = type.loading.fuel;
  return {
    wind: { ...NO_WIND, direction_deg: NOSE_deg, speed_kt: 0 },
    oat_C,
    dew_C: number('dew') ?? oat_C - SPREAD_K,
    qnh_hPa: QNH_hPa,
    observedAt: now,
    heading_deg: NOSE_deg,
    fuel_kg: Math.round(FUEL_SHARE * max_L * type.loading.fuel_density_kgL),
    flight_min: FLIGHT_min,
  };
}

/** any moment: what is flown is the list, not the day */
const ANY_MOMENT = '2026-06-01T08:00:00.000Z';

/**
 * The brief of a simulated aircraft alone on its pad, as a run takes it.
 * @param differs choice to alternative, where it is not the usual one
 */
export function simulatedBrief(
  type: WatchedType,
  preset: StandInPreset,
  differs: Readonly<Record<string, string>> = {},
): BriefRecord {
  const ways = Object.fromEntries(Object.entries(differs).map(([choice, to]) => [choice, { to, reason: 'a trial' }]));
  const input = { ...emptyBrief(type), ...simulatedDay(type, preset, ANY_MOMENT), ways };
  const site = { name: '', elev_ft: 0, variation_E_deg: 0 };
  return briefOf(input, contextAlone({ type, tail: '', pad: '', site, now: ANY_MOMENT })).record;
}
