import { needWatched, type WatchedType } from '@rouse/core/aircraft';
import { FT_m } from '@rouse/core/atmosphere';
import { AS_NEW, errorOf, fitTwin, flyPractice, flyTwin, type RecordedStart, recordedStart, type TwinFigures, whatIfReal, withActChanged } from '@rouse/core/drill'; // oxfmt-ignore
import { columnOf, type Trace } from '@rouse/core/trace';
import { describe, expect, test } from 'vitest';
import { typeOf } from '../fleet.ts';

/** A start as it was really flown, noise and all, on an aircraft that differs from its type. */
function flown(type: WatchedType, aged: TwinFigures, seed: number): RecordedStart {
  const oat_c = -4 + ((seed * 7) % 27);
  const day = { oat_c, pa_m: 40 * (seed % 5), headwind_kt: (seed % 4) - 1 };
  const engine = `fault.e${type.engines[0]!.id}`;
  const run = flyPractice({
    type,
    conditions: { env: day, soc: 0.84 + 0.02 * (seed % 5), batt_age: aged.battery, batt_temp_c: oat_c, noise: true },
    faults: [{ set: { [`${engine}.turb_eff`]: aged.turbine, [`${engine}.fuel_bias`]: aged.fuel, [`${engine}.gg_drag_w`]: aged.friction_W } }], // oxfmt-ignore
    corridors: {},
    seed,
    limit_s: 180,
  });
  const start = run.starts.find((s) => s.features['idle_s'] != null)!;
  return recordedStart(type, run.trace, start.watch, start.features['starterAt_s']!, {
    outsideAir_C: oat_c,
    pressureAltitude_ft: day.pa_m / FT_m,
    headwind_kt: day.headwind_kt,
    residual_C: start.features['residual_C'] ?? oat_c,
  });
}

const WORN: TwinFigures = { battery: 1.6, turbine: 0.975, fuel: 1, friction_W: 0 };
const peakOf = (start: RecordedStart, trace: Trace): number => Math.max(...columnOf(trace, start.watch.channels.temperature).filter((v) => !Number.isNaN(v))); // oxfmt-ignore
const series = (type: WatchedType, aged: (i: number) => TwinFigures, count: number): RecordedStart[] =>
  Array.from({ length: count }, (_, i) => flown(type, aged(i), i + 1));

describe.each([
  ['S7', 'Fuel boost pump on'],
  ['C5', 'Twist grip as it was worked'],
])('%s', (id, act) => {
  const type = needWatched(typeOf(id));
  const starts = series(type, () => WORN, 8);
  const fit = fitTwin(type, starts);

  test('known wear is found again', () => {
    expect(Math.abs(fit.figures.battery - WORN.battery)).toBeLessThan(0.15);
    expect(Math.abs(fit.figures.turbine - WORN.turbine)).toBeLessThan(0.012);
    expect(Math.abs(fit.figures.fuel - 1)).toBeLessThan(0.03);
  });

  test('its error is that on starts it was not fitted to, far below that of the type as new', () => {
    expect(fit.fitted + fit.error.starts).toBe(starts.length);
    const heldOut = starts.filter((_, i) => i % 2 === 1);
    const asNew = errorOf(type, heldOut, AS_NEW);
    expect(fit.error.peak_C).toBeLessThan(asNew.peak_C / 3);
    expect(fit.error.volts_V).toBeLessThan(asNew.volts_V / 3);
    expect(fit.error).toEqual(errorOf(type, heldOut, fit.figures));
  });

  test('with one act otherwise it comes to what the aircraft itself would have come to', () => {
    const start = flown(type, WORN, 21);
    const at = start.acts.findIndex((a) => a.words === act);
    for (const change of [{ act: at, how: 'left-out', by_s: 0 }, { act: at, how: 'earlier', by_s: 2 }] as const) {
      const { would, recorded, words } = whatIfReal(type, fit, start, change);
      const really = flyTwin(type, start, WORN, withActChanged(start.acts, change));
      expect(Math.abs(peakOf(start, would) - peakOf(start, really))).toBeLessThan(3 * fit.error.peak_C + 2);
      expect(recorded).toBe(start.trace);
      expect(words).toMatch(/An estimate, by a twin that is off by \d+ °C at the peak/);
    }
  });
}); // oxfmt-ignore

describe('a twin that cannot know says so', () => {
  const type = needWatched(typeOf('C5'));
  const starts = series(type, () => AS_NEW, 6);
  const fit = fitTwin(type, starts);
  const still = { act: 0, how: 'left-out', by_s: 0 } as const;

  test('of a start that had a fault in it', () => {
    const rich = flown(type, { ...AS_NEW, fuel: 1.3 }, 30);
    expect(() => whatIfReal(type, fit, rich, still)).toThrow(/something was at work that its twin does not have/);
  });

  test('of too few starts, and of starts that are not of one aircraft', () => {
    expect(() => fitTwin(type, starts.slice(1))).toThrow(/only 5 good starts/);
    const worn = series(type, () => ({ ...AS_NEW, turbine: 0.9 }), 3);
    const mixed = [0, 1, 2].flatMap((i) => [starts[i]!, worn[i]!]);
    expect(() => fitTwin(type, mixed)).toThrow(
      /not good enough: on 3 starts that it was not fitted to it is off by \d+ °C/,
    );
  });

  test('of a start whose day is not known, of an engine that is not the first, of an act that is not there', () => {
    const [start] = starts;
    const cut = (day: Partial<RecordedStart['day']>, watch = start!.watch.id) => () => recordedStart(type, start!.trace, watch, 0, { ...start!.day, ...day }); // oxfmt-ignore
    expect(cut({ headwind_kt: NaN })).toThrow('the wind of that start is not known');
    expect(cut({}, 'nothing')).toThrow('turbine starts only');
    expect(cut({})).not.toThrow();
    expect(() => withActChanged([], still)).toThrow('there is no act 0');
    const piston = needWatched(typeOf('T2'));
    expect(() => recordedStart(piston, start!.trace, piston.startWatches[0]!.id, 0, start!.day)).toThrow(
      'turbine starts only',
    );
  });

  test('a sensor that was lost for a while changes no control, and hides no peak', () => {
    const [start] = starts;
    const grip = type.channels.findIndex((c) => c.simulated?.signal === 'e1.grip');
    const holed = { ...start!.trace, columns: start!.trace.columns.map((c, i) => (i === grip ? c.map((v, row) => (row % 3 === 0 && row > 0 ? NaN : v)) : c)) }; // oxfmt-ignore
    const again = recordedStart(type, holed, start!.watch.id, 0, start!.day);
    expect(Math.abs(peakOf(start!, flyTwin(type, again, fit.figures)) - peakOf(start!, flyTwin(type, start!, fit.figures)))).toBeLessThan(5); // oxfmt-ignore
  });
});
