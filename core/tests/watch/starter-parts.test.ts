import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { typeOf } from '../fleet.ts';
import { needWatched } from '@rouse/core/aircraft';
import { type Exceedance, nextTry, type StartSnapshot } from '@rouse/core/watch';
import { Gate } from '../../src/watch/gate.ts';
import { StarterDuty } from '../../src/watch/starter-duty.ts';

describe('the duty of a starter', () => {
  const spec = { on_s: [45, 45], rest_s: [80, 1300] };
  /** Turns the starter over stretches of time, at 10 Hz. @returns the rest that was due at each engagement */
  function work(duty: StarterDuty, stretches: [from_s: number, to_s: number][], until_s: number): number[] {
    const due: number[] = [];
    let was = false;
    for (let k = 0; k <= until_s * 10; k++) {
      const t_s = k / 10;
      const on = stretches.some(([a, b]) => t_s >= a && t_s < b);
      const rest_s = duty.step(t_s, 0.1, on);
      if (on && !was) due.push(Math.round(rest_s));
      was = on;
    }
    return due;
  }

  test('counts the seconds, and says what is left and what rest follows', () => {
    const duty = new StarterDuty(spec);
    work(duty, [[0, 20]], 19.9);
    expect(duty.on_s).toBeCloseTo(20, 1);
    expect(duty.left_s).toBeCloseTo(25, 1);
    work(duty, [], 0);
    const rested = new StarterDuty(spec);
    work(rested, [[0, 20]], 30);
    expect(rested.on_s).toBe(0);
    expect(rested.restDue_s(30)).toBeCloseTo(70, 0);
    expect(rested.restDue_s(100)).toBe(0);
  });

  test('the second engagement before its rest is told what was due; the third waits for the long one', () => {
    const due = work(new StarterDuty(spec), [[0, 20], [50, 70], [200, 210]], 220); // oxfmt-ignore
    expect(due).toEqual([0, 50, 1170]);
  });

  test('after the longest rest the cycle begins anew', () => {
    const duty = new StarterDuty(spec);
    work(duty, [[0, 20], [1400, 1410]], 1412); // oxfmt-ignore
    expect(duty.engagement).toBe(0);
    const justRested = new StarterDuty(spec);
    justRested.step(1, 1, true);
    justRested.step(2, 1, false);
    expect([2, 1301.9, 1302].map((t_s) => justRested.triesLeft(t_s))).toEqual([1, 1, 2]);
    justRested.step(1302, 1, true);
    expect(justRested.engagement).toBe(0);
  });

  test('no rest is due before the first engagement, while it turns, and in a chatter', () => {
    const duty = new StarterDuty({ on_s: [45, 30], rest_s: [80, 1300] });
    expect([duty.restDue_s(0), duty.allowed_s, duty.triesLeft(0)]).toEqual([0, 45, 2]);
    // the first frame of a record may already turn
    duty.step(0, 0, true);
    expect(duty.on_s).toBeGreaterThan(0);
    duty.step(10, 10, true);
    expect([duty.restDue_s(10), duty.allowed_s, Math.round(duty.left_s)]).toEqual([0, 45, 35]);
    duty.step(11, 1, false);
    expect([duty.restDue_s(11.5), duty.allowed_s]).toEqual([0, 45]);
    duty.step(12.5, 1.5, false);
    expect([duty.restDue_s(12.5), duty.allowed_s, duty.triesLeft(12.5)]).toEqual([78.5, 30, 1]);
    expect(duty.step(92, 1, true)).toBe(0);
    expect([duty.engagement, duty.allowed_s, duty.left_s]).toEqual([1, 30, 29]);
  });

  test('a contactor that chatters is one engagement', () => {
    const stretches = Array.from({ length: 12 }, (_, i): [number, number] => [i * 0.5, i * 0.5 + 0.2]);
    const duty = new StarterDuty(spec);
    work(duty, stretches, 6);
    expect(duty.engagement).toBe(0);
    expect(duty.on_s).toBeGreaterThan(1.5);
  });

  test('whatever a starter does, time on is never negative and rest never more than the longest', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.boolean(), fc.double({ min: 0.02, max: 40, noNaN: true })), { maxLength: 60 }), (steps) => {
        const duty = new StarterDuty(spec);
        let t_s = 0;
        for (const [on, dt_s] of steps) {
          t_s += dt_s;
          duty.step(t_s, dt_s, on);
          expect(duty.on_s).toBeGreaterThanOrEqual(0);
          expect(duty.left_s).toBeLessThanOrEqual(45);
          expect(duty.restDue_s(t_s)).toBeGreaterThanOrEqual(0);
          expect(duty.restDue_s(t_s)).toBeLessThanOrEqual(1300);
        }
      }),
    ); // oxfmt-ignore
  });
});

