import { describe, expect, test } from 'vitest';
import { needWatched } from '@rouse/core/aircraft';
import { flyPractice } from '@rouse/core/drill';
import { conditionsOf } from '@rouse/core/simulator';
import { snapshotOf, Watch, type WatchEvent } from '@rouse/core/watch';
import { fleet, typeOf } from '../fleet.ts';
import { abortsOf, codesOf, raisedIn, START_S, workStart } from './hands.ts';

describe('a good start on a mild day', () => {
  test.each(fleet.map((t) => t.id))('of %s raises nothing, and every engine comes to a stable idle', (id) => {
    const type = needWatched(typeOf(id));
    const preset = type.standIn.find((p) => p.id === 'mild')!;
    const run = flyPractice({
      type,
      conditions: conditionsOf(type, preset),
      faults: [],
      corridors: {},
      seed: 3,
      limit_s: 1200,
    });
    expect(run.outcome).toBe('ready');
    const raised = run.entries.filter((e) => e.kind === 'cue' && e.severity !== 'call');
    expect(raised).toEqual([]);
    expect(run.starts.map((s) => s.good)).toEqual(type.startWatches.map(() => true));
    expect(new Set(run.starts.map((s) => s.watch))).toEqual(new Set(type.startWatches.map((w) => w.id)));
  });
});

