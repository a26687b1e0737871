import { describe, expect, test } from 'vitest';
import { flyPractice } from '@rouse/core/drill';
import { type Conditions, NormalSource, SimulatedCockpit } from '@rouse/core/simulator';
import { type Corridor, type DayAir, Watch, type WatchEvent } from '@rouse/core/watch';
import {
  abortOf,
  channelIndex,
  cuesOf,
  flyPreset,
  habit,
  IDLES_BY_S,
  once,
  ordinaryConditions,
  ordinaryCorridor,
  skerry,
} from '../skerry.ts';
import { tries } from '../whole.ts';

const learned = once(() => ordinaryCorridor(30));

/** the day and the battery that the reference model was measured in */
const REFERENCE: Conditions = { env: { oat_c: 15 }, soc: 0.9 };
const BAND_B_C = 835;
const NEAR_SEA: DayAir = { pressureAltitude_ft: 60, tailwind_kt: 0 };

/** A start with hands that only press, watched; faults and controls as given. */
function watchStart(options: {
  conditions?: Conditions;
  moves?: { at_s: number; control: string; to: number | string }[];
  corridor?: Corridor | null;
  spoil?: (t_s: number, values: Float64Array, watch: Watch) => void;
  /** frames that never come */
  hidden?: (t_s: number) => boolean;
  air?: DayAir;
  seconds?: number;
}): { events: WatchEvent[]; watch: Watch; tot: number[] } {
  const cockpit = new SimulatedCockpit(skerry, { ...REFERENCE, ...options.conditions }, [], 11);
  const events: WatchEvent[] = [];
  const watch = new Watch(skerry, habit(options.corridor), (e) => events.push(e));
  if (options.air) watch.airIs(options.air);
  const moves = [
    ...['battery', 'load.base_bus', 'load.anticollision', 'boost'].map((control) => ({
      at_s: 0.1,
      control,
      to: 1 as number | string,
    })),
    { at_s: 3, control: 'e1.mode', to: 'IDLE' },
    { at_s: 3, control: 'e1.start', to: 1 },
    { at_s: 5, control: 'e1.start', to: 0 },
    ...(options.moves ?? []),
  ];
  const tot: number[] = [];
  for (let k = 1; k <= (options.seconds ?? 60) * 50; k++) {
    const t_s = k / 50;
    for (const move of moves) if (Math.abs(move.at_s - t_s) < 0.001) cockpit.move(move);
    const values = cockpit.tick();
    options.spoil?.(t_s, values, watch);
    tot.push(values[channelIndex('tot.1')]!);
    if (!options.hidden?.(t_s)) watch.step(t_s, values);
  }
  return { events, watch, tot };
}

const reasonsOf = (events: WatchEvent[]): string[] => events.flatMap((e) => (e.kind === 'abort' ? [e.reason] : []));

describe('good starts', () => {
  test('on a mild day nothing is raised but the call-outs, and every moment is called', () => {
    const run = flyPreset('mild', learned());
    expect(run.outcome).toBe('ready');
    expect(cuesOf(run).filter((c) => c.severity !== 'call')).toEqual([]);
    expect(cuesOf(run).map((c) => c.code)).toEqual([
      'starter',
      'light-off',
      'oil',
      'rotor',
      'self-sustaining',
      'idle',
      'run-up-done',
    ]);
  });

  test('ordinary starts outside the learned ones raise no abort', () => {
    const chance = new NormalSource(99);
    const ended: (string | undefined)[] = [];
    for (let i = 0; i < tries(40); i++) {
      const run = flyPractice({
        type: skerry,
        conditions: ordinaryConditions(chance),
        faults: [],
        corridors: habit(learned()),
        seed: 1000 + i,
        limit_s: IDLES_BY_S,
      });
      ended.push(abortOf(run)?.text ?? run.entries.find((e) => e.kind === 'start-done')?.kind);
    }
    expect(new Set(ended)).toEqual(new Set(['start-done']));
  });

  test('the record of a start carries the times of the reference model', () => {
    const { record } = flyPractice({
      type: skerry,
      conditions: REFERENCE,
      faults: [],
      corridors: {},
      seed: 3,
      limit_s: IDLES_BY_S,
    }).starts[0]!;
    expect(record.lightAt_s - record.starterAt_s).toBeGreaterThan(3.8);
    expect(record.lightAt_s - record.starterAt_s).toBeLessThan(5.2);
    expect(record.idleAt_s - record.starterAt_s).toBeGreaterThan(25);
    expect(record.idleAt_s - record.starterAt_s).toBeLessThan(31);
    expect(record.peak_C).toBeGreaterThan(630);
    expect(record.peak_C).toBeLessThan(680);
    expect(record.voltsMin_V).toBeLessThan(record.voltsBefore_V - 5);
  });
});

