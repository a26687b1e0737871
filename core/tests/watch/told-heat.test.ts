import { describe, expect, test } from 'vitest';
import {
  doneIn,
  type HowTold,
  type Reading,
  type Readings,
  saidIn,
  since,
  stopsIn,
  tell,
  textsOf,
  type Told,
} from './told.ts';

const stopOf = (changed: Readings, how?: HowTold): string | undefined => stopsIn(tell('S7', changed, how))[0];

describe('heat in a start', () => {
  const learned = (upper_C: number): HowTold => {
    const bins = (value: number): number[] => Array.from({ length: 111 }, () => value);
    const days = [{ outsideAir_C: 15, pressureAltitude_ft: 0, tailwind_kt: 0, residual_C: 20, crankVolts_V: 17 }];
    const corridor = { starts: 40, upperTot_C: bins(upper_C), lowerTot_C: bins(0), lowerPace_pct_s: bins(1), contours: [], days }; // oxfmt-ignore
    return { corridors: { 'engine-1-start': corridor }, air: { pressureAltitude_ft: 0, tailwind_kt: 0 } };
  };
  const times =
    (factor: number): Reading =>
    (_, before) =>
      before * factor;
  const leaps: Reading = [[16, 20], [20, 260], [24, 900]]; // oxfmt-ignore

  test('that its gas and its fuel do not turn back is stopped before the band', () => {
    // as much more fuel as the gas behind this gauge is hotter
    const fed: Reading = (t_s, before) =>
      t_s <= 20 ? before : (before * (340 + 160 * (t_s - 20))) / (5 + 60 * (t_s - 16));
    const told = tell('S7', { 'tot.1': leaps, 'fuel.1.flow': fed });
    expect(stopsIn(told)[0]).toMatch(/^2[23]\.?\d* going-to-be-hot: TOT \d+ °C rising 160 °C a second, its gas at \d+ °C: it is going to pass 835 °C/); // oxfmt-ignore
    expect(stopsIn(told)).toHaveLength(1);
  });
  test('while the speed stands is a hang', () => {
    const stands: Readings = { 'ng.1': [[10, 0], [14, 16], [21, 33.5]], 'starter.1.amps': 500 }; // oxfmt-ignore
    expect(stopOf({ ...stands, 'tot.1': leaps, 'fuel.1.flow': NaN })).toMatch(/^2[23]\.?\d* hung/);
  });
  test('beyond the habit is told of once, and stops nothing', () => {
    const warm: Readings = { 'fuel.1.flow': NaN, 'tot.1': [[16, 20], [26, 700], [36, 480]] }; // oxfmt-ignore
    const cautions = (told: Told): string[] => saidIn(told).filter((s) => s.includes(' caution h'));
    const told = tell('S7', warm, learned(600));
    expect(cautions(told)).toEqual(['25.625 caution hotter-than-usual']);
    expect(doneIn(told)).toMatchObject([{ verdict: 'good' }]);
    expect(told.watch.start.doubt).toBeNull();
    expect(cautions(tell('S7', warm, learned(641)))).toEqual([]);
  });
  test('that is too little for its fuel is a gauge that is not believed, said once', () => {
    const told = tell('S7', { 'fuel.1.flow': times(1.3) });
    const raised = saidIn(told).filter((s) => s.includes('caution'));
    expect(raised.map((s) => s.split(' ').at(-1))).toEqual(['reading-implausible', 'start-unseen']);
    expect(textsOf(told, 'reading-implausible')[0]).toMatch(
      /^TOT \d+ °C is too low for \d+ kg\/h of fuel at \d+ % Ng: /,
    );
    expect(told.watch.start.doubt).toMatch(/^TOT \d+ °C is too low/);
    expect(doneIn(told)).toMatchObject([{ verdict: 'unknown' }]);
    expect(textsOf(told, 'start-unseen')[0]).toMatch(/for \d+ s a reading could not be believed/);
  });
  test('behind a gauge that is not believed is told from the fuel', () => {
    const told = tell('S7', { 'fuel.1.flow': (t_s, before) => (t_s > 26 ? before + 50 : before * 1.3) });
    expect(stopsIn(told)[0]).toMatch(/going-to-be-hot: \d+ kg\/h of fuel at \d+ % Ng carry the gas past 835 °C/);
  });
  test('that is too much for its fuel is told of once where the height is known, and is believed', () => {
    const known: HowTold = { air: { pressureAltitude_ft: 0, tailwind_kt: 0 } };
    const told = tell('S7', { 'fuel.1.flow': times(0.65) }, known);
    expect(saidIn(told).filter((s) => s.includes('caution')).map((s) => s.split(' ').at(-1))).toEqual(['hotter-than-fuel']); // oxfmt-ignore
    expect(doneIn(told)).toMatchObject([{ verdict: 'good' }]);
    expect(saidIn(tell('S7', { 'fuel.1.flow': times(0.65) })).filter((s) => s.includes('caution'))).toEqual([]);
  });
  test('that swings is told of once, and is believed', () => {
    const told = tell('S7', { 'fuel.1.flow': NaN, 'tot.1': (t_s, before) => (t_s > 18 ? before + 45 * Math.sin(Math.PI * t_s) : before) }); // oxfmt-ignore
    expect(saidIn(told).filter((s) => s.includes('oscillation'))).toHaveLength(1);
    expect(doneIn(told)).toMatchObject([{ verdict: 'good' }]);
  });
  test('or a speed that stands while the other moves is a reading that is stuck', () => {
    const gauge = tell('S7', { 'tot.1': (t_s, before) => (t_s > 24 ? 500 : before), 'fuel.1.flow': NaN });
    expect(textsOf(gauge, 'reading-stuck')[0]).toMatch(
      /^Temperature has stood at 500 °C while the speed rose: it may be stuck/,
    );
    const speed = tell('S7', { 'ng.1': (t_s, before) => (t_s > 22 ? 36 : before), 'fuel.1.flow': NaN });
    expect(textsOf(speed, 'reading-stuck')[0]).toMatch(/^Speed has stood at 36\.0 % while the temperature moved/);
  });
  test('up to the mildest band only is a reason for the control to have shut its fuel', () => {
    const shut = (top_C: number): Readings => ({ 'tot.1': [[16, 20], [22, top_C]], 'fuel.1.flow': (t_s, before) => (t_s >= 22 ? 0 : (before * (top_C - 15)) / 365) }); // oxfmt-ignore
    expect(stopOf(shut(700))).toContain('control-abort');
    expect(stopOf(shut(735))).toContain('hot: ');
  });
});