describe('a gate', () => {
  const type = needWatched(typeOf('H9'));
  const spec = type.startWatches[1]!.gates.find((g) => g.id === 'generator-load')!;
  const amps = type.channels.findIndex((c) => c.id === 'generator.1.amps');
  /** Feeds a reading once a second. */
  function feed(reading: (t_s: number) => number, seconds: number, waitsFor = spec): Gate {
    const gate = new Gate(type, waitsFor);
    const frame = new Float64Array(type.channels.length).fill(NaN);
    for (let t = 0; t < seconds; t++) {
      frame[amps] = reading(t);
      gate.rest(t, frame);
    }
    return gate;
  }

  test('of an exponential approach is forecast to the second, over any pace of it', () => {
    fc.assert(
      fc.property(fc.integer({ min: 15, max: 90 }), fc.integer({ min: 60, max: 120 }), (tau_s, final_A) => {
        const current = (t: number): number => final_A + (290 - final_A) * Math.exp(-t / tau_s);
        const meets_s = tau_s * Math.log((290 - final_A) / (130 - final_A));
        const seen = Math.min(30, Math.floor(meets_s) - 3);
        fc.pre(seen > 16);
        const gate = feed(current, seen);
        expect(Math.abs(gate.predicted_s()! - (meets_s - (seen - 1)))).toBeLessThan(2);
      }),
    );
  });

  test('that is met takes no time; one that gets no nearer, or is unknown, has no forecast', () => {
    expect(feed(() => 90, 20).predicted_s()).toBe(0);
    expect(feed((t) => 200 + t, 20).predicted_s()).toBeNull();
    expect(feed(() => 200, 20).predicted_s()).toBeNull();
    expect(feed(() => NaN, 20).predicted_s()).toBeNull();
    expect(feed(() => NaN, 20).verdict).toBe('unknown');
    expect(feed((t) => 290 - t, 5).predicted_s()).toBeNull();
  });

  test('of a reading that falls evenly is forecast in a straight line, at whatever pace it comes', () => {
    const falls = (t_s: number): number => 290 - 2 * t_s;
    expect(feed(falls, 30).predicted_s()).toBe(51);
    expect(feed((t) => 290 - 0.01 * t, 30).predicted_s()).toBeNull();
    const gate = new Gate(type, spec);
    const frame = new Float64Array(type.channels.length).fill(NaN);
    for (let k = 0; k < 300; k++) {
      frame[amps] = falls(k / 10);
      gate.rest(k / 10, frame);
    }
    expect(gate.predicted_s()).toBe(51);
  });

  test('begins its forecast anew after a lost reading, after it was met, and after a stop', () => {
    const falls = (t: number): number => 290 - 2 * t;
    expect(feed((t) => (t === 25 ? NaN : falls(t)), 30).predicted_s()).toBeNull();
    expect(feed((t) => (t < 20 ? 125 : 200 - t), 25).predicted_s()).toBeNull();
    const gate = feed(falls, 30);
    gate.forget();
    expect([gate.verdict, gate.predicted_s()]).toEqual(['unknown', null]);
  });

  test.each([
    [{ channel: 'generator.1.amps', atMost: 130 }, 51],
    [{ channel: 'generator.1.amps', below: 130 }, 51],
    [{ channel: 'generator.1.amps', atLeast: 350 }, null],
    [{ channel: 'generator.1.amps', above: 350 }, null],
  ] as const)('waits for %j', (condition, falling_s) => {
    expect(feed((t) => 290 - 2 * t, 30, { ...spec, condition }).predicted_s()).toBe(falling_s);
    expect(feed((t) => 230 + 2 * t, 30, { ...spec, condition }).predicted_s()).toBe(falling_s === null ? 31 : null);
  });

  test('that will level off above what it waits for is not promised', () => {
    const gate = feed((t) => 180 + 80 * Math.exp(-t / 8), 40);
    expect(gate.verdict).toBe(false);
    expect(gate.predicted_s()).toBeNull();
  });
});

