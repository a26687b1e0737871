import { describe, expect, test } from 'vitest';
import { needWatched, type RunUpWatch } from '@rouse/core/aircraft';
import type { WatchEvent } from '@rouse/core/watch';
import { AvoidedSpeed } from '../../src/watch/avoided-speed.ts';
import { RunUp } from '../../src/watch/run-up.ts';
import { SuspendedLimit } from '../../src/watch/suspended-limit.ts';
import { typeOf } from '../fleet.ts';

const STEP_S = 0.125;
type Readings = Readonly<Record<string, number>>;

/** The run-up of a type, told what its channels read. */
class Told {
  readonly events: WatchEvent[] = [];
  readonly runUp: RunUp;
  readonly spec: RunUpWatch;
  t_s = 0;
  private readonly values: Float64Array;
  private readonly index: (id: string) => number;

  constructor(id: 'S7' | 'H9' | 'T2') {
    const type = needWatched(typeOf(id));
    this.spec = type.runUpWatch;
    this.index = (channel) => type.channels.findIndex((c) => c.id === channel);
    this.values = new Float64Array(type.channels.length).fill(NaN);
    this.runUp = new RunUp(type, type.runUpWatch, (e) => this.events.push(e));
  }

  reads(readings: Readings): this {
    for (const [id, value] of Object.entries(readings)) this.values[this.index(id)] = value;
    return this;
  }

  found(readings: Readings): RunUp['phase'] {
    this.runUp.found(this.reads(readings).values);
    return this.runUp.phase;
  }

  /** So many seconds of these readings. @returns how often the phase changed */
  hold(seconds: number, readings: Readings = {}): number {
    this.reads(readings);
    let changes = 0;
    for (const end_s = this.t_s + seconds; this.t_s < end_s;) {
      this.t_s += STEP_S;
      if (this.runUp.step(this.t_s, STEP_S, this.values)) changes++;
    }
    return changes;
  }

  get said(): string[] {
    return this.events.flatMap((e) => (e.kind === 'cue' ? [`${e.t_s} ${e.code}: ${e.text}`] : []));
  }
}

const IDLE: Readings = { 'engine.1.selector': 1, 'engine.2.selector': 1, nr: 68, 'tq.1': 8, 'tq.2': 8 };
const both = (selector: number): Readings => ({ 'engine.1.selector': selector, 'engine.2.selector': selector });