describe('the manual turbine', () => {
  const by = { control: 'e1.pilot', to: { fuel_ng: 14.5, grip0: 0.22, target_c: 700, gain: 0.0006, lead_s: 1.5, open_rate: 0.03, close_rate: 0.06, delay_s: 0.4 } }; // oxfmt-ignore
  const starter = { control: 'e1.starter_sw', to: 1 };

  test('calls the moments, the starter’s release among them', () => {
    const codes = codesOf(workStart('C5'));
    expect(codes.slice(0, 2)).toEqual(['starter', 'light-off']);
    expect(codes).toEqual(expect.arrayContaining(['oil', 'rotor', 'starter-release', 'self-sustaining', 'idle']));
    expect(codes.indexOf('starter-release')).toBeLessThan(codes.indexOf('self-sustaining'));
  });

  test('a starter that turns without fuel motors the engine: no start, no abort', () => {
    const worked = workStart('C5', {
      start: [starter],
      moves: [[22, { control: 'e1.starter_sw', to: 0 }]],
      seconds: 40,
    });
    expect(abortsOf(worked)).toEqual([]);
    expect(worked.watch.start.state).toBe('before');
    expect(worked.watch.start.record.attempt).toBe(0);
    expect(worked.watch.start.duty.restDue_s(40)).toBeGreaterThan(60);
  });

  test.each<[string, Parameters<typeof workStart>[1]]>([
    [
      'going-to-be-hot',
      { faults: [{ when: { sig: 'e1.lit', op: '==', val: 1 }, set: { 'fault.e1.wf_stuck_kg_s': 0.0115 } }] },
    ],
    ['hung', { faults: [{ when: { sig: 'e1.ng_true', op: '>=', val: 25 }, set: { 'fault.e1.starter_drop': 1 } }] }],
    ['no-light', { faults: [{ set: { 'fault.e1.igniter_fail': 1 } }] }],
    ['no-crank', { faults: [{ set: { 'fault.e1.starter_r_mult': 12 } }], start: [starter] }],
    ['no-oil-pressure', { faults: [{ set: { 'fault.e1.oil_pump_fail': 1 } }] }],
    ['rotor-not-turning', { moves: [[1, { control: 'rotor_brake', to: 1 }]] }],
    ['starter-not-releasing', { start: [starter, by] }],
    ['low-volts', { conditions: { soc: 0.4, batt_age: 2.4, env: { oat_c: 5 } } }],
    ['sensor-lost', { faults: [{ when: { sig: 'e1.ng_true', op: '>=', val: 30 }, set: { 'fault.e1.tc_open': 1 } }] }],
    ['died', { faults: [{ when: { sig: 'e1.ng_true', op: '>=', val: 30 }, set: { 'fault.e1.fuel_cut': 1 } }] }],
  ])('%s is produced by the physics and caught', (reason, options) => {
    const [first] = abortsOf(workStart('C5', options));
    expect(first?.reason).toBe(reason);
    expect(first!.t_s).toBeGreaterThan(START_S);
  });

  test('both speed pick-ups gone is a reading lost, not an engine that stopped', () => {
    const faults = [
      {
        when: { sig: 'e1.ng_true', op: '>=' as const, val: 30 },
        set: { 'fault.e1.ng_pickup_a': 1, 'fault.e1.ng_pickup_b': 1 },
      },
    ];
    expect(abortsOf(workStart('C5', { faults }))[0]).toMatchObject({ reason: 'sensor-lost' });
  });

  test('one frame without a speed after a pause of the line is no reading that is lost', () => {
    const type = needWatched(typeOf('C5'));
    const ng = type.channels.findIndex((c) => c.id === 'ng.1');
    const { trace } = flyPractice({ type, conditions: conditionsOf(type, type.standIn[0]!), faults: [], corridors: {}, seed: 3 }); // oxfmt-ignore
    const from = trace.columns[ng]!.findIndex((v) => v > 30);
    const events: WatchEvent[] = [];
    const watch = new Watch(type, {}, (event) => events.push(event));
    const values = new Float64Array(type.channels.length);
    const step = (i: number, lost: boolean): void => {
      trace.columns.forEach((column, c) => (values[c] = column[i]!));
      if (lost) values[ng] = NaN;
      watch.step(trace.t_s[i]!, values);
    };
    for (let i = 0; i <= from; i++) step(i, false);
    // the line says nothing for 0.8 s, and the first frame after it lacks the speed
    step(from + 40, true);
    for (let i = from + 41; i < from + 100; i++) step(i, false);
    expect(events.filter((e) => e.kind === 'abort')).toEqual([]);
    for (let i = from + 100; i < from + 140; i++) step(i, true);
    expect(events.filter((e) => e.kind === 'abort')).toMatchObject([{ reason: 'sensor-lost' }]);
  });

  test('a light that comes after all, over fuel that has collected, is called once more', () => {
    const faults = [
      { set: { 'fault.e1.igniter_fail': 1 } },
      { when: { sig: 'e1.pool', op: '>=' as const, val: 14 }, set: { 'fault.e1.igniter_fail': 0 } },
    ];
    const reasons = abortsOf(workStart('C5', { faults })).map((a) => a.reason);
    expect(reasons).toEqual(['no-light', 'late-light']);
  });

  test('the grip closed by hand is the pilot’s own call', () => {
    const moves: Parameters<typeof workStart>[1] = {
      moves: [
        [START_S + 9, { control: 'e1.pilot', to: null }],
        [START_S + 9, { control: 'e1.grip', to: 0 }],
      ],
    };
    expect(abortsOf(workStart('C5', moves))[0]).toMatchObject({ reason: 'pilot' });
  });

  test('fuel too early, and over heat that is left, is said when the fuel comes', () => {
    const early = workStart('C5', { start: [starter, { ...by, to: { ...by.to, fuel_ng: 9 } }] });
    expect(raisedIn(early)).toContain('fuel-early');
    const hot = workStart('C5', { conditions: { soc: 0.9, residual_c: 320, env: { oat_c: 12 } } });
    expect(raisedIn(hot)).toContain('gate-residual');
  });

  test('a flame that leaves the exhaust is stopped by its fuel, also while the thermocouple reads low', () => {
    const faults = [
      {
        when: { sig: 'e1.lit', op: '==' as const, val: 1 },
        set: { 'fault.e1.wf_stuck_kg_s': 0.022, 'fault.e1.tc_gain': 0.3 },
      },
    ];
    const worked = workStart('C5', { faults });
    expect(raisedIn(worked)).toContain('reading-implausible');
    expect(abortsOf(worked)[0]).toMatchObject({ reason: 'going-to-be-hot' });
  });
});

