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
  type Told,
} from './told.ts';

const statesOf = (told: Told): string[] => statesIn(told).map((s) => s.split(' ')[1]!);
const stopOf = (id: 'S7' | 'C5', changed: Readings, how?: HowTold): string | undefined =>
  stopsIn(tell(id, changed, how))[0];

/** the S7 lights at 16.75 s; without light these are what it goes on to read */
const UNLIT: Readings = { 'tot.1': 20, 'ng.1': [[10, 0], [14, 16]], 'fuel.1.flow': [[13.9, 0], [14, 30]] }; // oxfmt-ignore

describe('a good start that is told', () => {
  test('is called moment by moment, and its record has each of them', () => {
    const told = tell('S7', {}, { air: { pressureAltitude_ft: 800, tailwind_kt: -4 } });
    expect(saidIn(told)).toEqual(['10 starter', '16.75 light-off', '17.875 oil', '18.5 rotor', '29.875 self-sustaining', '37.375 idle']); // oxfmt-ignore
    expect(statesIn(told)).toEqual(['10 cranking', '14 fuel-on', '16.75 accelerating', '29.875 self-sustaining', '37.375 idle']); // oxfmt-ignore
    expect(stopsIn(told)).toEqual([]);
    expect(doneIn(told)).toMatchObject([{ verdict: 'good', watch: 'engine-1-start', t_s: 37.375 }]);
    expect(doneIn(told)[0]!.record).toEqual({
      attempt: 1,
      starterAt_s: 10,
      fuelAt_s: 14,
      lightAt_s: 16.75,
      rotorAt_s: 18.5,
      oilAt_s: 17.875,
      selfSustainingAt_s: 29.875,
      starterOffAt_s: 29.875,
      idleAt_s: 34.5,
      residual_C: 20,
      outsideAir_C: 15,
      pressureAltitude_ft: 800,
      tailwind_kt: -4,
      voltsBefore_V: 24.8,
      voltsMin_V: 17,
      starterMax_A: 600,
      peak_C: 620,
      peakAt_s: 26,
      unseen_s: 0,
      doubted_s: 0,
      chargingAt_s: NaN,
      speedMax_pct: NaN,
    });
    const { totMax_C, paceMin_pct_s } = doneIn(told)[0]!.profile;
    expect(totMax_C[46]).toBeCloseTo(620, 0);
    expect(totMax_C[15]).toBeNaN(); // before its fuel
    expect(paceMin_pct_s[50]).toBeCloseTo(2.5, 1);
    expect(told.watch.phase).toBe('idle');
  });

  test('its words say when it lit, at what speed it went on alone, and its peak', () => {
    const told = tell('S7');
    expect(textsOf(told, 'starter')).toEqual(['Starter engaged']);
    expect(textsOf(told, 'light-off')).toEqual(['Light-off, 6.8 seconds']);
    expect(textsOf(told, 'rotor')).toEqual(['Rotor turning at 27 percent']);
    expect(textsOf(told, 'self-sustaining')).toEqual(['On its own at 56 percent']);
    expect(textsOf(told, 'idle')).toEqual(['Idle stable. Peak 620']);
  });

  test('where the hand stops the starter, the speed for it is called once, at its time', () => {
    const told = tell('C5');
    expect(saidIn(told)).toEqual(['10 starter', '16.75 light-off', '17.625 oil', '18.5 rotor', '29 starter-release', '29.375 self-sustaining', '33.5 idle']); // oxfmt-ignore
    expect(textsOf(told, 'starter-release')).toEqual(['53 percent, starter off']);
  });

  test('of what is late is told three seconds before, once', () => {
    const told = tell('S7', { 'oil.1.pressure': [[25, 0], [26, 4]] }); // oxfmt-ignore
    expect(saidIn(told).filter((s) => s.includes('due'))).toEqual(['24 due-oil']);
    expect(textsOf(told, 'due-oil')).toEqual(['Oil pressure due in 3 seconds']);
    expect(stopsIn(told)).toEqual([]);
  });

  test('a frame in which a reading is lost changes nothing that is judged', () => {
    const ordinary = tell('S7');
    for (const channel of ['ng.1', 'tot.1', 'fuel.1.flow', 'nr', 'oil.1.pressure', 'bus.volts', 'starter.1.amps'])
      for (const at_s of [12, 20, 26.5, 35]) {
        const told = tell('S7', { [channel]: (t_s, before) => (t_s === at_s ? NaN : before) });
        expect([channel, at_s, stopsIn(told), statesOf(told)]).toEqual([channel, at_s, [], statesOf(ordinary)]);
        expect(doneIn(told)[0]!.verdict).toBe('good');
      }
  });
});