describe('a run-up of two engines', () => {
  test('begins with both selectors, is done with the rotor steady in its window, and its figures are kept', () => {
    const told = new Told('H9');
    expect(told.hold(1, IDLE)).toBe(0);
    expect(told.hold(1, { 'engine.1.selector': 2 })).toBe(0);
    expect(told.hold(1, { ...both(2), nr: 80, 'tq.1': 30, 'tq.2': 24 })).toBe(1);
    expect(told.runUp.phase).toBe('run-up');
    told.hold(2, { nr: 98, 'tq.1': 42 });
    expect(told.hold(2, { nr: 100, 'tq.1': 20, 'tq.2': 20 })).toBe(1);
    expect(told.runUp.phase).toBe('flight');
    expect(told.said).toEqual(['6 run-up-done: Rotor 100 percent, steady']);
    expect(told.events.at(-1)).toEqual({
      kind: 'run-up-done',
      t_s: 6,
      watch: 'run-up-to-flight',
      took_s: 3.875,
      torqueMax_pct: 42,
      splitMax_pct: 18,
      rotorMax_pct: 100,
    });
  });

  test('is not done while the rotor leaves its window, at either edge, or the torques are apart', () => {
    const told = new Told('H9');
    told.hold(1, { ...IDLE, ...both(2), nr: 97, 'tq.1': 20, 'tq.2': 20 });
    told.hold(1.875);
    told.hold(STEP_S, { nr: 96.9 });
    told.hold(2.875, { nr: 103.5 });
    told.hold(STEP_S, { nr: 103.6 });
    expect(told.runUp.phase).toBe('run-up');
    told.hold(10, { nr: 100, 'tq.1': 30, 'tq.2': 21.5 });
    expect(told.runUp.phase).toBe('run-up');
    told.hold(STEP_S, { 'tq.2': 22 });
    expect(told.runUp.phase).toBe('flight');
  });

  test('that is late is said once, with what is missing', () => {
    const told = new Told('H9');
    told.hold(60, { ...IDLE, ...both(2), nr: 90 });
    expect(told.said).toEqual(['40.25 run-up-late: Rotor 90 % 40 s after flight was selected; 97 to 103.5 % expected']);
    const apart = new Told('H9');
    apart.hold(60, { ...IDLE, ...both(2), nr: 100, 'tq.1': 30, 'tq.2': 20 });
    expect(apart.said).toEqual(['40.25 run-up-late: Torques still 10 % apart 40 s after flight was selected; 8 % at most expected']); // oxfmt-ignore
    expect(apart.events.map((e) => e.kind === 'cue' && [e.severity, e.say])).toEqual([['caution', 'Torque split.']]);
  });

  test('torque above what the ground may take is said once, whether the rotor is late or not', () => {
    const told = new Told('H9');
    told.hold(60, { ...IDLE, ...both(2), nr: 90, 'tq.1': 61 });
    expect(told.said.map((s) => s.split(':')[0])).toEqual(['0.25 run-up-torque', '40.25 run-up-late']);
    expect(told.said[0]).toContain('Torque 61 % in the run-up; at most 60 %');
    const late = new Told('H9');
    late.hold(50, { ...IDLE, ...both(2), nr: 90 });
    late.hold(10, { 'tq.2': 65 });
    expect(late.said.map((s) => s.split(':')[0])).toEqual(['40.25 run-up-late', '50.125 run-up-torque']);
    const most = new Told('H9');
    most.hold(5, { ...IDLE, ...both(2), nr: 90, 'tq.1': 60 });
    expect(most.said).toEqual([]);
  });

  test('a torque that is not read matches nothing, and one that was high before counts no more', () => {
    const told = new Told('H9');
    told.hold(10, { ...IDLE, ...both(2), nr: 100, 'tq.2': NaN });
    expect(told.runUp.phase).toBe('run-up');
    told.hold(STEP_S, { 'tq.2': 8 });
    expect(told.runUp.phase).toBe('flight');
    told.hold(1, both(1));
    expect(told.runUp.phase).toBe('idle');
    told.hold(5, { ...both(2), 'tq.1': 20, 'tq.2': 20 });
    expect(told.events.at(-1)).toMatchObject({ kind: 'run-up-done', torqueMax_pct: 20, splitMax_pct: 0 });
  });

  test('one selector below flight is idle again; between, it stays what it was', () => {
    const told = new Told('H9');
    told.hold(5, { ...IDLE, ...both(2), nr: 100 });
    expect(told.runUp.phase).toBe('flight');
    expect(told.hold(1, { 'engine.2.selector': 1.5 })).toBe(0);
    expect(told.hold(1, { 'engine.2.selector': 1.4 })).toBe(1);
    expect(told.runUp.phase).toBe('idle');
    expect(told.hold(1, { 'engine.2.selector': 1.9 })).toBe(0);
    told.hold(1, both(2));
    told.runUp.stop();
    expect(told.runUp.phase).toBe('idle');
  });

  test('a selector that is not read is not at flight', () => {
    const told = new Told('H9');
    told.hold(5, { ...IDLE, 'engine.1.selector': 2, 'engine.2.selector': NaN, nr: 100 });
    expect(told.runUp.phase).toBe('idle');
  });
});