describe('bad starts are caught, with the reason', () => {
  test.each([
    ['hung-start', 'hung'],
    ['no-light', 'no-light'],
    ['weak-battery', 'low-volts'],
  ])('%s is %s, with and without a learned corridor', (preset, reason) => {
    expect(abortOf(flyPreset(preset))?.reason).toBe(reason);
    expect(abortOf(flyPreset(preset, learned()))?.reason).toBe(reason);
  });

  test('a hot start is seen coming by its physics, whether a habit was learned or not', () => {
    expect(abortOf(flyPreset('hot-start'))).toMatchObject({ reason: 'going-to-be-hot' });
    expect(abortOf(flyPreset('hot-start', learned()))).toEqual(abortOf(flyPreset('hot-start')));
  });

  test('the warning leads the two-second band by more than half a second when the valve sticks wide', () => {
    const moves = [{ at_s: 7.2, control: 'fault.e1.wf_stuck_kg_s', to: 0.017 }];
    const { events, tot } = watchStart({ moves, corridor: learned(), seconds: 20 });
    const warned = events.find((e) => e.kind === 'abort')!.t_s;
    const crossed = (tot.findIndex((t) => t > BAND_B_C) + 1) / 50;
    expect(crossed).toBeGreaterThan(0);
    expect(crossed - warned).toBeGreaterThan(0.5);
    expect(reasonsOf(events)).toEqual(['going-to-be-hot']);
  });

  test.each<[string, string, number]>([
    ['rotor-not-turning', 'rotor_brake', 1],
    ['no-oil-pressure', 'fault.e1.oil_pump_fail', 1],
    ['slow', 'fault.e1.turb_eff', 0.75],
    ['no-crank', 'fault.e1.gg_drag_w', 60_000],
  ])('%s', (reason, control, to) => {
    const { events } = watchStart({ moves: [{ at_s: reason === 'slow' ? 9 : 1, control, to }], seconds: 75 });
    expect(reasonsOf(events)[0]).toBe(reason);
  });

  test('the control that gives up by itself is recognised, and its retry is a new attempt', () => {
    const { events, watch } = watchStart({
      moves: [{ at_s: 1, control: 'fault.e1.igniter_fail', to: 1 }],
      seconds: 60,
    });
    expect(reasonsOf(events)).toEqual(['no-light', 'no-light']);
    expect(watch.start.record.attempt).toBe(2);
    expect(events.some((e) => e.kind === 'cue' && e.text.includes('once more'))).toBe(true);
  });

  test('the pilot who moves the selector off has stopped the start', () => {
    const { events } = watchStart({ moves: [{ at_s: 12, control: 'e1.mode', to: 'OFF' }], seconds: 20 });
    expect(reasonsOf(events)).toEqual(['pilot']);
  });

  test('a reading lost during the start is unknown, never good', () => {
    const spoil = (t_s: number, values: Float64Array): void => {
      if (t_s > 12) values[channelIndex('tot.1')] = NaN;
    };
    const { events } = watchStart({ spoil, seconds: 20 });
    expect(reasonsOf(events)).toEqual(['sensor-lost']);
  });

  test('one lost sample is bridged', () => {
    const spoil = (t_s: number, values: Float64Array): void => {
      if (Math.abs(t_s - 12) < 0.05) values[channelIndex('ng.1')] = NaN;
    };
    expect(reasonsOf(watchStart({ spoil, corridor: learned() }).events)).toEqual([]);
  });

  test('a fire warning that lasts is a fire', () => {
    const spoil = (t_s: number, values: Float64Array): void => {
      if (t_s > 14) values[channelIndex('fire.1')] = 1;
    };
    expect(reasonsOf(watchStart({ spoil, seconds: 20 }).events)).toEqual(['fire']);
  });
});

