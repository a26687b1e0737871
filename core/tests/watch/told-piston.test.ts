import { describe, expect, test } from 'vitest';
import {
  doneIn,
  type HowTold,
  type Reading,
  type Readings,
  saidIn,
  since,
  statesIn,
  stopsIn,
  tell,
  textsOf,
} from './told.ts';

const cranks =
  (to_s: number): Reading =>
  (t_s) =>
    t_s >= 10 && t_s < to_s ? 1 : 0;
const stopOf = (changed: Readings, how?: HowTold): string | undefined => stopsIn(tell('T2', changed, how))[0];
/** it turns, and never fires */
const SILENT: Readings = { 'engine.rpm': [[10, 0], [11, 8], [13, 8]] , 'oil.1.pressure': 0 }; // oxfmt-ignore

describe('a good piston start that is told', () => {
  test('cranks, fires, runs, has oil, charges and idles, and its record has each of them', () => {
    const told = tell('T2');
    expect(saidIn(told)).toEqual(['10 starter', '13.375 fires', '15.75 runs', '16.25 oil', '17.75 charging', '18.75 idle']); // oxfmt-ignore
    expect(statesIn(told)).toEqual(['10 cranking', '13.375 firing', '15.75 running', '16.25 oil-up', '17.75 charging', '18.75 idle']); // oxfmt-ignore
    expect(stopsIn(told)).toEqual([]);
    expect(doneIn(told)).toMatchObject([
      {
        verdict: 'good',
        profile: { totMax_C: [], totMin_C: [], paceMin_pct_s: [] },
        record: {
          attempt: 1,
          starterAt_s: 10,
          fuelAt_s: NaN,
          lightAt_s: 13.375,
          oilAt_s: 16.25,
          selfSustainingAt_s: 15.75,
          starterOffAt_s: 15.75,
          chargingAt_s: 17.75,
          idleAt_s: 15.875,
          voltsBefore_V: 12.6,
          voltsMin_V: 10.4,
          starterMax_A: NaN,
          unseen_s: 0,
        },
      },
    ]);
    expect(told.watch.start.record.speedMax_pct).toBeCloseTo(50.2, 1);
    expect(textsOf(told, 'fires')).toEqual(['Fires, 3.4 seconds']);
    expect(textsOf(told, 'runs')).toEqual(['Running at 50 percent']);
    expect(textsOf(told, 'idle')).toEqual(['Idle stable at 50 percent']);
  });

  test('what it waits for has its time as soon as that is known, and is met one after the other', () => {
    const at = (seconds: number): [string, number | null, boolean][] =>
      tell('T2', {}, { seconds }).watch.start.milestones().map(({ id, due_s, met }) => [id, due_s, met]); // oxfmt-ignore
    expect(at(11)).toEqual([['fires', 18.2, false], ['runs', null, false], ['oil', null, false], ['charging', null, false], ['idle', 70, false]]); // oxfmt-ignore
    expect(at(14)).toEqual([['fires', 18.2, true], ['runs', null, false], ['oil', 31.375, false], ['charging', null, false], ['idle', 70, false]]); // oxfmt-ignore
    expect(at(17)).toEqual([['fires', 18.2, true], ['runs', null, true], ['oil', 31.375, true], ['charging', 30.75, false], ['idle', 70, false]]); // oxfmt-ignore
    expect(at(30).map(([, , met]) => met)).toEqual([true, true, true, true, true]);
    expect(at(5).map(([, due_s]) => due_s)).toEqual([null, null, null, null, null]);
  });

  test('is over when it stops turning', () => {
    const told = tell('T2', { 'engine.rpm': (t_s, before) => (t_s > 25 ? Math.max(0, 50 - 10 * (t_s - 25)) : before) });
    expect(told.watch.phase).toBe('off');
    expect(told.watch.start.state).toBe('before');
  });
});

