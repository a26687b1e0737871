import type { SignTrend } from '@rouse/core/trends';
import { linearScale, type Scale } from '../../charts/scale.ts';

export interface SignScales {
  x: Scale;
  y: Scale;
}

/** Starts to come that a forecast is drawn over, for each start that was flown; as many at least. */
const AHEAD_SHARE = 0.9;
const LEAST_AHEAD = 40;

/** What a drawing of one sign shows: its values, its usual, and the limits that are not far out. */
function signDomain({ points, sign, judged }: SignTrend, whole: boolean): [number, number] {
  const values = points.filter((p) => !p.leftOut).map((p) => p.value);
  if (values.length === 0) return [0, 1];
  const own = [...values, ...(judged.usual ? [judged.usual.middle - 3 * judged.usual.sigma, judged.usual.middle + 3 * judged.usual.sigma] : [])]; // oxfmt-ignore
  let [low, high] = [Math.min(...own), Math.max(...own)];
  const span = high - low || 1;
  // a limit that is drawn must not press the values into a line
  for (const { at } of sign.limits) {
    if (!whole && (at > high + 1.2 * span || at < low - 1.2 * span)) continue;
    if (whole && (at > high + 4 * span || at < low - 4 * span)) continue;
    low = Math.min(low, at);
    high = Math.max(high, at);
  }
  const room = 0.12 * (high - low || 1);
  return [low - room, high + room];
}

/** Starts that the right edge of a drawing stands for. */
export const startsAhead = ({ points, judged }: SignTrend): number =>
  judged.ahead ? Math.max(LEAST_AHEAD, Math.round(AHEAD_SHARE * points.length)) : 0;

export function signScales(trend: SignTrend, box: { left: number; right: number; top: number; bottom: number }, ahead: number, whole: boolean): SignScales {
  const n = Math.max(2, trend.points.length);
  return {
    x: linearScale([0, n - 1 + ahead], [box.left, box.right]),
    y: linearScale(signDomain(trend, whole), [box.bottom, box.top]),
  };
} // oxfmt-ignore
