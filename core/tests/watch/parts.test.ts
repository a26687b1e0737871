import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { SimulatedCockpit } from '@rouse/core/simulator';
import { BandMonitor, type BandTable, snapshotOf, type Excursion, Watch, type WatchEvent } from '@rouse/core/watch';
import { channelIndex, skerry } from '../skerry.ts';

const table: BandTable = {
  direction: 'high',
  hysteresis: 2,
  bands: [
    { id: 'A', limit: 100, mode: 'cumulative', allow_s: 3 },
    { id: 'B', limit: 120, mode: 'continuous', allow_s: 1 },
    { id: 'C', limit: 140, inclusive: true, mode: 'continuous', allow_s: 0 },
  ],
};

describe('a band monitor, live', () => {
  const seen: string[] = [];
  const fresh = (t: BandTable = table): BandMonitor => {
    seen.length = 0;
    return new BandMonitor(t, (event, band, t_s) => seen.push(`${t_s.toFixed(2)} ${event} ${band.id}`));
  };

  test('each band has a timer of its own, and expires to the millisecond inside a frame', () => {
    const monitor = fresh();
    monitor.start(0, 90);
    monitor.line(1, 130); // A at 0.25, B at 0.75
    monitor.line(4, 130); // B used up at 1.75, A at 3.25
    monitor.line(5, 90);
    // within one frame each band reports for itself; the times are what counts
    expect(seen.toSorted()).toEqual([
      '0.25 ENTER A',
      '0.75 ENTER B',
      '1.75 EXPIRED B',
      '3.25 EXPIRED A',
      '4.30 EXIT B',
      '4.80 EXIT A',
    ]);
    expect(monitor.usage('A')).toEqual({ used_s: 4.55, remaining_s: 0 });
    expect(monitor.usage('B').remaining_s).toBe(1);
  });

  test('a touch of an inclusive never is one at once', () => {
    const monitor = fresh();
    monitor.start(0, 130);
    monitor.line(1, 140);
    expect(seen).toContain('1.00 ENTER C');
    expect(seen).toContain('1.00 EXPIRED C');
  });

  test('below the quiet edge nothing can change; in a band nothing is quiet', () => {
    const monitor = fresh();
    expect(monitor.quiet).toBe(100);
    monitor.start(0, 110);
    expect(monitor.quiet).toBe(-Infinity);
    expect(monitor.active).toBe(true);
    monitor.close(1);
    expect(monitor.quiet).toBe(100);
    expect(monitor.started).toBe(false);
  });

  test('between the steady edges, until the steady time, no event comes', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 80, max: 139, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (first, share) => {
          const monitor = fresh();
          monitor.start(0, first);
          const { low, high, until_s } = monitor.steady();
          const before = seen.length;
          const top = Math.min(high, 200);
          const bottom = Math.max(low, 0);
          const inside = bottom + (0.001 + 0.998 * share) * (top - bottom);
          monitor.line(Math.min(until_s, 50) * 0.999, inside);
          expect(seen.length).toBe(before);
        },
      ),
    );
  });

  test('a low limit is the same upside down, with its peak the right way up', () => {
    const excursions: Excursion[] = [];
    const monitor = new BandMonitor(
      { direction: 'low', hysteresis: 0.2, bands: [{ id: 'min', limit: 13.2, mode: 'continuous', allow_s: 1 }] },
      (_e, _b, _t, excursion) => excursions.push(excursion),
    );
    monitor.start(0, 24);
    monitor.line(0.1, 12);
    monitor.line(0.5, 14);
    expect(excursions[0]).toMatchObject({ peak: 12, open: false });
    expect(monitor.quiet).toBe(13.2);
  });
});