describe('a piston start that does not go on is stopped, for its reason, at its time', () => {
  test.each<[string, Readings, string]>([
    ['turns too slowly', { ...SILENT, 'engine.rpm': [[10, 0], [11, 2]], 'starter.1': cranks(20) }, '12.125 no-crank: '], // oxfmt-ignore
    [
      'does not fire',
      { ...SILENT, 'starter.1': cranks(30) },
      '18.125 no-light: It has not fired after 8 s of cranking',
    ],
    [
      'is let go unfired',
      { ...SILENT, 'starter.1': cranks(12) },
      '13.125 no-light: It has not fired after 2 s of cranking',
    ],
    ['races past its limit', { 'engine.rpm': (t_s, before) => (t_s >= 14.5 ? 105 : before) }, '14.5 overspeed: '],
    ['magnetos off', { magnetos: since(14, 0) }, '14.125 pilot: Magnetos switched off'],
    ['dies', { 'engine.rpm': (t_s, before) => (t_s >= 24 ? 11 : t_s >= 17 ? 30 + 0.2 * Math.sin(9 * t_s) : before), 'battery.amps': -5 }, '25 died: '], // oxfmt-ignore
    ['keeps its starter', { 'starter.1': cranks(40) }, '15.875 starter-not-releasing: '],
    ['has no oil', { 'oil.1.pressure': -0.02 }, '31.5 no-oil-pressure: Oil 0.0 bar'],
    [
      'has too little oil, and not as much as it rounds to',
      { 'oil.1.pressure': 1.59 },
      '31.5 no-oil-pressure: Oil 1.5 bar',
    ],
    ['does not idle', { 'engine.rpm': (t_s, before) => (t_s > 15 ? 70 + 0.2 * Math.sin(9 * t_s) : before) }, '70.125 slow: '], // oxfmt-ignore
  ])('%s', (_, changed, stop) => {
    const stops = stopsIn(tell('T2', changed, { seconds: 75 }));
    expect(stops[0]).toContain(stop);
    expect(stops).toHaveLength(1);
  });

  test('why it did not fire: no fuel where that is known; dry or flooded; at the second try flooded', () => {
    const off: Readings = { ...SILENT, 'starter.1': cranks(12) };
    expect(stopOf({ ...off, 'fuel.valve': 0 })).toContain('the fuel valve is shut');
    expect(stopOf({ ...off, mixture: 0 })).toContain('the mixture is at cut-off');
    expect(stopOf(off)).toContain('too little prime, or flooded');
    const twice: Reading = (t_s) => (t_s >= 10 && t_s < 12) || (t_s >= 20 && t_s < 22) ? 1 : 0; // oxfmt-ignore
    const speed: Reading = [[10, 0], [11, 8], [12, 8], [14, 0], [20, 0], [21, 8]]; // oxfmt-ignore
    const again = stopsIn(tell('T2', { 'engine.rpm': speed, 'oil.1.pressure': 0, 'starter.1': twice }));
    expect(again).toHaveLength(2);
    expect(again[1]).toContain('fuel reached it twice, so it is flooded');
    const shutFirst = stopsIn(tell('T2', { 'engine.rpm': speed, 'oil.1.pressure': 0, 'starter.1': twice, 'fuel.valve': since(15, 1) as Reading, mixture: (t_s) => (t_s < 15 ? 0 : 1) })); // oxfmt-ignore
    expect(shutFirst[1]).toContain('too little prime, or flooded');
  });

  test('an engine that fires and runs down at once had too little prime, or too much', () => {
    const dies: Reading = (t_s, before) => (t_s >= 16 ? 8 : before);
    expect(stopOf({ 'engine.rpm': dies, 'starter.1': cranks(13.5) })).toMatch(/^17 died: .*too little prime, or flooded/); // oxfmt-ignore
    expect(stopOf({ 'engine.rpm': (t_s, before) => (t_s >= 24 ? 8 : before), 'battery.amps': -5 })).not.toContain('prime'); // oxfmt-ignore
  });

  test('a short break of the starter, or a slow moment, stops nothing', () => {
    const chatter: Reading = (t_s) => (t_s >= 10 && t_s < 13.5 && (t_s < 11 || t_s >= 11.5) ? 1 : 0);
    expect(stopsIn(tell('T2', { 'starter.1': chatter }))).toEqual([]);
    expect(stopsIn(tell('T2', { 'engine.rpm': (t_s, before) => (t_s >= 16 && t_s < 17 ? 11 : before) }))).toEqual([]);
  });
});

