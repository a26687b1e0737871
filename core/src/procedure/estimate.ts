import { type ChannelTest, type Condition, holds } from '../aircraft/index.ts';

export interface WaitEstimate {
  /** seconds until the condition is met, and the range that the spread of the trend leaves */
  seconds: number;
  low: number;
  high: number;
}

const ENOUGH_SAMPLES = 10;

/**
 * How long a wait on one channel still takes, from the straight line through its last readings.
 * @param t_s times of the readings, ascending; @param values the readings, NaN where lost
 * @returns null when the channel does not move towards its target, or too little is known
 */
export function estimateWait(
  condition: Condition,
  t_s: readonly number[],
  values: readonly number[],
): WaitEstimate | null {
  if (!('channel' in condition)) return null;
  const target = targetOf(condition);
  const known = values.map((v, i) => [t_s[i]!, v] as const).filter(([, v]) => !Number.isNaN(v));
  const last = known[known.length - 1];
  if (!last || target === null) return null;
  const gap = target - last[1];
  if (holds(condition, last[1]) === true) return { seconds: 0, low: 0, high: 0 };
  if (known.length < ENOUGH_SAMPLES) return null;
  const n = known.length;
  const meanT = known.reduce((s, [t]) => s + t, 0) / n;
  const meanV = known.reduce((s, [, v]) => s + v, 0) / n;
  let stt = 0;
  let stv = 0;
  for (const [t, v] of known) {
    stt += (t - meanT) ** 2;
    stv += (t - meanT) * (v - meanV);
  }
  if (stt === 0) return null;
  const slope = stv / stt;
  if (slope * gap <= 0 || Math.abs(slope) < 1e-4) return null;
  const residual = known.reduce((s, [t, v]) => s + (v - meanV - slope * (t - meanT)) ** 2, 0);
  const spread = Math.sqrt(residual / Math.max(1, n - 2) / stt);
  const fastest = gap / (slope + Math.sign(slope) * 2 * spread);
  const slowest = Math.abs(slope) > 2 * spread ? gap / (slope - Math.sign(slope) * 2 * spread) : Infinity;
  return { seconds: gap / slope, low: fastest, high: slowest };
}

function targetOf(test: ChannelTest): number | null {
  if ('atLeast' in test) return test.atLeast;
  if ('atMost' in test) return test.atMost;
  if ('above' in test) return test.above;
  if ('below' in test) return test.below;
  return 'between' in test ? test.between[0] : null;
}