describe('limits of a start', () => {
  test('a leap of the temperature above its never is no heat', () => {
    expect(stopOf({ 'tot.1': since(22, 1200) })).toMatch(
      /^21\.9\d+ sensor-lost: Temperature leapt from \d+ past 900 °C/,
    );
  });
  test('a temperature that uses up its band stops it, and a start that goes on after that is not good', () => {
    const warm: Readings = { 'fuel.1.flow': NaN, 'tot.1': [[16, 20], [22, 620], [25, 755], [26, 775], [36, 775], [40, 500]] }; // oxfmt-ignore
    const told = tell('S7', warm, { seconds: 60 });
    expect(stopsIn(told)).toHaveLength(1);
    expect(stopsIn(told)[0]).toMatch(/^33\.\d+ hot: .*770 °C for more than 8 s/);
    expect(doneIn(told)).toEqual([]);
  });
  test('volts below their floor for a second stop it', () => {
    const low: Reading = (t_s, before) => (t_s >= 12 && t_s < 14 ? 12.9 : before);
    expect(stopOf({ 'bus.volts': low })).toMatch(/low-volts: .*12\.9/);
    expect(stopOf({ 'bus.volts': (t_s, before) => (t_s >= 12 && t_s < 12.5 ? 12.9 : before) })).toBeUndefined();
  });
  test('an idle that stays too high is said so, and is idle', () => {
    const told = tell('S7', { 'ng.1': [[10, 0], [14, 16], [34, 66], [36, 70]] }, { seconds: 70 }); // oxfmt-ignore
    expect(saidIn(told).slice(-2)).toEqual(['59 caution idle-high', '59 idle']);
    expect(textsOf(told, 'idle-high')).toEqual(['Idle at 70.0 % Ng; at most 67.5 % expected at this height. Look before the run-up']); // oxfmt-ignore
  });
  test('an idle that comes last has the time to settle, and one that stays just too low is said so', () => {
    const comesTo = (...last: [number, number][]): Told => tell('S7', { 'ng.1': [[10, 0], [14, 16], [34, 63], ...last] }, { seconds: 70 }); // oxfmt-ignore
    expect(saidIn(comesTo([55.9, 65.7], [57.5, 67])).slice(-1)).toEqual(['59 idle']);
    const low = comesTo([55.9, 65.7], [56, 65.8]);
    expect(saidIn(low).slice(-2)).toEqual(['59 caution idle-low', '59 idle']);
    expect(textsOf(low, 'idle-low')).toEqual(['Idle at 65.8 % Ng; at least 66.5 % expected. Look before the run-up']);
    expect(stopsIn(comesTo([55.9, 65.2], [60, 67]))[0]).toMatch(/^56\.\d+ slow: Not at idle 46 s after the starter/);
  });
  test('on one reading a second it is told that this is too slow to warn', () => {
    const told = tell('S7', {}, { step_s: 1, seconds: 60 });
    expect(textsOf(told, 'slow-data')).toEqual(['One reading in 1.0 seconds is too slow to warn before a limit: watch the temperature']); // oxfmt-ignore
    expect(stopsIn(told)).toEqual([]);
    expect(textsOf(tell('S7', {}, { step_s: 0.25 }), 'slow-data')).toEqual([]);
  });
  test('that no start is judged by are said as they are in flight', () => {
    const told = tell('C5', { 'oil.1.pressure': (t_s, before) => (t_s > 18 && t_s < 30 ? 8.5 : before) });
    expect(saidIn(told).flatMap((s) => (s.includes('oil-pressure-high') ? [s.replace(/\.\d+/, '')] : []))).toEqual(['18 caution oil-pressure-high/warm', '18 caution oil-pressure-high/cold', '28 warning oil-pressure-high/cold/expired']); // oxfmt-ignore
    expect(stopsIn(told)).toEqual([]);
  });
});