describe('a start that does not go on is stopped, for its reason, at its time', () => {
  test.each<[string, Readings, string]>([
    ['a spool that does not turn', { 'ng.1': 5, 'fuel.1.flow': 0 }, '18.125 no-crank: Ng 5.0 % after 8 s of starter'],
    ['fuel that does not light', UNLIT, '20.125 no-light: No light 6.1 s after fuel; 6 s are allowed'],
    ['no oil pressure', { 'oil.1.pressure': 0.4 }, '26.875 no-oil-pressure: Oil 0.4 bar 10 s after light-off'],
    ['a rotor that stands', { nr: 0 }, '20 rotor-not-turning: Rotor still at 31 % Ng'],
    [
      'a starter that does not let go',
      { 'starter.1.amps': (t_s) => (t_s >= 10 ? 300 : 0) },
      '31.75 starter-not-releasing: Starter still drives at 60 % Ng',
    ],
    ['a spool that hangs', { 'ng.1': [[10, 0], [14, 16], [24, 41]] }, '28.75 hung: Ng hangs at 41.0 %, 0.0 % a second for 4.1 s, TOT 582 °C'], // oxfmt-ignore
    [
      'one that is too slow',
      {
        'ng.1': [
          [10, 0],
          [14, 16],
          [34, 63],
          [99, 66],
        ],
        'starter.1.amps': (t_s) => (t_s >= 10 && t_s < 32 ? 500 : 0),
      },
      '56.125 slow: Not at idle 46 s after the starter',
    ],
    ['one that is too fast', { 'ng.1': [[10, 0], [14, 16], [34, 66], [36, 76]] }, '35.875 overspeed: Ng 75.4 %; not above 75 % in a start'], // oxfmt-ignore
    ['a fire', { 'fire.1': [[19.9, 0], [20, 1]] }, '21.5 fire: Fire warning at 35 % Ng'], // oxfmt-ignore
    ['a selector that goes to off', { 'engine.1.selector': [[21.9, 1], [22, 0]] }, '22.125 pilot: Selector moved to off during the start'], // oxfmt-ignore
    ['a control without channels', { 'control.1.channels': [[21.9, 2], [22, 0]] }, '22.125 control-fault: Both channels of the control are lost at 36 % Ng'], // oxfmt-ignore
  ])('%s', (_, changed, stop) => {
    const stops = stopsIn(tell('S7', changed, { seconds: 60 }));
    expect(stops[0]).toContain(stop);
    expect(stops).toHaveLength(1);
  });

  test('a deadline that is met at its last moment stops nothing', () => {
    expect(stopsIn(tell('S7', { 'oil.1.pressure': [[26.6, 0], [26.65, 0.9]] }))).toEqual([]); // oxfmt-ignore
    expect(stopsIn(tell('S7', { nr: [[19.9, 0], [19.95, 3]] }))).toEqual([]); // oxfmt-ignore
    expect(stopsIn(tell('S7', { 'fire.1': (t_s) => (t_s >= 20 && t_s < 21.4 ? 1 : 0) }))).toEqual([]);
    expect(stopsIn(tell('S7', { 'ng.1': [[10, 0], [18, 8], [19, 10]], 'fuel.1.flow': 0 }, { seconds: 25 }))).toEqual([]); // oxfmt-ignore
  });

  test('that stands a while, and then goes on, is given its time back', () => {
    const pauses = (stands_s: number): Reading => [[10, 0], [14, 16], [22, 36], [22 + stands_s, 36], [34 + stands_s, 66], [35 + stands_s, 67]]; // oxfmt-ignore
    const how = { seconds: 60 };
    const amps: Reading = (t_s) => (t_s >= 10 && t_s < 34 ? 500 : 0);
    expect(stopsIn(tell('S7', { 'ng.1': pauses(3.4), 'starter.1.amps': amps }, how))).toEqual([]);
    expect(stopOf('S7', { 'ng.1': pauses(6), 'starter.1.amps': amps }, how)).toContain('hung');
  });

  test('one channel of its control is enough, and is said once', () => {
    const told = tell('S7', { 'control.1.channels': [[21.9, 2], [22, 1]] }); // oxfmt-ignore
    expect(saidIn(told).filter((s) => s.includes('caution'))).toEqual(['22.125 caution control-one-channel']);
    expect(stopsIn(told)).toEqual([]);
  });

  test('one that motors without fuel is no start: the next is the first', () => {
    const told = tell('C5', { 'fuel.1.flow': 0, 'tot.1': 20, 'engine.1.grip': 0, 'ng.1': [[10, 0], [14, 16], [15, 16], [19, 0]], 'starter.1.amps': (t_s) => (t_s >= 10 && t_s < 15 ? 500 : 0) }, { seconds: 30 }); // oxfmt-ignore
    expect(statesIn(told)).toEqual(['10 cranking', '16.125 before']);
    expect(told.watch.start.record.attempt).toBe(0);
    expect(told.watch.phase).toBe('off');
  });

  test('motoring by a control that is off is no start', () => {
    expect(statesIn(tell('S7', { 'engine.1.selector': 0, 'fuel.1.flow': 0, 'tot.1': 20 }, { seconds: 15 }))).toEqual([]); // oxfmt-ignore
  });
});