describe('a run-up that needs a switch', () => {
  const governed: Readings = { 'engine.rpm': 97, nr: 98, 'switch.governor': 1 };
  test('waits for it without counting its time', () => {
    const told = new Told('T2');
    told.hold(60, { ...governed, 'switch.governor': 0 });
    expect(told.said).toEqual([]);
    expect(told.runUp.phase).toBe('run-up');
    told.hold(4.875, governed);
    expect(told.runUp.phase).toBe('run-up');
    told.hold(STEP_S);
    expect(told.runUp.phase).toBe('flight');
    expect(told.events.at(-1)).toMatchObject({ took_s: 4.875 });
  });
  test('is a run-up again when it goes', () => {
    const told = new Told('T2');
    told.hold(10, governed);
    expect(told.hold(1, { 'switch.governor': 0 })).toBe(1);
    expect(told.runUp.phase).toBe('run-up');
    told.hold(3, { 'switch.governor': 1 });
    told.hold(1, { 'switch.governor': 0 });
    told.hold(4.875, { 'switch.governor': 1 });
    expect(told.runUp.phase).toBe('run-up');
    told.hold(STEP_S);
    expect(told.runUp.phase).toBe('flight');
  });
  test('goes on where its reading, or the rotor’s, is missing for a frame', () => {
    const told = new Told('T2');
    told.hold(4, governed);
    told.hold(STEP_S, { 'switch.governor': NaN });
    told.hold(STEP_S, { ...governed, nr: NaN });
    told.hold(1, governed);
    expect(told.runUp.phase).toBe('run-up');
    told.hold(STEP_S);
    expect(told.runUp.phase).toBe('flight');
    expect(told.events.at(-1)).toMatchObject({ took_s: 5.25 });
    expect(told.hold(3, { 'switch.governor': NaN })).toBe(0);
    expect(told.hold(STEP_S, { 'switch.governor': 0 })).toBe(1);
    expect(told.said).toHaveLength(1);
  });
  test('is late in words where a reading stays away, and is not while it only has to stay where it is', () => {
    const late = (id: 'T2' | 'H9', readings: Readings): string[] => {
      const told = new Told(id);
      told.hold(1, id === 'T2' ? { ...governed, nr: 90 } : { ...IDLE, ...both(2), nr: 90 });
      told.hold(45, readings);
      return told.said;
    };
    expect(late('T2', { 'switch.governor': NaN })).toEqual(['41.375 run-up-late: Governor is not read 40 s after flight was selected: look and decide']); // oxfmt-ignore
    expect(late('T2', { nr: NaN })).toEqual(['41.375 run-up-late: Rotor is not read 40 s after flight was selected: look and decide']); // oxfmt-ignore
    expect(late('H9', { nr: 100, 'tq.2': NaN })).toEqual(['41.375 run-up-late: Torque is not read 40 s after flight was selected: look and decide']); // oxfmt-ignore
    const poor = new Told('H9');
    poor.hold(40, { ...IDLE, ...both(2), nr: 90 });
    for (let k = 0; k < 20; k++) poor.hold(STEP_S, { nr: k % 2 === 1 ? NaN : 90 });
    expect(poor.said).toEqual([
      '40.375 run-up-late: Rotor 90 % 40 s after flight was selected; 97 to 103.5 % expected',
    ]);
    const told = new Told('T2');
    told.hold(38, { ...governed, nr: 90 });
    told.hold(6, governed);
    expect(told.said).toEqual(['43 run-up-done: Rotor 98 percent, steady']);
  });
  test('does not begin while nobody knows of it', () => {
    const told = new Told('T2');
    told.hold(60, { ...governed, 'switch.governor': NaN });
    expect(told.runUp.phase).toBe('run-up');
    expect(told.said).toEqual([]);
  });
  test('is found where it is', () => {
    expect(new Told('T2').found(governed)).toBe('flight');
    expect(new Told('T2').found({ ...governed, 'switch.governor': 0 })).toBe('run-up');
    expect(new Told('T2').found({ ...governed, 'engine.rpm': 60 })).toBe('idle');
    expect(new Told('H9').found(IDLE)).toBe('idle');
    expect(new Told('H9').found({ ...IDLE, ...both(2) })).toBe('flight');
  });
});

describe('what a replay of a run-up looks at', () => {
  test('every row while torque counts, while the rotor is steady, or when its time is over', () => {
    const told = new Told('H9');
    expect(told.runUp.needsCloseLook(99)).toBe(false);
    told.hold(1, { ...IDLE, ...both(2), nr: 90 });
    expect(told.runUp.needsCloseLook(1)).toBe(true);
    const trainer = new Told('T2');
    trainer.hold(1, { 'engine.rpm': 97, nr: 90, 'switch.governor': 1 });
    expect(trainer.runUp.needsCloseLook(2)).toBe(false);
    expect(trainer.runUp.needsCloseLook(41)).toBe(true);
    trainer.hold(1, { nr: 98 });
    expect(trainer.runUp.needsCloseLook(2)).toBe(true);
    trainer.hold(1, { 'switch.governor': 0 });
    expect(trainer.runUp.needsCloseLook(99)).toBe(false);
  });
  test('the readings that end each phase', () => {
    const told = new Told('T2');
    const edges = (): [number, number][] => told.runUp.guards().map((g) => [g.low, g.high]);
    expect(edges()).toEqual([[-Infinity, 94]]);
    told.hold(1, { 'engine.rpm': 97, nr: 90, 'switch.governor': 0 });
    expect(edges()).toEqual([[80, Infinity], [-Infinity, 0.49]]); // oxfmt-ignore
    told.hold(1, { 'switch.governor': 1 });
    expect(edges()).toEqual([[80, Infinity], [0.5, Infinity], [-Infinity, 96.5]]); // oxfmt-ignore
    told.hold(10, { nr: 98 });
    expect(edges()).toEqual([[80, Infinity], [0.5, Infinity]]); // oxfmt-ignore
    const twin = new Told('H9');
    twin.hold(10, { ...IDLE, ...both(2), nr: 100 });
    expect(twin.runUp.guards().map((g) => [g.low, g.high])).toEqual([[1.5, Infinity], [1.5, Infinity]]); // oxfmt-ignore
  });
});

