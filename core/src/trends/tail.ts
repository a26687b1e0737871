import type { TypeFile } from '../aircraft/index.ts';
import { batteryResistance, type PastCheck } from '../health/index.ts';
import { attempt, isRefusal } from '../quantity/index.ts';
import { type Finding, findingsOf } from './cause.ts';
import { type Circumstance, type Correction, correctForDay, type DayOfPoint } from './correct.ts';
import { judge, type Judged } from './judge.ts';
import { type Maintenance, type Sign, signsOf } from './sign.ts';

/** One start of a tail, as it was kept. */
export interface TrendStart {
  run: string;
  /** ISO 8601 */
  at: string;
  watch: string;
  attempt: number;
  good: boolean;
  features: Readonly<Record<string, number | null>>;
}

export interface TrendCheck extends PastCheck {
  run: string;
  at: string;
}

export interface MaintenanceEvent {
  id: string;
  at: string;
  kind: Maintenance;
  words: string;
  by: string;
}

/** Everything that trends of one tail are made of; order does not matter. */
export interface TailRecord {
  starts: readonly TrendStart[];
  checks: readonly TrendCheck[];
  events: readonly MaintenanceEvent[];
  /** runs that somebody left out, with a reason */
  leftOut: ReadonlySet<string>;
}

export interface TrendPoint {
  run: string;
  at: string;
  /** as it was read */
  raw: number;
  /** what it would have been on the reference day */
  value: number;
  day: DayOfPoint;
  leftOut: boolean;
}

export interface SignTrend {
  sign: Sign;
  /** oldest first */
  points: TrendPoint[];
  corrections: Correction[];
  /** maintenance that this sign begins anew after */
  renewed: MaintenanceEvent[];
  /** index of the first point since the last of it */
  segment: number;
  judged: Judged;
}

export interface TailTrends {
  signs: SignTrend[];
  findings: Finding[];
}

const UNKNOWN_DAY: DayOfPoint = {
  outsideAir_C: null,
  pressureAltitude_ft: null,
  tailwind_kt: null,
  residual_C: null,
  crankVolts_V: null,
};

/** What the past of one tail shows: every sign corrected and judged, and what those that move mean together. */
export function trendsOf(type: TypeFile, record: TailRecord): TailTrends {
  const starts = record.starts.filter((s) => s.good).toSorted((a, b) => a.at.localeCompare(b.at) || a.attempt - b.attempt);
  const signs = signsOf(type).map((sign) => signTrend(sign, pointsOf(type, sign, starts, record), record.events));
  return { signs, findings: findingsOf(signs.filter((s) => s.judged.course === 'worse')) };
} // oxfmt-ignore

const CIRCUMSTANCES_OF: Readonly<Record<Sign['source']['of'], readonly Circumstance[]>> = {
  start: ['outsideAir_C', 'crankVolts_V', 'residual_C', 'tailwind_kt', 'pressureAltitude_ft'],
  battery: ['outsideAir_C', 'residual_C'],
  check: ['outsideAir_C'],
};

type Uncorrected = Omit<TrendPoint, 'value'>;

function signTrend(sign: Sign, raw: readonly Uncorrected[], events: readonly MaintenanceEvent[]): SignTrend {
  const renewed = events.filter((e) => sign.renewedBy.includes(e.kind)).toSorted((a, b) => a.at.localeCompare(b.at));
  const used = raw.filter((p) => !p.leftOut);
  const begins = [0, ...renewed.map((e) => used.findIndex((p) => p.at >= e.at)).map((i) => (i < 0 ? used.length : i))];
  const segments = [...new Set(begins.filter((i) => i === 0 || i < used.length))];
  const nothingSince = begins.at(-1)! >= used.length && used.length > 0;
  const { values, corrections, ...moves } = correctForDay(used.map((p) => p.raw), used.map((p) => p.day), CIRCUMSTANCES_OF[sign.source.of], segments); // oxfmt-ignore
  const from = nothingSince ? used.length : segments.at(-1)!;
  const off = (p: Uncorrected): number =>
    corrections.reduce((sum, c) => {
      const x = p.day[c.circumstance];
      return sum + (x === null ? 0 : c.slope * (x - c.reference));
    }, 0);
  const first = used[from];
  return {
    sign,
    points: raw.map((p) => ({ ...p, value: p.raw - off(p) })),
    corrections,
    renewed,
    segment: first ? raw.indexOf(first) : raw.length,
    judged: judge(sign, values.slice(from), moves),
  };
}

function pointsOf(type: TypeFile, { source }: Sign, starts: readonly TrendStart[], record: TailRecord): Uncorrected[] {
  const point = (run: string, at: string, raw: number | null, day: DayOfPoint): Uncorrected[] =>
    raw === null || !Number.isFinite(raw) ? [] : [{ run, at, raw, day, leftOut: record.leftOut.has(run) }];
  if (source.of === 'start')
    return starts
      .filter((s) => s.watch === source.watch)
      .flatMap((s) => point(s.run, s.at, s.features[source.feature] ?? null, dayOf(s)));
  const firsts = firstOfRuns(starts);
  if (source.of === 'battery')
    return [...firsts.values()].flatMap((s) => {
      const value = source.feature === 'voltsDip_V' ? (s.features['voltsDip_V'] ?? null) : resistanceOf(type, s);
      return point(s.run, s.at, value, dayOf(s));
    });
  return record.checks
    .filter((c) => c.check === source.check)
    .toSorted((a, b) => a.at.localeCompare(b.at))
    .flatMap((c) => {
      const begun = firsts.get(c.run);
      const value = c.figures.find((f) => f.id === source.figure)?.value ?? null;
      return point(c.run, c.at, value, begun ? dayOf(begun) : UNKNOWN_DAY);
    });
}

/** The start of each run that the battery had to make alone: its first. */
function firstOfRuns(starts: readonly TrendStart[]): Map<string, TrendStart> {
  const firsts = new Map<string, TrendStart>();
  const at = (s: TrendStart): number => s.features['starterAt_s'] ?? Infinity;
  for (const s of starts) {
    const before = firsts.get(s.run);
    if (!before || at(s) < at(before)) firsts.set(s.run, s);
  }
  return firsts;
}

/** Of the battery at its reference temperature, mΩ; null where the start does not tell. The air's stands for its own. */
function resistanceOf({ thermal }: TypeFile, { features }: TrendStart): number | null {
  if (!thermal) return null;
  const read = attempt(() =>
    batteryResistance(
      { battery: thermal.battery },
      {
        v_before: features['voltsBefore_V'] ?? NaN,
        v_crank: features['voltsDip_V'] ?? NaN,
        i_crank_A: features['starterMax_A'] ?? NaN,
        temp_C: features['outsideAir_C'] ?? NaN,
      },
    ),
  );
  return isRefusal(read) ? null : read.r_battery_ref_mohm;
}

function dayOf({ features }: TrendStart): DayOfPoint {
  const of = (id: string): number | null => features[id] ?? null;
  return {
    outsideAir_C: of('outsideAir_C'),
    pressureAltitude_ft: of('pressureAltitude_ft'),
    tailwind_kt: of('tailwind_kt'),
    residual_C: of('residual_C'),
    crankVolts_V: of('voltsDip_V'),
  };
}