describe('fuel that goes', () => {
  const cut: Reading = (t_s, before) => (t_s >= 22 ? 0 : before);
  test('from a control, without heat, is its own stop', () => {
    expect(stopOf('S7', { 'fuel.1.flow': cut })).toBe('22.125 control-abort: The control has shut the fuel by itself');
  });
  test('near the mildest band it has shut it for heat', () => {
    const hot: Reading = [[16, 20], [22, 730]]; // oxfmt-ignore
    const found = stopOf('S7', { 'tot.1': hot, 'fuel.1.flow': (t_s, before) => (t_s >= 22 ? 0 : before * 1.35) });
    expect(found).toMatch(/^22\.125 hot: TOT 730 °C: the control has shut the fuel/);
  });
  test('before it burned it has not lit', () => {
    expect(stopOf('S7', { ...UNLIT, 'fuel.1.flow': [[13.9, 0], [14, 30], [17, 30], [17.05, 0]] })).toMatch(/^17\.25 no-light: No light 3\.3 s/); // oxfmt-ignore
  });
  test('while it hung, it hung', () => {
    const hangs: Reading = [[10, 0], [14, 16], [18, 26]]; // oxfmt-ignore
    expect(stopOf('S7', { 'ng.1': hangs, 'fuel.1.flow': (t_s, before) => (t_s >= 22 ? 0 : before) })).toContain('hung');
  });
  test('from the hand of a pilot it was the pilot, with the grip open the engine died', () => {
    expect(stopOf('C5', { 'fuel.1.flow': cut, 'engine.1.grip': [[21.9, 30], [22, 0]] })).toContain('pilot: '); // oxfmt-ignore
    expect(stopOf('C5', { 'fuel.1.flow': cut })).toMatch(/^22\.125 died/);
  });
  test.each<[string, number, number]>([
    ['fuel.1.flow', 22, 0],
    ['engine.1.selector', 22, 0],
    ['control.1.channels', 22, 0],
    ['starter.1.amps', 33, 300],
  ])('one frame of %s alone is nothing', (channel, at_s, value) => {
    const told = tell('S7', { [channel]: (t_s, before) => (t_s === at_s ? value : before) });
    expect([stopsIn(told), saidIn(told).filter((said) => said.includes('caution'))]).toEqual([[], []]);
  });
});

