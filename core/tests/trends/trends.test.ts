import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { NormalSource } from '@rouse/core/simulator';
import {
  type MaintenanceEvent,
  SPEAKS_FROM,
  signsOf,
  type TailRecord,
  type TrendStart,
  trendsOf,
} from '@rouse/core/trends';
import { fleet, typeOf } from '../fleet.ts';

const S7 = typeOf('S7');
const DAY_MS = 86_400_000;
const FIRST = Date.UTC(2025, 0, 3);

type Shape = (i: number, features: Record<string, number>) => Record<string, number | null>;

/** Starts of a healthy S7 through the seasons, with the noise of its gauges; what is asked for is put on top. */
function yearOf(count: number, shape: Shape = (_, f) => f, seed = 1): TrendStart[] {
  const chance = new NormalSource(seed);
  return Array.from({ length: count }, (_, i) => {
    const outsideAir_C = 9 - 7 * Math.cos((2 * Math.PI * i) / count) + 2 * chance.normal();
    const voltsDip_V = 17.8 + 0.09 * outsideAir_C + 0.08 * chance.normal();
    const features = {
      outsideAir_C,
      voltsDip_V,
      residual_C: outsideAir_C + (chance.uniform() < 0.3 ? 40 + 20 * chance.uniform() : 0),
      pressureAltitude_ft: 60 + 100 * chance.normal(),
      tailwind_kt: 5 * chance.normal(),
      peak_C: 660 + 1.6 * outsideAir_C - 12 * (voltsDip_V - 18) + 4 * chance.normal(),
      lightOff_s: 4.6 + 0.05 * chance.normal(),
      idle_s: 28 + 0.1 * chance.normal(),
      voltsBefore_V: 25.2,
      starterMax_A: 900,
      starterAt_s: 120,
    };
    const at = new Date(FIRST + (i * 365 * DAY_MS) / count).toISOString();
    return { run: `run-${String(i).padStart(3, '0')}`, at, watch: 'engine-1-start', attempt: 1, good: true, features: shape(i, features) };
  });
} // oxfmt-ignore

const recordOf = (starts: readonly TrendStart[], more: Partial<TailRecord> = {}): TailRecord => ({ starts, checks: [], events: [], leftOut: new Set(), ...more }); // oxfmt-ignore
const signOf = (record: TailRecord, id: string) => trendsOf(S7, record).signs.find((s) => s.sign.id === id)!;
const PEAK = 'engine-1-start/peak_C';

describe('what the day explains is taken off', () => {
  test('the slope of the air and of the volts is found by the tail’s own starts', () => {
    const { corrections, points } = signOf(recordOf(yearOf(120)), PEAK);
    const slope = (of: string): number => corrections.find((c) => c.circumstance === of)!.slope;
    expect(slope('outsideAir_C')).toBeCloseTo(1.6, 0);
    expect(slope('crankVolts_V')).toBeGreaterThan(-16);
    expect(slope('crankVolts_V')).toBeLessThan(-8);
    const spread = (of: 'raw' | 'value'): number => Math.max(...points.map((p) => p[of])) - Math.min(...points.map((p) => p[of]));
    expect(spread('value')).toBeLessThan(spread('raw'));
  }); // oxfmt-ignore

  test('a season is no wear: through every spring and autumn nothing is found', () => {
    const starts = yearOf(140);
    for (let n = SPEAKS_FROM; n <= starts.length; n += 7)
      expect(trendsOf(S7, recordOf(starts.slice(0, n))).findings, `after ${n} starts`).toEqual([]);
  });

  test('a circumstance that nobody knows takes nothing off', () => {
    const starts = yearOf(60, (_, f) => ({ ...f, tailwind_kt: null, outsideAir_C: null }));
    const known = signOf(recordOf(starts), PEAK).corrections.map((c) => c.circumstance);
    expect(known).not.toContain('tailwind_kt');
    expect(known).not.toContain('outsideAir_C');
  });
});

describe('a drift', () => {
  const hotter =
    (per: number): Shape =>
    (i, f) => ({ ...f, peak_C: f['peak_C']! + Math.max(0, i - 40) * per });

  test('of a degree a start is found long before its limit, with where it leads', () => {
    const found = signOf(recordOf(yearOf(80, hotter(1))), PEAK);
    expect(found.judged.course).toBe('worse');
    expect(found.judged.slope).toBeGreaterThan(0.5);
    const { limit, forecast } = found.judged.ahead!;
    expect(limit.at).toBe(770);
    expect(forecast.lower!).toBeLessThan(forecast.point!);
    expect(forecast.point!).toBeGreaterThan(20);
    expect(forecast.point!).toBeLessThan(120);
  });

  test('to the better side is said and is no finding', () => {
    const record = recordOf(yearOf(90, hotter(-0.8)));
    expect(signOf(record, PEAK).judged.course).toBe('better');
    expect(trendsOf(S7, record).findings).toEqual([]);
  });

  test('too small to be worth a look is none, however sure it is', () => {
    const record = recordOf(yearOf(140, (i, f) => ({ ...f, lightOff_s: f['lightOff_s']! + 0.004 * i })));
    expect(signOf(record, 'engine-1-start/lightOff_s').judged.course).toBe('steady');
  });

  test('nothing is said before twelve starts, whatever they show', () => {
    const wild = yearOf(SPEAKS_FROM - 1, (i, f) => ({ ...f, peak_C: 600 + 30 * i }));
    const { judged } = signOf(recordOf(wild), PEAK);
    expect(judged).toMatchObject({ course: 'too-few', usual: null, ahead: null });
  });
});