describe('the digital control', () => {
  test('both channels lost is a fault of the control; one lost is only said', () => {
    const at = { sig: 'e1.ng_true', op: '>=' as const, val: 30 };
    const start = [
      { control: 'e1.mode', to: 'IDLE' },
      { control: 'e1.start', to: 1, release_s: 2 },
    ];
    const both = { when: at, set: { 'fault.e1.fadec_ch_a': 1, 'fault.e1.fadec_ch_b': 1 } };
    expect(abortsOf(workStart('S7', { start, faults: [both] }))[0]).toMatchObject({ reason: 'control-fault' });
    const one = workStart('S7', { start, faults: [{ when: at, set: { 'fault.e1.fadec_ch_a': 1 } }] });
    expect(abortsOf(one)).toEqual([]);
    expect(raisedIn(one)).toEqual(['control-one-channel']);
  });

  test('a metering valve that sticks open above self-sustaining runs the engine away', () => {
    const start = [
      { control: 'e1.mode', to: 'IDLE' },
      { control: 'e1.start', to: 1, release_s: 2 },
    ];
    const faults = [
      { when: { sig: 'e1.ng_true', op: '>=' as const, val: 62 }, set: { 'fault.e1.wf_stuck_kg_s': 0.026 } },
    ];
    expect(abortsOf(workStart('S7', { start, faults }))[0]).toMatchObject({ reason: 'overspeed' });
  });

  test('a temperature that stands still takes the forecast with it, and is said', () => {
    const start = [
      { control: 'e1.mode', to: 'IDLE' },
      { control: 'e1.start', to: 1, release_s: 2 },
    ];
    const { type, cockpit, watch, events } = workStart('S7', { start, seconds: START_S + 9 });
    const tot = type.channels.findIndex((c) => c.id === 'tot.1');
    let stuck = NaN;
    for (let k = 1; k < 400; k++) {
      const values = cockpit.tick();
      if (Number.isNaN(stuck)) stuck = values[tot]!;
      values[tot] = stuck;
      watch.step(START_S + 9 + k / 50, values);
    }
    expect(events.some((e) => e.kind === 'cue' && e.code === 'reading-stuck')).toBe(true);
    const [shown] = snapshotOf(watch, type).starts;
    expect(shown!.doubt).toMatch(/stood/);
    expect(shown!.peak).toBeNull();
  });
});

describe('twins', () => {
  const second = { item: 'start-1-first' };
  const pressTwo: [number, { control: string; to: string | number; release_s?: number }][] = [
    [40, { control: 'e1.gen', to: 1 }],
    [44, { control: 'e2.mode', to: 'IDLE' }],
    [44, { control: 'e2.start', to: 1, release_s: 2 }],
  ];

  test('a second start at once is told what it waits for; after the wait it is not', () => {
    const tired = { soc: 0.6, batt_age: 1.4, env: { oat_c: 15 } };
    const atOnce = workStart('H9', { ...second, conditions: tired, moves: pressTwo, seconds: 80 });
    expect(raisedIn(atOnce)).toContain('gate-generator-load');
    const later = pressTwo.map(([t, a]): [number, typeof a] => [t === 44 ? 125 : t, a]);
    const waited = workStart('H9', { ...second, conditions: tired, moves: later, seconds: 165 });
    expect(raisedIn(waited)).toEqual([]);
    expect(waited.watch.starts.map((s) => s.state)).toEqual(['idle', 'idle']);
  });

  test('the forecast of that wait is right within a tenth, a minute ahead', () => {
    const tired = { soc: 0.6, batt_age: 1.4, env: { oat_c: 15 } };
    const { watch, type, cockpit } = workStart('H9', {
      ...second,
      conditions: tired,
      moves: pressTwo.slice(0, 1),
      seconds: 62,
    });
    const gate = () => snapshotOf(watch, type).starts[1]!.gates.find((g) => g.id === 'generator-load')!;
    const said_s = gate().in_s!;
    let t_s = 62;
    while (gate().verdict !== true) watch.step((t_s += 0.02), cockpit.tick());
    expect(said_s).toBeGreaterThan(30);
    expect(Math.abs(said_s - (t_s - 62))).toBeLessThan(0.1 * said_s);
  });

  test('the limits of a start are those of the engine that starts; the other keeps its own', () => {
    const { watch, events, type } = workStart('H9', { ...second, moves: pressTwo, seconds: 56 });
    expect(watch.phase).toBe('start');
    expect(watch.starts.map((s) => s.phase)).toEqual(['running', 'start']);
    const oil = type.channels.findIndex((c) => c.id === 'oil.1.pressure');
    const values = new Float64Array(type.channels.length).fill(NaN);
    for (let k = 1; k < 400; k++) {
      values[oil] = 1.5;
      watch.step(56 + k / 50, values);
    }
    expect(events.some((e) => e.kind === 'cue' && e.code.startsWith('oil-pressure-low-1'))).toBe(true);
  });

  test('a hot second start stops that engine, by its own actions', () => {
    const type = needWatched(typeOf('H9'));
    const preset = type.standIn.find((p) => p.id === 'hot-start')!;
    const run = flyPractice({
      type,
      conditions: conditionsOf(type, preset),
      faults: preset.faults,
      corridors: {},
      seed: 3,
    });
    const abort = run.entries.find((e) => e.kind === 'abort')!;
    expect(abort).toMatchObject({ watch: 'engine-2-start', reason: 'going-to-be-hot' });
    const done = run.entries.flatMap((p) => (p.kind === 'item-done' && p.item.startsWith('going-to-be-hot-') ? [p.item] : [])); // oxfmt-ignore
    expect(done.length).toBeGreaterThan(2);
    expect(done.every((id) => id.startsWith('going-to-be-hot-2-'))).toBe(true);
  });

  test('before the auxiliary unit gives air, the gate of an engine start is shut', () => {
    const worked = workStart('X14', { item: 'start-1-first', seconds: 30 });
    expect(worked.watch.starts[1]!.record.attempt).toBe(0);
    const gate = snapshotOf(worked.watch, worked.type).starts[1]!.gates.find((g) => g.id === 'starter-air')!;
    expect(gate.verdict).toBe(false);
  });
});