describe('readings that go', () => {
  test.each<[string, number, string]>([
    ['ng.1', 20, '20.625 sensor-lost: Gas producer speed lost for 0.5 s'],
    ['tot.1', 20, '20.625 sensor-lost: Temperature lost for 0.5 s'],
    ['tot.1', 12, '12.625 sensor-lost: Temperature lost for 0.5 s'],
  ])('%s from %d s', (channel, from_s, stop) => {
    expect(stopOf('S7', { [channel]: since(from_s, NaN) })).toBe(stop);
  });
  test('a speed that is zero from one frame to the next is a lost pick-up, and no engine that died', () => {
    expect(stopOf('S7', { 'ng.1': since(20, 0) })).toBe('20.625 sensor-lost: Gas producer speed lost for 0.5 s');
  });
  test('what comes back in time is bridged', () => {
    const gap: Reading = (t_s, before) => (t_s >= 20 && t_s < 20.5 ? NaN : before);
    expect(stopsIn(tell('S7', { 'tot.1': gap, 'ng.1': gap }))).toEqual([]);
  });
  test('oil and rotor that cannot be read are said once, and stop nothing', () => {
    const told = tell('S7', { 'oil.1.pressure': NaN, nr: NaN });
    expect(saidIn(told).filter((s) => s.includes('unseen'))).toEqual(['20 caution unseen-rotor', '26.875 caution unseen-oil']); // oxfmt-ignore
    expect(textsOf(told, 'unseen-oil')).toEqual([
      'Oil pressure is unknown; 0.9 bar are wanted by now. Look and decide',
    ]);
    expect(textsOf(told, 'unseen-rotor')).toEqual(['Rotor speed is unknown; it must be turning by now. Look and decide']); // oxfmt-ignore
    expect(stopsIn(told)).toEqual([]);
  });
  test('fuel that is not sensed is told from its flame; how late it lit cannot be judged', () => {
    const told = tell('S7', { 'fuel.1.flow': NaN });
    expect(statesIn(told)[1]).toBe('16.75 accelerating');
    expect(saidIn(told)).toContain('16.75 caution unseen-fuel');
    expect(told.watch.start.record).toMatchObject({ fuelAt_s: NaN, lightAt_s: 16.75, peak_C: 620 });
    expect(doneIn(told)).toMatchObject([{ verdict: 'good' }]);
  });
  test('what was lost for a moment counts as not seen, whichever of the two it was', () => {
    for (const channel of ['ng.1', 'tot.1']) {
      const told = tell('S7', { [channel]: (t_s, before) => (t_s >= 20 && t_s < 20.5 ? NaN : before) });
      expect(told.watch.start.record.unseen_s).toBeCloseTo(0.5, 9);
    }
  });
  test('a flame is told from the lowest since the fuel, as the heat of the last flight goes', () => {
    const cooling: Reading = (t_s, before) => (t_s < 16 ? 180 - 8 * (t_s - 10) : Math.max(before, 132));
    const told = tell('S7', { 'tot.1': cooling });
    // 132 °C at its lowest, and 40 K more: at 18.53 s
    expect(saidIn(told)).toContain('18.625 light-off');
    expect(statesIn(tell('S7', { 'tot.1': cooling, 'fuel.1.flow': NaN }))).toContain('18.625 accelerating');
  });
  test('a starter current that is not there is told from the speed', () => {
    const told = tell('S7', { 'starter.1.amps': NaN });
    expect(statesOf(told)).toEqual(['cranking', 'fuel-on', 'accelerating', 'self-sustaining', 'idle']); // oxfmt-ignore
    expect(Number(statesIn(told)[0]!.split(' ')[0])).toBeLessThan(11.5);
    expect(told.watch.start.record.starterMax_A).toBeNaN();
  });
  test('volts and speed at the starter are what they were before it', () => {
    expect(tell('S7', { 'bus.volts': NaN }).watch.start.record).toMatchObject({ voltsBefore_V: NaN, voltsMin_V: NaN });
  });
});