describe('one cause, one finding', () => {
  const dying: Shape = (i, f) => {
    const less = 0.04 * Math.max(0, i - 25);
    return { ...f, voltsDip_V: f['voltsDip_V']! - less, peak_C: f['peak_C']! + 6 * less };
  };

  test('volts, resistance and heat that move together are the battery, once', () => {
    const { findings } = trendsOf(S7, recordOf(yearOf(90, dying)));
    expect(findings).toHaveLength(1);
    expect(findings[0]!.cause.id).toMatch(/^battery/);
    expect(findings[0]!.signs).toContain('battery/resistance');
    expect(findings[0]!.cause.lookAt[0]!.what).toMatch(/Battery/);
  });

  test('a change of the battery begins anew: what was before is no drift any more', () => {
    const starts = yearOf(90, (i, f) => (i < 70 ? dying(i, f) : f) as Record<string, number>);
    const changed: MaintenanceEvent = { id: 'e', at: starts[70]!.at, kind: 'battery', words: 'changed', by: 'R. Vale' };
    const before = trendsOf(S7, recordOf(starts.slice(0, 70)));
    expect(before.findings).toHaveLength(1);
    const after = signOf(recordOf(starts, { events: [changed] }), 'battery/resistance');
    expect(after.segment).toBe(70);
    expect(after.judged.course).toBe('steady');
    expect(trendsOf(S7, recordOf(starts, { events: [changed] })).findings).toEqual([]);
    // right after it there is too little to say anything, and nothing of the old battery is said
    const atOnce = signOf(recordOf(starts.slice(0, 73), { events: [changed] }), 'battery/resistance');
    expect(atOnce.judged.course).toBe('too-few');
  });

  test('a wash lets the heat begin anew, and not the battery', () => {
    const starts = yearOf(60);
    const washed: MaintenanceEvent = { id: 'w', at: starts[30]!.at, kind: 'wash', words: 'washed', by: 'R. Vale' };
    expect(signOf(recordOf(starts, { events: [washed] }), PEAK).segment).toBe(30);
    expect(signOf(recordOf(starts, { events: [washed] }), 'battery/resistance').segment).toBe(0);
  });
});

test('a run that somebody left out is shown, and does not count', () => {
  const starts = yearOf(40, (i, f) => (i === 39 ? { ...f, peak_C: 900 } : f));
  const out = signOf(recordOf(starts, { leftOut: new Set(['run-039']) }), PEAK);
  expect(out.points.at(-1)).toMatchObject({ run: 'run-039', raw: 900, leftOut: true });
  const without = signOf(recordOf(starts.slice(0, 39)), PEAK);
  expect(out.judged).toEqual(without.judged);
});

test('the second engine says nothing of the battery: only the first start of a run does', () => {
  const H9 = typeOf('H9');
  const starts = yearOf(30).flatMap((s): TrendStart[] => [
    s,
    { ...s, watch: 'engine-2-start', features: { ...s.features, starterAt_s: 220, voltsDip_V: 22 } },
  ]);
  const volts = trendsOf(H9, recordOf(starts)).signs.find((s) => s.sign.id === 'battery/voltsDip_V')!;
  expect(volts.points).toHaveLength(30);
  expect(Math.max(...volts.points.map((p) => p.raw))).toBeLessThan(21);
});

test('every type has signs, each once, and every limit lies on the side that is worse', () => {
  for (const type of fleet) {
    const signs = signsOf(type);
    expect(signs.length, type.id).toBeGreaterThan(1);
    expect(new Set(signs.map((s) => s.id)).size, type.id).toBe(signs.length);
    const wrong = signs.filter(({ limits: [mild, severe], worse }) => mild && severe && (worse === 'low' ? severe.at > mild.at : severe.at < mild.at)); // oxfmt-ignore
    expect(wrong, type.id).toEqual([]);
  }
});

test('the order in which a record is read changes nothing', () => {
  const record = recordOf(yearOf(50));
  const straight = trendsOf(S7, record);
  fc.assert(
    fc.property(fc.shuffledSubarray([...record.starts], { minLength: 50, maxLength: 50 }), (starts) => {
      expect(trendsOf(S7, { ...record, starts })).toEqual(straight);
    }),
    { numRuns: 12 },
  );
});
