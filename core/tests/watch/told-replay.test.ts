import { describe, expect, test } from 'vitest';
import { needWatched } from '@rouse/core/aircraft';
import { limitPhase, snapshotOf, Watch, type WatchEvent } from '@rouse/core/watch';
import { typeOf } from '../fleet.ts';
import { type HowTold, type Reading, type Readings, saidIn, tell, type Told } from './told.ts';

/** Watches the frames of a start once more, in blocks. */
function replayed({ type, trace }: Told): { events: WatchEvent[]; watch: Watch } {
  const events: WatchEvent[] = [];
  const watch = new Watch(type, {}, (e) => events.push(e));
  watch.replay(trace);
  return { events, watch };
}

const between = (from_s: number, to_s: number, value: number): Reading => (t_s, before) => (t_s >= from_s && t_s < to_s ? value : before); // oxfmt-ignore
/** Idle, a run-up, flight with its readings, and back to idle. */
const FLOWN: Readings = {
  'engine.1.selector': [[9.9, 0], [10, 1], [49.9, 1], [50, 2], [109.9, 2], [110, 1]],
  'ng.1': [[10, 0], [14, 16], [34, 66], [35, 67], [50, 67], [55, 82], [110, 82], [112, 67]],
  nr: [[18, 0], [34, 60], [36, 68], [50, 68], [56, 100], [110, 100], [114, 68]],
  'tq.1': [[50, 8], [52, 40], [56, 30]],
  'bus.volts': [[9.9, 24.8], [10, 17], [29.8, 22], [30.8, 28]],
  'hydraulic.1.pressure': 90,
  'hydraulic.2.pressure': 90,
  'switch.hydraulic-test': 0,
  'gearbox.oil.pressure': 4,
  'gearbox.oil.temperature': 60,
  'oil.1.temperature': 60,
}; // oxfmt-ignore
const FLIGHT: HowTold = { seconds: 125 };