describe('a habit knows the day', () => {
  const raised = (events: WatchEvent[]): string[] =>
    events.flatMap((e) => (e.kind === 'cue' && e.severity !== 'call' ? [e.code] : []));

  test('a start hotter than usual is said to be so, with what holds it back, and is stopped by nothing', () => {
    const moves = [{ at_s: 0.1, control: 'fault.e1.turb_eff', to: 0.82 }];
    const untold = watchStart({ moves, corridor: learned(), air: NEAR_SEA });
    expect(reasonsOf(untold.events)).toEqual([]);
    expect(raised(untold.events)).toEqual(['sluggish']);
    expect(untold.watch.start.state).toBe('idle');
  });

  test('for a wind that the brief told of, as much heat is allowed as it makes', () => {
    const moves = [{ at_s: 0.1, control: 'fault.e1.turb_eff', to: 0.82 }];
    expect(raised(watchStart({ moves, corridor: learned(), air: { ...NEAR_SEA, tailwind_kt: 28 } }).events)).toEqual(
      [],
    );
  });

  test('where nothing is known of height and wind, both are thought possible', () => {
    const conditions = { env: { oat_c: 15, headwind_kt: -15, pa_m: 3000 }, soc: 0.9 };
    expect(raised(watchStart({ conditions, corridor: learned() }).events)).toEqual([]);
  });
});

describe('readings that cannot be believed', () => {
  const codes = (events: WatchEvent[]): string[] => events.flatMap((e) => (e.kind === 'cue' ? [e.code] : []));
  const verdicts = (events: WatchEvent[]): string[] =>
    events.flatMap((e) => (e.kind === 'start-done' ? [e.verdict] : []));

  test.each([0.5, 0.6, 0.75])(
    'a temperature that reads %d of what it is, is too low for its fuel, and never good',
    (gain) => {
      const { events } = watchStart({ moves: [{ at_s: 0.1, control: 'fault.e1.tc_gain', to: gain }], air: NEAR_SEA });
      expect(codes(events)).toContain('reading-implausible');
      expect(verdicts(events)).toEqual(['unknown']);
    },
  );

  test.each([
    ['drifts down', (held: number, since_s: number) => held - 40 * since_s],
    ['trembles by a tenth where it stands', (held: number, since_s: number) => held + 0.1 * Math.sin(50 * since_s)],
  ])('a temperature that %s is found', (_, reads) => {
    let held = NaN;
    const spoil = (t_s: number, values: Float64Array): void => {
      if (t_s < 14) return;
      if (Number.isNaN(held)) held = values[channelIndex('tot.1')]!;
      values[channelIndex('tot.1')] = reads(held, t_s - 14);
    };
    const { events } = watchStart({ spoil, air: NEAR_SEA });
    expect(codes(events).some((c) => c === 'reading-implausible' || c === 'reading-stuck')).toBe(true);
    expect(verdicts(events)).not.toContain('good');
  });

  test('a valve that sticks open behind a frozen gauge is stopped by its fuel', () => {
    let held = NaN;
    const spoil = (t_s: number, values: Float64Array): void => {
      if (t_s < 8.5) return;
      if (Number.isNaN(held)) held = values[channelIndex('tot.1')]!;
      values[channelIndex('tot.1')] = held;
    };
    const moves = [{ at_s: 8.4, control: 'fault.e1.wf_stuck_kg_s', to: 0.013 }];
    const [stop] = watchStart({ moves, spoil, air: NEAR_SEA }).events.filter((e) => e.kind === 'abort');
    expect(stop).toMatchObject({ reason: 'going-to-be-hot' });
  });

  test('a temperature that leaps is a reading lost, not a hot start', () => {
    const spoil = (t_s: number, values: Float64Array): void => {
      if (t_s > 14) values[channelIndex('tot.1')] = 1200;
    };
    const [stop] = watchStart({ spoil, seconds: 20 }).events.filter((e) => e.kind === 'abort');
    expect(stop).toMatchObject({ reason: 'sensor-lost' });
    expect(stop!.text).toMatch(/leapt/);
  });

  test('a temperature that swings is said to swing', () => {
    const spoil = (t_s: number, values: Float64Array): void => {
      if (t_s > 12) values[channelIndex('tot.1')]! += 40 * Math.sin(2 * Math.PI * t_s);
    };
    expect(codes(watchStart({ spoil }).events)).toContain('oscillation');
  });
});

