/** Turns a median absolute deviation into the spread of normal noise. */
const MAD_TO_SIGMA = 1.482602218505602;
/** Standard error of a median of normal values, over that of their mean. */
export const MEDIAN_EFFICIENCY = Math.sqrt(Math.PI / 2);

/** @returns the middle value, the mean of the two middle ones of an even number, NaN of none */
export function median(values: readonly number[]): number {
  const sorted = Float64Array.from(values).sort();
  const half = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[half]! : (sorted[half - 1]! + sorted[half]!) / 2;
}

/** Spread of values around their median, one sigma, that outliers do not move. */
export function spreadOf(values: readonly number[]): number {
  const middle = median(values);
  return MAD_TO_SIGMA * median(values.map((v) => Math.abs(v - middle)));
}