describe('in blocks, the watch reports what it reports frame by frame', () => {
  test.each<[string, 'S7' | 'C5' | 'T2', Readings, HowTold]>([
    ['a good start', 'S7', {}, {}],
    ['a start by hand', 'C5', {}, {}],
    ['a piston start', 'T2', {}, { seconds: 80 }],
    ['a start whose starter reads off', 'S7', { 'starter.1.amps': 0 }, {}],
    [
      'a spool that is turned by wind before its start',
      'S7',
      {
        'starter.1.amps': 0,
        'ng.1': [
          [2, 0],
          [3, 9.8],
          [8, 2],
          [10, 0],
          [14, 16],
          [34, 66],
          [35, 67],
        ],
      },
      {},
    ],
    ['a start that was stopped', 'S7', { nr: 0 }, { seconds: 60 }],
    ['a flight', 'S7', FLOWN, FLIGHT],
    ['oil pressure that is low for a while', 'S7', { ...FLOWN, 'oil.1.pressure': (t_s, before) => (t_s > 70 && t_s < 75 ? 2.9 : before) }, FLIGHT], // oxfmt-ignore
    ['a temperature that comes and goes', 'S7', { ...FLOWN, 'tot.1': (t_s, before) => (t_s > 60 ? 700 + 40 * Math.sin(t_s / 3) : before) }, FLIGHT], // oxfmt-ignore
    ['a stay in a band', 'S7', { ...FLOWN, 'tq.1': (t_s, before) => (t_s > 60 && t_s < 75 ? 105 : before) }, FLIGHT],
    ['a test of the hydraulics, and pressure that stays low', 'S7', { ...FLOWN, 'switch.hydraulic-test': between(80, 84, 1), 'hydraulic.1.pressure': between(81, 92, 40) }, FLIGHT], // oxfmt-ignore
    ['a hole in flight', 'S7', FLOWN, { ...FLIGHT, seen: (t_s) => t_s < 80 || t_s > 86 }],
    ['a hole at the start of the run-up', 'S7', FLOWN, { ...FLIGHT, seen: (t_s) => t_s < 49 || t_s > 57 }],
    ['a reading that is lost', 'S7', { ...FLOWN, 'tot.1': between(80, 90, NaN) }, FLIGHT],
    ['a reading that is lost in its band', 'S7', { ...FLOWN, 'tq.1': (t_s, before) => (t_s > 63 && t_s < 66 ? NaN : t_s > 60 && t_s < 75 ? 105 : before) }, FLIGHT], // oxfmt-ignore
    ['an engine that stops', 'S7', { ...FLOWN, 'fuel.1.flow': (t_s, before) => (t_s > 115 ? 0 : before), 'ng.1': (t_s, before) => (t_s > 115 ? 40 : t_s > 35 ? 67 : before) }, FLIGHT], // oxfmt-ignore
    ['a record that begins in flight', 'S7', FLOWN, { ...FLIGHT, seen: (t_s) => t_s >= 70 }],
    ['a speed to pass through', 'T2', { 'engine.rpm': (t_s, before) => (t_s > 30 ? 55 + 0.2 * Math.sin(9 * t_s) : before) }, { seconds: 60 }], // oxfmt-ignore
    ['a run-up of the trainer', 'T2', { 'engine.rpm': (t_s, before) => (t_s > 40 ? 97 + 0.2 * Math.sin(9 * t_s) : before), nr: (t_s) => (t_s > 45 ? 98 : t_s > 42 ? 60 : 0), 'switch.governor': between(43, 999, 1) }, { seconds: 70 }], // oxfmt-ignore
    ['a starter that is engaged again at idle', 'S7', { ...FLOWN, 'starter.1.amps': (t_s, before) => (t_s > 60 && t_s < 72 ? 300 : before) }, { seconds: 90 }], // oxfmt-ignore
    ['a second start', 'T2', { 'starter.1': (t_s) => ((t_s >= 10 && t_s < 13.5) || (t_s >= 60 && t_s < 63) ? 1 : 0), 'engine.rpm': [[10, 0], [11, 8], [13, 8], [15, 50], [30, 50.1], [33, 0], [60, 0], [61, 8], [70, 8]] }, { seconds: 80 }], // oxfmt-ignore
    ['a stay at a speed to pass through that ends in a lost reading', 'T2', { 'engine.rpm': (t_s, before) => (t_s > 33 && t_s < 34 ? NaN : t_s > 30 && t_s < 40 ? 55 + 0.2 * Math.sin(9 * t_s) : before) }, { seconds: 60 }], // oxfmt-ignore
    ['a try after a stop, selected anew within a second', 'S7', { ...FLOWN, nr: 0, 'tq.1': 0, 'tot.1': 20, 'fuel.1.flow': (t_s) => (t_s >= 14 && t_s < 20.2 ? 30 : 0), 'ng.1': [[10, 0], [14, 16], [20, 16], [26, 0], [60, 0], [64, 16], [70, 16]], 'starter.1.amps': (t_s) => ((t_s >= 10 && t_s < 20.5) || t_s >= 60 ? 500 : 0), 'engine.1.selector': (t_s) => ((t_s >= 10 && t_s < 50) || t_s >= 50.6 ? 1 : 0) }, { seconds: 72 }], // oxfmt-ignore
    ['rows that come every two seconds and a half', 'S7', FLOWN, { ...FLIGHT, seen: (t_s) => t_s < 70 || t_s % 2.5 === 0 }], // oxfmt-ignore
  ])('%s', (_, id, readings, how) => {
    // one that comes slowly is looked at row by row; in one that comes fast there are blocks
    for (const step_s of [0.125, 0.02]) {
      const told = tell(id, readings, { ...how, step_s });
      const again = replayed(told);
      expect(again.events).toEqual(told.events);
      expect(snapshotOf(again.watch, told.type)).toEqual(snapshotOf(told.watch, told.type));
      expect(told.events.length).toBeGreaterThan(1);
    }
  });
  test('frames that come twice, or late, change nothing', () => {
    const { type, events } = tell('S7', FLOWN, FLIGHT);
    const wrong = new Float64Array(type.channels.length).fill(1200);
    const before = (t_s: number, watch: Watch): void => {
      if (t_s === 0) return;
      watch.step(t_s - 0.125, wrong);
      watch.step(t_s - 3, wrong);
    };
    expect(tell('S7', FLOWN, { ...FLIGHT, before }).events).toEqual(events);
  });
});