describe('another try after a start that was stopped', () => {
  const plan = (reason: 'hung' | 'hot' | 'pilot') => typeOf('S7').aborts[reason]!;
  const start = (over: Partial<StartSnapshot> = {}): StartSnapshot => ({
    watch: 'engine-1-start',
    state: 'aborted',
    phase: 'off',
    ranDown: true,
    starterAt_s: 10,
    starterOn_s: 0,
    starterLeft_s: 45,
    starterAllowed_s: 45,
    restDue_s: 62.3,
    triesLeft: 2,
    rate_K_s: 0,
    speedRate_pct_s: 0,
    peak: null,
    doubt: null,
    milestones: [],
    gates: [],
    ...over,
  });
  const passed = (over: Partial<Exceedance>): Exceedance => ({
    limit: 'tot-start',
    channel: 'tot.1',
    band: 'B',
    edge: 835,
    severity: 'warning',
    start_s: 12,
    end_s: 15,
    duration_s: 3,
    peak: 866,
    peakAt_s: 13,
    area: 60,
    allowed_s: 2,
    expired: true,
    ...over,
  });

  test('waits for the starter, then is open', () => {
    expect(nextTry(plan('hung'), start(), [], true)).toMatchObject({ verdict: 'held', rest_s: 62.3 });
    expect(nextTry(plan('hung'), start({ restDue_s: 0 }), [], true).verdict).toBe('open');
  });

  test('waits for the engine to run down, whatever it reads meanwhile; by eye where no speed is sensed', () => {
    expect(nextTry(plan('hung'), start({ ranDown: false }), [], true)).toMatchObject({
      verdict: 'held',
      words: 'Another start is open when the engine has run down.',
    });
    expect(nextTry(plan('hung'), start({ ranDown: 'unknown', restDue_s: 0 }), [], true)).toMatchObject({
      verdict: 'by-eye',
      words: 'Speed is not sensed: try again only when the engine stands.',
    });
  });

  test('waits for an engineer where the reason, or a limit that was passed, calls for one', () => {
    expect(nextTry(plan('hot'), start(), [], true).verdict).toBe('after-inspection');
    expect(nextTry(plan('hung'), start(), [passed({})], true)).toMatchObject({
      verdict: 'after-inspection',
      words: expect.stringContaining('limit was passed') as string,
    });
    expect(nextTry(plan('hung'), start(), [passed({ expired: false })], true).verdict).toBe('held');
    expect(nextTry(plan('hung'), start(), [passed({ severity: 'note' })], true).verdict).toBe('held');
  });

  test('names the gate that is still shut, and is unknown where nothing was sensed', () => {
    const gates = [
      { id: 'residual', label: 'Residual temperature', channel: 'tot.1', words: 'at most 190 °C', at: 'starter' as const, verdict: false as const, reading: '240 °C', in_s: null },
    ]; // oxfmt-ignore
    expect(nextTry(plan('hung'), start({ restDue_s: 0, gates }), [], true).words).toContain(
      'residual temperature is at most 190 °C',
    );
    const unseen = gates.map((g) => ({ ...g, verdict: 'unknown' as const, reading: null }));
    expect(nextTry(plan('hung'), start({ restDue_s: 0, gates: unseen }), [], true)).toMatchObject({
      verdict: 'by-eye',
      words: 'Not sensed: try again only when residual temperature is at most 190 °C by eye.',
    });
    // what the fuel waits for does not hold the starter
    for (const verdict of [false, 'unknown'] as const) {
      const later = gates.map((g) => ({ ...g, at: 'fuel' as const, verdict }));
      expect(nextTry(plan('hung'), start({ restDue_s: 0, gates: later }), [], true).verdict).toBe('open');
      const met = gates.map((g) => ({ ...g, verdict: true as const }));
      expect(nextTry(plan('hung'), start({ restDue_s: 0, gates: met }), [], true).verdict).toBe('open');
    }
    expect(nextTry(plan('hung'), null, [], true)).toMatchObject({ verdict: 'by-eye', triesLeft: null });
    expect(nextTry(plan('hung'), start({ restDue_s: 0 }), [], false)).toMatchObject({
      verdict: 'held',
      words: 'Another start is open when the actions above are done.',
      triesLeft: 2,
      inspect: plan('hung').inspect,
    });
    expect(nextTry({ ...plan('hung'), inspect: undefined }, start(), [], true).inspect).toEqual([]);
    expect(nextTry({ ...plan('pilot'), another: undefined }, start(), [], true).verdict).toBe('unknown');
  });
});
