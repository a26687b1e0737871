import { beforeAll, describe, expect, test } from 'vitest';
import { flyPractice } from '@rouse/core/drill';
import { type Conditions, NormalSource, SimulatedCockpit } from '@rouse/core/simulator';
import { type Corridor, Watch, type WatchEvent } from '@rouse/core/watch';
import {
  abortOf,
  channelIndex,
  cuesOf,
  flyPreset,
  habit,
  ordinaryConditions,
  ordinaryCorridor,
  skerry,
} from '../skerry.ts';

let corridor: Corridor;
beforeAll(() => {
  corridor = ordinaryCorridor(30);
});

/** the day and the battery that the reference model was measured in */
const REFERENCE: Conditions = { env: { oat_c: 15 }, soc: 0.9 };
const BAND_B_C = 835;

/** A start with hands that only press, watched; faults and controls as given. */
function watchStart(options: {
  conditions?: Conditions;
  moves?: { at_s: number; control: string; to: number | string }[];
  corridor?: Corridor | null;
  spoil?: (t_s: number, values: Float64Array) => void;
  seconds?: number;
}): { events: WatchEvent[]; watch: Watch; tot: number[] } {
  const cockpit = new SimulatedCockpit(skerry, { ...REFERENCE, ...options.conditions }, [], 11);
  const events: WatchEvent[] = [];
  const watch = new Watch(skerry, habit(options.corridor), (e) => events.push(e));
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
    options.spoil?.(t_s, values);
    tot.push(values[channelIndex('tot.1')]!);
    watch.step(t_s, values);
  }
  return { events, watch, tot };
}

const reasonsOf = (events: WatchEvent[]): string[] => events.flatMap((e) => (e.kind === 'abort' ? [e.reason] : []));

describe('good starts', () => {
  test('on a mild day nothing is raised but the call-outs, and every moment is called', () => {
    const run = flyPreset('mild', corridor);
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

  test('a hundred ordinary starts outside the learned ones raise no abort', () => {
    const chance = new NormalSource(99);
    const aborted: string[] = [];
    for (let i = 0; i < 100; i++) {
      const run = flyPractice({
        type: skerry,
        conditions: ordinaryConditions(chance),
        faults: [],
        corridors: habit(corridor),
        seed: 1000 + i,
        limit_s: 95,
      });
      const abort = abortOf(run);
      if (abort) aborted.push(abort.text);
    }
    expect(aborted).toEqual([]);
  });

  test('the record of a start carries the times of the reference model', () => {
    const { record } = flyPractice({ type: skerry, conditions: REFERENCE, faults: [], corridors: {}, seed: 3 })
      .starts[0]!;
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
    expect(abortOf(flyPreset(preset, corridor))?.reason).toBe(reason);
  });

  test('a hot start is hot without a corridor, and seen coming with one', () => {
    expect(abortOf(flyPreset('hot-start'))?.reason).toBe('hot');
    const early = abortOf(flyPreset('hot-start', corridor))!;
    const late = abortOf(flyPreset('hot-start'))!;
    expect(early.reason).toBe('going-to-be-hot');
    expect(late.t_s - early.t_s).toBeGreaterThan(0.6);
  });

  test('the warning leads the two-second band by more than half a second when the valve sticks wide', () => {
    const moves = [{ at_s: 7.2, control: 'fault.e1.wf_stuck_kg_s', to: 0.017 }];
    const { events, tot } = watchStart({ moves, corridor, seconds: 20 });
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
    expect(reasonsOf(watchStart({ spoil, corridor }).events)).toEqual([]);
  });

  test('outside the weather it was learned in, the corridor warns and does not abort', () => {
    const conditions = { env: { oat_c: 43, headwind_kt: -20 }, soc: 0.9 };
    const { events } = watchStart({ conditions, corridor });
    expect(reasonsOf(events)).toEqual([]);
    const cue = events.find((e) => e.kind === 'cue' && e.code === 'outside-corridor');
    expect(cue && cue.kind === 'cue' && cue.severity).toBe('caution');
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
  test.each(skerry.standIn.map((p) => p.id))('of %s reports what the live watch reported', (id) => {
    const { trace } = flyPreset(id, corridor, 21);
    const live: WatchEvent[] = [];
    const watch = new Watch(skerry, habit(corridor), (e) => live.push(e));
    const values = new Float64Array(skerry.channels.length);
    for (let i = 0; i < trace.t_s.length; i++) {
      trace.columns.forEach((c, k) => (values[k] = c[i]!));
      watch.step(trace.t_s[i]!, values);
    }
    const replayed: WatchEvent[] = [];
    new Watch(skerry, habit(corridor), (e) => replayed.push(e)).replay(trace);
    expect(replayed).toEqual(live);
  });

  test('with holes and lost sensors is the same too', () => {
    const { trace } = flyPreset('mild', corridor, 22);
    const holed = {
      ...trace,
      columns: trace.columns.map((c, k) =>
        c.map((v, i) => ((i + 37 * k) % 701 < 3 || (k === 6 && i > 5200 && i < 5400) ? NaN : v)),
      ),
    };
    const cut = {
      channels: holed.channels,
      t_s: Float64Array.from(holed.t_s, (t, i) => (i > 5600 ? t + 4 : t)),
      columns: holed.columns,
    };
    const live: WatchEvent[] = [];
    const watch = new Watch(skerry, habit(corridor), (e) => live.push(e));
    const values = new Float64Array(skerry.channels.length);
    for (let i = 0; i < cut.t_s.length; i++) {
      cut.columns.forEach((c, k) => (values[k] = c[i]!));
      watch.step(cut.t_s[i]!, values);
    }
    const replayed: WatchEvent[] = [];
    new Watch(skerry, habit(corridor), (e) => replayed.push(e)).replay(cut);
    expect(replayed).toEqual(live);
    expect(live.length).toBeGreaterThan(10);
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