describe('a flight that is told', () => {
  const phases = (told: Told): string[] =>
    told.events.flatMap((e) => (e.kind === 'phase' ? [`${e.t_s} ${e.phase}`] : []));
  test('goes through its phases', () => {
    expect(phases(tell('S7', FLOWN, FLIGHT))).toEqual(['10 start', '37.375 idle', '50 run-up', '58.375 flight', '110 idle']); // oxfmt-ignore
  });
  test('says nothing while all is well, and what is wrong when it is', () => {
    const raised = (told: Told): string[] => saidIn(told).filter((s) => / (caution|warning) /.test(s));
    expect(raised(tell('S7', FLOWN, FLIGHT))).toEqual([]);
    expect(raised(tell('S7', { ...FLOWN, 'tq.1': (t_s, before) => (t_s >= 60 && t_s < 75 ? 105 : before) }, FLIGHT))).toEqual(['60 caution torque-run/take-off', '60 caution torque-run/transient', '68 warning torque-run/transient/expired']); // oxfmt-ignore
  });
  test('what is never allowed is said at once, and not with the time that is left', () => {
    const never = tell('S7', { ...FLOWN, 'tot.1': (t_s, before) => (t_s >= 70 && t_s < 71 ? 900 : before) }, FLIGHT);
    const codes = saidIn(never).flatMap((s) => (s.includes('tot-run') ? [s.replace(/^[\d.]+ /, '')] : []));
    expect(codes).toEqual(['caution tot-run/take-off', 'caution tot-run/transient', 'warning tot-run/never/expired']);
  });
  test('while a test sets a limit aside nothing is said of it, and what stays wrong after it is', () => {
    const tested = (low_until_s: number): string[] =>
      saidIn(tell('S7', { ...FLOWN, 'switch.hydraulic-test': between(80, 84, 1), 'hydraulic.1.pressure': between(81, low_until_s, 40) }, FLIGHT)).filter((s) => s.includes('hydraulic')); // oxfmt-ignore
    expect(tested(86)).toEqual([]);
    // three seconds after the switch is back it counts, and two more are allowed
    expect(tested(92).map((s) => s.replace(/^(\d+)\.?\d*/, '$1'))).toEqual(['86 caution hydraulic-1-low/min', '88 caution hydraulic-1-low/min/expired']); // oxfmt-ignore
    const untested = saidIn(tell('S7', { ...FLOWN, 'hydraulic.1.pressure': between(81, 92, 40) }, FLIGHT));
    expect(untested.filter((s) => s.includes('hydraulic'))).toHaveLength(2);
  });
  test('a limit of the phase that ends is written up with it', () => {
    const told = tell('S7', { ...FLOWN, 'oil.1.pressure': (t_s, before) => (t_s >= 108 ? 3 : before) }, FLIGHT);
    const [stay] = told.events.flatMap((e) => (e.kind === 'exceedance' ? [e.exceedance] : []));
    expect(stay).toMatchObject({ channel: 'oil.1.pressure', end_s: 110 });
  });
  test('that comes late, frame by frame, is back when its readings are new, and not with each of them', () => {
    const { watch, events, trace } = tell('S7', FLOWN, { seconds: 20 });
    const values = Float64Array.from(trace.columns, (c) => c.at(-1)!);
    const before = events.length;
    // each a good second old when it comes
    for (let k = 1; k <= 4; k++) {
      watch.clock(20.9 + 0.125 * k);
      watch.step(20 + 0.125 * k, values);
    }
    expect(events.slice(before)).toMatchObject([{ code: 'source-lost' }]);
    watch.step(21, values);
    expect(events.slice(before)).toMatchObject([{ code: 'source-lost' }, { code: 'source-back', t_s: 21 }]);
  });
  test('that nobody hears any more is said once, at once in words that fit, and its return', () => {
    const told = tell('S7', FLOWN, { seconds: 20 });
    const { watch, events } = told;
    const before = events.length;
    watch.clock(20.75);
    expect(events).toHaveLength(before);
    watch.clock(20.9);
    watch.clock(25);
    expect(events.slice(before)).toMatchObject([{ code: 'source-lost', severity: 'warning', t_s: 20.9 }]);
    expect(events.at(-1)).toMatchObject({ text: expect.stringContaining('during the start') as string });
    expect(snapshotOf(watch, told.type).sourceLost).toBe(true);
    const values = Float64Array.from(told.trace.columns, (c) => c.at(-1)!);
    watch.step(26, values);
    expect(events.filter((e) => e.kind === 'cue' && e.code === 'source-back')).toMatchObject([{ t_s: 26 }]);
    const flown = tell('S7', FLOWN, { seconds: 80 });
    flown.watch.clock(82);
    expect(flown.events.at(-1)).toMatchObject({ text: 'No data from the aircraft. Every reading is unknown' });
  });
  test('a clock without a first frame says nothing', () => {
    const { type } = tell('S7', {}, { seconds: 1 });
    const events: WatchEvent[] = [];
    const watch = new Watch(type, {}, (e) => events.push(e));
    watch.clock(100);
    expect(events).toEqual([]);
  });
  test('what is open when the record ends is written up', () => {
    const told = tell('S7', { ...FLOWN, 'tq.1': (t_s, before) => (t_s >= 60 ? 105 : before) }, { seconds: 64 });
    expect(told.events.filter((e) => e.kind === 'exceedance')).toEqual([]);
    told.watch.finish(64);
    expect(told.events.flatMap((e) => (e.kind === 'exceedance' ? [e.exceedance.channel] : []))).toContain('tq.1');
  });
});