describe('a speed to pass through', () => {
  const trainer = needWatched(typeOf('T2'));
  const spec = trainer.runUpWatch.avoid![0]!;
  const stay = (speeds: readonly number[]): string[] => {
    const said: string[] = [];
    const avoided = new AvoidedSpeed(trainer, spec, (e) => said.push(`${e.t_s} ${e.kind === 'cue' ? e.text : ''}`));
    speeds.forEach((speed, k) => avoided.step(k * 0.5, 0.5, speed));
    return said;
  };
  const held = (speed: number, frames: number): number[] => Array.from({ length: frames }, () => speed);

  test('is said once for every stay that is longer than allowed', () => {
    expect(stay(held(55, 16))).toEqual([]);
    expect(stay(held(55, 40))).toEqual([
      '8 Engine speed between 51 and 58 % for more than 8 s. The drive swings there: go through, do not stay.',
    ]);
    expect(stay([...held(55, 17), 60, ...held(55, 17)])).toHaveLength(2);
    expect(stay([...held(55, 10), 60, ...held(55, 10)])).toEqual([]);
  });
  test('its edges are outside, and a reading that is not there too', () => {
    for (const speed of [51, 58, NaN]) expect(stay(held(speed, 60))).toEqual([]);
  });
  test('on a line that loses one reading in five a stay is one stay', () => {
    const poor = held(55, 60).map((speed, k) => (k % 5 === 3 ? NaN : speed));
    expect(stay(poor).map((s) => s.split(' ')[0])).toEqual(['10']);
    expect(stay([...held(55, 14), NaN, NaN, NaN, ...held(55, 14)])).toEqual([]);
  });
  test('is looked at closely by a replay while it is in there', () => {
    const avoided = new AvoidedSpeed(trainer, spec, () => undefined);
    const column = Float64Array.from([40, 51, 55, 58, 60, NaN]);
    const looks = (from: number, to: number): boolean => avoided.needsCloseLook(column, from, to);
    expect([looks(0, 2), looks(0, 3), looks(2, 3), looks(3, 6)]).toEqual([false, true, true, false]);
    avoided.step(0, 0.5, 55);
    expect(looks(3, 6)).toBe(true);
  });
});

describe('a limit that a test sets aside', () => {
  const type = needWatched(typeOf('S7'));
  const limit = type.limits.find((l) => l.id === 'hydraulic-1-low')!;
  const switched = (positions: readonly number[], spec = limit.notWhile!): [boolean, boolean][] => {
    const suspended = new SuspendedLimit(type, limit, spec);
    const values = new Float64Array(type.channels.length);
    return positions.map((position, k) => {
      values[suspended.index] = position;
      return [suspended.update(k, values), suspended.aside];
    });
  };
  test('while its switch is out of its place, and three seconds after; each change is told once', () => {
    expect(switched([0, 1, 1, 0, 0, 0, 0])).toEqual([[false, false], [true, true], [false, true], [false, true], [false, true], [true, false], [false, false]]); // oxfmt-ignore
    expect(switched([0.5, 0.6])).toEqual([[false, false], [true, true]]); // oxfmt-ignore
    expect(switched([NaN])).toEqual([[false, false]]);
  });
  test('or below its place', () => {
    const { above: _, ...spec } = { ...limit.notWhile!, below: 0.1 };
    expect(switched([0.1, 0], spec as never)).toEqual([[false, false], [true, true]]); // oxfmt-ignore
    expect(new SuspendedLimit(type, limit, spec as never).guard()).toMatchObject({ low: 0.1, high: Infinity });
    expect(new SuspendedLimit(type, limit, limit.notWhile!).guard()).toMatchObject({ low: -Infinity, high: 0.5 });
  });
});
