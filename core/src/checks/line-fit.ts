/** A value read off noisy readings. */
export interface LineFit {
  /** value at the asked time and its standard error */
  value: number;
  se: number;
}

/** A slope is followed only when it is surer than this many of its errors. */
const SURE = 3;

/**
 * The value of noisy readings at a time inside or just outside them: their mean where they are level, their line where
 * they drift.
 * @param t_s ascending; @param values NaN where lost, which are left out; @param at_s where the value is wanted
 * @returns null with fewer than five readings, or when more than a third of them are lost
 */
export function fitLine(t_s: readonly number[], values: readonly number[], at_s: number): LineFit | null {
  let n = 0;
  let meanT = 0;
  let meanV = 0;
  for (const [i, v] of values.entries()) {
    if (Number.isNaN(v)) continue;
    n++;
    meanT += t_s[i]!;
    meanV += v;
  }
  if (n < 5 || n < (2 / 3) * values.length) return null;
  meanT /= n;
  meanV /= n;
  let [stt, stv] = [0, 0];
  for (const [i, v] of values.entries()) {
    if (Number.isNaN(v)) continue;
    stt += (t_s[i]! - meanT) ** 2;
    stv += (t_s[i]! - meanT) * (v - meanV);
  }
  const slope = stv / stt;
  let [aboutLine, aboutMean] = [0, 0];
  for (const [i, v] of values.entries()) {
    if (Number.isNaN(v)) continue;
    aboutLine += (v - meanV - slope * (t_s[i]! - meanT)) ** 2;
    aboutMean += (v - meanV) ** 2;
  }
  const variance = aboutLine / (n - 2);
  const slopeSe = Math.sqrt(variance / stt);
  const level = Math.abs(slope) < SURE * slopeSe;
  const lever = level ? 0 : (at_s - meanT) ** 2 / stt;
  return {
    value: level ? meanV : meanV + slope * (at_s - meanT),
    se: Math.sqrt((level ? aboutMean / (n - 1) : variance) * (1 / n + lever)),
  };
}

/** Moving means over `over_s`, and the time of each; none where more than a third of its readings are lost. */
export function movingMeans(
  t_s: readonly number[],
  values: readonly number[],
  over_s: number,
): { t_s: number; mean: number }[] {
  const out: { t_s: number; mean: number }[] = [];
  let from = 0;
  let sum = 0;
  let known = 0;
  for (const [i, v] of values.entries()) {
    if (!Number.isNaN(v)) {
      sum += v;
      known++;
    }
    while (t_s[i]! - t_s[from]! > over_s + 1e-9) {
      const gone = values[from]!;
      if (!Number.isNaN(gone)) {
        sum -= gone;
        known--;
      }
      from++;
    }
    const held = i - from + 1;
    if (t_s[i]! - t_s[from]! >= 0.8 * over_s && known >= (2 / 3) * held)
      out.push({ t_s: (t_s[i]! + t_s[from]!) / 2, mean: sum / known });
  }
  return out;
}