describe('a snapshot', () => {
  const at = (seconds: number, readings: Readings = {}): ReturnType<typeof snapshotOf> => {
    const told = tell('S7', readings, { seconds });
    return snapshotOf(told.watch, told.type);
  };
  test('before a start has no times, and its gates', () => {
    const [start] = at(5).starts;
    expect(start).toMatchObject({ watch: 'engine-1-start', state: 'before', phase: 'off', starterAt_s: null, starterOn_s: 0, starterLeft_s: 45, restDue_s: 0, triesLeft: 2, peak: null, doubt: null }); // oxfmt-ignore
    expect(start!.gates.map((g) => [g.id, g.verdict, g.reading, g.in_s])).toEqual([['volts', true, '24.8 V', 0], ['residual', true, '20 °C', 0]]); // oxfmt-ignore
    expect(start!.milestones.map((m) => [m.id, m.due_s, m.met])).toEqual([['light-off', null, false], ['oil', null, false], ['rotor', null, false], ['starter', null, false], ['idle', null, false]]); // oxfmt-ignore
  });
  test('of a line that is lost has no reading at its gates', () => {
    const { watch, type } = tell('S7', {}, { seconds: 5 });
    watch.clock(6);
    expect(snapshotOf(watch, type).starts[0]!.gates.map((g) => [g.verdict, g.reading, g.in_s])).toEqual([['unknown', null, null], ['unknown', null, null]]); // oxfmt-ignore
  });
  test('after a stop has no gate that holds before the engine has run down, then those of the next start', () => {
    const down: Readings = { 'ng.1': [[10, 0], [14, 16], [20, 30], [26, 30], [36, 0]], 'tot.1': [[16, 20], [20, 600], [32, 300], [40, 150]], 'fuel.1.flow': (t_s, before) => (t_s < 20 ? before : 0), 'starter.1.amps': (t_s, before) => (t_s < 26 ? before : 0), 'bus.volts': [[9.9, 24.8], [10, 17], [25.9, 17], [26, 24.8]] }; // oxfmt-ignore
    const stop = (t_s: number, watch: Watch): void => {
      if (t_s === 20) watch.pilotAbort(t_s);
    };
    const after = (seconds: number, changed: Readings = {}): (readonly [unknown, ...unknown[]])[] => {
      const { watch, type } = tell('S7', { ...down, ...changed }, { seconds, before: stop });
      const [start] = snapshotOf(watch, type).starts;
      return [[start!.ranDown], ...start!.gates.map((g) => [g.verdict, g.reading] as const)];
    };
    expect(after(20)).toEqual([[false], [false, '17.0 V'], [false, '600 °C']]);
    // the flow of air shows less than what is behind it
    expect(after(25, { 'tot.1': [[16, 20], [20, 600], [24, 100]] })).toEqual([[false], [false, '17.0 V'], ['unknown', '100 °C']]); // oxfmt-ignore
    expect(after(34)).toEqual([[true], [true, '24.8 V'], [false, '263 °C']]);
    expect(after(40)).toEqual([[true], [true, '24.8 V'], [true, '150 °C']]);
    const { watch, type } = tell('S7', down, { seconds: 19 });
    watch.pilotAbort(19);
    expect(snapshotOf(watch, type).starts[0]!.gates.map((g) => [g.verdict, g.reading])).toEqual([['unknown', null], ['unknown', null]]); // oxfmt-ignore
    // one reading that is lost says nothing of the engine
    expect(after(30, { 'ng.1': (t_s, before) => (t_s === 30 ? NaN : before) })[0]).toEqual([false]);
    expect(after(40, { 'ng.1': (t_s, before) => (t_s < 20 ? before : NaN) })).toEqual([['unknown'], ['unknown', '24.8 V'], ['unknown', '150 °C']]); // oxfmt-ignore
  });
  test('within a start has its deadlines and what the starter has left', () => {
    const [start] = at(20).starts;
    expect(start).toMatchObject({ state: 'accelerating', phase: 'start', starterAt_s: 10, starterOn_s: 10.125, starterLeft_s: 34.875, starterAllowed_s: 45, triesLeft: 1 }); // oxfmt-ignore
    expect(start!.milestones.map((m) => [m.id, m.due_s, m.met])).toEqual([['light-off', 20, true], ['oil', 26.75, true], ['rotor', null, true], ['starter', null, false], ['idle', 56, false]]); // oxfmt-ignore
    expect(start!.milestones.map((m) => m.words)).toEqual(['within 6 s of fuel', '0.9 bar within 10 s of light-off', 'by 31 % Ng', 'by 55 % Ng, on its own', '66.5 to 67.5 % for 3 s']); // oxfmt-ignore
    expect(start!.milestones.map((m) => m.title)).toEqual(['Light-off', 'Oil pressure', 'Rotor turning', 'Starter cut-out', 'Idle stable']); // oxfmt-ignore
    expect(start!.rate_K_s).toBeCloseTo(60, 1);
    expect(start!.speedRate_pct_s).toBeCloseTo(2.5, 2);
  });
  test('of a start by hand says where the hand lets go', () => {
    const told = tell('C5', {}, { seconds: 20 });
    const starter = snapshotOf(told.watch, told.type).starts[0]!.milestones.find((m) => m.id === 'starter');
    expect(starter).toMatchObject({ title: 'Starter off', words: 'at 53 % Ng, by hand' });
  });
  test('shows the peak that is to come only near it, and not by a gauge that is not believed', () => {
    const eases: Readings = { 'tot.1': [[16, 20], [24, 580], [28, 640], [36, 480]] }; // oxfmt-ignore
    expect(at(22, eases).starts[0]!.peak).toBeNull();
    const { peak } = at(26, eases).starts[0]!;
    expect(peak!.at_C).toBeGreaterThan(600);
    expect(peak!.in_s).toBeGreaterThan(0.15);
    expect(at(33, eases).starts[0]!.peak).toBeNull();
    const doubted = at(30, { 'tot.1': [[16, 20], [18, 140]] }); // oxfmt-ignore
    expect(doubted.starts[0]!.doubt).not.toBeNull();
    expect(doubted.starts[0]!.peak).toBeNull();
  });
  test('after a start that was stopped has the rest that is due, and rooms of its bands', () => {
    const [start] = at(40, {
      nr: 0,
      'ng.1': [
        [10, 0],
        [14, 16],
        [20, 31],
        [26, 0],
      ],
      'starter.1.amps': (t_s) => (t_s >= 10 && t_s < 20 ? 500 : 0),
    }).starts;
    expect(start).toMatchObject({ state: 'aborted', starterOn_s: 0, triesLeft: 1 });
    expect(start!.restDue_s).toBeCloseTo(60, 6);
    const hot = at(33, { 'tot.1': [[16, 20], [26, 620], [30, 775]], 'fuel.1.flow': NaN }); // oxfmt-ignore
    expect(hot.room).toMatchObject([{ channel: 'tot.1', band: 'A', edge: 770 }]);
  });
  test('tells which limits of a channel are in force: those of its engine, or of the aircraft', () => {
    const { type } = tell('S7', {}, { seconds: 1 });
    const tot = { ...type.channels.find((c) => c.id === 'tot.1')!, engine: 1 };
    const volts = { ...tot, engine: undefined };
    const phase = (seconds: number, channel = tot): string => limitPhase(type, at(seconds, FLOWN), channel as never);
    expect([phase(5), phase(20), phase(45), phase(52), phase(80)]).toEqual(['off', 'start', 'idle', 'run-up', 'flight']); // oxfmt-ignore
    expect([phase(5, volts as never), phase(20, volts as never), phase(80, volts as never)]).toEqual(['off', 'start', 'flight']); // oxfmt-ignore
    const starting = { ...at(45, FLOWN), phase: 'start' as const };
    expect(limitPhase(type, starting, tot)).toBe('idle');
  });
});