describe('what a piston start says', () => {
  test('an engine that runs away is stopped before its limit; one that races is told of first', () => {
    const rises = (pct_s: number): Reading => (t_s, before) => (t_s > 14 ? Math.min(103, 29 + pct_s * (t_s - 14)) : before); // oxfmt-ignore
    const fast = tell('T2', { 'engine.rpm': rises(90) });
    expect(textsOf(fast, 'racing')[0]).toMatch(/^Engine at \d+ %, \d+ % a second faster: close the throttle$/);
    expect(stopsIn(fast)[0]).toContain('overspeed');
    const told_s = Number(
      saidIn(fast)
        .find((s) => s.includes('racing'))!
        .split(' ')[0],
    );
    expect(Number(stopsIn(fast)[0]!.split(' ')[0])).toBeGreaterThan(told_s);
    expect(textsOf(tell('T2', { 'engine.rpm': (t_s, before) => Math.min(49, before) }), 'racing')).toEqual([]);
  });

  test('a charge that does not come is a caution, and the start goes on to idle', () => {
    const told = tell('T2', { 'battery.amps': -6 });
    expect(saidIn(told).slice(-2)).toEqual(['30.875 caution not-charging', '31 idle']);
    expect(textsOf(told, 'not-charging')).toEqual(['The battery is not charged 15 s after the start, current -6 A']);
    expect(doneIn(told)).toMatchObject([{ verdict: 'good', record: { chargingAt_s: NaN } }]);
  });

  test('a charge or an oil pressure that nobody can read is unknown, and said once', () => {
    const told = tell('T2', { 'battery.amps': NaN, 'oil.1.pressure': NaN }, { seconds: 60 });
    expect(saidIn(told).filter((s) => s.includes('unseen'))).toEqual(['30.875 caution unseen-charge', '31.5 caution unseen-oil']); // oxfmt-ignore
    expect(textsOf(told, 'unseen-oil')).toEqual(['Oil pressure is unknown; 1.6 bar are wanted by now. Look and decide']); // oxfmt-ignore
    expect(stopsIn(told)).toEqual([]);
    expect(doneIn(told)).toEqual([]);
  });

  test('a tachometer that stands while the oil comes is not believed, and no start is good by it', () => {
    const told = tell('T2', { 'engine.rpm': (t_s, before) => (t_s > 14.5 ? 44 : before) });
    expect(saidIn(told)).toContain('17.625 caution reading-stuck');
    expect(textsOf(told, 'reading-stuck')).toEqual(['Engine speed has stood at 44.0 % while the oil pressure moved: it may be stuck. Judge by ear']); // oxfmt-ignore
    expect(doneIn(told)).toMatchObject([{ verdict: 'unknown' }]);
  });

  test('a speed that is lost, or zero from one frame to the next, is unknown', () => {
    for (const gone of [NaN, 0])
      expect(stopOf({ 'engine.rpm': since(17, gone) })).toBe('17.625 sensor-lost: Engine speed lost for 0.5 s');
    const gap: Reading = (t_s, before) => (t_s >= 17 && t_s < 17.5 ? NaN : before);
    expect(stopsIn(tell('T2', { 'engine.rpm': gap }))).toEqual([]);
  });

  test('what was not seen makes it unknown; with the firing in it, it is found under way', () => {
    const joined = tell('T2', { 'starter.1': cranks(14) }, { seen: (t_s) => t_s <= 9 || t_s >= 13.7 });
    expect(statesIn(joined).slice(0, 2)).toEqual(['13.75 cranking', '13.75 firing']);
    expect(joined.watch.start.record.lightAt_s).toBeNaN();
    expect(doneIn(joined)).toMatchObject([{ verdict: 'unknown' }]);
  });
});
