import type { Watch } from '@rouse/core/watch';
import { describe, expect, test } from 'vitest';
import { doneIn, type Reading, type Readings, saidIn, statesIn, stopsIn, tell } from './told.ts';

const statesOf = (id: 'S7' | 'C5' | 'T2', readings: Readings, seconds = 45): string[] =>
  statesIn(tell(id, readings, { seconds })).map((state) => state.split(' ')[1]!);
const amps =
  (engaged: (t_s: number) => boolean): Reading =>
  (t_s) =>
    engaged(t_s) ? 500 : 0;
const UNLIT: Readings = { 'tot.1': 20, 'fuel.1.flow': 0 };

describe.each([0, NaN])('a starter whose channel reads %d through a whole start', (reads) => {
  test('is told by the speed, and the start is seen to its end', () => {
    const turbine = tell('S7', { 'starter.1.amps': reads });
    expect(statesIn(turbine).slice(1)).toEqual(['14 fuel-on', '16.75 accelerating', '29.625 self-sustaining', '37.375 idle']); // oxfmt-ignore
    expect(doneIn(turbine)).toMatchObject([{ verdict: 'good', record: { starterMax_A: NaN, peak_C: 620 } }]);
    expect(statesOf('C5', { 'starter.1.amps': reads })).toEqual(['cranking', 'fuel-on', 'accelerating', 'self-sustaining', 'idle']); // oxfmt-ignore
    expect(statesOf('T2', { 'starter.1': reads }).slice(-1)).toEqual(['idle']);
  });

  test('after a start that was stopped, and has come down, the next is the next', () => {
    const twice: Reading = [[10, 0], [14, 16], [21, 16], [30, 0], [50, 0], [54, 16]]; // oxfmt-ignore
    const told = tell('S7', { ...UNLIT, 'ng.1': twice, 'starter.1.amps': reads, 'fuel.1.flow': (t_s) => (t_s >= 14 && t_s < 20 ? 30 : 0) }, { seconds: 56 }); // oxfmt-ignore
    expect(statesIn(told).map((state) => state.split(' ')[1])).toEqual(['cranking', 'fuel-on', 'aborted', 'cranking']); // oxfmt-ignore
    expect(told.watch.start.record.attempt).toBe(2);
  });

  test('running down is no start', () => {
    const down: Reading = [[10, 0], [14, 16], [34, 66], [50, 67], [80, 0]]; // oxfmt-ignore
    const told = tell('S7', { 'ng.1': down, 'starter.1.amps': reads, 'fuel.1.flow': (t_s, before) => (t_s < 50 ? before : 0) }, { seconds: 90 }); // oxfmt-ignore
    expect(told.watch.phase).toBe('off');
    expect(statesIn(told).filter((state) => state.includes('cranking'))).toHaveLength(1);
  });
});