describe('a twin', () => {
  const type = needWatched(typeOf('H9'));
  const watched = (fixed?: 'flight'): { events: WatchEvent[]; watch: Watch; hold: (seconds: number, readings: Record<string, number>) => void } => {
    const events: WatchEvent[] = [];
    const watch = new Watch(type, {}, (e) => events.push(e), fixed);
    const values = new Float64Array(type.channels.length).fill(NaN);
    let t_s = 0;
    return {
      events,
      watch,
      hold(seconds, readings) {
        for (const [id, value] of Object.entries(readings)) values[type.channels.findIndex((c) => c.id === id)] = value;
        for (const end_s = t_s + seconds; t_s < end_s; t_s += 0.125) watch.step(t_s, values);
      },
    };
  }; // oxfmt-ignore
  const STANDS = { 'ng.1': 0, 'ng.2': 0, 'fuel.1.flow': 0, 'fuel.2.flow': 0, 'starter.1.amps': 0, 'starter.2.amps': 0, 'engine.1.selector': 0, 'engine.2.selector': 0, nr: 0, 'tq.1': 0, 'tq.2': 0 }; // oxfmt-ignore
  const ONE_RUNS = { ...STANDS, 'ng.1': 67, 'fuel.1.flow': 50, 'engine.1.selector': 1, nr: 60 };

  test('is led by the engine that is being started, and after it by the one that was', () => {
    const { watch, hold } = watched();
    hold(1, ONE_RUNS);
    expect(watch.start.spec.engine).toBe(1);
    hold(1, { 'engine.2.selector': 1, 'starter.2.amps': 300, 'ng.2': 4 });
    expect([watch.phase, watch.start.spec.engine, snapshotOf(watch, type).leading]).toEqual(['start', 2, watch.starts.findIndex((s) => s.spec.engine === 2)]); // oxfmt-ignore
    hold(20, { 'starter.2.amps': 0, 'engine.2.selector': 0, 'ng.2': 0 });
    expect(watch.start.spec.engine).toBe(2);
  });
  test('does not run up while an engine starts', () => {
    const { watch, hold } = watched();
    hold(1, ONE_RUNS);
    hold(5, { 'engine.1.selector': 2, 'engine.2.selector': 2, 'starter.2.amps': 300, 'ng.2': 10 });
    expect(watch.phase).toBe('start');
    expect(snapshotOf(watch, type).starts.map((s) => s.phase)).toContain('running');
  });
  test('is not at work by its auxiliary unit alone', () => {
    const large = needWatched(typeOf('X14'));
    const watch = new Watch(large, {}, () => undefined);
    const values = new Float64Array(large.channels.length);
    values[large.channels.findIndex((c) => c.id === 'apu.speed')] = 100;
    values[large.channels.findIndex((c) => c.id === 'apu.fuel.flow')] = 60;
    for (let k = 0; k < 20; k++) watch.step(k, values);
    expect(watch.phase).toBe('off');
    expect(snapshotOf(watch, large).starts.map((s) => s.phase)).toEqual(['running', 'off', 'off']);
  });
  test('has limits of each engine by its own phase', () => {
    const { watch, hold } = watched();
    hold(1, ONE_RUNS);
    hold(1, { 'engine.2.selector': 1, 'starter.2.amps': 300, 'ng.2': 4 });
    const phase = (id: string): string => limitPhase(type, snapshotOf(watch, type), type.channels.find((c) => c.id === id)!); // oxfmt-ignore
    expect([phase('tot.1'), phase('tot.2'), phase('bus.volts')]).toEqual(['idle', 'start', 'start']);
    hold(20, { 'starter.2.amps': 0, 'engine.2.selector': 0, 'ng.2': 0 });
    expect([phase('tot.1'), phase('tot.2'), phase('bus.volts')]).toEqual(['idle', 'off', 'idle']);
  });
  test('waits for no rotor where its auxiliary unit turns none', () => {
    const large = needWatched(typeOf('X14'));
    const [unit, engine] = new Watch(large, {}, () => undefined).starts.map((s) => s.milestones().map((m) => m.id));
    expect(unit).toEqual(['light-off', 'starter', 'idle']);
    expect(engine).toContain('oil');
  });
  test('in a record of one phase stays in it, whatever its engines do', () => {
    const { watch, events, hold } = watched('flight');
    hold(2, ONE_RUNS);
    hold(2, { 'ng.1': 10, 'fuel.1.flow': 0 });
    expect(watch.phase).toBe('flight');
    expect(events.filter((e) => e.kind === 'phase')).toEqual([]);
  });
  test('one engine that drives the rotor makes a run; none is off', () => {
    const { watch, hold } = watched();
    hold(1, STANDS);
    expect(watch.phase).toBe('off');
    const running = watched();
    running.hold(1, ONE_RUNS);
    expect(running.watch.phase).toBe('idle');
    running.hold(1, { 'ng.1': 10, 'fuel.1.flow': 0 });
    expect(running.watch.phase).toBe('off');
  });
});
