import type { TurbineStart } from '../aircraft/index.ts';
import type { StartRecord } from './events.ts';

/** where the height is not known, an idle as high as this height gives is no fault, thousands of feet */
const UNKNOWN_KFT = 10;

/** Speeds that are idle on this day, %: a control without a governor of its own idles faster in thin air. */
export function idleWindow(
  { idle_pct, idleRise_pct_kft }: TurbineStart,
  { pressureAltitude_ft }: StartRecord,
): [number, number] {
  const kft = Number.isNaN(pressureAltitude_ft) ? UNKNOWN_KFT : Math.max(0, pressureAltitude_ft / 1000);
  return [idle_pct[0], idle_pct[1] + (idleRise_pct_kft ?? 0) * kft];
}