describe('a start that goes on', () => {
  test('against a stop, and is good, is at idle, is learned from, and its idle limits count', () => {
    const events: WatchEvent[] = [];
    const spoil = (t_s: number, _: Float64Array, watch: Watch): void => {
      if (Math.abs(t_s - 20) < 0.001) watch.pilotAbort(t_s);
    };
    const worked = watchStart({ spoil, corridor: learned() });
    events.push(...worked.events);
    expect(reasonsOf(events)).toEqual(['pilot']);
    expect(worked.watch.phase).toBe('idle');
    expect(events.flatMap((e) => (e.kind === 'start-done' ? [e.verdict] : []))).toEqual(['good']);
  });

  test('has stayed at idle only for as long as it was seen to: a hole is no time at idle', () => {
    const stop = (t_s: number, _: Float64Array, watch: Watch): void => {
      if (Math.abs(t_s - 20) < 0.001) watch.pilotAbort(t_s);
    };
    const whole = watchStart({ spoil: stop, corridor: learned() });
    const atIdle_s = whole.watch.start.record.idleAt_s;
    // data goes just after it came to idle, and one frame comes when its time would be over
    const long_s = skerry.startWatches[0]!.idleFor_s + 3;
    const end_s = atIdle_s + long_s + 0.5;
    const hidden = (t_s: number): boolean => t_s > atIdle_s + 0.2 && t_s < atIdle_s + long_s;
    const { watch } = watchStart({ spoil: stop, corridor: learned(), hidden, seconds: end_s });
    expect(watch.phase).toBe('start');
  });

  test('from a flame that came while nothing was seen has no light-off time', () => {
    const { watch: whole } = watchStart({});
    const { fuelAt_s, lightAt_s } = whole.start.record;
    const hidden = (t_s: number): boolean => t_s > fuelAt_s - 0.1 && t_s < lightAt_s + 0.2;
    const { watch } = watchStart({ hidden });
    expect(watch.start.state).toBe('idle');
    expect(watch.start.record.lightAt_s).toBeNaN();
    expect(watch.start.record.peak_C).toBeCloseTo(whole.start.record.peak_C, 0);
  });

  test('on one reading a second is told that it cannot be warned of', () => {
    const hidden = (t_s: number): boolean => Math.abs(t_s - Math.round(t_s)) > 0.001;
    const { events } = watchStart({ hidden });
    expect(events.some((e) => e.kind === 'cue' && e.code === 'slow-data' && e.severity === 'call')).toBe(true);
    expect(reasonsOf(events)).toEqual([]);
  });
});

describe('the source', () => {
  test('no frame for a second is said once, and its return too', () => {
    const { watch, events } = watchStart({ seconds: 10 });
    const before = events.length;
    for (let t = 10.1; t < 13; t += 0.1) watch.clock(t);
    expect(events.slice(before).map((e) => e.kind === 'cue' && e.code)).toEqual(['source-lost']);
    const said = events[before]!;
    expect(said.t_s - 10).toBeLessThanOrEqual(1);
    watch.step(13.5, new Float64Array(skerry.channels.length));
    expect(events.some((e) => e.kind === 'cue' && e.code === 'source-back')).toBe(true);
  });

  test('frames that do not go forward are ignored', () => {
    const { watch, events } = watchStart({ seconds: 10 });
    const before = events.length;
    watch.step(5, new Float64Array(skerry.channels.length).fill(999));
    expect(events.length).toBe(before);
    expect(watch.lastFrame_s).toBe(10);
  });
});