describe('the piston trainers', () => {
  test('crank, fire, run, oil, charge: called in order, judged against eight seconds and eighteen', () => {
    const { watch, events } = workStart('T2');
    expect(events.flatMap((e) => (e.kind === 'state' ? [e.state] : []))).toEqual([
      'cranking',
      'firing',
      'running',
      'oil-up',
      'charging',
      'idle',
    ]);
    const { record } = watch.start;
    expect(record.lightAt_s - record.starterAt_s).toBeGreaterThan(1.5);
    expect(record.lightAt_s - record.starterAt_s).toBeLessThan(4);
    expect(record.oilAt_s - record.lightAt_s).toBeLessThan(18);
    expect(record.speedMax_pct).toBeLessThan(70);
  });

  test.each<[string, Parameters<typeof workStart>[1]]>([
    ['no-light', { faults: [{ set: { 'fault.magL': 0, 'fault.magR': 0 } }] }],
    ['no-crank', { conditions: { env: { oat: 15 }, init: { SOC: 0.3 } }, faults: [{ set: { 'fault.battR': 3 } }] }],
    ['low-volts', { conditions: { env: { oat: 15 }, init: { SOC: 0.45 } }, faults: [{ set: { 'fault.battR': 1.8, 'fault.magL': 0, 'fault.magR': 0 } }] }], // oxfmt-ignore
    ['no-oil-pressure', { faults: [{ set: { 'fault.oilPump': 0 } }] }],
    ['starter-not-releasing', { faults: [{ set: { 'fault.starterStuck': 1 } }] }],
    ['died', { moves: [[START_S + 4, { control: 'mix', to: 0 }]] }],
    ['pilot', { moves: [[START_S + 4, { control: 'mags', to: 'OFF' }]] }],
  ])('%s is produced by the physics and caught', (reason, options) => {
    const [first] = abortsOf(workStart('T2', options));
    expect(first?.reason).toBe(reason);
  });

  test('an over-throttled start is stopped for overspeed within a second of passing 104 %', () => {
    const type = needWatched(typeOf('T2'));
    const start = type.items
      .find((i) => i.id === 'start-engine')!
      .standIn!.filter((a) => a.control !== 'pilotN')
      .map((a) => (a.control === 'grip' ? { ...a, to: 0.4 } : a));
    const [first] = abortsOf(workStart('T2', { start }));
    expect(first).toMatchObject({ reason: 'overspeed' });
    expect(first!.t_s - START_S).toBeLessThan(5);
  });

  test('a warm engine that races is told of while a hand can still close the throttle', () => {
    const type = needWatched(typeOf('T2'));
    const start = type.items
      .find((i) => i.id === 'start-engine')!
      .standIn!.map((a) => (a.control === 'grip' ? { ...a, to: 0.5 } : a));
    const conditions = { env: { oat: 15, dew: 5 }, init: { Th: 150, To: 70, Tc: 65, film: 1 } };
    const worked = workStart('T2', { start, conditions });
    const racing = worked.events.find((e) => e.kind === 'cue' && e.code === 'racing')!;
    const [stop] = abortsOf(worked);
    const speed = worked.watch.start.record.speedMax_pct;
    expect(speed).toBeGreaterThan(110);
    expect(stop).toMatchObject({ reason: 'overspeed' });
    expect(stop!.text).toMatch(/going to pass 104/);
    expect(stop!.t_s - racing.t_s).toBeGreaterThan(0.15);
    expect(raisedIn(workStart('T2', { conditions }))).toEqual([]);
  });

  test('a closed fuel valve is named where it does not fire, and a lost current is no dead alternator', () => {
    const shut = abortsOf(workStart('T2', { moves: [[1, { control: 'fuel', to: 0 }]] }))[0];
    expect(shut).toMatchObject({ reason: 'no-light' });
    expect(shut!.text).toContain('the fuel valve is shut');
  });

  test('primed too long: it may be dry or flooded, and is flooded when it is primed again and does not fire', () => {
    const primer = (at_s: number, to: number): [number, { control: string; to: number }] => [at_s, { control: 'primer', to }]; // oxfmt-ignore
    const starter = (at_s: number, to: number): [number, { control: string; to: number }] => [at_s, { control: 'starter', to }]; // oxfmt-ignore
    const flooded = { conditions: { env: { oat: 15, dew: 5 }, init: { film: 80 } }, seconds: 80 };
    const twice = [
      starter(START_S + 9, 0),
      primer(START_S + 40, 1),
      primer(START_S + 43, 0),
      starter(START_S + 50, 1),
      starter(START_S + 59, 0),
    ];
    const [first, second] = abortsOf(workStart('T2', { ...flooded, moves: twice }));
    expect(first).toMatchObject({ reason: 'no-light', text: expect.stringMatching(/too little prime, or flooded/) });
    expect(second).toMatchObject({ reason: 'no-light', text: expect.stringMatching(/so it is flooded/) });
  });

  test('a tachometer that drops to nothing is a reading lost', () => {
    const { type, cockpit } = workStart('T2', { seconds: 7 });
    expect(cockpit.t_s).toBeGreaterThan(6);
    const watch = new Watch(type, {}, (e) => events.push(e));
    const events: WatchEvent[] = [];
    const index = (id: string): number => type.channels.findIndex((c) => c.id === id);
    for (const action of type.items.find((i) => i.id === 'start-engine')!.standIn!) cockpit.move(action);
    for (let k = 0; k < 600; k++) {
      const values = cockpit.tick();
      if (k > 300) values[index('engine.rpm')] = 0;
      watch.step(cockpit.t_s, values);
    }
    expect(events.find((e) => e.kind === 'abort')).toMatchObject({ reason: 'sensor-lost' });
  });

  test('an alternator that gives nothing is said; the start is not stopped for it', () => {
    const worked = workStart('T2', { faults: [{ set: { 'fault.alternator': 0 } }] });
    expect(abortsOf(worked)).toEqual([]);
    expect(raisedIn(worked)).toEqual(['not-charging']);
    expect(worked.watch.start.state).toBe('idle');
  });

  test('eight seconds of starter, then forty of rest: a try before that is told what is still due', () => {
    const again: [number, { control: string; to: number }][] = [
      [START_S + 9, { control: 'starter', to: 0 }],
      [START_S + 20, { control: 'starter', to: 1 }],
      [START_S + 22, { control: 'starter', to: 0 }],
    ];
    const worked = workStart('T2', { faults: [{ set: { 'fault.magL': 0, 'fault.magR': 0 } }], moves: again });
    const rest = worked.events.find((e) => e.kind === 'cue' && e.code === 'starter-rest');
    expect(rest?.kind === 'cue' && rest.text).toMatch(/(28|29|30|31) s are still due/);
  });
});
