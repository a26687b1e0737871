import { Refused } from '../quantity/index.ts';
import { quantile } from '../watch/index.ts';

type Range = [number, number];

export interface ExpectedStart {
  /** 80 % of the tail's starts near this temperature */
  dip_V: Range | null;
  /** null where nothing measures it: a piston engine has no peak */
  peak_C: Range | null;
  light_s: Range | null;
  idle_s: Range | null;
  starts: number;
}

/** Starts count when the air was this near, K. */
const NEAR_K = 6;
const ENOUGH = 5;

/** What the next start should look like, from this tail's own past near this temperature. @throws Refused INSUFFICIENT_DATA */
export function expectedStart(
  starts: readonly Readonly<Record<string, number | null>>[],
  oat_C: number,
): ExpectedStart {
  const near = starts.filter((s) => {
    const t = s['outsideAir_C'];
    return typeof t === 'number' && Math.abs(t - oat_C) <= NEAR_K;
  });
  if (near.length < ENOUGH) throw new Refused('INSUFFICIENT_DATA', String(near.length));
  const range = (id: string): Range | null => {
    const values = near
      .map((s) => s[id])
      .filter((v): v is number => typeof v === 'number')
      .sort((a, b) => a - b);
    if (values.length < ENOUGH) return null;
    return [quantile(values, 0.1), quantile(values, 0.9)];
  };
  return {
    dip_V: range('voltsDip_V'),
    peak_C: range('peak_C'),
    light_s: range('lightOff_s'),
    idle_s: range('idle_s'),
    starts: near.length,
  };
}