describe('running limits', () => {
  test('low oil pressure at idle is a warning after its time, and written up when it is over', () => {
    const spoil = (t_s: number, values: Float64Array): void => {
      if (t_s > 45 && t_s < 52) values[channelIndex('oil.1.pressure')] = 1.9;
    };
    const { events } = watchStart({ spoil, seconds: 60 });
    const warning = events.find((e) => e.kind === 'cue' && e.severity === 'warning');
    expect(warning?.t_s).toBeCloseTo(48, 1);
    const record = events.flatMap((e) =>
      e.kind === 'exceedance' && e.exceedance.limit === 'oil-pressure-low-idle' ? [e.exceedance] : [],
    );
    expect(record).toHaveLength(1);
    expect(record[0]!.expired).toBe(true);
    expect(record[0]!.peak).toBeCloseTo(1.9, 5);
    expect(record[0]!.duration_s).toBeGreaterThan(6.9);
  });
});

describe('a replay', () => {
  test.each(['hot-start', 'weak-battery', 'no-light'])('of %s reports what the live watch reported', (id) => {
    const { trace } = flyPreset(id, learned(), 21);
    const live: WatchEvent[] = [];
    const watch = new Watch(skerry, habit(learned()), (e) => live.push(e));
    const values = new Float64Array(skerry.channels.length);
    for (let i = 0; i < trace.t_s.length; i++) {
      trace.columns.forEach((c, k) => (values[k] = c[i]!));
      watch.step(trace.t_s[i]!, values);
    }
    const replayed: WatchEvent[] = [];
    new Watch(skerry, habit(learned()), (e) => replayed.push(e)).replay(trace);
    expect(replayed).toEqual(live);
  });
});

describe('what an ordinary recorder gives', () => {
  /** A good start thinned to one frame a second, figures without decimals, some channels missing. */
  function recorded(missing: readonly string[]): { events: WatchEvent[]; watch: Watch } {
    const { trace } = flyPreset('mild', null, 21);
    const events: WatchEvent[] = [];
    const watch = new Watch(skerry, {}, (e) => events.push(e));
    const values = new Float64Array(skerry.channels.length);
    for (let i = 0; i < trace.t_s.length; i += 50) {
      trace.columns.forEach((c, k) => (values[k] = skerry.channels[k]!.unit === '%' ? c[i]! : Math.round(c[i]!)));
      for (const id of missing) values[channelIndex(id)] = NaN;
      watch.step(trace.t_s[i]!, values);
    }
    return { events, watch };
  }

  test('one frame a second is enough for a start to be followed to idle, without a false word', () => {
    const { events } = recorded([]);
    expect(events.some((e) => e.kind === 'start-done')).toBe(true);
    expect(events.filter((e) => e.kind === 'abort' || (e.kind === 'cue' && e.severity !== 'call'))).toEqual([]);
  });

  test('without fuel flow the flame tells, and what cannot be judged is said', () => {
    const { events, watch } = recorded(['fuel.1.flow']);
    expect(events.some((e) => e.kind === 'start-done')).toBe(true);
    const said = events.flatMap((e) => (e.kind === 'cue' && e.severity !== 'call' ? [e.code] : []));
    expect(said).toEqual(['unseen-fuel']);
    expect(watch.start.record.fuelAt_s).toBeNaN();
    expect(watch.start.record.peak_C).toBeGreaterThan(600);
  });

  test('without oil pressure the start goes on, and is never called good for its oil', () => {
    const { events } = recorded(['oil.1.pressure']);
    const said = events.flatMap((e) => (e.kind === 'cue' ? [e.code] : []));
    expect(said).toContain('unseen-oil');
    expect(said).not.toContain('oil');
  });
});