describe('a starter that reads off while its engine is turned', () => {
  test('is not believed, and that is said; one that reads is', () => {
    expect(saidIn(tell('S7', { 'starter.1.amps': 0 }))).toContain('12.75 caution unseen-starter');
    expect(saidIn(tell('S7')).join()).not.toMatch(/unseen-starter/);
  });

  test('is said of the start that it was so in, and not of the next', () => {
    const twice: Reading = [[10, 0], [14, 16], [21, 16], [30, 0], [50, 0], [54, 16]]; // oxfmt-ignore
    const told = tell('S7', { ...UNLIT, 'ng.1': twice, 'starter.1.amps': (t_s) => (t_s < 24 ? 0 : NaN), 'fuel.1.flow': (t_s) => (t_s >= 14 && t_s < 20 ? 30 : 0) }, { seconds: 56 }); // oxfmt-ignore
    expect(told.watch.start.record.attempt).toBe(2);
    expect(saidIn(told).filter((said) => said.includes('unseen-starter'))).toHaveLength(1);
  });

  test('wind that turns a spool, and a speed of one frame, are no start', () => {
    expect(statesOf('S7', { ...UNLIT, 'starter.1.amps': 0, 'ng.1': [[10, 0], [14, 9.9]] })).toEqual([]); // oxfmt-ignore
    expect(statesOf('S7', { ...UNLIT, 'starter.1.amps': 0, 'ng.1': (t_s) => (t_s % 5 === 0 ? 14 : 0) })).toEqual([]);
  });

  test('a spool that was motored, and runs down, is no start', () => {
    const motored: Readings = { ...UNLIT, 'ng.1': [[10, 0], [14, 20], [15, 20], [25, 0]], 'starter.1.amps': amps((t_s) => t_s >= 10 && t_s < 15) }; // oxfmt-ignore
    expect(statesOf('S7', { ...motored, 'engine.1.selector': (t_s) => (t_s < 15 ? 0 : 1) })).toEqual([]);
    expect(statesOf('C5', { ...motored, 'engine.1.grip': 0 })).toEqual(['cranking', 'before']);
  });

  test('readings a second apart show a start that is under way', () => {
    const told = tell('S7', { 'starter.1.amps': 0, 'ng.1': [[10, 0], [12, 20], [34, 66], [35, 67]], 'fuel.1.flow': (t_s, before) => (t_s >= 11 ? Math.max(before, 20) : 0) }, { step_s: 1 }); // oxfmt-ignore
    expect(statesIn(told).slice(0, 2)).toEqual(['13 cranking', '13 accelerating']);
    expect(told.watch.start.record).toMatchObject({ attempt: 1, lightAt_s: NaN });
  });

  test('and comes back in the middle of the start is believed from then on', () => {
    const told = tell('S7', { 'starter.1.amps': (t_s, before) => (t_s < 20 ? 0 : before) });
    expect(statesOf('S7', { 'starter.1.amps': (t_s, before) => (t_s < 20 ? 0 : before) }).at(-1)).toBe('idle');
    expect(told.watch.start.record.starterMax_A).toBe(500);
    expect(stopsIn(tell('S7', { 'starter.1.amps': (t_s) => (t_s < 20 ? 0 : 400) })).join()).toMatch(/starter-not-releasing/); // oxfmt-ignore
  });
});

describe('what was not seen, or came after a stop', () => {
  test('an idle that lasts is counted over what was seen of it', () => {
    const idleAt = (seen: (t_s: number) => boolean): number =>
      Number(
        statesIn(tell('S7', {}, { seconds: 50, seen }))
          .at(-1)!
          .split(' ')[0],
      );
    expect(idleAt(() => true)).toBe(37.375);
    const hidden = idleAt((t_s) => t_s <= 35 || t_s >= 38);
    expect(hidden).toBeGreaterThan(39.5);
    expect(hidden).toBeLessThan(42);
  });

  test('an engine that was out of sight when it should have turned is looked at before it is stopped', () => {
    const hidden = (from_s: number, to_s: number) => (t_s: number) => t_s <= from_s || t_s >= to_s;
    // the line stood still, and with it the clock of the unit: what comes after is as young as what came before
    const trainer: Readings = { 'engine.rpm': [[10, 0], [12.875, 2], [13.5, 8], [15, 8], [17, 50]], 'starter.1': (t_s) => (t_s >= 10 && t_s < 15 ? 1 : 0) }; // oxfmt-ignore
    expect(stopsIn(tell('T2', trainer, { seen: hidden(10.125, 12.875) }))).toEqual([]);
    const spool: Readings = {
      'ng.1': [
        [10, 0],
        [18.5, 1],
        [22, 16],
        [42, 66],
        [43, 67],
      ],
      ...UNLIT,
    };
    expect(stopsIn(tell('S7', spool, { seconds: 21, seen: hidden(10.125, 18.5) }))).toEqual([]);
    const stays: Readings = {
      'engine.rpm': [
        [10, 0],
        [11, 2],
      ],
      'starter.1': (t_s) => (t_s >= 10 ? 1 : 0),
    };
    expect(stopsIn(tell('T2', stays, { seen: hidden(10.125, 12.875) }))[0]).toContain('13.75 no-crank: Engine at 2.0 %'); // oxfmt-ignore
  });

  test('a start that went on against the stop and passed its limit after it is not a good one', () => {
    const stop = (t_s: number, watch: Watch): void => {
      if (t_s === 20) watch.pilotAbort(t_s);
    };
    const went = (changed: Readings) => tell('S7', changed, { seconds: 50, before: stop });
    expect(doneIn(went({}))).toMatchObject([{ verdict: 'good' }]);
    const passed = went({ 'tot.1': [[16, 20], [24, 700], [25, 910], [29, 910], [36, 480]] }); // oxfmt-ignore
    expect(statesIn(passed).at(-1)).toMatch(/ idle$/);
    expect(doneIn(passed)).toEqual([]);
    expect(passed.events.some((e) => e.kind === 'start-ended')).toBe(true);
  });
});
