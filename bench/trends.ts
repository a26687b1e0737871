import { FT_m } from '@rouse/core/atmosphere';
import { needWatched, type WatchedType } from '@rouse/core/aircraft';
import { flyPractice } from '@rouse/core/drill';
import { type Conditions, NormalSource } from '@rouse/core/simulator';
import { type TailRecord, type TrendCheck, trendsOf, type TrendStart } from '@rouse/core/trends';
import { types } from '../tests/skerry.ts';
import { weatherOn } from '../server/src/demo/year.ts';
import { type Line, many } from './measure.ts';

const SEED = 77;
const DAYS = 365;
const STARTS_A_YEAR = 300;
/** trends are looked at after so many more starts */
const LOOK_EVERY = 5;
const SPEAKS_FROM = 12;

/** One healthy day as it was flown: its air, and what it left. */
interface FlownDay {
  oat_C: number;
  features: Record<string, number | null>;
  figures: { check: string; figures: TrendCheck['figures'] }[];
}

/** What trends raise on healthy tails in a year, and how long before the limit they find a drift. */
export function* trends(): Generator<Line> {
  const type = needWatched(types.find((t) => t.id === 'S7')!);
  const days = flyDays(type, many(240, 24));
  yield falseAlarms(type, days, many(2000, 6));
  const tails = many(200, 3);
  yield lead(type, days, tails, 'a start peak that rises 1 °C a start', (i, v) => ({ ...v, peak_C: add(v['peak_C'], i) }), 70); // oxfmt-ignore
  // 25 starts a month; the volts fall with the resistance
  yield lead(type, days, tails, 'a battery that gains 0.3 mΩ a month', (i, v) => ({ ...v, voltsDip_V: add(v['voltsDip_V'], (-(0.3 / 25) * i * (v['starterMax_A'] ?? 900)) / 1000) }), 289); // oxfmt-ignore
}

const add = (value: number | null | undefined, more: number): number | null => (value == null ? null : value + more);

/** Healthy days of a year, each flown on the simulator with the noise of its sensors. */
function flyDays(type: WatchedType, count: number): FlownDay[] {
  const chance = new NormalSource(SEED);
  return Array.from({ length: count }, (_, i) => {
    const { conditions } = weatherOn((DAYS * i) / count, chance);
    const flown: Conditions = { ...conditions, batt_age: 1.1, mass_kg: 1600 };
    const run = flyPractice({ type, conditions: flown, faults: [], corridors: {}, seed: SEED + i, through: 'shut-down', limit_s: 1500 }); // oxfmt-ignore
    const start = run.starts.find((s) => s.good);
    return {
      oat_C: conditions.env?.oat_c ?? 15,
      features: {
        ...start?.features,
        pressureAltitude_ft: (conditions.env?.pa_m ?? 0) / FT_m,
        tailwind_kt: -(conditions.env?.headwind_kt ?? 0),
      } as FlownDay['features'],
      figures: run.entries.flatMap((e) => (e.kind === 'measured' ? [{ check: e.check, figures: e.figures }] : [])),
    };
  }).filter((d) => d.features['idle_s'] != null);
}

/** A year of one tail: for each of its days one that was flown in the same air. */
function yearOf(days: readonly FlownDay[], chance: NormalSource): TailRecord {
  const starts: TrendStart[] = [];
  const checks: TrendCheck[] = [];
  const byAir = days.toSorted((a, b) => a.oat_C - b.oat_C);
  for (let i = 0; i < STARTS_A_YEAR; i++) {
    const { conditions } = weatherOn((DAYS * i) / STARTS_A_YEAR, chance);
    const near = byAir.findIndex((d) => d.oat_C >= (conditions.env?.oat_c ?? 15));
    const at = Math.max(0, Math.min(byAir.length - 1, (near < 0 ? byAir.length : near) + Math.round(8 * (chance.uniform() - 0.5)))); // oxfmt-ignore
    const day = byAir[at]!;
    const when = new Date(Date.UTC(2025, 0, 1) + (DAYS * i * 86_400_000) / STARTS_A_YEAR).toISOString();
    const run = `run-${String(i).padStart(4, '0')}`;
    starts.push({ run, at: when, watch: 'engine-1-start', attempt: 1, good: true, features: day.features });
    for (const { check, figures } of day.figures) checks.push({ run, at: when, check, figures });
  }
  return { starts, checks, events: [], leftOut: new Set() };
}

const upTo = ({ starts, checks, ...rest }: TailRecord, n: number): TailRecord => {
  const kept = starts.slice(0, n);
  const last = kept.at(-1)!.at;
  return { ...rest, starts: kept, checks: checks.filter((c) => c.at <= last) };
};

function falseAlarms(type: WatchedType, days: readonly FlownDay[], tails: number): Line {
  const chance = new NormalSource(SEED + 1);
  let alarms = 0;
  const causes: Record<string, number> = {};
  for (let k = 0; k < tails; k++) {
    const year = yearOf(days, chance);
    let standing = new Set<string>();
    for (let n = SPEAKS_FROM; n <= STARTS_A_YEAR; n += many(LOOK_EVERY, 60)) {
      const found = new Set(trendsOf(type, upTo(year, n)).findings.map((f) => f.cause.id));
      for (const id of found)
        if (!standing.has(id)) {
          alarms++;
          causes[id] = (causes[id] ?? 0) + 1;
        }
      standing = found;
    }
  }
  return {
    name: `trends: false alarms of a whole page on ${tails} healthy tails, ${STARTS_A_YEAR} starts a year`,
    value: alarms / tails,
    unit: 'a year and tail',
    wanted: 'at most',
    target: 1,
    remark: Object.entries(causes).map(([id, n]) => `${id} ${n}`).join(', '), // oxfmt-ignore
  };
}

type Drift = (start: number, features: Record<string, number | null>) => Record<string, number | null>;

/** How many starts before the limit a drift is found, in the middle. */
function lead(type: WatchedType, days: readonly FlownDay[], tails: number, words: string, drift: Drift, limitAt: number): Line {
  const chance = new NormalSource(SEED + 2);
  const leads: number[] = [];
  const before = 40;
  for (let k = 0; k < tails; k++) {
    const year = yearOf(days, chance);
    const starts = year.starts.map((s, i) => ({ ...s, features: drift(Math.max(0, i - before), { ...s.features }) }));
    let foundAt = Infinity;
    for (let n = before; n <= STARTS_A_YEAR && foundAt === Infinity; n += 2)
      if (trendsOf(type, upTo({ ...year, starts }, n)).findings.length > 0) foundAt = n;
    leads.push(before + limitAt - foundAt);
  }
  leads.sort((a, b) => a - b);
  return { name: `trends: ${words}, starts before its limit that it is found`, value: leads[Math.floor(leads.length / 2)]!, unit: 'starts', wanted: 'at least', target: 20, remark: `of ${tails} tails, ${leads.filter((l) => l <= 0).length} not before the limit` }; // oxfmt-ignore
} // oxfmt-ignore
