import { Refused } from '../quantity/index.ts';
import { quantile } from '../watch/index.ts';

export interface ExpectedStart {
  /** 80 % of the tail's starts near this temperature */
  dip_V: [number, number];
  peak_C: [number, number];
  light_s: [number, number];
  idle_s: [number, number];
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
  const range = (id: string): [number, number] => {
    const values = near
      .map((s) => s[id])
      .filter((v): v is number => typeof v === 'number')
      .sort((a, b) => a - b);
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