describe('the snapshot', () => {
  test('milestones are met in order through a start, and the starter’s time runs', () => {
    const cockpit = new SimulatedCockpit(skerry, { env: { oat_c: 15 }, soc: 0.9 }, [], 5);
    const watch = new Watch(skerry, {}, () => undefined);
    for (const control of ['battery', 'boost', 'load.base_bus']) cockpit.move({ control, to: 1 });
    const met: string[] = [];
    let longest = 0;
    let due_s: number | null = null;
    for (let k = 1; k < 45 * 50; k++) {
      if (k === 100) {
        cockpit.move({ control: 'e1.mode', to: 'IDLE' });
        cockpit.move({ control: 'e1.start', to: 1, release_s: 2 });
      }
      watch.step(k / 50, cockpit.tick());
      const start = snapshotOf(watch, skerry).starts[0]!;
      for (const m of start.milestones) if (m.met && !met.includes(m.id)) met.push(m.id);
      longest = Math.max(longest, start.starterOn_s);
      if (start.state === 'fuel-on') due_s = start.milestones[0]!.due_s;
      expect(start.starterLeft_s).toBeCloseTo(Math.max(0, 45 - start.starterOn_s), 9);
      expect(start.peak === null || start.state === 'accelerating' || start.state === 'self-sustaining').toBe(true);
    }
    expect(met.slice(0, 2).toSorted()).toEqual(['light-off', 'oil']);
    expect(met.slice(2)).toEqual(['rotor', 'starter', 'idle']);
    expect(longest).toBeGreaterThan(18);
    expect(longest).toBeLessThan(25);
    expect(due_s! - watch.start.record.fuelAt_s).toBeCloseTo(6, 6);
  });

  test('a band that is open shows what is left of it', () => {
    const watch = new Watch(skerry, {}, () => undefined, 'start');
    const values = new Float64Array(skerry.channels.length);
    values[channelIndex('bus.volts')] = 20;
    values[channelIndex('tot.1')] = 700;
    watch.step(0, values);
    values[channelIndex('tot.1')] = 790;
    watch.step(1, values);
    watch.step(3, values);
    const [row] = snapshotOf(watch, skerry).room;
    expect(row).toMatchObject({ channel: 'tot.1', band: 'A', edge: 770 });
    expect(row!.remaining_s).toBeCloseTo(8 - 2 - (1 - 70 / 90), 6);
  });
});

describe('phases', () => {
  const values = (over: Record<string, number>): Float64Array => {
    const out = new Float64Array(skerry.channels.length);
    const base = {
      'ng.1': 67,
      nr: 68,
      'engine.1.selector': 1,
      'fuel.1.flow': 50,
      'oil.1.pressure': 5,
      'gearbox.oil.pressure': 4,
      'bus.volts': 28,
      'hydraulic.1.pressure': 90,
      'hydraulic.2.pressure': 90,
      'tot.1': 480,
    };
    for (const [id, v] of Object.entries({ ...base, ...over })) out[channelIndex(id)] = v;
    return out;
  };

  test('a watch that meets a running engine knows where it is', () => {
    const events: WatchEvent[] = [];
    const watch = new Watch(skerry, {}, (e) => events.push(e));
    watch.step(0, values({}));
    expect(watch.phase).toBe('idle');
    const flying = new Watch(skerry, {}, () => undefined);
    flying.step(0, values({ 'ng.1': 85, nr: 100, 'engine.1.selector': 2 }));
    expect(flying.phase).toBe('flight');
  });

  test('to flight and back, to off, each by what is sensed', () => {
    const events: WatchEvent[] = [];
    const watch = new Watch(skerry, {}, (e) => events.push(e));
    let t = 0;
    const hold = (seconds: number, over: Record<string, number>): void => {
      for (const end = t + seconds; t < end; t += 0.02) watch.step(t, values(over));
    };
    hold(1, {});
    hold(2, { 'engine.1.selector': 2, nr: 80, 'ng.1': 80 });
    expect(watch.phase).toBe('run-up');
    hold(4, { 'engine.1.selector': 2, nr: 100, 'ng.1': 82 });
    expect(watch.phase).toBe('flight');
    hold(1, { nr: 95 });
    expect(watch.phase).toBe('idle');
    hold(1, { 'fuel.1.flow': 0, 'ng.1': 40, nr: 60, 'engine.1.selector': 0 });
    expect(watch.phase).toBe('off');
    expect(events.flatMap((e) => (e.kind === 'phase' ? [e.phase] : []))).toEqual([
      'idle',
      'run-up',
      'flight',
      'idle',
      'off',
    ]);
    expect(events.some((e) => e.kind === 'run-up-done')).toBe(true);
  });

  test('a rotor that does not come up is called once', () => {
    const events: WatchEvent[] = [];
    const watch = new Watch(skerry, {}, (e) => events.push(e));
    for (let t = 0; t < 60; t += 0.02) watch.step(t, values(t < 1 ? {} : { 'engine.1.selector': 2, nr: 80 }));
    expect(events.filter((e) => e.kind === 'cue' && e.code === 'run-up-late')).toHaveLength(1);
  });
});