describe('what was not seen', () => {
  const hole = (from_s: number, to_s: number): HowTold => ({ seen: (t_s) => t_s <= from_s || t_s >= to_s });
  test('makes a start unknown from a second and a half on, and says how much', () => {
    expect(doneIn(tell('S7', {}, hole(20, 21.5)))).toMatchObject([{ verdict: 'good' }]);
    const told = tell('S7', {}, hole(20, 23));
    expect(doneIn(told)).toMatchObject([{ verdict: 'unknown' }]);
    expect(told.watch.start.record.unseen_s).toBeCloseTo(3, 6);
    expect(textsOf(told, 'start-unseen')[0]).toContain('3 s of it were not seen');
  });
  test('with the flame in it, the start is found under way, and no light-off is made up', () => {
    const told = tell('S7', {}, hole(13.5, 18));
    expect(statesIn(told).slice(0, 3)).toEqual(['10 cranking', '18 fuel-on', '18 accelerating']);
    expect(told.watch.start.record).toMatchObject({ fuelAt_s: NaN, lightAt_s: NaN });
    expect(told.watch.start.record.peak_C).toBe(620);
  });
  test('with the starter in it, the start is joined while the starter turns', () => {
    const told = tell('S7', {}, hole(9, 20));
    expect(statesIn(told).slice(0, 2)).toEqual(['20 cranking', '20 accelerating']);
    expect(told.watch.start.record.unseen_s).toBeCloseTo(11, 6);
    expect(doneIn(told)).toMatchObject([{ verdict: 'unknown' }]);
  });
  test('whole, the engine is found running, which is said', () => {
    const told = tell('S7', {}, hole(9, 40));
    expect(saidIn(told)).toEqual(expect.arrayContaining(['40 caution start-unseen']));
    expect(textsOf(told, 'start-unseen')[0]).toContain('its start was not seen');
    expect(told.watch.phase).toBe('idle');
    expect(doneIn(told)).toEqual([]);
  });
  test('an engine that runs in the first frame is found running without a word', () => {
    const told = tell('S7', {}, { seen: (t_s) => t_s >= 40 });
    expect(saidIn(told)).toEqual([]);
    expect(told.watch.phase).toBe('idle');
  });
});

describe('before the starter', () => {
  test('a gate that is not met is said with its figure and its remedy', () => {
    const told = tell('S7', { 'bus.volts': 23.9, 'tot.1': (_, before) => Math.max(210, before) });
    expect(saidIn(told).slice(0, 3)).toEqual(['10 starter', '10 caution gate-volts', '10 caution gate-residual']);
    expect(textsOf(told, 'gate-volts')).toEqual(['Bus volts 23.9 V, at least 24.1 V wanted before the starter. A slow crank makes a hot start: charge it or use external power.']); // oxfmt-ignore
  });
  test('one that is not read is unknown', () => {
    expect(textsOf(tell('S7', { 'bus.volts': NaN }), 'gate-volts')[0]).toMatch(/^Bus volts unknown, at least 24\.1 V/);
  });
  test('what belongs before the fuel is looked at when the fuel comes', () => {
    const told = tell('C5', { 'tot.1': (t_s, before) => (t_s < 16 ? 200 : Math.max(200, before)) });
    expect(saidIn(told)).toContain('14 caution gate-residual');
    const cooled = tell('C5', { 'tot.1': (t_s, before) => (t_s < 11 ? 200 : before) });
    expect(saidIn(cooled).filter((s) => s.includes('gate'))).toEqual([]);
  });
  test('fuel before its speed is told of', () => {
    const told = tell('C5', { 'ng.1': [[10, 0], [14, 11], [33, 58]] }, { seconds: 50 }); // oxfmt-ignore
    expect(textsOf(told, 'fuel-early')).toEqual(['Fuel at 11.0 % Ng; not before 12.5 %. Expect it hotter']);
    expect(textsOf(tell('C5', { 'ng.1': [[10, 0], [14, 12.5], [33, 58]] }), 'fuel-early')).toEqual([]); // oxfmt-ignore
  });
});

