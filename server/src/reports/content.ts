import { bandEdge, bandWords, type TypeFile } from '@rouse/core/aircraft';
import { type Entry, legSpans, reduceRun, sayClock } from '@rouse/core/procedure';
import { columnOf, rowAt, type Trace } from '@rouse/core/trace';
import type { Block, Chart } from './block.ts';

/** Enough points for a line across a page; each keeps the extremes of its stretch. */
const POINTS = 600;

export const whenWords = (at: string): string => `${at.slice(0, 10)} ${at.slice(11, 16)} UTC`;
export const hoursWords = (s: number): string => `${(s / 3600).toFixed(2)} h`;

/** Values of one channel over a stretch of time, thinned so that no peak is lost. */
function pointsOf(trace: Trace, channel: string, from_s: number, to_s: number): [number, number][] {
  const values = columnOf(trace, channel);
  const [a, b] = [rowAt(trace, from_s), rowAt(trace, to_s + 1e-9)];
  const step = Math.max(1, Math.ceil((2 * (b - a)) / POINTS));
  const out: [number, number][] = [];
  for (let i = a; i < b; i += step) {
    let [low, high] = [i, i];
    for (let k = i; k < Math.min(b, i + step); k++) {
      if (Number.isNaN(values[k]!)) continue;
      if (!(values[k]! >= values[low]!)) low = k;
      if (!(values[k]! <= values[high]!)) high = k;
    }
    for (const k of low <= high ? [low, high] : [high, low])
      if (out.length === 0 || out[out.length - 1]![0] !== trace.t_s[k]!) out.push([trace.t_s[k]!, values[k]!]);
  }
  return out;
}

/** Round ticks over a range. */
export function ticksOf(from: number, to: number, about = 5): number[] {
  const span = to - from || 1;
  const raw = span / about;
  const power = 10 ** Math.floor(Math.log10(raw));
  const step = power * ([1, 2, 5, 10].find((k) => k * power >= raw) ?? 10);
  const ticks: number[] = [];
  for (let v = Math.ceil(from / step) * step; v <= to + 1e-9; v += step) ticks.push(Math.round(v * 1000) / 1000);
  return ticks;
}

/** One channel over a stretch of a run, with the limits of the phases that it passed. */
export function stripOf(
  type: TypeFile,
  trace: Trace,
  channel: string,
  span: { from_s: number; to_s: number; phases?: readonly string[]; marks?: Chart['marks'] },
): Block[] {
  const found = type.channels.find((c) => c.id === channel);
  if (!found) return [];
  const points = pointsOf(trace, channel, span.from_s, span.to_s);
  const known = points.map(([, v]) => v).filter((v) => !Number.isNaN(v));
  if (known.length === 0) return [];
  const limits = type.limits
    .filter((l) => l.channel === channel && (!span.phases || l.phases.some((p) => span.phases!.includes(p))))
    .flatMap((l) => l.bands)
    .map((band) => ({ at: bandEdge(band), side: 'above' in band ? ('above' as const) : ('below' as const), words: bandWords(band, found.unit), never: band.forSeconds === 0 })); // oxfmt-ignore
  const high = Math.max(...known, ...limits.filter((l) => l.side === 'above').map((l) => l.at));
  const low = Math.min(...known, ...limits.filter((l) => l.side === 'below').map((l) => l.at));
  const room = 0.06 * (high - low || 1);
  const [from, to] = [low - room, high + room];
  return [
    {
      kind: 'chart',
      chart: {
        title: `${found.label}, ${found.unit}`,
        label: `${found.label} from ${sayClock(span.from_s)} to ${sayClock(span.to_s)}: between ${Math.min(...known).toFixed(found.decimals)} and ${Math.max(...known).toFixed(found.decimals)} ${found.unit}`,
        x: { from: span.from_s, to: span.to_s, words: sayClock, ticks: ticksOf(span.from_s, span.to_s, 8) },
        y: { from, to, unit: found.unit, ticks: ticksOf(from, to) },
        lines: [{ words: found.label, points }],
        limits,
        marks: span.marks ?? [],
      },
    },
  ];
}

/** The legs of a run with how long each took. */
export function legRows(type: TypeFile, entries: readonly Entry[]): string[][] {
  const end_s = entries.findLast((e) => e.kind !== 'note')?.t ?? 0;
  return legSpans(type, reduceRun(entries), end_s).map((l) => [l.label, sayClock(l.from_s), sayClock(l.to_s), sayClock(l.to_s - l.from_s)]); // oxfmt-ignore
}