describe('a start that was stopped', () => {
  const late: Reading = [[21, 20], [23, 200]]; // oxfmt-ignore
  test('for want of light, and lights after all, is stopped again', () => {
    const told = tell('S7', { ...UNLIT, 'tot.1': late }, { seconds: 26 });
    expect(stopsIn(told)).toHaveLength(2);
    expect(stopsIn(told)[1]).toMatch(/^21\.5 late-light/);
  });
  test('comes to rest, and then its figures are final', () => {
    const told = tell('S7', { ...UNLIT, 'ng.1': [[10, 0], [14, 16], [21, 16], [30, 0]], 'starter.1.amps': (t_s) => (t_s >= 10 && t_s < 21 ? 500 : 0) }); // oxfmt-ignore
    const [ended] = told.events.filter((e) => e.kind === 'start-ended');
    expect(ended).toMatchObject({ watch: 'engine-1-start', record: { attempt: 1, fuelAt_s: 14, starterMax_A: 500 } });
    expect(told.watch.phase).toBe('off');
  });
  test('and goes on against it, is at idle, and is a good one where its oil was seen', () => {
    const stoppedAt = (at_s: number): HowTold => ({ before: (t_s, watch) => t_s === at_s && watch.pilotAbort(t_s) });
    const told = tell('S7', {}, stoppedAt(20));
    expect(statesIn(told).slice(-2)).toEqual(['20 aborted', '37.375 idle']);
    expect(doneIn(told)).toMatchObject([{ t_s: 37.375, verdict: 'good' }]);
    expect(textsOf(told, 'idle')).toEqual(['Idle stable, against the stop']);
    const unoiled = tell('S7', {}, stoppedAt(17));
    expect(statesIn(unoiled).slice(-2)).toEqual(['17 aborted', '37.375 idle']);
    expect(doneIn(unoiled)).toEqual([]);
    expect(unoiled.events.filter((e) => e.kind === 'start-ended')).toHaveLength(1);
    expect(unoiled.watch.phase).toBe('idle');
  });
  test('for what had happened, and goes on, is at idle and no good start', () => {
    const told = tell('S7', { 'fire.1': (t_s) => (t_s >= 20 && t_s < 22 ? 1 : 0) });
    expect(statesIn(told).slice(-2)).toEqual(['21.5 aborted', '37.375 idle']);
    expect(doneIn(told)).toEqual([]);
    expect(told.events.filter((e) => e.kind === 'start-ended')).toHaveLength(1);
  });
  test('an engine that runs has stopped when its fuel and its speed are gone, and not by one of them', () => {
    const phases = (changed: Readings): string[] =>
      tell('S7', changed, { seconds: 60 }).events.flatMap((e) => (e.kind === 'phase' ? [`${e.t_s} ${e.phase}`] : []));
    expect(phases({ 'fuel.1.flow': (t_s, before) => (t_s >= 45 ? 0 : before) })).toEqual(['10 start', '37.375 idle']);
    expect(phases({ 'ng.1': (t_s, before) => (t_s >= 45 ? 50 : before) })).toEqual(['10 start', '37.375 idle']);
    for (const gone of [0, NaN])
      expect(phases({ 'ng.1': (t_s, before) => (t_s >= 45 ? 50 : before), 'fuel.1.flow': (t_s, before) => (t_s >= 45 ? gone : before) })).toEqual(['10 start', '37.375 idle', '45 off']); // oxfmt-ignore
  });
  test('of a control that tries once more is said so', () => {
    const tries: Reading = (t_s) => ((t_s >= 10 && t_s < 20.5) || t_s >= 24 ? 500 : 0);
    const speed: Reading = [[10, 0], [14, 16], [20, 16], [23, 5], [24, 5], [28, 16]]; // oxfmt-ignore
    const told = tell('S7', { ...UNLIT, 'ng.1': speed, 'starter.1.amps': tries, 'fuel.1.flow': (t_s) => (t_s >= 14 && t_s < 20.25 ? 30 : 0) }); // oxfmt-ignore
    expect(textsOf(told, 'starter')).toEqual(['Starter engaged', 'The control tries once more']);
  });
  test('a second try is the second attempt, and its rest is told', () => {
    const again = (t_s: number): number => (t_s >= 10 && t_s < 18 ? 500 : t_s >= 30 && t_s < 50 ? 500 : 0);
    const told = tell('S7', { ...UNLIT, 'fuel.1.flow': 0, 'ng.1': [[10, 0], [14, 16], [18, 16], [24, 0], [30, 0], [34, 16]], 'starter.1.amps': again, 'engine.1.selector': (t_s) => (t_s >= 10 && t_s < 18 ? 1 : t_s >= 29 ? 1 : 0) }); // oxfmt-ignore
    expect(textsOf(told, 'starter-rest')).toEqual(['Starter turns before its rest is over: 68 s are still due']);
    expect(told.watch.start.record.attempt).toBe(2);
    expect(textsOf(told, 'starter')).toEqual(['Starter engaged', 'Starter engaged again']);
  });
  test('a starter that is on for too long is told of five seconds before', () => {
    const told = tell('S7', { 'ng.1': [[10, 0], [14, 16], [60, 60]], 'starter.1.amps': (t_s) => (t_s >= 10 ? 500 : 0) }, { seconds: 55 }); // oxfmt-ignore
    expect(saidIn(told)).toContain('49.875 caution starter-duty');
    expect(textsOf(told, 'starter-duty')).toEqual(['Starter on for 40 s; 45 s are allowed']);
  });
});
